import type pg from 'pg'
import { dialects } from '../dialects/index.ts'
import type { Dialect, Person } from '../dialects/dialect.ts'
import { hasFault } from '../faults.queries.ts'
import { faultAt } from '../faults.ts'
import { countParts, nameParts } from './parts.queries.ts'
import { partHead, type OwnPart, insertOwnParts } from './parts.ts'
import { modelOf, type PhoneRow } from './phone.ts'
import { endWrite, reserveIds, setNextId } from './phones.queries.ts'
import {
  countBirthdays,
  countClips,
  countRecords,
  countThreads,
  countVisible,
  deleteAllBut,
  deleteOlderThanAYear,
  insertOwnRecords,
  insertRecords,
  manyOfName,
  manyVisible,
  setData,
  type OwnRow,
  type RecordRow,
} from './records.queries.ts'
import { recordsOf } from './records.ts'

export type WriteResult = { ids: string[] } | { joinedInto: string } | { refused: string }

/** What happens in the middle of a write; thrown to the server, which cuts or fails the answer. */
export class LinkBroken extends Error {
  constructor(readonly effect: string) {
    super(effect)
  }
}

export function dialectOf(phone: Pick<PhoneRow, 'model'>): Dialect<any> {
  return dialects[modelOf(phone).dialect]
}

/** The phone's own count, from its own store; records still being sorted in are not in it yet. */
export async function ownCount(pool: pg.Pool, phone: PhoneRow, kind: string) {
  const counted = await countVisible(pool, phone.serial, kind)
  const revision = `${phone.revision}.${phone.kind_revisions[kind] ?? 0}.${counted.items}`
  const derived =
    kind === 'contacts'
      ? modelOf(phone).derived
      : kind === 'calendar'
        ? await birthdays(pool, phone)
        : kind === 'apps'
          ? modelOf(phone).preinstalled
          : 0
  return {
    // the clip of a moving photo counts once more where it is kept apart
    items: counted.items + counted.more + derived + (kind === 'photos' ? await clipsApart(pool, phone) : 0),
    bytes: counted.bytes,
    derived,
    derivedOf: derived > 0 ? { [kind === 'calendar' ? 'birthdays' : kind === 'apps' ? 'preinstalled' : 'ownCard']: derived } : {},
    revision,
    also:
      kind === 'contacts' ? { persons: counted.persons } : kind === 'messages' ? await messageFigures(pool, phone.serial, revision) : {},
  }
}

const figuresKnown = new Map<string, { revision: string; figures: Record<string, number> }>()

/** Conversations and attachments, as its own list shows them; looked at again when something changed. */
async function messageFigures(pool: pg.Pool, serial: string, revision: string): Promise<Record<string, number>> {
  const known = figuresKnown.get(serial)
  if (known?.revision === revision) return known.figures
  const figures = { ...(await countThreads(pool, serial)) }
  figuresKnown.set(serial, { revision, figures })
  return figures
}

/** The calendar counts a birthday of each contact that has one, though nobody put it there. */
async function birthdays(pool: pg.Pool, phone: PhoneRow): Promise<number> {
  return modelOf(phone).platform === 'keypad' ? 0 : countBirthdays(pool, phone.serial)
}

async function clipsApart(pool: pg.Pool, phone: PhoneRow): Promise<number> {
  return recordsOf(phone, 'photos')?.apart ? countClips(pool, phone.serial) : 0
}

/** The visible records in the phone's order, a page at a time, so that a long list needs little memory. */
export async function* eachRecord(pool: pg.Pool, serial: string, kind: string): AsyncGenerator<RecordRow[]> {
  let after = 0
  for (;;) {
    const rows = await manyVisible(pool, serial, kind, after)
    if (rows.length === 0) return
    yield rows
    after = rows.at(-1)!.id
  }
}

