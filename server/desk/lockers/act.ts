import type { z } from 'zod'
import type { closeBody, destroyBody, keepBody } from '#contracts/http/lockers.ts'
import type { Actor } from '../../base/did.ts'
import type { CopyId } from '../../base/ids.ts'
import { transaction, type Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { endOfShopDay } from '../../base/shop.queries.ts'
import { copyToRead, openCopyRow } from './copies.ts'
import { closeStaleLooks } from './look.ts'
import { insertCopyAct, isCopyInUse, setKeepUntil } from '../../vault/lockers/copies.queries.ts'
import { closeByPassphrase } from '../../vault/lockers/passphrase.ts'
import { destroyCopy } from '../../vault/lockers/destroy.ts'

/** The last moment of a day in the shop’s zone. @throws Problem `BadRequest` when it is over, or more than ten years ahead */
export async function endOfDay(client: Client, day: string): Promise<Date> {
  const end = await endOfShopDay(client, day)
  const tenYears = 10 * 366 * 24 * 3_600_000
  if (end.getTime() <= Date.now() || end.getTime() > Date.now() + tenYears) throw new Problem('BadRequest', { fields: ['keepUntil'] })
  return end
}

/** Keeps a copy longer, or less long. @throws Problem `CopyNotFound`, `CopyGone`, `BadRequest` */
export async function keepCopy({ pool }: Services, id: CopyId, { keepUntil }: z.infer<typeof keepBody>, actor: Actor): Promise<void> {
  await transaction(pool, async (client) => {
    const copy = await openCopyRow(client, id)
    const until = await endOfDay(client, keepUntil)
    if ((await setKeepUntil(client, id, until)) === 0) throw new Problem('CopyGone')
    await insertCopyAct(client, {
      id,
      staffId: actor.id,
      what: 'prolonged',
      before: copy.keep_until.toISOString(),
      after: until.toISOString(),
    })
  })
}

/** Destroys a copy before its date. @throws Problem `CopyNotFound`, `CopyGone`, `CopyInUse`, `NumberNotTyped` */
export async function destroyNow(services: Services, id: CopyId, { why, typed }: z.infer<typeof destroyBody>, actor: Actor): Promise<void> {
  await openCopyRow(services.pool, id)
  if (typed !== String(id)) throw new Problem('NumberNotTyped')
  if (await isCopyInUse(services.pool, id)) throw new Problem('CopyInUse')
  if ((await destroyCopy(services, id, { how: 'asked', why, staffId: actor.id })) === 0) throw new Problem('CopyGone')
  await closeStaleLooks(services)
}

/** Closes a copy by its owner's passphrase: the shop sees its counts from then on, and nothing else. @throws Problem `CopyNotFound`, `CopyGone`, `CopyClosed`, `CopyInUse` */
export async function closeCopy(services: Services, id: CopyId, { passphrase }: z.infer<typeof closeBody>): Promise<void> {
  const copy = await copyToRead(services.pool, id)
  if (copy.is_closed) throw new Problem('CopyClosed')
  if (await isCopyInUse(services.pool, id)) throw new Problem('CopyInUse')
  await closeByPassphrase(services, { id, holding: copy.holding! }, passphrase)
  await closeStaleLooks(services)
}
