import { noFacts } from '#core/formats/file-facts.ts'
import { music } from '#core/kinds/music/index.ts'
import { randomBytes } from 'node:crypto'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import type { LinkRecord } from '#contracts/link/index.ts'
import { openPool } from '#server/base/db/sql.ts'
import { keysFrom, type TicketKeys } from '#server/vault/keys.ts'
import type { Services } from '#server/base/services.ts'
import { dialects } from '#standins/kinds/contacts/dialects.ts'
import { giveMessage } from '#standins/kinds/messages/give.ts'
import { photos } from '#core/kinds/photos/index.ts'
import { givePhoto, photoWays } from '#standins/kinds/photos/listing.ts'
import { messagesOf } from '#standins/kinds/messages/demo.ts'
import { messageWays } from '#standins/kinds/messages/stored.ts'
import { people } from '#standins/kinds/contacts/people.ts'
import { startPostgres } from '../scripts/postgres.ts'
import { makeShop, provision } from '../scripts/provision.ts'
import { clock } from '#server/base/patience.ts'

export interface BenchShop {
  readonly services: Services
  readonly keys: TicketKeys
  readonly masterKeyHex: string
  readonly ownerUrl: string
  readonly adminUrl: string
  /** Its databases are dropped. */
  close(): Promise<void>
}

/** A shop of its own on our own server, dropped at the end. */
export async function openBenchShop(): Promise<BenchShop> {
  const server = process.env.DATABASE_URL ? undefined : await startPostgres('.corvend/bench-postgres', { endsWithUs: true })
  const adminUrl = process.env.DATABASE_URL ?? server!.adminUrl
  const suffix = `_b${randomBytes(3).toString('hex')}`
  const secret = () => randomBytes(12).toString('hex')
  const urls = await provision(adminUrl, { owner: secret(), app: secret(), standins: secret() }, suffix)
  const masterKey = randomBytes(32)
  await makeShop(urls.app, { masterKey, name: 'Bench', address: '', staff: [{ name: 'Bench', initials: 'BE', pin: '0000' }] })
  const pool = openPool(urls.app, 'corvend-bench', { max: 6 })
  const silent = { info: () => undefined, error: () => undefined }
  return {
    services: {
      pool,
      config: {
        databaseUrl: urls.app,
        masterKey,
        dataFolder: tmpdir(),
        keysFolder: join(tmpdir(), 'corvend-bench-keys'),
        stations: [],
        station: null,
        hosts: [],
        publicUrl: null,
        leaseMs: 60_000,
        checksReplies: false,
      },
      log: silent,
      clock,
    },
    keys: keysFrom(randomBytes(32)),
    masterKeyHex: masterKey.toString('hex'),
    ownerUrl: urls.owner,
    adminUrl,
    async close() {
      await pool.end()
      const admin = new pg.Client({ connectionString: adminUrl })
      await admin.connect()
      for (const db of [`corvend${suffix}`, `corvend_standins${suffix}`]) await admin.query(`drop database if exists "${db}" with (force)`)
      for (const role of ['owner', 'app', 'standins']) await admin.query(`drop role if exists "corvend_${role}${suffix}"`)
      await admin.end()
      server?.stop()
    },
  }
}

export type BenchKind = 'contacts' | 'messages' | 'photos' | 'music'
export const gb = { region: 'GB', zone: 'Europe/London' }

/** Records of a kind as a phone's link gives them, made one after the other; the last `lost` of them are not there. */
export function linkRecords(
  kind: BenchKind,
  count: number,
  { dialect = 'orrin', lost = 0 }: { dialect?: 'orrin' | 'veyra'; lost?: number } = {},
): Generator<LinkRecord> {
  if (kind === 'photos') return photoRecords(count - lost)
  if (kind === 'music') return trackRecords(count - lost)
  return kind === 'contacts' ? contactRecords(count - lost, dialect) : messageRecords(count, lost)
}

/** Messages in 2,000 conversations, without attachments: nothing has to be streamed. */
function* messageRecords(count: number, lost: number): Generator<LinkRecord> {
  let id = 0
  for (const { stored, attached } of messagesOf({ seed: 99, count, conversations: 2_000 })) {
    if (id >= count - lost) return
    const alone = attached ? { ...stored, parts: [] } : stored
    yield { id: String(++id), revision: '1', storage: 'phone', body: giveMessage(alone, messageWays.orrin).toString('base64') }
  }
}

/** Tracks of some hundred artists, with their files noted as read. */
function* trackRecords(count: number): Generator<LinkRecord> {
  for (let i = 0; i < count; i++) {
    const [artist, album, handle] = [`Artist ${i % 300}`, `Album ${i % 2500}`, `h${i}`]
    const line = `<file name="${i}.mp3" size="${4_000_000 + i}" type="audio/mpeg" x_folder="Music" x_handle="${handle}" x_title="Track ${i}" x_artist="${artist}" x_album="${album}"/>\r\n`
    const facts = { ...noFacts, type: 'audio/mpeg', durationMs: 180_000, codecs: ['mp3'], tags: { title: `Track ${i}`, artist, album } }
    const found = { digest: String(i).padStart(43, 'x'), sizeBytes: 4_000_000 + i, facts }
    const body = music.noteFiles!(Buffer.from(line), new Map([[handle, found]]))
    yield { id: String(i + 1), revision: '1', storage: 'phone', body: Buffer.from(body).toString('base64') }
  }
}

/** Photos over seven years in some albums, with their files noted as read: nothing has to be streamed. */
function* photoRecords(count: number): Generator<LinkRecord> {
  const way = photoWays.orrin
  for (let i = 0; i < count; i++) {
    const takenMs = Date.UTC(2026, 10, 18) - i * 4_000_000
    const stored = {
      folder: i % 9 === 0 ? `Pictures/Album ${i % 40}` : 'DCIM/Camera',
      takenMs,
      changedMs: takenMs,
      place: null,
      favourite: i % 16 === 0,
      hidden: false,
      burst: '',
      albums: [],
      cloud: false,
      width: 4000,
      height: 3000,
      files: [{ role: 'picture' as const, name: `IMG_${i}.jpg`, type: 'image/jpeg', handle: `h${i}`, size: 2_000_000 + i }],
    }
    const noted = photos.noteFiles!(
      givePhoto(stored, way),
      new Map([[`h${i}`, { digest: String(i).padStart(43, 'x'), sizeBytes: 2_000_000 + i }]]),
    )
    yield { id: String(i + 1), revision: '1', storage: 'phone', body: Buffer.from(noted).toString('base64') }
  }
}

function* contactRecords(count: number, dialect: 'orrin' | 'veyra'): Generator<LinkRecord> {
  const made = dialects[dialect]
  // in slices, so that the generator itself needs no memory
  for (let at = 0; at < count; at += 1000) {
    for (const [i, { person }] of people({ seed: 100 + at, count: Math.min(1000, count - at), style: 'plain' }).entries()) {
      person.middle = String(at + i)
      person.emails ??= [{ v: `p${at + i}@example.org`, t: 'home' }]
      yield { id: String(at + i + 1), revision: '1', storage: 'account', body: made.give(made.store(person)).toString('base64') }
    }
  }
}
