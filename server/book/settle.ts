import type { BookEvent } from '#core/book/index.ts'
import { invariant } from '#core/invariant.ts'
import type { Client } from '../base/db/sql.ts'
import { moveEach, moveFates, type KindScope, type Settlement, type Which } from './settle.queries.ts'

export type { KindScope, Settlement, Which } from './settle.queries.ts'

/**
 * Something happened to items of a kind: the only way a fate changes. Items that stand where it can't happen are left
 * as they are. @returns how many it happened to
 */
export function settle(client: Client, scope: KindScope, event: BookEvent, which: Which): Promise<number> {
  return moveFates(client, scope, event, which)
}

/** The same for items by their numbers. */
export function settleSome(client: Client, scope: KindScope, event: BookEvent, seqs: readonly number[]): Promise<number> {
  return seqs.length === 0 ? Promise.resolve(0) : moveFates(client, scope, event, { where: 'e.seq = any($4::int[])', values: [seqs] })
}

/** How items of a batch ended, each by its own event. @throws Error when one of them can't end so: our own mistake */
export async function settleEach(client: Client, scope: KindScope, settlements: readonly Settlement[]): Promise<void> {
  if (settlements.length === 0) return
  const moved = await moveEach(client, scope, settlements)
  invariant(moved === settlements.length, 'what was sent waited until it was settled')
}
