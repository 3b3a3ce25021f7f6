import type pg from 'pg'
import type { LinkRecord } from '#contracts/link/index.ts'
import { formOn } from '#core/kinds/form.ts'
import type { Kind, ReadTools } from '#core/kinds/kind.ts'
import type { PhoneModel } from '#core/phones/capability.ts'
import { copyItems, insertBlocks } from './blocks.queries.ts'
import { mostBlockBytes, mostInBlock, sealBodies, sealList, type ListSlot } from './blocks.ts'
import { contentDigest, matchKeyNumber, nativeDigest, type TicketKeys } from './keys.ts'
import type { ReadingId } from '../base/ids.ts'

export interface StowedItem {
  readonly native: Buffer
  readonly digest: Buffer
  readonly expected: Buffer | null
  readonly keys: readonly string[]
  readonly state: 'read' | 'unreadable' | 'cannot'
  readonly reason: string | null
  readonly changes: readonly string[]
  readonly hasLoss: boolean
  readonly storage: string
  readonly shape: Readonly<Record<string, number>>
  /** Milliseconds since 1970; null where a kind or a record has no time. */
  readonly at: number | null
  /** Keyed hash of what it is counted together with, as a signed number. */
  readonly slice: string | null
  /** Digests of the further records the new phone makes of it. */
  readonly parts: readonly Buffer[]
  readonly body: Buffer
  /** Keyed hash of the record as the phone gave it, where it has files that were read. */
  readonly raw: Buffer | null
  /** With all that belongs to it. */
  readonly sizeBytes: number
  readonly slot: ListSlot
}

export interface Stowing {
  readonly kind: Kind
  readonly keys: TicketKeys
  readonly tools: ReadTools
  /** The phone that is to take the item; none for a record of the new phone itself. */
  readonly target: PhoneModel | null
}

type Writable<T> = { -readonly [K in keyof T]: T[K] }
const none: readonly never[] = []

/**
 * Makes of one record of the link what is kept of it: digests, match keys, shape, and what is sealed.
 * @param known its digest where that is known already and its files were not read again
 */
export function stowRecord({ kind, keys, tools, target }: Stowing, record: LinkRecord, known?: Buffer): StowedItem {
  const body = Buffer.from(record.body, 'base64')
  const read = record.unreadable ? ({ ok: false, code: record.unreadable } as const) : kind.read(body, tools)
  // one object of one shape, filled in place: a copy for each step costs as much as reading the record
  const stowed: Writable<StowedItem> = {
    native: nativeDigest(keys, record.id),
    digest: body,
    expected: null,
    keys: none,
    state: 'unreadable',
    reason: null,
    changes: none,
    hasLoss: false,
    storage: record.storage,
    shape: {},
    at: null,
    slice: null,
    parts: none,
    body,
    raw: null,
    sizeBytes: body.length,
    slot: { nativeId: record.id, title: '', search: '' },
  }
  if (!read.ok) {
    stowed.digest = contentDigest(keys, body)
    stowed.reason = read.code
    return stowed
  }
  const { item } = read
  const atoms = kind.atoms(item, tools)
  const shown = kind.describe(item)
  stowed.digest = known ?? contentDigest(keys, kind.canonicalBytes(atoms))
  stowed.shape = kind.shape(item)
  if (kind.sizeBytes) stowed.sizeBytes = kind.sizeBytes(item)
  stowed.at = kind.at?.(item) ?? null
  if (kind.slice) stowed.slice = sliceNumber(keys, kind.slice(item, tools))
  const search = searchText(shown)
  stowed.slot = shown.group
    ? { nativeId: record.id, title: shown.title, search, group: shown.group }
    : { nativeId: record.id, title: shown.title, search }
  stowed.state = 'read'
  if (!target) {
    stowed.keys = keyNumbers(kind, keys, atoms)
    return stowed
  }
  const changed = formOn(kind, item, target)
  if ('cannot' in changed) {
    stowed.keys = keyNumbers(kind, keys, atoms)
    stowed.state = 'cannot'
    stowed.reason = changed.cannot
    return stowed
  }
  if (changed.changes.length === 0) {
    stowed.expected = stowed.digest
    stowed.keys = keyNumbers(kind, keys, atoms)
    return stowed
  }
  const [first, ...more] = kind.split ? kind.split(changed.item, target) : [changed.item]
  const there = kind.atoms(first, tools)
  stowed.expected = contentDigest(keys, kind.canonicalBytes(there))
  stowed.parts = more.map((record) => contentDigest(keys, kind.canonicalBytes(kind.atoms(record, tools))))
  stowed.keys = keyNumbers(kind, keys, there)
  stowed.changes = changed.changes.map((c) => c.code)
  stowed.hasLoss = changed.changes.some((c) => c.loss)
  return stowed
}

const slicesKnown = new WeakMap<TicketKeys, Map<string, string>>()

/** A slice's keyed hash; a phone has few, and each is hashed once for a reading. */
function sliceNumber(keys: TicketKeys, slice: string): string {
  let known = slicesKnown.get(keys)
  if (!known || known.size > 10_000) slicesKnown.set(keys, (known = new Map()))
  let number = known.get(slice)
  if (number === undefined) known.set(slice, (number = matchKeyNumber(keys, `slice ${slice}`)))
  return number
}

