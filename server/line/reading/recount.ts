import { createLookUp } from './note-known.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { knownFiles } from './known-files.ts'
import { maybeReading } from '../../vault/readings.queries.ts'
import { takeReading } from './take-reading.ts'
import { attach, orWait } from '../../runs/ticket-of-run.ts'
import { scopeOf, type WorkAlone } from '../step.ts'
import { oneKind } from '../../case/tickets.queries.ts'
import type { ReadingId } from '../../base/ids.ts'

/**
 * Counts the old phone again, and reads it again when its count or its revision is another: the phone goes on living.
 * @param how again: keyed ids of items that must be given anew, though nothing changed
 * @returns the new reading, or null when nothing of this kind changed since the last one
 * @throws MustWait, LeaseLost
 */
export async function recountOld(work: WorkAlone, { again = [] }: { again?: readonly Buffer[] } = {}): Promise<ReadingId | null> {
  const { context, ticket, kind } = work
  const { pool } = context.services
  const { ticketId } = scopeOf(work)
  const row = await oneKind(pool, ticketId, kind)
  const before = await maybeReading(pool, row.recount_reading ?? row.old_reading)
  const { source, place } = await attach(context, ticket.old)
  const counted = await orWait('old', () => source.count(kind))
  if (again.length === 0 && counted.revision === before?.phone_revision && counted.items === before.counted) return null
  const except = new Set(again.map((native) => native.toString('hex')))
  return takeReading(context, {
    source,
    keys: ticket.keys,
    ticketId,
    holding: ticket.holding,
    side: 'old',
    kind,
    purpose: 'recount',
    target: ticket.target,
    tools: ticket.toolsFor(place),
    lookUp: await createLookUp(work),
    onProgress: (got, total, unit) => context.progress('recounting', got, total, { kind, unit }),
    // what has files is not read whole again for the sake of one
    ...(kindOf(kind).isMedia || again.length > 0 ? { known: await knownFiles(pool, ticket.keys, before?.id ?? null, { except }) } : {}),
  })
}
