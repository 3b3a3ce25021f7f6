import { createHash, randomBytes, randomUUID } from 'node:crypto'
import type pg from 'pg'
import { z } from 'zod'
import type { LinkRecord } from '#contracts/link/index.ts'
import { transaction, type Client } from '../../base/db/sql.ts'
import type { CopyId, HoldingId, LockerId } from '../../base/ids.ts'
import type { Services } from '../../base/services.ts'
import { blobsOf, readBlob, writeBlob } from '../blobs.ts'
import { findKeys } from '../holdings.ts'
import { keysFrom, nativeDigest, open, openText, seal, sealText, type TicketKeys } from '../keys.ts'
import {
  deleteLooseFiles,
  deleteRecords,
  deleteUnheld,
  insertBodies,
  insertLooseFile,
  insertRecords,
  lockLocker,
  manyBlobs,
  manyBodies,
  manyRecordBodies,
  manyRecordsAt,
  manySeqs,
  maybeFileBody,
  nameFiles,
  takeBodyIds,
  type HeldBody,
} from './bodies.queries.ts'
import { addToKind, closeKind, holdCopy, maybeCopyKind, sumKind, takeSeqs } from './copies.queries.ts'

/**
 * A copy of a phone in a locker: its records as the phone gave them and its files, each sealed by a key of its own.
 * The copy holds those keys under its own; a later copy of the same phone that has an equal record holds its key, too,
 * and stores nothing. When a copy’s key is destroyed, what it alone held opens no more.
 */
export interface StoredCopy {
  readonly id: CopyId
  readonly keys: TicketKeys
  readonly lockerId: LockerId
  /** Of what the phone's copies share: where their blobs are, and by whose key equal ones are told. */
  readonly shared: { readonly holding: HoldingId; readonly keys: TicketKeys }
}

/** What goes in: a record as its phone gave it, and by which handles its files were taken. */
export const lockerRecord = z.object({
  /** The phone's own name for it. */
  id: z.string(),
  storage: z.string(),
  /** Base64. */
  body: z.string(),
  /** The phone's handles of its files. */
  files: z.array(z.string()).optional(),
  /** By the phone's handle, the one this copy gave when it took the file. */
  handles: z.record(z.string(), z.string()).optional(),
})
export type LockerRecord = z.infer<typeof lockerRecord>

/** The copy is written to by somebody else now, or is gone. */
export class CopyTaken extends Error {}

/** What the key of a body is bound to, as a copy holds it. */
export const keyBound = (copyId: CopyId, bodyId: number) => `copy ${copyId} body ${bodyId} v1`
const bodyBound = 'locker body v1'
const manifestBound = (copyId: CopyId, kind: string) => `manifest ${copyId} ${kind} v1`

const wrap = (keys: TicketKeys, copyId: CopyId, bodyId: number, secret: Buffer) => seal(keys.seal, keyBound(copyId, bodyId), secret)
const unwrap = (keys: TicketKeys, copyId: CopyId, bodyId: number, wrapped: Buffer) => open(keys.seal, keyBound(copyId, bodyId), wrapped)

type Shop = Pick<Services, 'pool' | 'config'>

/** Works on a copy in one transaction, as the connection that was made last. @throws CopyTaken */
function holding<T>({ pool }: Shop, copy: StoredCopy, connection: number, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  return transaction(pool, async (client) => {
    await lockLocker(client, copy.lockerId)
    if ((await holdCopy(client, copy.id, connection)) === 0) throw new CopyTaken()
    return work(client)
  })
}

/** The key of a body that a copy of the same phone holds; undefined where it can't be had: that copy is closed to us, or its key is away. */
function keyOfHeld({ config }: Shop, copy: StoredCopy, held: Omit<HeldBody, 'sealed'>): Buffer | undefined {
  const keys = held.copy_id === copy.id ? copy.keys : findKeys(config, held.holding)
  return keys ? unwrap(keys, held.copy_id, held.body_id, held.wrapped) : undefined
}

