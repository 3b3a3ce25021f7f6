import type { Services } from '../base/services.ts'
import { manyStrayHoldings } from '../case/tickets.queries.ts'
import { destroyKey, forgetStrayKeys } from '../vault/holdings.ts'
import { dropStrayUploads, dropUpload } from './upload-store.ts'
import { deleteUploads, isUploadKept, manyUnbooked } from './uploads.queries.ts'

/** How long a file waits to be booked. Minutes. */
const waitMinutes = 60

/**
 * Forgets files that nobody booked in time, the key first, and what a process that was killed left behind: of files, and
 * of keys. Answers how many files went.
 */
export async function forgetUnbooked({ pool, config }: Pick<Services, 'pool' | 'config'>, minutes = waitMinutes): Promise<number> {
  const unbooked = await manyUnbooked(pool, minutes)
  for (const id of unbooked) {
    destroyKey(config, id)
    await dropUpload(config.dataFolder, id)
  }
  await deleteUploads(pool, unbooked)
  await forgetStrayKeys(config, { olderThanMs: minutes * 60_000, strayOf: (holdings) => manyStrayHoldings(pool, holdings) })
  return unbooked.length + (await dropStrayUploads(config.dataFolder, (id) => isUploadKept(pool, id), minutes * 60_000))
}
