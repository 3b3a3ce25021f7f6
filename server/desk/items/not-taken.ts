import type { NotTakenView, UploadView } from '#contracts/http/uploads.ts'
import type { Actor } from '../../base/did.ts'
import { snapshot } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { manyPhones, maybeTicket } from '../../case/tickets.queries.ts'
import { uploadStands, type UploadStands } from '../../endpoints/brought/uploads.ts'
import { maybeShowing } from '../../vault/showing.queries.ts'

/** So many are listed; the rest is counted. */
const mostNotTaken = 500

/** What was brought, as whoever brings it sees it; a ticket names what was not taken only while showing is allowed. */
export const uploadToShow = ({ others, isBooked, ...stands }: UploadStands): UploadView => ({
  ...stands,
  files: [...stands.files],
  items: { ...stands.items },
  others: (isBooked ? [] : others.slice(0, mostNotTaken)).map(({ n, ...other }) => ({ ...other, n: n ?? null })),
  othersInAll: others.length,
})

/**
 * Of the files that were brought to a ticket, those that were not taken, by size and why; what each is called while
 * showing is allowed.
 * @throws Problem `TicketNotFound`, `TicketErased`, `KeyAway`
 */
export async function readNotTaken(services: Services, number: string, actor: Actor): Promise<NotTakenView> {
  const { upload, isShowing } = await snapshot(services.pool, async (client) => {
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    if (!ticket.holding) throw new Problem('TicketErased')
    const old = (await manyPhones(client, [ticket.id])).find(({ side }) => side === 'old')
    return { upload: old?.upload_id, isShowing: (await maybeShowing(client, ticket.id, actor.id)) !== undefined }
  })
  if (!upload) return { total: 0, isShowing, rows: [] }
  const { others } = await uploadStands(services, upload)
  return {
    total: others.length,
    isShowing,
    rows: others
      .slice(0, mostNotTaken)
      .map(({ path, sizeBytes, why, n }) => ({ path: isShowing ? path : null, sizeBytes, why, n: n ?? null })),
  }
}