/** The bytes of a record as the link gives them, its damage included. */
export function giveRecord(phone: PhoneRow, kind: string, record: RecordRow): { body: Buffer; unreadable?: string; parts?: string[] } {
  if (record.damage === 'storage-error') return { body: Buffer.alloc(0), unreadable: 'storage-error' }
  const records = recordsOf(phone, kind)!
  const body = records.give(record.data)
  const parts = records.parts?.(record.data).map(({ handle }) => handle) ?? []
  if (parts.length > 0 && !record.damage) return { body, parts }
  if (record.damage === 'no-date')
    return { body: Buffer.from(body.toString('latin1').replace(/X-IRMC-CALL-DATETIME[^\r]*\r\n/, ''), 'latin1') }
  if (record.damage === 'no-time')
    return { body: Buffer.from(body.toString('latin1').replace(/(X-IRMC-CALL-DATETIME[^:\r]*:)[^\r]*/, '$1'), 'latin1') }
  if (record.damage === 'cut-card') return { body: body.subarray(0, Math.max(30, Math.floor(body.length * 0.6))) }
  if (record.damage === 'bad-photo')
    return { body: Buffer.from(body.toString('latin1').replace(/END:VCARD/, 'PHOTO;ENCODING=BASE64:!!!!\r\n\r\nEND:VCARD'), 'latin1') }
  return { body }
}

/**
 * Takes records as this phone does: own parser, own limits, own joining, its storage and its faults.
 * Each record is stored on its own, so that a cut in the middle leaves what was written before it.
 */
export async function takeRecords(pool: pg.Pool, phone: PhoneRow, kind: string, bodies: readonly Buffer[]): Promise<WriteResult[]> {
  const { serial } = phone
  if (recordsOf(phone, kind)!.writesOnly?.some((setting) => !phone.switches[setting])) throw new LinkBroken('fail')
  const before = await faultAt(pool, serial, 'write.before')
  if (before && before !== 'refuse-one') throw new LinkBroken(before)
  const cutAt = await hasFault(pool, serial, ['write.mid', 'write.record'])
  const results: WriteResult[] = []
  const quick: Filed[] = []
  const { places } = modelOf(phone)
  const records = recordsOf(phone, kind)!
  // a phone with a fixed number of places is full when they are
  let left = places === undefined || kind !== 'contacts' ? undefined : places - (await countRecords(pool, serial, kind)).records
  let free = phone.free_bytes
  let nextId = await reserveIds(pool, serial, kind, bodies.length * idsEach)

  for (const [i, body] of bodies.entries()) {
    if (i === 0 && before === 'refuse-one') {
      results.push({ refused: 'not-now' })
      continue
    }
    let stored: any
    try {
      stored = records.take(body)
    } catch {
      results.push({ refused: 'not-understood' })
      continue
    }
    if (records.index) stored = await records.index(stored, (handle) => partHead(pool, { serial, kind, handle }))
    const refused = records.refuses(stored) ?? (await lacksPart(pool, serial, kind, records.parts?.(stored) ?? []))
    if (refused) {
      results.push({ refused })
      continue
    }
    if (left !== undefined && left-- <= 0) {
      results.push({ refused: 'storage-full' })
      continue
    }
    const effect = cutAt ? await faultAt(pool, serial, 'write.record') : null
    const size = records.sizeOf?.(stored) ?? body.length
    if (free < size && !phone.drops_when_full) {
      results.push({ refused: 'storage-full' })
      continue
    }
    const joined =
      kind === 'contacts' && (phone.joins_equal || effect === 'join-quietly') ? await joinEqual(pool, phone, kind, stored) : null
    const id = nextId++
    if (joined) {
      results.push(effect === 'join-quietly' ? { ids: [String(id)] } : { joinedInto: String(joined) })
      continue
    }
    const pieces: Filed[] = (records.cut?.(stored) ?? [stored]).map((piece, at) => ({
      id: at === 0 ? id : nextId++,
      stored: piece,
      size: at === 0 ? size : 0,
    }))
    results.push({ ids: pieces.map((piece) => String(piece.id)) })
    if (free < size || effect === 'drop') continue
    free -= size
    if (!cutAt && !(phone.joins_equal && kind === 'contacts')) {
      quick.push(...pieces)
      continue
    }
    const [firstPiece, ...further] = pieces
    if (effect === 'redate') firstPiece!.stored.takenMs = Date.now()
    const kept =
      effect === 'half'
        ? [{ ...firstPiece!, stored: halved(firstPiece!.stored) }]
        : effect === 'alter'
          ? [{ ...firstPiece!, stored: altered(firstPiece!.stored) }, ...further]
          : pieces
    await insert(pool, phone, kind, kept, effect === 'later' ? laterMs : 0)
    if (effect === 'double')
      await insert(
        pool,
        phone,
        kind,
        pieces.map((piece) => ({ ...piece, id: nextId++ })),
      )
    if (effect === 'half') throw new LinkBroken('cut')
    const mid = await faultAt(pool, serial, 'write.mid')
    if (mid) throw new LinkBroken(mid)
  }
  await insert(pool, phone, kind, quick)
  await forgetOldest(pool, phone, kind)
  await endWrite(pool, serial, free)
  if (phone.temperature >= 40) await new Promise((resolve) => setTimeout(resolve, 400))
  const after = await faultAt(pool, serial, 'write.after')
  if (after === 'one-answer-less') return results.slice(1)
  if (after) throw new LinkBroken(after)
  return results
}

