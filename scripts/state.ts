import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
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