/** Records as the phone gave them; equal ones of the phone’s copies are stored once. Answers with their places, in order. @throws CopyTaken */
export async function storeRecords(
  shop: Shop,
  copy: StoredCopy,
  { kind, connection, records }: { kind: string; connection: number; records: readonly LockerRecord[] },
): Promise<number[]> {
  const texts = records.map(({ id, storage, body, files }) => Buffer.from(JSON.stringify({ id, storage, body, files })))
  const digests = texts.map((text) => copy.shared.keys.digest(text))
  return holding(shop, copy, connection, async (client) => {
    const known = await keysHeld(shop, client, copy, digests)
    const hex = digests.map((digest) => digest.toString('hex'))
    const fresh = [...new Set(hex)].filter((digest) => !known.has(digest))
    const ids = await takeBodyIds(client, fresh.length)
    const made = fresh.map((digest, i) => ({ at: hex.indexOf(digest), secret: randomBytes(32), bodyId: ids[i]! }))
    await insertBodies(
      client,
      copy.lockerId,
      ids,
      made.map(({ at, secret }) => ({
        digest: digests[at]!,
        sizeBytes: texts[at]!.length,
        sealed: seal(secret, bodyBound, texts[at]!),
        blob: null,
      })),
    )
    made.forEach(({ secret, bodyId }, i) => known.set(fresh[i]!, { secret, bodyId }))
    const first = await takeSeqs(client, copy.id, kind, records.length)
    const seqs = records.map((_, i) => first + i)
    await insertRecords(
      client,
      copy.id,
      kind,
      seqs.map((seq, i) => {
        const { bodyId, secret } = known.get(hex[i]!)!
        return { seq, bodyId, wrapped: wrap(copy.keys, copy.id, bodyId, secret) }
      }),
    )
    const files = records.flatMap(({ handles = {} }, i) =>
      Object.entries(handles).map(([handle, loose]) => ({
        loose: Buffer.from(loose, 'hex'),
        handle: nativeDigest(copy.keys, handle),
        seq: seqs[i]!,
      })),
    )
    // a file that was taken by a connection that is gone went with it: its record is sent again, with its files
    if ((await nameFiles(client, { copyId: copy.id, kind }, files)) !== files.length) throw new CopyTaken()
    await addToKind(client, { id: copy.id, kind, items: records.length, bytes: texts.reduce((sum, text) => sum + text.length, 0) })
    return seqs
  })
}

/** The keys of bodies that the phone's copies hold already, by digest in hex. */
async function keysHeld(shop: Shop, client: Client, copy: StoredCopy, digests: readonly Buffer[]) {
  const known = new Map<string, { secret: Buffer; bodyId: number }>()
  for (const held of await manyBodies(client, copy.lockerId, digests)) {
    const secret = keyOfHeld(shop, copy, held)
    if (secret) known.set(held.digest.toString('hex'), { secret, bodyId: held.body_id })
  }
  return known
}

/**
 * Takes a file; it goes with the connection unless a record that names it is stored. Answers with its handle.
 * @param sha256 of the bytes once they have come, where whoever gives them digests them anyway: a second one is a third of the cost
 * @throws CopyTaken; Error when it can't be written
 */
export async function storeFile(
  shop: Shop,
  copy: StoredCopy,
  { kind, connection, bytes, sha256 }: { kind: string; connection: number; bytes: AsyncIterable<Uint8Array>; sha256?: () => Buffer },
): Promise<string> {
  const store = blobsOf(shop.config)
  const name = { holding: copy.shared.holding, name: randomUUID() }
  const fresh = randomBytes(32)
  const writer = writeBlob(keysFrom(fresh), store, name, { hasDigest: false })
  const hash = sha256 ? undefined : createHash('sha256')
  let sizeBytes = 0
  try {
    for await (const chunk of bytes) {
      hash?.update(chunk)
      sizeBytes += chunk.length
      await writer.write(chunk)
    }
    await writer.end()
  } catch (error) {
    await writer.drop().catch(() => undefined)
    throw error
  }
  const digest = copy.shared.keys.digest(Buffer.concat([Buffer.from('file '), sha256?.() ?? hash!.digest()]))
  const handle = randomBytes(16)
  const isKept = await holding(shop, copy, connection, async (client) => {
    const known = (await keysHeld(shop, client, copy, [digest])).get(digest.toString('hex'))
    const [bodyId] = known ? [known.bodyId] : await takeBodyIds(client, 1)
    const secret = known?.secret ?? fresh
    await addToKind(client, { id: copy.id, kind, items: 0, bytes: sizeBytes })
    if (!known) await insertBodies(client, copy.lockerId, [bodyId!], [{ digest, sizeBytes, sealed: null, blob: name.name }])
    await insertLooseFile(client, { copyId: copy.id, kind, handle, bodyId: bodyId!, wrapped: wrap(copy.keys, copy.id, bodyId!, secret) })
    return !known
  }).catch(async (error: unknown) => {
    await store.remove(name)
    throw error
  })
  if (!isKept) await store.remove(name)
  return handle.toString('hex')
}

