import type { Other } from '#core/kinds/brought.ts'
import { transaction } from '../../base/db/sql.ts'
import type { HoldingId } from '../../base/ids.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { blobsOf } from '../../vault/blobs.ts'
import { findKeys, holdingKeys, newHolding } from '../../vault/holdings.ts'
import { openText, sealText, type TicketKeys } from '../../vault/keys.ts'
import {
  addGot,
  deleteFiles,
  findFile,
  findUpload,
  isBooked,
  insertFiles,
  insertTaking,
  insertUpload,
  lockUpload,
  manyFiles,
  setSorted,
  setState,
  type UploadRow,
} from '../uploads.queries.ts'
import { isBrought, mustHaveRoom, sortBrought, takeUpload, writePiece } from '../upload-store.ts'
import { pieceBytes } from './pieces.ts'

type Shop = Pick<Services, 'pool' | 'config'>

/** A file as its browser knows it. */
export interface FileWish {
  /** Its folders and its name. */
  readonly path: string
  readonly sizeBytes: number
  readonly modifiedMs: number
  /** Digest of its beginning, in hex. */
  readonly beginning: string
}

/** How an upload stands. */
export interface UploadStands {
  readonly upload: HoldingId
  readonly state: UploadRow['state']
  readonly problem: string | null
  readonly sizeBytes: number
  readonly gotBytes: number
  readonly files: readonly { readonly no: number; readonly sizeBytes: number; readonly gotBytes: number }[]
  readonly items: Readonly<Record<string, number>>
  readonly unreadable: number
  readonly others: readonly Other[]
  /** A ticket has them: what they are called is shown there, when showing is allowed. */
  readonly isBooked: boolean
}

const boundTo = (what: string, id: HoldingId) => `${what} of upload ${id} v1`
const markOf = (keys: TicketKeys, { sizeBytes, modifiedMs, beginning }: FileWish) =>
  keys.native(Buffer.from(`file ${sizeBytes} ${modifiedMs} ${beginning}`))

/** @throws Problem `UploadNotFound`, `KeyAway` */
async function openRow({ pool, config }: Shop, id: string): Promise<{ row: UploadRow; keys: TicketKeys }> {
  const row = await findUpload(pool, id)
  if (!row) throw new Problem('UploadNotFound')
  const keys = findKeys(config, row.id)
  if (!keys) throw new Problem('KeyAway')
  return { row, keys }
}

/**
 * Begins to take files in, or goes on: those of an upload that are named again are known by their size, their time and
 * their beginning, and go on where they were; others are added, and those that are not named any more are given up.
 * @throws Problem `UploadNotFound` also of one that is sorted, `UploadsFull`, `KeyAway`
 */
export async function beginUpload(
  shop: Shop,
  { upload, files }: { upload: string | null; files: readonly FileWish[] },
): Promise<{ upload: HoldingId; files: { no: number; gotBytes: number }[] }> {
  const { pool, config } = shop
  await mustHaveRoom(
    config,
    files.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
  )
  const made = upload === null ? newHolding(config) : null
  const { begun, given } = await transaction(pool, async (client) => {
    if (made) await insertTaking(client, made.id, 0)
    const row = await lockUpload(client, made?.id ?? upload!)
    // what is sorted may be a ticket's by now: nothing is added to it, and nothing of it given up
    if (!row || row.state === 'sorted' || row.state === 'sorting') throw new Problem('UploadNotFound')
    const keys = made?.keys ?? findKeys(config, row.id)
    if (!keys) throw new Problem('KeyAway')
    const there = await manyFiles(client, row.id)
    const free = new Map<string, (typeof there)[number][]>()
    for (const file of there) free.set(file.mark.toString('hex'), [...(free.get(file.mark.toString('hex')) ?? []), file])
    let next = Math.max(-1, ...there.map(({ no }) => no)) + 1
    const fresh: Parameters<typeof insertFiles>[2][number][] = []
    const answer = files.map((file) => {
      const mark = markOf(keys, file)
      const known = free.get(mark.toString('hex'))?.shift()
      if (known) return { no: known.no, gotBytes: known.got_bytes }
      const no = next++
      fresh.push({
        no,
        path: sealText(keys, boundTo(`path ${no}`, row.id), file.path),
        sizeBytes: file.sizeBytes,
        modifiedAt: new Date(file.modifiedMs),
        mark,
      })
      return { no, gotBytes: 0 }
    })
    // what was chosen before and is not now is given up
    const given = [...free.values()].flat().map(({ no }) => no)
    await deleteFiles(client, row.id, given)
    await insertFiles(client, row.id, fresh)
    return { begun: { upload: row.id, files: answer }, given }
  })
  const store = blobsOf(config)
  for (const name of given.length > 0 ? await store.names(begun.upload) : [])
    if (given.some((no) => name.startsWith(`f${no}-`))) await store.remove({ holding: begun.upload, name })
  return begun
}

