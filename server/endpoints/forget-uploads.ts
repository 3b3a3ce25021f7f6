import type { Services } from '../base/services.ts'
import { eraseHoldings, forgetStray } from '../vault/erase.ts'
import { manyUnbooked } from './uploads.queries.ts'

/** How long a file waits to be booked. Minutes. */
const waitMinutes = 60

/** Forgets files that nobody booked in time, and what a process that was killed left behind. Answers how many went. */
export async function forgetUnbooked(services: Pick<Services, 'pool' | 'config'>, minutes = waitMinutes): Promise<number> {
  const unbooked = await manyUnbooked(services.pool, minutes)
  await eraseHoldings(services, unbooked)
  return unbooked.length + (await forgetStray(services, minutes * 60_000))
}
