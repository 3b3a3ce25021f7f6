import { transaction } from '../../base/db/sql.ts'
import type { CopyId } from '../../base/ids.ts'
import type { Services } from '../../base/services.ts'
import { blobsOf } from '../blobs.ts'
import { eraseHoldings } from '../erase.ts'
import { deleteHoldings } from '../holdings.queries.ts'
import { destroyKey } from '../holdings.ts'
import { deleteContents, deleteUnheld, leaveLocker, lockLocker } from './bodies.queries.ts'
import { insertCopyAct, manyDue, manyHalfDestroyed, setDestroyed, type Destroyed } from './copies.queries.ts'

type Shop = Pick<Services, 'pool' | 'config'>

/** Destroys a copy: that it goes is noted, then its key goes, then what it alone held. How many were: none when it is gone already. */
export async function destroyCopy(shop: Shop, id: CopyId, how: Destroyed): Promise<number> {
  const n = await transaction(shop.pool, async (client) => {
    const destroyed = await setDestroyed(client, id, how)
    if (destroyed > 0 && how.staffId !== undefined)
      await insertCopyAct(client, { id, staffId: how.staffId, what: 'destroyed', ...(how.why ? { after: how.why } : {}) })
    return destroyed
  })
  await finishDestroying(shop)
  return n
}

/** Destroys what is due: copies whose date is over, also while nobody looked, and those that were never finished. Answers how many. */
export async function destroyDue(shop: Shop): Promise<number> {
  const due = await manyDue(shop.pool)
  for (const { id, how } of due) await transaction(shop.pool, (client) => setDestroyed(client, id, { how }))
  await finishDestroying(shop)
  return due.length
}

/** Takes away what is left of destroyed copies, the key first; also of those a process that was killed left half way. Safe to do twice. */
async function finishDestroying(shop: Shop): Promise<void> {
  for (const { id, holding, locker_id: lockerId, shared } of await manyHalfDestroyed(shop.pool)) {
    if (holding) {
      destroyKey(shop.config, holding)
      // an archive that was made of it
      await blobsOf(shop.config).drop(holding)
    }
    let last: Awaited<ReturnType<typeof leaveLocker>>
    const blobs = await transaction(shop.pool, async (client) => {
      if (lockerId) await lockLocker(client, lockerId)
      await deleteContents(client, id)
      const unheld = lockerId ? await deleteUnheld(client, lockerId) : []
      if (lockerId) last = await leaveLocker(client, id, lockerId)
      if (holding) await deleteHoldings(client, [holding])
      return unheld
    })
    if (shared) for (const name of blobs) await blobsOf(shop.config).remove({ holding: shared, name })
    // what copies share goes with the last of them
    if (last) await eraseHoldings(shop, [last])
  }
}