/** A record that is sorted in long after the count stood still; milliseconds. */
const laterMs = 120_000

/** Numbers kept free for each record that comes: one more for a double, and those of a text in pieces. */
const idsEach = 64

interface Filed {
  readonly id: number
  readonly stored: any
  readonly size: number
}

/** A record that names a part the phone was not given is none it understands. */
async function lacksPart(pool: pg.Pool, serial: string, kind: string, parts: readonly { handle: string }[]): Promise<string | null> {
  if (parts.length === 0) return null
  const handles = [...new Set(parts.map(({ handle }) => handle))]
  return (await countParts(pool, serial, kind, handles)) === handles.length ? null : 'not-understood'
}

async function insert(pool: pg.Pool, phone: PhoneRow, kind: string, records: readonly Filed[], afterMs = 0) {
  if (records.length === 0) return
  const storage = modelOf(phone).platform === 'ios' && !['messages', 'photos', 'apps'].includes(kind) ? 'account' : 'phone'
  const dialect = recordsOf(phone, kind)!
  await insertRecords(
    pool,
    { serial: phone.serial, kind, storage, settleMs: phone.settle_ms, afterMs },
    records.map((record) => ({ ...record, ...indexOf(phone, kind, record.stored) })),
  )
  if (!dialect.parts) return
  const named = records.flatMap(({ id, stored }) => dialect.parts!(stored).map(({ handle }) => ({ id, handle })))
  if (named.length > 0) await nameParts(pool, phone.serial, kind, named)
}

/** A phone that keeps only the newest lets the oldest go, without a word. */
async function forgetOldest(pool: pg.Pool, phone: PhoneRow, kind: string): Promise<void> {
  // a keep-time of a year removes what is older as soon as it arrives
  if (kind === 'messages' && !phone.switches['message-keep-time']) await deleteOlderThanAYear(pool, phone.serial)
  const { keeps } = recordsOf(phone, kind)!
  if (keeps !== undefined) await deleteAllBut(pool, phone.serial, kind, keeps)
}

/** What contacts are looked for by when equal ones are joined. */
export function nameIn(phone: PhoneRow, kind: string, stored: any): string | null {
  return kind === 'contacts' ? dialectOf(phone).name(stored).slice(0, 500) || null : null
}

/** What the phone sorts a record by and finds it again by. */
function indexOf(phone: PhoneRow, kind: string, stored: any): Pick<OwnRow, 'at' | 'thread' | 'name'> {
  const { at, thread } = recordsOf(phone, kind)!
  return { at: at?.(stored) ?? null, thread: thread?.(stored) ?? null, name: nameIn(phone, kind, stored) }
}

/** Joins a record into one of the same name when the one's facts are all in the other. */
async function joinEqual(pool: pg.Pool, phone: PhoneRow, kind: string, stored: any): Promise<number | null> {
  const dialect = dialectOf(phone)
  const name = dialect.name(stored)
  if (!name.trim()) return null
  const facts = dialect.facts(stored)
  const [nameFact] = facts
  for (const row of await manyOfName(pool, phone.serial, kind, name)) {
    const there = new Set(dialect.facts(row.data))
    const here = new Set(facts)
    const isInside = facts.every((fact) => there.has(fact))
    const holdsIt = nameFact !== undefined && [...there].every((fact) => here.has(fact))
    if (!isInside && !holdsIt) continue
    if (!isInside) await setData(pool, phone.serial, row.id, dialect.join(row.data, stored))
    return row.id
  }
  return null
}

