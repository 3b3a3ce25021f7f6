import type pg from 'pg'
import type { OwnRecord, RecordDialect } from '../kinds/phone-kind.ts'
import { phoneKind } from '../kinds/registry.ts'
import { faultAt, mayFault } from '../faults.ts'
import { countFiles, moveFiles, nameFiles } from './files.queries.ts'
import { insertOwnFiles, headOfFile, type OwnFile } from './files.ts'
import { modelOf, type PhoneRow } from './phone.ts'
import { endWrite, reserveIds, setNextId } from './phones.queries.ts'
import {
  countRecords,
  countVisible,
  deleteAllBut,
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

/** The phone's own count, from its own store; records still being sorted in are not in it yet. */
export async function ownCount(pool: pg.Pool, phone: PhoneRow, kind: string) {
  const counted = await countVisible(pool, phone.serial, kind)
  const revision = `${phone.revision}.${phone.kind_revisions[kind] ?? 0}.${counted.items}`
  const beside = (await phoneKind(kind)!.counted?.(pool, phone, { persons: counted.persons, revision })) ?? {}
  const derivedOf = Object.fromEntries(Object.entries(beside.derived ?? {}).filter(([, n]) => n > 0))
  const derived = Object.values(derivedOf).reduce((sum, n) => sum + n, 0)
  return {
    items: counted.items + (beside.more ?? 0) + derived,
    bytes: counted.bytes,
    derived,
    derivedOf,
    revision,
    also: beside.also ?? {},
  }
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
export function giveRecord(phone: PhoneRow, kind: string, record: RecordRow): { body: Buffer; unreadable?: string; files?: string[] } {
  if (record.damage === 'storage-error') return { body: Buffer.alloc(0), unreadable: 'storage-error' }
  const records = recordsOf(phone, kind)!
  const body = records.give(record.data)
  const files = records.filesOf?.(record.data).map(({ handle }) => handle) ?? []
  if (files.length > 0 && !record.damage) return { body, files }
  if (record.damage === 'cut-card') return { body: body.subarray(0, Math.max(30, Math.floor(body.length * 0.6))) }
  return { body: (record.damage && phoneKind(kind)!.damaged?.(body, record.damage)) || body }
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
  const cutAt = await mayFault(pool, serial, ['write.mid', 'write.record'])
  const results: WriteResult[] = []
  const quick: Filed[] = []
  const records = recordsOf(phone, kind)!
  const { halve, alter, redate } = phoneKind(kind)!
  const mayJoin = (effect: string | null) => records.joining !== undefined && (phone.joins_equal || effect === 'join-quietly')
  // a phone with a fixed number of places is full when they are
  let left = records.places === undefined ? undefined : records.places - (await countRecords(pool, serial, kind)).records
  let free = phone.free_bytes
  const paths = new Set<string>()
  let nextId = await reserveIds(pool, serial, kind, bodies.length * idsEach)

  for (const [i, body] of bodies.entries()) {
    if (i === 0 && before === 'refuse-one') {
      results.push({ refused: 'not-now' })
      continue
    }
    let stored: unknown
    try {
      stored = records.take(body)
    } catch {
      results.push({ refused: 'not-understood' })
      continue
    }
    if (records.index) stored = await records.index(stored, (handle) => headOfFile(pool, { serial, kind, handle }))
    if (records.path) stored = await freePath(pool, { serial, kind, path: records.path, taken: paths }, stored)
    const refused =
      records.refuses(stored) ??
      (await records.lacks?.(pool, serial, stored)) ??
      (await lacksFile(pool, serial, kind, records.filesOf?.(stored) ?? []))
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
    const joined = mayJoin(effect) ? await joinEqual(pool, phone, kind, stored) : null
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
    if (!cutAt && !mayJoin(null)) {
      quick.push(...pieces)
      continue
    }
    if (effect === 'redate' && redate) pieces[0] = { ...pieces[0]!, stored: redate(pieces[0]!.stored, Date.now()) }
    const [firstPiece, ...further] = pieces
    const kept =
      effect === 'half'
        ? [{ ...firstPiece!, stored: halve(firstPiece!.stored) }]
        : effect === 'alter'
          ? [{ ...firstPiece!, stored: alter(firstPiece!.stored) }, ...further]
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

/** No two files lie in one folder under one name: the later one gets a number behind it, as every file system has it. */
async function freePath(
  pool: pg.Pool,
  { serial, kind, path, taken }: { serial: string; kind: string; path: NonNullable<RecordDialect['path']>; taken: Set<string> },
  stored: unknown,
): Promise<unknown> {
  for (let n = 0; ; n++) {
    const one = n === 0 ? stored : path.renamed(stored, n)
    const at = path.of(one).slice(0, 500)
    if (taken.has(at) || (await manyOfName(pool, serial, kind, at)).length > 0) continue
    taken.add(at)
    return one
  }
}

/** A record that is sorted in long after the count stood still; milliseconds. */
const laterMs = 120_000

/** Numbers kept free for each record that comes: one more for a double, and those of a text in pieces. */
const idsEach = 64

interface Filed {
  readonly id: number
  readonly stored: unknown
  readonly size: number
}

/** A record that names a file the phone was not given is none it understands. */
async function lacksFile(pool: pg.Pool, serial: string, kind: string, files: readonly { handle: string }[]): Promise<string | null> {
  if (files.length === 0) return null
  const handles = [...new Set(files.map(({ handle }) => handle))]
  return (await countFiles(pool, serial, kind, handles)) === handles.length ? null : 'not-understood'
}

async function insert(pool: pg.Pool, phone: PhoneRow, kind: string, all: readonly Filed[], afterMs = 0) {
  const records: Filed[] = []
  for (const record of all) {
    const filed = recordsOf(phone, kind)!.filedAs?.(record.stored)
    if (!filed) records.push(record)
    else {
      const handles = recordsOf(phone, kind)!.filesOf!(record.stored).map(({ handle }) => handle)
      await moveFiles(pool, phone.serial, { from: kind, to: filed.kind }, handles)
      await insert(pool, phone, filed.kind, [{ ...record, stored: filed.stored }], afterMs)
    }
  }
  if (records.length === 0) return
  const storage = (modelOf(phone).platform === 'ios' && phoneKind(kind)!.iosStorage) || 'phone'
  const dialect = recordsOf(phone, kind)!
  await insertRecords(
    pool,
    { serial: phone.serial, kind, storage, settleMs: phone.settle_ms, afterMs },
    records.map((record) => ({ ...record, ...indexOf(phone, kind, record.stored) })),
  )
  if (!dialect.filesOf) return
  const named = records.flatMap(({ id, stored }) => dialect.filesOf!(stored).map(({ handle }) => ({ id, handle })))
  if (named.length > 0) await nameFiles(pool, phone.serial, kind, named)
}

/** A phone that keeps only the newest lets the oldest go, without a word. */
async function forgetOldest(pool: pg.Pool, phone: PhoneRow, kind: string): Promise<void> {
  await phoneKind(kind)!.forget?.(pool, phone)
  const { keeps } = recordsOf(phone, kind)!
  if (keeps !== undefined) await deleteAllBut(pool, phone.serial, kind, keeps)
}

/** What records are looked for by when equal ones are joined; null of kinds that are not. */
export function nameIn(phone: PhoneRow, kind: string, stored: unknown): string | null {
  const { joining, path } = recordsOf(phone, kind)!
  return (joining?.name(stored) ?? path?.of(stored))?.slice(0, 500) || null
}

/** What the phone sorts a record by and finds it again by. */
function indexOf(phone: PhoneRow, kind: string, stored: unknown): Pick<OwnRow, 'at' | 'thread' | 'name'> {
  const { at, thread } = recordsOf(phone, kind)!
  return { at: at?.(stored) ?? null, thread: thread?.(stored) ?? null, name: nameIn(phone, kind, stored) }
}

/** Joins a record into one of the same name when the one's facts are all in the other. */
async function joinEqual(pool: pg.Pool, phone: PhoneRow, kind: string, stored: unknown): Promise<number | null> {
  const dialect = recordsOf(phone, kind)!.joining!
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

/** Puts records of any kind into a phone as its own earlier contents. */
export async function fillRecords(pool: pg.Pool, phone: PhoneRow, kind: string, own: Iterable<OwnRecord>): Promise<number> {
  const records = recordsOf(phone, kind)!
  const first = phone.next_id
  let chunk: OwnRow[] = []
  let files: (OwnFile & { recordId: number })[] = []
  let filled = 0
  const flush = async () => {
    await insertOwnRecords(pool, phone.serial, kind, chunk)
    if (files.length > 0) await insertOwnFiles(pool, phone.serial, kind, files)
    chunk = []
    files = []
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
    for (const file of attached ?? []) files.push({ ...file, recordId: id })
    if (chunk.length >= 2000) await flush()
  }
  if (chunk.length > 0) await flush()
  await setNextId(pool, phone.serial, first + filled)
  phone.next_id = first + filled
  return filled
}
