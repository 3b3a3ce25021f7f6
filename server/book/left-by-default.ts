import { kindOf } from '#core/kinds/registry.ts'
import type { Client } from '../base/db/sql.ts'
import type { TicketId } from '../base/ids.ts'
import { leftReason } from './listing/listing.queries.ts'
import { manyLeftByDefault } from './plan/plan.queries.ts'

/** Of what is not chosen, what nobody chose to leave: by the storage that says why. An item stands in one line at most. */
export async function leftByDefault(
  client: Client,
  ticketId: TicketId,
  kinds: readonly string[],
): Promise<readonly { readonly kind: string; readonly code: string; readonly items: number }[]> {
  const storages = kinds.flatMap((kind) => (kindOf(kind).leftByDefault ?? []).map((storage) => ({ kind, storage })))
  const left = storages.length > 0 ? await manyLeftByDefault(client, ticketId, storages) : []
  return left.map(({ kind, storage, items }) => ({ kind, code: leftReason(storage), items }))
}