function halved(stored: any) {
  if (stored.files) return { ...stored, files: stored.files.slice(0, 1), albums: [], favourite: false, place: null }
  if (stored.way !== undefined) return { ...stored, text: stored.parts.length > 0 ? stored.text : '', parts: [] }
  if (stored.atMs !== undefined) return { ...stored, name: '', durationS: 0 }
  if (stored.rule !== undefined) return { ...stored, place: '', text: '', alarms: [] }
  return stored.rows ? { rows: stored.rows.slice(0, Math.max(1, stored.rows.length - 1)) } : { ...stored, phones: [], emails: [], note: '' }
}

/** A record as another hand left it: with a note more. */
export function altered(stored: any) {
  if (stored.files) return { ...stored, takenMs: stored.takenMs + 1000, albums: stored.albums }
  if (stored.bundle) return { ...stored, version: `${stored.version}.1` }
  if (stored.way !== undefined) return { ...stored, text: `${stored.text} edited` }
  if (stored.atMs !== undefined) return { ...stored, durationS: stored.durationS + 1 }
  if (stored.rule !== undefined) return { ...stored, text: `${stored.text} edited` }
  if (stored.numbers) return { ...stored, name: `${stored.name}.` }
  if (!stored.rows) return { ...stored, note: `${stored.note} edited` }
  // one note each: a second would be nowhere to be seen
  const note = stored.rows.find((row: { k: string }) => row.k === 'note')?.v[0] ?? ''
  return { rows: [...stored.rows.filter((row: { k: string }) => row.k !== 'note'), { k: 'note', v: [`${note} edited`.trim()] }] }
}

/** Puts people into a phone as its own earlier contents. */
export async function fillPhone(
  pool: pg.Pool,
  phone: PhoneRow,
  people: readonly { person: Person; storage?: string; linkedTo?: number; damage?: string }[],
): Promise<number> {
  const dialect = dialectOf(phone)
  return fillRecords(
    pool,
    phone,
    'contacts',
    people.map(({ person, storage, linkedTo, damage }) => ({
      stored: dialect.store(person),
      storage: storage ?? 'phone',
      linkedTo,
      damage,
    })),
  )
}

export interface OwnRecord {
  readonly stored: unknown
  readonly storage?: string
  /** Position of the record it is linked to. */
  readonly linkedTo?: number | undefined
  readonly damage?: string | undefined
  readonly attached?: readonly OwnPart[] | undefined
}

/** Puts records of any kind into a phone as its own earlier contents. */
export async function fillRecords(pool: pg.Pool, phone: PhoneRow, kind: string, own: Iterable<OwnRecord>): Promise<number> {
  const records = recordsOf(phone, kind)!
  const first = phone.next_id
  let chunk: OwnRow[] = []
  let parts: (OwnPart & { recordId: number })[] = []
  let filled = 0
  const flush = async () => {
    await insertOwnRecords(pool, phone.serial, kind, chunk)
    if (parts.length > 0) await insertOwnParts(pool, phone.serial, kind, parts)
    chunk = []
    parts = []
  }
  for (const { stored, storage, linkedTo, damage, attached } of own) {
    const id = first + filled++
    chunk.push({
      id,
      storage: storage ?? 'phone',
      linked_to: linkedTo === undefined ? null : first + linkedTo,
      stored,
      size: records.sizeOf?.(stored) ?? records.give(stored).length,
      damage: damage ?? null,
      ...indexOf(phone, kind, stored),
    })
    for (const part of attached ?? []) parts.push({ ...part, recordId: id })
    if (chunk.length >= 2000) await flush()
  }
  if (chunk.length > 0) await flush()
  await setNextId(pool, phone.serial, first + filled)
  phone.next_id = first + filled
  return filled
}
