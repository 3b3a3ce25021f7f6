import type { NotTakenView } from '#contracts/http/uploads.ts'
import type { Actor } from '../../base/did.ts'
import { snapshot } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { manyPhones, maybeTicket } from '../../case/tickets.queries.ts'
import { uploadStands } from '../../endpoints/brought/uploads.ts'
import { maybeShowing } from '../../vault/showing.queries.ts'

/** So many are listed; the rest is counted. */
export const mostNotTaken = 500

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