/** What is searched while showing: the title and every line, a line that says the title again left out. */
function searchText({ title, lines }: ReturnType<Kind['describe']>): string {
  let text = title
  for (const line of lines) if (line.text !== title) text += `\n${line.text}`
  return text
}

function keyNumbers(kind: Kind, keys: TicketKeys, atoms: readonly string[]): string[] {
  return kind.matchKeys(atoms).map((key) => matchKeyNumber(keys, key))
}

const breathe = () => new Promise<void>((resolve) => setImmediate(resolve))

/** Rows a transaction, and bytes; the phone waits when the next ones are ready before they are written. */
const batchRows = 5000
const batchBytes = 8_000_000

export interface StowBatch {
  readonly rows: readonly StowedItem[]
  readonly sizeBytes: number
}

/**
 * Stages records as they come and writes them batch by batch; the next batch is made while the last one is written,
 * and never more than one waits. The first is small, so that rows and counts show at once.
 * @param write writes one batch; its failure is thrown by the next `push` or by `end`
 */
export function createStowWriter(stowing: Stowing, write: (batch: StowBatch) => Promise<void>) {
  let rows: StowedItem[] = []
  let sizeBytes = 0
  let isFirst = true
  let isWriting = false
  let writing: Promise<void> = Promise.resolve()

  async function flush(): Promise<void> {
    const batch = { rows, sizeBytes }
    rows = []
    sizeBytes = 0
    isFirst = false
    await writing
    isWriting = true
    writing = write(batch).finally(() => (isWriting = false))
    writing.catch(() => undefined)
  }

  return {
    /** Resolves when the next record may come. */
    push(record: LinkRecord, { digest, raw }: { digest?: Buffer | undefined; raw?: Buffer | undefined } = {}): Promise<void> | undefined {
      const item = raw ? { ...stowRecord(stowing, record, digest), raw } : stowRecord(stowing, record, digest)
      rows.push(item)
      sizeBytes += item.body.length
      if (rows.length >= (isFirst ? 100 : batchRows) || sizeBytes >= batchBytes) return flush()
      // records that are at hand come without a pause: what is being written must get its turn
      return isWriting && rows.length % 100 === 0 ? breathe() : undefined
    },
    /** Resolves when all is written. */
    async end(): Promise<void> {
      if (rows.length > 0) await flush()
      await writing
    },
  }
}

export interface Place {
  readonly readingId: ReadingId
  /** Items and blocks stowed before. */
  readonly items: number
  readonly blocks: number
}

/** Writes stowed items and their sealed blocks; answers with the place after them. */
export async function writeStowed(client: pg.PoolClient, keys: TicketKeys, place: Place, items: readonly StowedItem[]): Promise<Place> {
  const blocks = cutIntoBlocks(items)
  const rows: string[] = []
  let seq = place.items
  const sealed: { no: number; list: Buffer; body: Buffer }[] = []
  blocks.forEach((block, i) => {
    const no = place.blocks + i
    block.forEach((item, slot) => rows.push(copyRow(item, [place.readingId, seq++, no, slot])))
    sealed.push({
      no,
      list: sealList(
        keys,
        place.readingId,
        no,
        block.map((item) => item.slot),
      ),
      body: sealBodies(
        keys,
        place.readingId,
        no,
        block.map((item) => item.body),
      ),
    })
  })
  await copyItems(client, rows)
  for (const block of sealed) await insertBlocks(client, { readingId: place.readingId, ...block })
  return { readingId: place.readingId, items: seq, blocks: place.blocks + blocks.length }
}

/** One row of COPY's text form. */
export function copyRow(item: StowedItem, [readingId, seq, block, slot]: readonly [number, number, number, number]): string {
  return (
    [
      readingId,
      seq,
      hex(item.native),
      hex(item.digest),
      item.expected ? hex(item.expected) : '\\N',
      `{${item.keys.join(',')}}`,
      item.state,
      item.reason === null ? '\\N' : escape(item.reason),
      `{${item.changes.join(',')}}`,
      item.hasLoss ? 't' : 'f',
      escape(item.storage),
      escape(JSON.stringify(item.shape)),
      item.sizeBytes,
      block,
      slot,
      item.at === null ? '\\N' : new Date(item.at).toISOString(),
      item.slice ?? '\\N',
      // in an array's text a backslash is written twice
      `{${item.parts.map((part) => '"\\\\\\\\x' + part.toString('hex') + '"').join(',')}}`,
      item.raw ? hex(item.raw) : '\\N',
    ].join('\t') + '\n'
  )
}

function hex(bytes: Buffer): string {
  return '\\\\x' + bytes.toString('hex')
}

function escape(text: string): string {
  return text.replace(/[\\\t\n\r]/g, (c) => ({ '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' })[c]!)
}

function cutIntoBlocks(items: readonly StowedItem[]): StowedItem[][] {
  const blocks: StowedItem[][] = []
  let bytes = 0
  for (const item of items) {
    const last = blocks.at(-1)
    if (!last || last.length >= mostInBlock || bytes + item.body.length > mostBlockBytes) {
      blocks.push([item])
      bytes = item.body.length
    } else {
      last.push(item)
      bytes += item.body.length
    }
  }
  return blocks
}
