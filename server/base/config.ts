import { readFileSync } from 'node:fs'
import { z } from 'zod'

const server = z.object({ url: z.url(), token: z.string().min(1) })

/** A bench of the shop and the machine it is plugged into. */
const station = z.object({
  code: z.string().regex(/^[a-z0-9-]{1,20}$/),
  /** What the shop calls it. */
  name: z.string().max(40).default(''),
  /** Ports are numbered through the shop: a number is one port, whichever bench it is at. */
  firstPort: z.number().int().min(1).max(9_000).default(1),
  link: server.extend({ idleMs: z.number().int().min(1).optional() }),
  /** Where the bench holds practice phones: what moves them. */
  hand: server.nullable().default(null),
})
export type Station = z.infer<typeof station>
/** How many ports a bench has. */
export const portsOfStation = 8

/** What the environment says; read once, at the first use. */
export interface Config {
  readonly databaseUrl: string
  readonly masterKey: Buffer
  readonly dataFolder: string
  /** Where the wrapped keys are; reached by every station. */
  readonly keysFolder: string
  /** The benches of the shop; pages see them all. */
  readonly stations: readonly Station[]
  /** The bench this process stands at: a worker takes the runs of its own. Null where there are several and none is named. */
  readonly station: Station | null
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
    ...readStations(process.env.CORVEND_STATIONS ?? '[]', process.env.CORVEND_STATION),
    publicUrl: process.env.CORVEND_PUBLIC_URL?.replace(/\/$/, '') || null,
    hosts: (process.env.CORVEND_HOSTS ?? '127.0.0.1,localhost').split(','),
    leaseMs: Number(process.env.CORVEND_LEASE_MS ?? 10_000),
    checksReplies: process.env.CORVEND_CHECK_REPLIES === '1',
  }
  return config
}

/**
 * The benches, from JSON, and the one this process stands at: the one that is named, else the only one.
 * @throws Error when a bench lacks something, two have one code or one port, or the named one is none of them
 */
export function readStations(text: string, own: string | undefined): Pick<Config, 'stations' | 'station'> {
  const stations = z.array(station).parse(JSON.parse(text))
  const ends = stations.map(({ firstPort }) => firstPort).sort((a, b) => a - b)
  const isApart = ends.every((first, i) => i === 0 || first - ends[i - 1]! >= portsOfStation)
  if (!isApart || new Set(stations.map(({ code }) => code)).size < stations.length)
    throw new Error('CORVEND_STATIONS: each station needs a code and ports of its own')
  const named = stations.find(({ code }) => code === own)
  if (own && !named) throw new Error(`CORVEND_STATION: ${own} is none of CORVEND_STATIONS`)
  return { stations, station: named ?? (stations.length === 1 ? stations[0]! : null) }
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
