import { readLedgers } from '../../book/ledger.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { maybeActiveRun } from '../../runs/runs.queries.ts'
import { eraseContents } from '../../book/forget.queries.ts'
import { setErased } from '../../case/tickets.queries.ts'
import { deleteUploads } from '../../endpoints/uploads.queries.ts'
import { serialHash } from '../../vault/keys.ts'
import { dropUpload } from '../../endpoints/upload-store.ts'

/**
 * Hands the phones back and erases: sealed blocks, items, names, the key and any file go; the counts remain.
 * @throws Problem `SheetNotSigned`, `BadRequest` when the ticket's number was not typed, `PhoneBusy`
 */
export async function handBackAndErase(services: Services, number: string, typed: string): Promise<void> {
  const uploads = await onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    if (typed.trim().toUpperCase() !== ticket.number) throw new Problem('BadRequest', { fields: ['typed'] })
    if (!ticket.signed_at && !ticket.called_off_at) throw new Problem('SheetNotSigned')
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const ledger = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
    const ids = phones.flatMap((phone) => (phone.upload_id ? [phone.upload_id] : []))
    await eraseContents(client, ticket.id)
    await setErased(client, ticket.id, {
      ledger,
      phones: phones.flatMap(({ side, place, serial }) =>
        serial && place === 'bench' ? [{ side, serialHash: serialHash(services.config.masterKey, serial) }] : [],
      ),
    })
    await deleteUploads(client, ids)
    return ids
  })
  for (const id of uploads) await dropUpload(services.config.dataFolder, id)
}