/** Takes records away with their files; what no copy of the phone holds any more is gone. Answers with their places. @throws CopyTaken */
export async function removeStored(
  shop: Shop,
  copy: StoredCopy,
  { kind, connection, seqs }: { kind: string; connection: number; seqs: readonly number[] },
): Promise<number[]> {
  const { gone, blobs } = await holding(shop, copy, connection, async (client) => {
    const gone = await deleteRecords(client, { copyId: copy.id, kind }, seqs)
    await addToKind(client, { id: copy.id, kind, items: -gone.seqs.length, bytes: -gone.bytes })
    return { gone, blobs: await deleteUnheld(client, copy.lockerId) }
  })
  for (const name of blobs) await blobsOf(shop.config).remove({ holding: copy.shared.holding, name })
  return gone.seqs
}

/** What a former connection left half: files no record names, and blobs nobody knows of. */
export async function tidyCopy(shop: Shop, copy: StoredCopy, connection: number): Promise<void> {
  const known = await holding(shop, copy, connection, async (client) => {
    if ((await deleteLooseFiles(client, copy.id)) > 0) await deleteUnheld(client, copy.lockerId)
    return new Set(await manyBlobs(client, copy.lockerId))
  })
  const store = blobsOf(shop.config)
  for (const name of await store.names(copy.shared.holding))
    if (!known.has(name)) await store.remove({ holding: copy.shared.holding, name })
}

const manifest = z.object({ items: z.number().int(), bytes: z.number() })

/** What a kind of a copy holds by its own word: as it was sealed when it was closed, or as it is being written. @throws Error when the seal is not its own */
export async function countStored({ pool }: Shop, { id, keys }: Pick<StoredCopy, 'id' | 'keys'>, kind: string) {
  const row = await maybeCopyKind(pool, id, kind)
  if (!row) return { items: 0, bytes: 0, revision: 'none', isClosed: false }
  const said = row.manifest ? manifest.parse(JSON.parse(openText(keys, manifestBound(id, kind), row.manifest))) : row
  return { items: said.items, bytes: said.bytes, revision: `w${row.writes}`, isClosed: row.manifest !== null }
}

/** Seals what a kind holds as its own count. @throws CopyTaken */
export async function closeStored(shop: Shop, copy: StoredCopy, kind: string, connection: number): Promise<void> {
  await holding(shop, copy, connection, async (client) => {
    const row = await maybeCopyKind(client, copy.id, kind)
    const { bytes, saved } = await sumKind(client, copy.id, kind)
    const text = JSON.stringify({ items: row?.items ?? 0, bytes })
    await closeKind(client, copy.id, kind, { manifest: sealText(copy.keys, manifestBound(copy.id, kind), text), bytes, saved })
  })
}

/** Beside a kind, what could not be read of it: kept as it was given, for a version that reads it. */
export const unreadOf = (kind: string) => `unread:${kind}`

