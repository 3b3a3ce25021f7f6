import type { CopyId } from '../../base/ids.ts'
import type { Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import { copyFormat } from '../../endpoints/makers/locker.ts'
import { findCopy, type CopyRow } from '../../vault/lockers/copies.queries.ts'

/** A copy to be put back or taken from. @throws Problem `CopyNotFound`, `CopyGone`, `CopyNewer` */
export async function copyToRead(client: Client, id: CopyId): Promise<CopyRow> {
  const copy = await openCopyRow(client, id)
  // one that was never read back is no copy yet
  if (!copy.closed_at) throw new Problem('CopyNotFound')
  if (copy.format > copyFormat) throw new Problem('CopyNewer')
  return copy
}

/** One that is there. @throws Problem `CopyNotFound`, `CopyGone` */
export async function openCopyRow(client: Client, id: CopyId): Promise<CopyRow> {
  const copy = await findCopy(client, id)
  if (!copy) throw new Problem('CopyNotFound')
  if (copy.destroyed_at) throw new Problem('CopyGone')
  return copy
}
