import type pg from 'pg'
import { dialects } from '../dialects/index.ts'
import type { Dialect, Person } from '../dialects/dialect.ts'
import { faultAt } from '../faults.ts'
import { partHead, type OwnPart, insertOwnParts } from './parts.ts'
import { modelOf, type PhoneRow } from './phone.ts'
import { recordsOf } from './records.ts'

/** The revision of a kind, one further. */
export const bumped = `jsonb_set(kind_revisions, array[$3::text], to_jsonb(coalesce((kind_revisions->>$3)::int, 0) + 1))`

export interface RecordRow {
  id: number
  storage: string
  linked_to: number | null
  data: unknown
  size_bytes: number
  revision: number
  damage: string | null
}

export type WriteResult = { ids: string[] } | { joinedInto: string } | { refused: string }

/** What happens in the middle of a write; thrown to the server, which cuts or fails the answer. */
export class LinkBroken extends Error {
  constructor(readonly effect: string) {
    super(effect)
  }
}

export async function findPhone(pool: pg.Pool, serial: string): Promise<PhoneRow | undefined> {
  const { rows } = await pool.query<PhoneRow>('select * from phone where serial = $1', [serial])
  return rows[0]
}

/** Changes columns of a phone; names are ours, never a caller's. */
export async function changePhone(pool: pg.Pool, serial: string, values: Partial<PhoneRow>): Promise<void> {
  const entries = Object.entries(values)
  if (entries.length === 0) return
  const columns = entries.map(([name], i) => `${name} = $${i + 2}`).join(', ')
  await pool.query(`update phone set ${columns} where serial = $1`, [
    serial,
    ...entries.map(([name, value]) =>
      ['switches', 'wants', 'kind_revisions'].includes(name) && value !== null ? JSON.stringify(value) : value,
    ),
  ])
}

export function dialectOf(phone: Pick<PhoneRow, 'model'>): Dialect<any> {
  return dialects[modelOf(phone).dialect]
}

/** The phone's own count, from its own store; records still being sorted in are not in it yet. */
export async function ownCount(pool: pg.Pool, phone: PhoneRow, kind: string) {
  const { rows } = await pool.query<{ items: number; more: number; bytes: number; persons: number; hidden: number }>(
    `select count(*) filter (where visible_at <= now()) as items,
            coalesce(sum(size_bytes) filter (where visible_at <= now()), 0)::bigint as bytes,
            coalesce(sum(case when $2 = 'calls' then jsonb_array_length(data->'also') end) filter (where visible_at <= now()), 0)::int as more,
            count(*) filter (where visible_at <= now() and linked_to is null) as persons,
            count(*) filter (where visible_at > now()) as hidden
       from record where serial = $1 and kind = $2`,
    [phone.serial, kind],
  )
  const [counted] = rows
  const revision = `${phone.revision}.${phone.kind_revisions[kind] ?? 0}.${counted!.items}`
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
    items: counted!.items + counted!.more + derived + (kind === 'photos' ? await clipsApart(pool, phone) : 0),
    bytes: counted!.bytes,
    derived,
    derivedOf: derived > 0 ? { [kind === 'calendar' ? 'birthdays' : kind === 'apps' ? 'preinstalled' : 'ownCard']: derived } : {},
    revision,
    also:
      kind === 'contacts' ? { persons: counted!.persons } : kind === 'messages' ? await messageFigures(pool, phone.serial, revision) : {},
  }
}

const figuresKnown = new Map<string, { revision: string; figures: Record<string, number> }>()

/** Conversations and attachments, as its own list shows them; looked at again when something changed. */
async function messageFigures(pool: pg.Pool, serial: string, revision: string): Promise<Record<string, number>> {
  const known = figuresKnown.get(serial)
  if (known?.revision === revision) return known.figures
  const { rows } = await pool.query<{ conversations: number; attachments: number }>(
    `select count(distinct thread) as conversations, coalesce(sum(jsonb_array_length(data->'parts')), 0)::int as attachments
       from record where serial = $1 and kind = 'messages' and visible_at <= now()`,
    [serial],
  )
  figuresKnown.set(serial, { revision, figures: { ...rows[0]! } })
  return { ...rows[0]! }
}

