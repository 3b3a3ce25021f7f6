import type { Services } from '../base/services.ts'
import { dropStrayUploads } from './upload-store.ts'
import { deleteUnbooked, isUploadKept } from './uploads.queries.ts'

/** How long a file waits to be booked. Minutes. */
const waitMinutes = 60

/** Forgets files that nobody booked in time, and what a process that was killed left behind of one. Answers how many went. */
export async function forgetUnbooked({ pool, config }: Pick<Services, 'pool' | 'config'>, minutes = waitMinutes): Promise<number> {
  await deleteUnbooked(pool, minutes)
  return dropStrayUploads(config.dataFolder, (id) => isUploadKept(pool, id), minutes * 60_000)
}
