import { kindOf } from '#core/kinds/registry.ts'
import { moveJoinings } from '../../book/joining/joining.queries.ts'
import { fitPlan, settleAlreadyThere } from '../../book/plan/plan.queries.ts'
import { freeze, oneKind, tellTicket } from '../../case/tickets.queries.ts'
import { orWait } from '../../runs/ticket-of-run.ts'
import { maybeReading } from '../../vault/readings.queries.ts'
import { readNew } from '../reading/take-reading.ts'
import { scopeOf, type Work } from '../step.ts'
import type { ReadingId } from '../../base/ids.ts'

/**
 * Freezes the first count at the first write, on the phone as it is now: when it changed since it was counted, it is
 * counted again. What it holds already is settled then, once; nothing this ticket writes ever counts as that.
 * @throws MustWait, LeaseLost
 */
export async function freezeFirst(work: Work): Promise<void> {
  const { context, ticket, kind } = work
  const scope = scopeOf(work)
  const row = await oneKind(context.services.pool, scope.ticketId, kind)
  const firstReading = row.frozen_at ? row.first_reading! : await firstAsItIs(work, row.first_reading)
  const { capacity, hasIdentity = false } = kindOf(kind)
  await context.fenced(async (client) => {
    if (firstReading !== row.first_reading) await moveJoinings(client, scope, firstReading)
    // after the freeze, too: what was chosen since may be among what the first count held
    await fitPlan(client, { ...scope, firstReading, capacity: capacity?.(ticket.target), hasIdentity })
    await settleAlreadyThere(client, scope)
    if (row.frozen_at) return
    await freeze(client, scope, firstReading)
    await tellTicket(client, scope.ticketId, 'frozen')
  })
}

/** The first count, taken again when the phone moved on since. */
async function firstAsItIs(work: Work, firstReading: ReadingId | null): Promise<ReadingId> {
  const { context, now, kind } = work
  const reading = await maybeReading(context.services.pool, firstReading)
  const counted = await orWait('new', () => now.source.count(kind))
  if (reading && counted.revision === reading.phone_revision && counted.items === reading.counted) return reading.id
  return readNew(work, { purpose: 'first', step: 'counting' })
}
