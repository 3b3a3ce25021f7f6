import type { Actor } from '../base/did.ts'
import { sqlState, type Client } from '../base/db/sql.ts'
import { Problem } from '../base/problem.ts'
import type { PhoneRow, TicketRow } from '../case/tickets.queries.ts'
import { stationOf, type BenchPort } from '../endpoints/ports.ts'
import { backToSavepoint, insertRun, maybeActiveRun, savepoint, type RunRow } from './runs.queries.ts'

export interface RunWish {
  readonly ticket: TicketRow
  readonly type: RunRow['type']
  readonly phones: readonly PhoneRow[]
  readonly ports: readonly BenchPort[]
  readonly actor: Actor
}

/** Starts a run, or answers with the one that is under way: a click made twice starts one. @throws Problem `PhoneBusy`, `NotPlugged`, `AtTwoStations` */
export async function startRun(client: Client, { ticket, type, phones, ports, actor }: RunWish): Promise<number> {
  const active = await maybeActiveRun(client, ticket.id)
  if (active) {
    if (active.type === type) return active.id
    throw new Problem('PhoneBusy')
  }
  const serials = phones.flatMap((phone) => (phone.serial ? [phone.serial] : []))
  if (serials.length < 2) throw new Problem('NotPlugged')
  const stations = new Set(phones.flatMap(({ serial }) => stationOf({ ports }, serial) ?? []))
  if (stations.size > 1) throw new Problem('AtTwoStations')
  const [station = null] = stations
  try {
    await savepoint(client)
    return (await insertRun(client, { ticketId: ticket.id, type, serials, station, staffId: actor.id })).id
  } catch (error) {
    if (sqlState(error) !== 'unique_violation') throw error
    await backToSavepoint(client)
    throw new Problem('PhoneBusy')
  }
}
