import { createHash } from 'node:crypto'
import type pg from 'pg'
import { makeFile } from '../../files/files.ts'
import { giveFile } from '../../phones/files.ts'
import { manyHandles } from './playlists.queries.ts'
import { trackOf } from '../music/index.ts'
import type { OwnRecord, PhoneKind } from '../phone-kind.ts'

interface Entry {
  digest: string
  title: string
  artist: string
  seconds: number
  path: string
}
interface StoredList {
  name: string
  smart: boolean
  entries: Entry[]
}

/** Gives a list as its phone writes it: paths by its maker's habit, digests by the helper on it. */
function give({ name, smart, entries }: StoredList, dialect: string): Buffer {
  const end = dialect === 'tamsel' ? '\n' : '\r\n'
  const lines = [
    '#EXTM3U',
    `#PLAYLIST:${name}`,
    ...(smart ? ['#X-SMART'] : []),
    ...entries.flatMap(({ digest, title, artist, seconds, path }) => [
      // one maker knows no artist beside a title, another no seconds
      dialect === 'veyra' ? `#EXTINF:-1,${title}` : `#EXTINF:${seconds},${artist} - ${title}`,
      ...(digest ? [`#X-TRACK-SHA256:${digest}`] : []),
      dialect === 'veyra' ? path.replace(/^.*\//, 'library/') : `/storage/${path}`,
    ]),
  ]
  return Buffer.from(lines.join(end) + end, 'utf8')
}

/** @throws Error when it is no list, or of a kind it does not make */
function take(bytes: Buffer): StoredList {
  const lines = bytes.toString('utf8').split(/\r?\n/)
  if (lines[0] !== '#EXTM3U') throw new Error('no list')
  const list: StoredList = { name: '', smart: false, entries: [] }
  let next: Partial<Entry> = {}
  for (const line of lines.slice(1)) {
    if (line.startsWith('#PLAYLIST:')) list.name = line.slice(10)
    else if (line === '#X-SMART') throw new Error('only its owner makes one by a rule')
    else if (line.startsWith('#X-TRACK-SHA256:')) next.digest = line.slice(16)
    else if (line.startsWith('#EXTINF:')) {
      const [, seconds, text] = /^#EXTINF:(\d+),(.*)$/.exec(line) ?? []
      const [artist, title] = text?.includes(' - ')
        ? [text.slice(0, text.indexOf(' - ')), text.slice(text.indexOf(' - ') + 3)]
        : ['', text ?? '']
      Object.assign(next, { seconds: Number(seconds ?? 0), artist, title })
    } else if (line && !line.startsWith('#')) {
      if (!next.digest) throw new Error('a track it can’t find')
      list.entries.push({ digest: next.digest, title: next.title ?? '', artist: next.artist ?? '', seconds: next.seconds ?? 0, path: line })
      next = {}
    }
  }
  if (!list.name) throw new Error('no name')
  return list
}

/** Digests of the tracks of a phone, each read once. */
const known = new Map<string, string>()
async function digestsOf(pool: pg.Pool, serial: string): Promise<ReadonlySet<string>> {
  const out = new Set<string>()
  for (const { handle, size_bytes: size } of await manyHandles(pool, serial)) {
    const key = `${serial} ${handle} ${size}`
    let digest = known.get(key)
    if (digest === undefined) {
      const hash = createHash('sha256')
      for await (const piece of (await giveFile(pool, { serial, kind: 'music', handle }))?.pieces ?? []) hash.update(piece)
      known.set(key, (digest = hash.digest('base64url')))
    }
    out.add(digest)
  }
  return out
}

interface ListsRequest {
  readonly seed: number
  readonly count: number
  readonly style?: 'traps' | 'plain'
  /** Bytes of each track, as the music of that phone was filled. */
  readonly trackSize?: number
  /** How many tracks there are to name. */
  readonly tracks?: number
}

/** Lists of the tracks that music of the same seed has. */
function* lists({ seed, count, style = 'plain', trackSize = 0, tracks = 3 }: ListsRequest): Generator<OwnRecord<StoredList>> {
  const entry = (i: number): Entry => {
    const { name, media, says } = trackOf(seed, i, trackSize)
    const digest = createHash('sha256').update(makeFile({ media })).digest('base64url')
    return { digest, title: says.title!, artist: says.artist!, seconds: 'seconds' in media ? media.seconds : 0, path: `Music/${name}` }
  }
  const one = (name: string, at: readonly number[], more: Partial<StoredList> = {}): OwnRecord<StoredList> => ({
    stored: { name, smart: false, entries: at.map((i) => entry(i % tracks)), ...more },
  })
  for (let n = 0; n < count; n++)
    yield one(
      `List ${n + 1}`,
      Array.from({ length: Math.min(tracks, 3 + (n % 4)) }, (_, i) => i * (n + 1)),
    )
  if (style === 'plain') return
  const lost: Entry = {
    digest: createHash('sha256').update(`lost ${seed}`).digest('base64url'),
    title: 'Gone',
    artist: 'Nobody',
    seconds: 60,
    path: 'Music/gone.mp3',
  }
  // the same track twice, in an order of its own
  yield one('Twice', [2, 0, 2, 1])
  yield one('With a gap', [0, 1], { entries: [entry(0), lost, { ...lost, digest: '' }, entry(1)] })
  yield one('Most played', [1, 0], { smart: true })
  yield one('Nothing left', [], { entries: [lost] })
  yield one('Empty', [])
  // it names itself, as if it were a track
  yield one('Itself', [0], { entries: [entry(0), { ...lost, digest: '', path: 'Playlists/Itself.m3u8', title: 'Itself' }] })
  yield one('Größe & <Ångström> 山', [1])
  yield { ...one('Dead sector', [0]), damage: 'storage-error' }
}

/** Lists of tracks, in their order. */
export const playlists: PhoneKind<StoredList> = {
  code: 'playlists',
  isAsked: false,
  on: ({ dialect }) => ({
    give: (stored) => give(stored, dialect),
    take,
    facts: ({ name, entries }) => [JSON.stringify({ name, tracks: entries.map(({ digest }) => digest) })],
    refuses: () => (dialect === 'holt' ? 'storage-read-only' : null),
    async lacks(pool, serial, { entries }) {
      const there = await digestsOf(pool, serial)
      return entries.some(({ digest }) => !there.has(digest)) ? 'not-understood' : null
    },
  }),
  halve: (stored) => ({ ...stored, entries: stored.entries.slice(0, -1), name: `${stored.name} ` }),
  alter: (stored) => ({ ...stored, name: `${stored.name} altered` }),
  *contents({ dialect }, request) {
    if (dialect !== 'holt') yield* lists(request as ListsRequest)
  },
  ofDemo: () => ({ trackSize: 90_000, tracks: 60 }),
}
