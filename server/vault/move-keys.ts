import { randomBytes } from 'node:crypto'
import { transaction } from '../base/db/sql.ts'
import type pg from 'pg'
import { keepSecret, keepSerialKey } from './holdings.ts'
import { keyCheck, open } from './keys.ts'
import { manyKeysInside, oneKeyCheck, setKeysMoved } from './move-keys.queries.ts'

export interface MasterKeys {
  readonly masterKey: Buffer
  readonly keysFolder: string
  /** Keeps a new master key beside the former one; undefined where the master key can't be changed. */
  readonly keepNext?: (key: Buffer) => void
}

/**
 * Moves keys that an earlier version left in the database into files, wrapped anew. What the database's own files and
 * log still hold of them opens with the former master key alone, which is to be destroyed once this returns another.
 * Killed anywhere, it is begun anew: nothing changes but in one transaction.
 * @returns the master key that is in force
 */
export async function moveKeys(pool: pg.Pool, { masterKey, keysFolder, keepNext }: MasterKeys): Promise<Buffer> {
  const inside = await manyKeysInside(pool)
  if (inside.length === 0) return masterKey
  const next = keepNext ? randomBytes(32) : masterKey
  keepNext?.(next)
  const places = { masterKey: next, keysFolder }
  for (const { bound, holding, key_wrapped: wrapped } of inside) keepSecret(places, holding, open(masterKey, bound, wrapped))
  if (keepNext) keepSerialKey(places, masterKey)
  await transaction(pool, (client) => setKeysMoved(client, keyCheck(next)))
  return next
}

/** Which of two master keys the shop's data is sealed with now: one that was kept beside is in force once the data says so. */
export async function isInForce(pool: pg.Pool, key: Buffer): Promise<boolean> {
  return (await oneKeyCheck(pool)).key_check.equals(keyCheck(key))
}
