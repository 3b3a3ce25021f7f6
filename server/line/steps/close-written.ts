import { settleWritten } from '../../book/joining/joining.queries.ts'
import { scopeOf, type Work } from '../step.ts'

/** What was written as one record with theirs is settled, now that theirs is gone. @throws LeaseLost */
export async function closeWritten(work: Work): Promise<void> {
  await work.context.fenced((client) => settleWritten(client, scopeOf(work)))
}
