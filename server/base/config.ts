import { readFileSync } from 'node:fs'

/** What the environment says; read once, at the first use. */
export interface Config {
  readonly databaseUrl: string
  readonly masterKey: Buffer
  readonly dataFolder: string
  /** Where the wrapped keys are; reached by every station. */
  readonly keysFolder: string
  readonly link: { readonly url: string; readonly token: string; readonly idleMs?: number } | null
  readonly hand: { readonly url: string; readonly token: string } | null
  readonly hosts: readonly string[]
  /** Where customers reach this shop’s pages; null when they can’t. */
  readonly publicUrl: string | null
  /** Milliseconds; short in tests. */
  readonly leaseMs: number
  /** Every answer is held against its contract; in tests and development. */
  readonly checksReplies: boolean
}

let config: Config | undefined

/** @throws Error naming the variable that is missing or wrong */
export function getConfig(): Config {
  config ??= {
    databaseUrl: needed('CORVEND_DATABASE_URL'),
    masterKey: readMasterKey(),
    dataFolder: needed('CORVEND_DATA'),
    keysFolder: process.env.CORVEND_KEYS || `${needed('CORVEND_DATA')}/keys`,
    link: process.env.CORVEND_LINK_URL
      ? {
          url: process.env.CORVEND_LINK_URL,
          token: needed('CORVEND_LINK_TOKEN'),
          ...(process.env.CORVEND_LINK_IDLE_MS ? { idleMs: Number(process.env.CORVEND_LINK_IDLE_MS) } : {}),
        }
      : null,
    hand: process.env.CORVEND_HAND_URL ? { url: process.env.CORVEND_HAND_URL, token: needed('CORVEND_HAND_TOKEN') } : null,
    publicUrl: process.env.CORVEND_PUBLIC_URL?.replace(/\/$/, '') || null,
    hosts: (process.env.CORVEND_HOSTS ?? '127.0.0.1,localhost').split(','),
    leaseMs: Number(process.env.CORVEND_LEASE_MS ?? 10_000),
    checksReplies: process.env.CORVEND_CHECK_REPLIES === '1',
  }
  return config
}

function needed(name: string): string {
  const value = process.env[name]
  if (!value) throw new Error(`${name} is not set`)
  return value
}

function readMasterKey(): Buffer {
  const text = process.env.CORVEND_MASTER_KEY ?? readFileSync(needed('CORVEND_MASTER_KEY_FILE'), 'utf8').trim()
  const key = Buffer.from(text, 'hex')
  if (key.length !== 32) throw new Error('The master key must be 64 hexadecimal digits')
  return key
}
