import { change, many, type Client } from '../base/db/sql.ts'
import type { PhoneRow } from '../case/tickets.queries.ts'
import type { RunId, TicketId } from '../base/ids.ts'

export interface OpenPhone extends PhoneRow {
  wanted: string[]
}

/** The phones of open tickets that do not rest, by serial. */
export function manyOpenPhones(client: Client, serials: readonly string[]): Promise<OpenPhone[]> {
  return many<OpenPhone>(
    client,
    `select p.*, t.wanted
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.is_open and p.serial = any($1::text[]) and t.resting_at is null`,
    [serials],
  )
}

/** What waits for a phone need not wait for its time when the phone changed. */
export async function ringPaused(client: Client, ticketId: TicketId): Promise<void> {
  await client.query(`update run set retry_at = now() where ticket_id = $1 and state = 'paused'`, [ticketId])
}

/** What nobody works on now, and the phones on the bench it needs. */
export function manyPausable(client: Client): Promise<{ id: RunId; station: string | null; serials: string[] }[]> {
  return many(
    client,
    `select r.id, r.station, array_agg(p.serial) as serials
       from run r
       join ticket_phone p on p.ticket_id = r.ticket_id
      where r.state in ('waiting', 'paused', 'held') and p.place = 'bench' and p.serial is not null
      group by r.id`,
  )
}

/** Sends a run to another station, if still nobody works on it. */
export async function moveRun(client: Client, runId: RunId, station: string): Promise<void> {
  await change(
    client,
    `update run set station = $2, retry_at = case when state = 'paused' then now() else retry_at end
      where id = $1 and state in ('waiting', 'paused', 'held')`,
    [runId, station],
  )
}
