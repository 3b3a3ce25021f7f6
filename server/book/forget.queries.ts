import { change, type Client } from '../base/db/sql.ts'
import { ofTicket } from '../vault/readings.queries.ts'
import { keepChoices } from './entries/entries.queries.ts'
import type { TicketId } from '../base/ids.ts'

/** What was read belongs to the phones as they were named; what was left behind by choice is kept for the next reading. */
export async function forgetReadings(client: Client, ticketId: TicketId): Promise<void> {
  await keepChoices(client, ticketId)
  await dropBook(client, ticketId)
  await change(
    client,
    `update ticket_kind
        set old_reading = null, first_reading = null, recount_reading = null, last_reading = null, frozen_at = null, writes = 0,
            checked_writes = null, checked_at = null, recounted_at = null, accepted_by = null, accepted_at = null, origins = '{}'
      where ticket_id = $1`,
    [ticketId],
  )
  await change(client, `delete from reading where ${ofTicket}`, [ticketId])
}

/** A kind of which nothing is written goes from the ticket, with what was read of it. */
export async function dropKind(client: Client, ticketId: TicketId, kind: string): Promise<void> {
  for (const table of ['origin', 'written', 'batch', 'entry', 'joining', 'left_behind'])
    await change(client, `delete from ${table} where ticket_id = $1 and kind = $2`, [ticketId, kind])
  await change(client, 'delete from ticket_kind where ticket_id = $1 and kind = $2', [ticketId, kind])
  await change(client, `delete from reading where ${ofTicket} and kind = $2`, [ticketId, kind])
}

/** Everything of a ticket that says or points to what a customer has goes but what was read, which goes with its holding; the counts are kept by the caller. */
export async function eraseContents(client: Client, ticketId: TicketId): Promise<void> {
  for (const table of ['left_behind', 'tied_moved', 'joining'])
    await change(client, `delete from ${table} where ticket_id = $1`, [ticketId])
  await dropBook(client, ticketId)
  await change(client, 'update ticket_act set words = null where ticket_id = $1', [ticketId])
  await change(client, 'update put_back set by_name = null where ticket_id = $1', [ticketId])
  await change(
    client,
    `update ticket_kind
        set old_reading = null, first_reading = null, recount_reading = null, last_reading = null, accepted_by = null
      where ticket_id = $1`,
    [ticketId],
  )
  await change(client, 'delete from run_phone where run_id in (select id from run where ticket_id = $1)', [ticketId])
}

async function dropBook(client: Client, ticketId: TicketId): Promise<void> {
  for (const table of ['origin', 'written', 'batch', 'entry']) await change(client, `delete from ${table} where ticket_id = $1`, [ticketId])
}
