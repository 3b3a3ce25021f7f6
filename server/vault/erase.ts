import { transaction, type Client } from '../base/db/sql.ts'
import type { HoldingId } from '../base/ids.ts'
import type { Services } from '../base/services.ts'
import { blobsOf } from './blobs.ts'
import { deleteHoldings, manyStrayHoldings } from './holdings.queries.ts'
import { destroyKey, forgetStrayKeys } from './holdings.ts'

/**
 * Erases holdings: their keys first, so that nothing opens whatever else stays, then their blobs, then what the database
 * has of them. Safe to do twice. @param alone what goes in the same transaction, before what was read
 */
export async function eraseHoldings(
  { pool, config }: Pick<Services, 'pool' | 'config'>,
  ids: readonly HoldingId[],
  alone: (client: Client) => Promise<void> = async () => undefined,
): Promise<void> {
  for (const id of ids) destroyKey(config, id)
  for (const id of ids) await blobsOf(config).drop(id)
  await transaction(pool, async (client) => {
    await alone(client)
    await deleteHoldings(client, ids)
  })
}

/** Forgets keys and blobs of holdings that are nobody’s: of a booking that failed, of a process that was killed. Answers of how many holdings. */
export async function forgetStray({ pool, config }: Pick<Services, 'pool' | 'config'>, olderThanMs: number): Promise<number> {
  const strayOf = (holdings: readonly HoldingId[]) => manyStrayHoldings(pool, holdings)
  const keys = await forgetStrayKeys(config, { olderThanMs, strayOf })
  const store = blobsOf(config)
  // whose they are is asked first: a locker's many files are not looked at every minute
  const blobs: HoldingId[] = []
  for (const holding of await strayOf(await store.holdings()))
    if (Date.now() - (await store.sizeOf(holding)).atMs >= olderThanMs) blobs.push(holding)
  for (const holding of blobs) await store.drop(holding)
  return new Set([...keys, ...blobs]).size
}