/** The calendar counts a birthday of each contact that has one, though nobody put it there. */
async function birthdays(pool: pg.Pool, phone: PhoneRow): Promise<number> {
  if (modelOf(phone).platform === 'keypad') return 0
  const { rows } = await pool.query<{ n: number }>(
    `select count(*) as n from record
      where serial = $1 and kind = 'contacts' and visible_at <= now()
        and (coalesce(data->>'birthday', '') <> '' or data->'rows' @> '[{"k": "birthday"}]')`,
    [phone.serial],
  )
  return rows[0]!.n
}

async function clipsApart(pool: pg.Pool, phone: PhoneRow): Promise<number> {
  if (!recordsOf(phone, 'photos')?.apart) return 0
  const { rows } = await pool.query<{ n: number }>(
    `select count(*) as n from record where serial = $1 and kind = 'photos' and visible_at <= now() and jsonb_array_length(data->'files') > 1 and data->'files'->1->>'role' = 'clip'`,
    [phone.serial],
  )
  return rows[0]!.n
}

/** The visible records in the phone's order, a page at a time, so that a long list needs little memory. */
export async function* eachRecord(pool: pg.Pool, serial: string, kind: string): AsyncGenerator<RecordRow[]> {
  let after = 0
  for (;;) {
    const { rows } = await pool.query<RecordRow>(
      `select id, storage, linked_to, data, size_bytes, revision, damage
         from record
        where serial = $1 and kind = $2 and id > $3 and visible_at <= now()
        order by id
        limit 500`,
      [serial, kind, after],
    )
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
  const cutAt = (
    await pool.query(`select 1 from fault where serial = $1 and point in ('write.mid', 'write.record') and times > 0`, [serial])
  ).rowCount
  const results: WriteResult[] = []
  const quick: Filed[] = []
  const { places } = modelOf(phone)
  const records = recordsOf(phone, kind)!
  // a phone with a fixed number of places is full when they are
  let left =
    places === undefined || kind !== 'contacts'
      ? undefined
      : places -
        (await pool.query<{ n: number }>('select count(*) as n from record where serial = $1 and kind = $2', [serial, kind])).rows[0]!.n
  let free = phone.free_bytes
  let nextId =
    (
      await pool.query<{ next_id: number }>(
        `update phone set next_id = next_id + $2, kind_revisions = ${bumped} where serial = $1 returning next_id`,
        [serial, bodies.length * idsEach, kind],
      )
    ).rows[0]!.next_id -
    bodies.length * idsEach

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
    if (records.index) stored = await records.index(stored, (handle) => partHead(pool, serial, kind, handle))
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
  await pool.query('update phone set free_bytes = $2, temperature = temperature + heat_per_write where serial = $1', [serial, free])
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
  const { rows } = await pool.query<{ n: number }>(
    'select count(*) as n from part where serial = $1 and kind = $2 and handle = any($3::text[])',
    [serial, kind, parts.map(({ handle }) => handle)],
  )
  return rows[0]!.n === new Set(parts.map(({ handle }) => handle)).size ? null : 'not-understood'
}

async function insert(pool: pg.Pool, phone: PhoneRow, kind: string, records: readonly Filed[], afterMs = 0) {
  if (records.length === 0) return
  const storage = modelOf(phone).platform === 'ios' && !['messages', 'photos', 'apps'].includes(kind) ? 'account' : 'phone'
  const dialect = recordsOf(phone, kind)!
  await pool.query(
    `insert into record (serial, kind, id, storage, data, size_bytes, at_ms, thread, name, visible_at)
     select $1, $2, r.id, $3, r.stored, r.size, r.at, r.thread, r.name, now() + make_interval(secs => ($4 * random() + $6) / 1000.0)
       from jsonb_to_recordset($5::jsonb) as r(id bigint, stored jsonb, size bigint, at bigint, thread text, name text)`,
    [
      phone.serial,
      kind,
      storage,
      phone.settle_ms,
      JSON.stringify(
        records.map((record) => ({
          ...record,
          at: dialect.at?.(record.stored) ?? null,
          thread: dialect.thread?.(record.stored) ?? null,
          name: nameIn(phone, kind, record.stored),
        })),
      ),
      afterMs,
    ],
  )
  if (!dialect.parts) return
  const named = records.flatMap(({ id, stored }) => dialect.parts!(stored).map(({ handle }) => ({ id, handle })))
  if (named.length > 0)
    await pool.query(
      'update part p set record_id = n.id from unnest($3::bigint[], $4::text[]) as n(id, handle) where p.serial = $1 and p.kind = $2 and p.handle = n.handle',
      [phone.serial, kind, named.map((n) => n.id), named.map((n) => n.handle)],
    )
}

/** A phone that keeps only the newest lets the oldest go, without a word. */
async function forgetOldest(pool: pg.Pool, phone: PhoneRow, kind: string): Promise<void> {
  // a keep-time of a year removes what is older as soon as it arrives
  if (kind === 'messages' && !phone.switches['message-keep-time']) {
    await pool.query(
      `delete from record where serial = $1 and kind = 'messages' and at_ms < extract(epoch from now() - interval '1 year') * 1000`,
      [phone.serial],
    )
  }
  const { keeps } = recordsOf(phone, kind)!
  if (keeps === undefined) return
  await pool.query(
    `delete from record where serial = $1 and kind = $2 and id in (
       select id from record where serial = $1 and kind = $2 order by at_ms desc, id desc offset $3)`,
    [phone.serial, kind, keeps],
  )
}

/** What contacts are looked for by when equal ones are joined. */
export function nameIn(phone: PhoneRow, kind: string, stored: any): string | null {
  return kind === 'contacts' ? dialectOf(phone).name(stored).slice(0, 500) || null : null
}

/** Joins a record into one of the same name when the one's facts are all in the other. */
async function joinEqual(pool: pg.Pool, phone: PhoneRow, kind: string, stored: any): Promise<number | null> {
  const dialect = dialectOf(phone)
  const name = dialect.name(stored)
  if (!name.trim()) return null
  const facts = dialect.facts(stored)
  const [nameFact] = facts
  const { rows } = await pool.query<{ id: number; data: any }>(
    `select id, data from record where serial = $1 and kind = $2 and name = $3 and damage is null limit 20`,
    [phone.serial, kind, name],
  )
  for (const row of rows) {
    const there = new Set(dialect.facts(row.data))
    const here = new Set(facts)
    const isInside = facts.every((fact) => there.has(fact))
    const holdsIt = nameFact !== undefined && [...there].every((fact) => here.has(fact))
    if (!isInside && !holdsIt) continue
    if (!isInside) {
      await pool.query('update record set data = $4, revision = revision + 1 where serial = $1 and kind = $2 and id = $3', [
        phone.serial,
        kind,
        row.id,
        JSON.stringify(dialect.join(row.data, stored)),
      ])
    }
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
  let chunk: object[] = []
  let parts: (OwnPart & { recordId: number })[] = []
  let filled = 0
  const flush = async () => {
    await pool.query(
      `insert into record (serial, kind, id, storage, linked_to, data, size_bytes, damage, at_ms, thread, name)
       select $1, $3, r.id, r.storage, r.linked_to, r.stored, r.size, r.damage, r.at, r.thread, r.name
         from jsonb_to_recordset($2::jsonb) as r(id bigint, storage text, linked_to bigint, stored jsonb, size bigint, damage text, at bigint, thread text, name text)`,
      [phone.serial, JSON.stringify(chunk), kind],
    )
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
      at: records.at?.(stored) ?? null,
      thread: records.thread?.(stored) ?? null,
      name: nameIn(phone, kind, stored),
    })
    for (const part of attached ?? []) parts.push({ ...part, recordId: id })
    if (chunk.length >= 2000) await flush()
  }
  if (chunk.length > 0) await flush()
  await pool.query('update phone set next_id = $2, revision = revision + 1 where serial = $1', [phone.serial, first + filled])
  phone.next_id = first + filled
  return filled
}
