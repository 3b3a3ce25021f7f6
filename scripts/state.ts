import { randomBytes } from 'node:crypto'
import {
  closeSync,
  existsSync,
  fstatSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  writeFileSync,
  writeSync,
} from 'node:fs'
import { dirname, join } from 'node:path'
import { openPool } from '../server/base/db/sql.ts'
import { destroyFile, syncFolder, writeFile } from '../server/vault/key-store.ts'
import { isInForce, moveKeys } from '../server/vault/move-keys.ts'
import type { Passwords } from './provision.ts'

/** What a shop on this machine needs from one start to the next; kept in a file only its owner reads. */
export interface ShopState {
  readonly passwords: Passwords
  readonly linkToken: string
  readonly handToken: string
  readonly apiToken: string
}

/** Reads a shop's secrets, made at the first use, and the place of its master key. */
export function readState(folder: string): { state: ShopState; masterKeyFile: string; masterKey: Buffer } {
  mkdirSync(folder, { recursive: true })
  const file = join(folder, 'shop.json')
  const secret = () => randomBytes(24).toString('hex')
  if (!existsSync(file)) {
    const state: ShopState = {
      passwords: { owner: secret(), app: secret(), standins: secret() },
      linkToken: secret(),
      handToken: secret(),
      apiToken: `corvend-${randomBytes(12).toString('hex')}`,
    }
    writeFileSync(file, JSON.stringify(state), { mode: 0o600 })
  }
  const masterKeyFile = join(folder, 'master.key')
  if (!existsSync(masterKeyFile)) writeFileSync(masterKeyFile, randomBytes(32).toString('hex'), { mode: 0o600 })
  const hex = process.env.CORVEND_MASTER_KEY ?? readFileSync(masterKeyFile, 'utf8').trim()
  return { state: JSON.parse(readFileSync(file, 'utf8')) as ShopState, masterKeyFile, masterKey: Buffer.from(hex, 'hex') }
}

/**
 * Has keys that an earlier version left in the database moved into files, and the master key that they were wrapped by
 * replaced and overwritten. Killed anywhere, the next start goes on.
 * @returns the master key that is in force
 */
export async function upgradeKeys(wish: {
  ownerUrl: string
  masterKeyFile: string
  masterKey: Buffer
  keysFolder: string
}): Promise<Buffer> {
  const { ownerUrl, masterKeyFile, masterKey, keysFolder } = wish
  const fresh = `${masterKeyFile}.new`
  const pool = openPool(ownerUrl, 'corvend-keys', { max: 1 })
  try {
    if (existsSync(fresh)) {
      const key = Buffer.from(readFileSync(fresh, 'utf8').trim(), 'hex')
      if (await isInForce(pool, key)) return replaceMaster(masterKeyFile, fresh, key)
      destroyFile(fresh)
    }
    // a master key that comes from elsewhere is not ours to change
    const isFixed = process.env.CORVEND_MASTER_KEY !== undefined
    const keepNext = (key: Buffer) => writeFile(fresh, Buffer.from(key.toString('hex')), 'w')
    const next = await moveKeys(pool, { masterKey, keysFolder, ...(isFixed ? {} : { keepNext }) })
    return next.equals(masterKey) ? masterKey : replaceMaster(masterKeyFile, fresh, next)
  } finally {
    await pool.end()
  }
}

/** The fresh file takes the other's name in one step; what the former one said is overwritten where it lay. */
function replaceMaster(file: string, fresh: string, key: Buffer): Buffer {
  const former = openSync(file, 'r+')
  renameSync(fresh, file)
  syncFolder(dirname(file))
  const { size } = fstatSync(former)
  writeSync(former, randomBytes(size), 0, size, 0)
  fsyncSync(former)
  closeSync(former)
  return key
}