/** Keeps what could not be read of a kind, and nothing else in its place. Safe to do twice. @throws CopyTaken */
export async function storeUnread(
  shop: Shop,
  copy: StoredCopy,
  { kind, connection, pages }: { kind: string; connection: number; pages: () => AsyncIterable<readonly LockerRecord[]> },
): Promise<void> {
  const beside = { kind: unreadOf(kind), connection }
  const before = await manySeqs(shop.pool, copy.id, beside.kind)
  // kept already, it is not written once more
  if (before.length > 0 && (await isKept(shop, copy, beside.kind, pages()))) return
  if (before.length > 0) await removeStored(shop, copy, { ...beside, seqs: before })
  for await (const records of pages()) if (records.length > 0) await storeRecords(shop, copy, { ...beside, records })
  if ((await maybeCopyKind(shop.pool, copy.id, beside.kind)) !== undefined) await closeStored(shop, copy, beside.kind, connection)
}

async function isKept(shop: Shop, copy: StoredCopy, kind: string, pages: AsyncIterable<readonly LockerRecord[]>): Promise<boolean> {
  const held = listStored(shop, copy, kind, null)
  for await (const records of pages)
    for (const { body } of records) {
      const next = await held.next()
      if (next.done || next.value.body !== body) return false
    }
  return (await held.next()).done === true
}

const atOnce = 500
const inCopy = lockerRecord.omit({ handles: true })

/**
 * Every record of a kind, in order. One whose seal does not open is unreadable, and so is each that the copy held when it
 * was closed and does not hold any more.
 * @param as whether a record is called by its place in the copy, as whoever writes it knows it, or as its phone called it
 */
export async function* listStored(
  { pool }: Shop,
  { id, keys }: Pick<StoredCopy, 'id' | 'keys'>,
  kind: string,
  closedItems: number | null,
  { as = 'place' }: { as?: 'place' | 'phone' } = {},
): AsyncGenerator<LinkRecord, number> {
  const damaged = (name: string): LinkRecord => ({ id: name, revision: '1', storage: '', body: '', unreadable: 'storage-error' })
  let count = 0
  for (let after = -1; ;) {
    const rows = await manyRecordBodies(pool, { copyId: id, kind, after, limit: atOnce })
    for (const row of rows) {
      count++
      yield openRecord(keys, id, row, as) ?? damaged(String(row.seq))
    }
    if (rows.length < atOnce) break
    after = rows.at(-1)!.seq
  }
  for (; closedItems !== null && count < closedItems; count++) yield damaged(`missing-${count}`)
  return count
}

/** Records by their places; one whose seal does not open is not among them. */
export async function openStored(
  { pool }: Shop,
  { id, keys }: Pick<StoredCopy, 'id' | 'keys'>,
  kind: string,
  seqs: readonly number[],
): Promise<Map<number, LinkRecord>> {
  const rows = await manyRecordsAt(pool, { copyId: id, kind, seqs })
  return new Map(
    rows.flatMap((row) => {
      const record = openRecord(keys, id, row)
      return record ? [[row.seq, record] as const] : []
    }),
  )
}

function openRecord(
  keys: TicketKeys,
  id: CopyId,
  row: { seq: number; body_id: number; sealed: Buffer | null; wrapped: Buffer },
  as: 'place' | 'phone' = 'place',
): LinkRecord | undefined {
  try {
    const secret = unwrap(keys, id, row.body_id, row.wrapped)
    const { id: own, storage, body, files } = inCopy.parse(JSON.parse(open(secret, bodyBound, row.sealed!).toString()))
    return { id: as === 'phone' ? own : String(row.seq), revision: '1', storage, body, ...(files ? { files } : {}) }
  } catch {
    return undefined
  }
}

/** The bytes of a file, by the handle its phone gave it; undefined when the copy has none. @throws Error when a chunk of it is missing or was altered */
export async function openStoredFile(
  { pool, config }: Shop,
  { id, keys, shared }: Pick<StoredCopy, 'id' | 'keys'> & { readonly shared: Pick<StoredCopy['shared'], 'holding'> },
  kind: string,
  handle: string,
): Promise<AsyncIterable<Uint8Array> | undefined> {
  const row = await maybeFileBody(pool, { copyId: id, kind, handle: nativeDigest(keys, handle) })
  if (!row?.blob) return undefined
  const fileKeys = keysFrom(unwrap(keys, id, row.body_id, row.wrapped))
  return readBlob(fileKeys, blobsOf(config), { holding: shared.holding, name: row.blob })
}
