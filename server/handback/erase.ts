import { readLedgers } from '../ledger/ledger.ts'
import { Problem } from '../http/problem.ts'
import type { Services } from '../services.ts'
import { onTicket } from '../tickets/on-ticket.ts'
import { maybeActiveRun } from '../runs/runs.queries.ts'
import { dropUpload } from '../uploads/upload-store.ts'

/**
 * Hands the phones back and erases: sealed blocks, items, names, the key and any file go; the counts remain.
 * @throws Problem `SheetNotSigned`, `BadRequest` when the ticket's number was not typed, `PhoneBusy`
 */
export async function handBackAndErase(services: Services, number: string, typed: string): Promise<void> {
  const uploads = await onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    if (typed.trim().toUpperCase() !== ticket.number) throw new Problem('BadRequest', { fields: ['typed'] })
    if (!ticket.signed_at) throw new Problem('SheetNotSigned')
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const ledger = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
    await client.query('delete from origin where ticket_id = $1', [ticket.id])
    await client.query('delete from batch where ticket_id = $1', [ticket.id])
    await client.query('update ticket_note set words = null where ticket_id = $1', [ticket.id])
    await client.query('update put_back set by_name = null where ticket_id = $1', [ticket.id])
    await client.query('delete from left_behind where ticket_id = $1', [ticket.id])
    await client.query('delete from tied_moved where ticket_id = $1', [ticket.id])
    await client.query('delete from entry where ticket_id = $1', [ticket.id])
    await client.query(
      `update ticket_kind
          set old_reading = null, first_reading = null, recount_reading = null, last_reading = null, accepted_by = null
        where ticket_id = $1`,
      [ticket.id],
    )
    await client.query('delete from reading where ticket_id = $1', [ticket.id])
    const ids = phones.flatMap((phone) => (phone.upload_id ? [phone.upload_id] : []))
    await client.query('update ticket_phone set is_open = false, serial = null, upload_id = null where ticket_id = $1', [ticket.id])
    await client.query('delete from run_phone where run_id in (select id from run where ticket_id = $1)', [ticket.id])
    await client.query('delete from upload where id = any($1::uuid[])', [ids])
    await client.query(
      `update ticket
          set key_wrapped = null, customer = null, signed_by = null, erased_at = now(), handed_back_at = now(), final_ledger = $2
        where id = $1`,
      [ticket.id, JSON.stringify(ledger)],
    )
    return ids
  })
  for (const id of uploads) await dropUpload(services.config.dataFolder, id)
}
