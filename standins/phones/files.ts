import { randomUUID } from 'node:crypto'
import type pg from 'pg'
import { madeFrom, makeFile, piecesOf, sizeOf, type Recipe } from '../files/files.ts'
import {
  deleteFile,
  insertOwnFileRows,
  insertFile,
  insertPiece,
  maybeFile,
  maybePiece,
  setFileSize,
  type FileKey,
} from './files.queries.ts'

/** What belongs to records and is streamed by a handle of its own: attachments, pictures, clips, packages. */
export interface OwnFile {
  readonly handle: string
  readonly bytes?: Buffer
  readonly recipe?: Recipe
  readonly sizeBytes?: number
}

const pieceBytes = 262_144
/** Where a large file was changed behind so many bytes, it is none this phone would keep. */
const mostChangedBytes = 64_000_000

export class NoRoom extends Error {}

/** Takes a file as it comes, never whole in memory. One that says of itself that it was made from a number is compared with that and kept as such. @throws NoRoom when it is more than is free */
export async function takeFile(
  pool: pg.Pool,
  { serial, kind, free }: { serial: string; kind: string; free: number },
  bytes: AsyncIterable<Buffer>,
): Promise<{ handle: string; sizeBytes: number }> {
  const key: FileKey = { serial, kind, handle: `new-${randomUUID()}` }
  let sizeBytes = 0
  let pending: Buffer[] = []
  let pendingBytes = 0
  let n = 0
  let known: { made: ReturnType<typeof madeFrom> & object; pieces: Generator<Buffer>; rest: Buffer } | undefined
  const insert = (bytes: Buffer | null, made: object | null) => insertFile(pool, key, { sizeBytes, bytes, made })
  const flush = async () => {
    const whole = Buffer.concat(pending)
    pending = []
    pendingBytes = 0
    if (n === 0) await insert(null, null)
    await insertPiece(pool, key, n++, whole)
  }
  const keep = async (piece: Buffer) => {
    pending.push(piece)
    pendingBytes += piece.length
    if (pendingBytes >= pieceBytes) await flush()
  }
  try {
    for await (const chunk of bytes) {
      if (sizeBytes === 0) {
        const made = madeFrom(chunk)
        if (made) known = { made, pieces: piecesOf(made), rest: Buffer.alloc(0) }
      }
      sizeBytes += chunk.length
      if (sizeBytes > free) throw new NoRoom()
      if (known) {
        if (isNext(known, chunk)) continue
        // somebody changed it on its way: it is kept as it comes, what went before made anew
        if (sizeBytes > mostChangedBytes) throw new Error('not the bytes it says it is')
        for (const piece of beginningOf(known.made, sizeBytes - chunk.length)) await keep(piece)
        known = undefined
      }
      await keep(chunk)
    }
    if (known && sizeBytes < sizeOf(known.made)) throw new Error('not all of the bytes it says it is')
    // what fits into one row is one statement
    if (n === 0) await insert(known ? null : Buffer.concat(pending), known?.made ?? null)
    else {
      if (pendingBytes > 0) await flush()
      await setFileSize(pool, key, sizeBytes)
    }
  } catch (error) {
    if (n > 0) await deleteFile(pool, key)
    throw error
  }
  return { handle: key.handle, sizeBytes }
}

function* beginningOf(made: Parameters<typeof piecesOf>[0], sizeBytes: number): Generator<Buffer> {
  let left = sizeBytes
  for (const piece of piecesOf(made)) {
    if (left <= 0) return
    yield piece.subarray(0, left)
    left -= piece.length
  }
}

function isNext(known: { pieces: Generator<Buffer>; rest: Buffer }, chunk: Buffer): boolean {
  for (let at = 0; at < chunk.length;) {
    if (known.rest.length === 0) known.rest = (known.pieces.next().value as Buffer | undefined) ?? Buffer.alloc(0)
    const n = Math.min(known.rest.length, chunk.length - at)
    if (n === 0 || known.rest.compare(chunk, at, at + n, 0, n) !== 0) return false
    known.rest = known.rest.subarray(n)
    at += n
  }
  return true
}

/** The bytes of a file, in pieces, and how many; undefined when the phone does not have it. */
export async function giveFile(pool: pg.Pool, key: FileKey): Promise<{ sizeBytes: number; pieces: AsyncIterable<Buffer> } | undefined> {
  const row = await maybeFile(pool, key)
  if (!row) return undefined
  if (row.made && ('generated' in row.made || 'media' in row.made))
    return { sizeBytes: sizeOf(row.made), pieces: later(cutAll(piecesOf(row.made))) }
  if (row.bytes || row.made) {
    const whole = row.bytes ?? makeFile(row.made!)
    return { sizeBytes: whole.length, pieces: later(cut(whole)) }
  }
  return { sizeBytes: row.size_bytes, pieces: stored(pool, key) }
}

async function* later(pieces: Iterable<Buffer>): AsyncGenerator<Buffer> {
  yield* pieces
}

function* cut(whole: Buffer): Generator<Buffer> {
  for (let at = 0; at < whole.length; at += 65_536) yield whole.subarray(at, at + 65_536)
}

function* cutAll(pieces: Iterable<Buffer>): Generator<Buffer> {
  for (const piece of pieces) yield* cut(piece)
}

async function* stored(pool: pg.Pool, key: FileKey): AsyncGenerator<Buffer> {
  for (let n = 0; ; n++) {
    const piece = await maybePiece(pool, key, n)
    if (!piece) return
    yield* cut(piece)
  }
}

/** The beginning of a file: what an index looks at. */
export async function headOfFile(pool: pg.Pool, key: FileKey): Promise<Buffer> {
  const file = await giveFile(pool, key)
  const out: Buffer[] = []
  let got = 0
  if (file) {
    for await (const piece of file.pieces) {
      out.push(piece)
      got += piece.length
      if (got >= pieceBytes) break
    }
  }
  return Buffer.concat(out)
}

/** Puts files into a phone as its own. */
export async function insertOwnFiles(
  pool: pg.Pool,
  serial: string,
  kind: string,
  files: readonly (OwnFile & { readonly recordId: number })[],
): Promise<void> {
  await insertOwnFileRows(
    pool,
    serial,
    kind,
    files.map(({ recordId, handle, bytes, recipe, sizeBytes }) => ({
      id: recordId,
      handle,
      bytes: bytes?.toString('base64') ?? null,
      made: recipe ?? null,
      size: bytes?.length ?? sizeBytes ?? 0,
    })),
  )
}
