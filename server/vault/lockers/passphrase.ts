import { randomBytes, randomUUID } from 'node:crypto'
import { transaction } from '../../base/db/sql.ts'
import type { CopyId, HoldingId } from '../../base/ids.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { inThread } from '../../base/threads.ts'
import { deleteHoldings, insertHolding } from '../holdings.queries.ts'
import { destroyKey, keepSecret, secretOf } from '../holdings.ts'
import { open, seal } from '../keys.ts'
import { usualArgon, type Argon } from './argon.ts'
import { countWrongTry, findClosed, forgetTries, setClosedBy } from './copies.queries.ts'

type Shop = Pick<Services, 'pool' | 'config'>

/** Tries before one has to wait, and how long then: twice as long after each further one. */
const freeTries = 5
const firstWaitS = 30
const longestWaitS = 3600
/** Making a key takes a third of a second; a thread that takes so long has gone wrong. */
const keyMs = 30_000

const boundTo = (copyId: CopyId) => `copy ${copyId} by passphrase v1`

const keyBy = async (passphrase: string, how: Argon) =>
  Buffer.from(await inThread<string>('server/vault/lockers/argon.ts', 'keyOfPassphrase', { passphrase, how }, keyMs), 'hex')

/**
 * Closes a copy by its owner's passphrase: from then on its key opens by that alone. The former key file goes once the
 * new one is there. @throws Problem `CopyClosed`, `KeyAway`
 */
export async function closeByPassphrase(shop: Shop, copy: { id: CopyId; holding: HoldingId }, passphrase: string): Promise<void> {
  const how: Argon = { ...usualArgon, salt: randomBytes(16).toString('hex') }
  const key = await keyBy(passphrase, how)
  const closed = randomUUID() as string as HoldingId
  keepSecret(shop.config, closed, seal(key, boundTo(copy.id), secretOf(shop.config, copy.holding)))
  await transaction(shop.pool, async (client) => {
    await insertHolding(client, { id: closed, purpose: 'locker' })
    if ((await setClosedBy(client, copy.id, { from: copy.holding, to: closed, how })) === 0) throw new Problem('CopyClosed')
    await deleteHoldings(client, [copy.holding])
  })
  // killed before, it is nobody's key any more and goes with the other stray ones
  destroyKey(shop.config, copy.holding)
}

/** The key of a closed copy. @throws Problem `WrongPassphrase`, `PassphraseThrottled`, `KeyAway` */
export async function secretByPassphrase(shop: Shop, id: CopyId, passphrase: string): Promise<Buffer> {
  const closed = await findClosed(shop.pool, id)
  if (!closed) throw new Problem('CopyGone')
  if (closed.must_wait) throw new Problem('PassphraseThrottled')
  const key = await keyBy(passphrase, closed.passphrase)
  try {
    const secret = open(key, boundTo(id), secretOf(shop.config, closed.holding))
    await forgetTries(shop.pool, id)
    return secret
  } catch (error) {
    if (error instanceof Problem) throw error
    await countWrongTry(shop.pool, id, { freeTries, firstWaitS, longestWaitS })
    throw new Problem('WrongPassphrase')
  }
}
