import { settleRecount, settleVanished } from '../../book/recount/recount.queries.ts'
import { oneKind, setReading } from '../../case/tickets.queries.ts'
import { recountOld } from '../reading/recount.ts'
import { scopeOf, type Work } from '../step.ts'

/** The old phone goes on living: what changed there since it was read is settled before anything is written. @throws MustWait, LeaseLost */
export function lookAgain(work: Work): Promise<void> {
  return lookAgainAt(work, [])
}

/** The same, with some items given anew though nothing changed. @param again their keyed ids */
export async function lookAgainAt(work: Work, again: readonly Buffer[]): Promise<void> {
  const { context } = work
  const scope = scopeOf(work)
  const readingId = await recountOld(work, { again })
  const row = await oneKind(context.services.pool, scope.ticketId, scope.kind)
  await context.fenced(async (client) => {
    if (readingId === null) {
      // nothing moved on the phone, but what was put back to wait may have left it before
      if (row.recount_reading !== null) await settleVanished(client, scope, row.recount_reading)
      return
    }
    await settleRecount(client, { ...scope, readingId, choice: row.choice })
    await setReading(client, scope, 'recount_reading', readingId)
  })
}
