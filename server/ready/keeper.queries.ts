import { many, type Client } from '../base/db/sql.ts'
import type { PhoneRow } from '../case/tickets.queries.ts'
import type { TicketId } from '../base/ids.ts'

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
