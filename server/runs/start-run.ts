import type { Actor } from '../base/did.ts'
import { sqlState, type Client } from '../base/db/sql.ts'
import { Problem } from '../base/problem.ts'
import type { PhoneRow, TicketRow } from '../case/tickets.queries.ts'
import { backToSavepoint, insertRun, maybeActiveRun, savepoint, type RunRow } from './runs.queries.ts'

/** Starts a run, or answers with the one that is under way: a click made twice starts one. @throws Problem `PhoneBusy`, `NotPlugged` */
export async function startRun(
  client: Client,
  { ticket, type, phones, actor }: { ticket: TicketRow; type: RunRow['type']; phones: readonly PhoneRow[]; actor: Actor },
): Promise<number> {
  const active = await maybeActiveRun(client, ticket.id)
  if (active) {
    if (active.type === type) return active.id
    throw new Problem('PhoneBusy')
  }
  const serials = phones.flatMap((phone) => (phone.serial ? [phone.serial] : []))
  if (serials.length < 2) throw new Problem('NotPlugged')
  try {
    await savepoint(client)
    return (await insertRun(client, { ticketId: ticket.id, type, serials, staffId: actor.id })).id
  } catch (error) {
    if (sqlState(error) !== 'unique_violation') throw error
    await backToSavepoint(client)
    throw new Problem('PhoneBusy')
  }
}