/**
 * Takes the next piece of a file; one that came already is not taken once more. Answers how much of it is there.
 * @throws Problem `UploadNotFound`, `PieceOutOfPlace`, `FileTooLarge`, `UploadsFull`, `KeyAway`
 */
export async function takePiece(
  shop: Shop,
  id: string,
  { no, from, body }: { no: number; from: number; body: AsyncIterable<Uint8Array> },
): Promise<number> {
  const { row, keys } = await openRow(shop, id)
  const file = await findFile(shop.pool, row.id, no)
  if (!file) throw new Problem('UploadNotFound')
  if (from !== file.got_bytes || from % pieceBytes !== 0 || row.state !== 'taking') throw new Problem('PieceOutOfPlace')
  await mustHaveRoom(shop.config, pieceBytes)
  const wanted = Math.min(pieceBytes, file.size_bytes - from)
  const got = await writePiece(keys, blobsOf(shop.config), { holding: row.id, no, from, mostBytes: wanted }, body)
  if (got !== wanted) throw new Problem('PieceOutOfPlace')
  await addGot(shop.pool, row.id, no, from + got)
  return from + got
}

const sorting = new Map<string, Promise<UploadStands>>()

/**
 * Sorts what came, once all of it did; who asks while it is sorted is told with whoever asked first.
 * @throws Problem `UploadNotFound`, `UploadNotWhole`, `KeyAway`
 */
export function sortUploaded(shop: Shop, id: string, how: { password: string | null }): Promise<UploadStands> {
  const running = sorting.get(id) ?? sortOnce(shop, id, how).finally(() => sorting.delete(id))
  sorting.set(id, running)
  return running
}

async function sortOnce(shop: Shop, id: string, { password }: { password: string | null }): Promise<UploadStands> {
  const { row, keys } = await openRow(shop, id)
  const files = await manyFiles(shop.pool, row.id)
  if (files.some((file) => file.got_bytes < file.size_bytes)) throw new Problem('UploadNotWhole')
  if (row.state === 'sorted') return uploadStands(shop, id)
  await setState(shop.pool, row.id, 'sorting', password === null ? {} : { secret: sealText(keys, boundTo('password', row.id), password) })
  try {
    const sorted = await sortBrought(shop.config, row.id, {
      files: files.map((file) => ({
        no: file.no,
        path: openText(keys, boundTo(`path ${file.no}`, row.id), file.path),
        sizeBytes: file.size_bytes,
        modifiedMs: file.modified_at.getTime(),
      })),
      password: password ?? undefined,
    })
    const list = sealText(keys, boundTo('list', row.id), JSON.stringify(sorted.others))
    await setSorted(shop.pool, { id: row.id, ...sorted }, list)
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    const isLocked = error.code === 'ZipLocked' || error.code === 'ZipWrongPassword'
    await setState(shop.pool, row.id, isLocked ? 'locked' : 'refused', { problem: error.code })
  }
  return uploadStands(shop, id)
}

/** @throws Problem `UploadNotFound`, `KeyAway` */
export async function uploadStands(shop: Shop, id: string): Promise<UploadStands> {
  const { row, keys } = await openRow(shop, id)
  const files = await manyFiles(shop.pool, row.id)
  return {
    upload: row.id,
    state: row.state,
    problem: row.problem,
    sizeBytes: row.size_bytes,
    gotBytes: files.reduce((sum, file) => sum + file.got_bytes, 0),
    files: files.map((file) => ({ no: file.no, sizeBytes: file.size_bytes, gotBytes: file.got_bytes })),
    items: itemsOf(row.kinds),
    unreadable: row.unreadable,
    others: row.list ? (JSON.parse(openText(keys, boundTo('list', row.id), row.list)) as Other[]) : [],
    isBooked: await isBooked(shop.pool, row.id),
  }
}

const itemsOf = (kinds: UploadRow['kinds']) =>
  Object.fromEntries(Object.entries(kinds).flatMap(([kind, held]) => (held && isBrought(kind) ? [[kind, held.items]] : [])))

/** Takes one file whole and keeps it. @throws Problem as `takeUpload` */
export async function takeWhole({ pool, config }: Shop, body: AsyncIterable<Uint8Array>): Promise<UploadStands> {
  const upload = await takeUpload(config, body)
  const keys = holdingKeys(config, upload.id)
  await transaction(pool, (client) =>
    insertUpload(client, upload, {
      list: sealText(keys, boundTo('list', upload.id), JSON.stringify(upload.others)),
      path: sealText(keys, boundTo('path 0', upload.id), 'file'),
    }),
  )
  return uploadStands({ pool, config }, upload.id)
}

/** What opens the ZIPs of an upload. */
export function passwordOf(keys: TicketKeys, { id, secret }: Pick<UploadRow, 'id' | 'secret'>): string | undefined {
  return secret ? openText(keys, boundTo('password', id), secret) : undefined
}
