import { oneCarryTotals } from '../../book/entries/carry.queries.ts'
import { retryPassing } from '../../book/entries/entries.queries.ts'
import { scopeOf, type Work } from '../step.ts'
import { lookAgainAt } from './look-again.ts'
import { sendWaiting } from './send.ts'

/**
 * Once more what was refused, or could not be given, for a reason that may pass: a phone that was busy for a moment, a
 * file that stalled. Nothing else goes over with it. @throws MustWait, LeaseLost
 */
export async function tryAgain(work: Work, most: number): Promise<void> {
  const scope = scopeOf(work)
  if ((await oneCarryTotals(work.context.services.pool, scope)).waiting > 0) return
  const { tried, toRead } = await work.context.fenced((client) => retryPassing(client, scope, most))
  if (tried === 0) return
  await lookAgainAt(
    work,
    toRead.map(({ native }) => native),
  )
  await sendWaiting(work)
}
