import { statfs } from 'node:fs/promises'
import type { ErrorCode } from '#contracts/errors.ts'
import { routes } from '#contracts/http/routes.ts'
import type { Other, SortedFiles } from '#core/kinds/brought.ts'
import { calendarText } from '#core/formats/icalendar/decode.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { Problem } from '../base/problem.ts'
import { inThread, ThreadEnded } from '../base/threads.ts'
import type { Config } from '../base/config.ts'
import { blobsOf, readBlob, writeBlob } from '../vault/blobs.ts'
import type { BlobStore } from '../vault/blob-store.ts'
import { destroyKey, holdingKeys, keepSecret, newHolding, secretOf, type KeyPlaces } from '../vault/holdings.ts'
import type { TicketKeys } from '../vault/keys.ts'
import type { HoldingId } from '../base/ids.ts'
import { bytesLying, type Lying } from './brought/entries.ts'
import { pieceBytes, pieceName, piecesOf } from './brought/pieces.ts'

export interface HeldKind {
  readonly items: number
  readonly sizeBytes: number
  readonly revision: string
}

export interface Upload {
  readonly id: HoldingId
  readonly sizeBytes: number
  readonly kinds: Readonly<Partial<Record<string, HeldKind>>>
  readonly unreadable: number
  /** What is nothing Corvend takes, by name, size and why. */
  readonly others: readonly Other[]
  readonly place: SortedFiles['from']
}

/** How long sorting may take: so long at least, and so many bytes a second. */
const sortMs = 180_000
const sortBytesPerMs = 2_000
/** So much of the disk stays free, whatever is brought. */
const roomBytes = 1_000_000_000

/** Where sealed files and their keys are. */
export type UploadPlaces = KeyPlaces & Pick<Config, 'dataFolder'>

/** A file as it is sorted; its pieces are there. */
export interface FileToSort {
  readonly no: number
  readonly path: string
  readonly sizeBytes: number
  readonly modifiedMs: number
}
/** What the thread that sorts is told. */
export interface SortTask {
  readonly dataFolder: string
  readonly id: HoldingId
  readonly secret: Uint8Array
  readonly files: readonly FileToSort[]
  readonly password: string | undefined
}
export type Sorted =
  | (Pick<Upload, 'kinds' | 'unreadable' | 'others' | 'place'> & {
      /** Files whose pieces are still read from. */
      readonly keptNos: readonly number[]
    })
  | { readonly problem: ErrorCode }

/** Where the files lie that items are made of, by their paths. */
export const placesName = 'places'

/** @param wanted bytes that are still to come @throws Problem `UploadsFull` */
export async function mustHaveRoom({ dataFolder }: UploadPlaces, wanted: number): Promise<void> {
  const { bavail, bsize } = await statfs(dataFolder)
  if (bavail * bsize - wanted < roomBytes) throw new Problem('UploadsFull')
}

/** Seals one piece of a file. @throws Problem `FileTooLarge` when more comes than a piece has left */
export async function writePiece(
  keys: TicketKeys,
  store: BlobStore,
  { holding, no, from, mostBytes }: { holding: HoldingId; no: number; from: number; mostBytes: number },
  body: AsyncIterable<Uint8Array>,
): Promise<number> {
  const writer = writeBlob(keys, store, pieceName(holding, no, from / pieceBytes), { hasDigest: false })
  let size = 0
  try {
    for await (const chunk of body) {
      if ((size += chunk.length) > mostBytes) throw new Problem('FileTooLarge')
      await writer.write(chunk)
    }
    await writer.end()
    return size
  } catch (error) {
    await writer.drop()
    throw error
  }
}

/**
 * Has a thread sort what was brought; what nobody reads again goes.
 * @throws Problem `ZipLocked`, `ZipWrongPassword`, `ZipRefused`, `FileTooLarge`, `FileUnreadable`
 */
export async function sortBrought(
  places: UploadPlaces,
  id: HoldingId,
  { files, password }: { files: readonly FileToSort[]; password?: string | undefined },
): Promise<Extract<Sorted, { kinds: unknown }>> {
  const sizeBytes = files.reduce((sum, file) => sum + file.sizeBytes, 0)
  const task: SortTask = { dataFolder: places.dataFolder, id, secret: secretOf(places, id), files, password }
  const sorted = await inThread<Sorted>(
    'server/endpoints/sort-upload.ts',
    'sortUpload',
    task,
    Math.min(2_000_000_000, Math.ceil(sortMs + sizeBytes / sortBytesPerMs)),
  ).catch((error: unknown): Sorted => {
    if (error instanceof ThreadEnded) return { problem: 'FileUnreadable' }
    throw error
  })
  if ('problem' in sorted) throw new Problem(sorted.problem)
  const store = blobsOf(places)
  const kept = new Set(sorted.keptNos)
  for (const name of await store.names(id)) {
    const no = /^f(\d+)-\d+$/.exec(name)?.[1]
    if (no !== undefined && !kept.has(Number(no))) await store.remove({ holding: id, name })
  }
  return sorted
}

/**
 * Takes one file whole: cards, a calendar, messages, a picture, or a ZIP of such. What it was called is not known. It is a
 * holding of its own.
 * @throws Problem `FileTooLarge`, `FileUnreadable`, `ZipRefused`, `ZipLocked`, `UploadsFull`
 */
export async function takeUpload(places: UploadPlaces, body: AsyncIterable<Uint8Array>): Promise<Upload> {
  const { id, keys } = newHolding(places)
  const secret = secretOf(places, id)
  const store = blobsOf(places)
  let sizeBytes = 0
  const rest = body[Symbol.asyncIterator]()
  let held: Uint8Array | undefined
  /** So many of what comes, and no more. */
  async function* piece(): AsyncGenerator<Uint8Array> {
    for (let left = pieceBytes; left > 0;) {
      const next = held ?? (await rest.next()).value
      held = undefined
      if (!next) return
      const some = next.subarray(0, left)
      if (some.length < next.length) held = next.subarray(left)
      left -= some.length
      sizeBytes += some.length
      if (sizeBytes > routes.takeUpload.mostBytes) throw new Problem('FileTooLarge')
      yield some
    }
  }
  try {
    for (let no = 0; ; no++) {
      await mustHaveRoom(places, pieceBytes)
      const got = await writePiece(keys, store, { holding: id, no: 0, from: no * pieceBytes, mostBytes: pieceBytes }, piece())
      if (got < pieceBytes) break
    }
    // what came slower than strays are kept may have lost its key on the way, since no row names it yet
    keepSecret(places, id, secret)
    const { kinds, unreadable, others, place } = await sortBrought(places, id, {
      files: [{ no: 0, path: 'file', sizeBytes, modifiedMs: Date.now() }],
    })
    if (Object.keys(kinds).length === 0)
      throw new Problem(others.some(({ why }) => why === 'too-large') ? 'FileTooLarge' : 'FileUnreadable')
    return { id, sizeBytes, kinds, unreadable, others, place }
  } catch (error) {
    destroyKey(places, id)
    await store.drop(id)
    throw error
  }
}

export interface KindWriter {
  /** A promise when it should be waited for. */
  write(record: Uint8Array): Promise<void> | undefined
  end(): Promise<HeldKind>
  drop(): Promise<void>
}

/** A kind of what was brought as it grows, record by record, in the form of its standard file. */
export function writeKind(keys: TicketKeys, store: BlobStore, { holding, kind }: { holding: HoldingId; kind: string }): KindWriter {
  const blob = writeBlob(keys, store, { holding, name: kind })
  let items = 0
  return {
    write(record) {
      items++
      return blob.write(record)
    },
    async end() {
      const { sizeBytes, digest } = await blob.end()
      return { items, sizeBytes, revision: digest.slice(0, 32) }
    },
    drop: () => blob.drop(),
  }
}

/** The bytes of a kind again. @throws Problem `KeyAway` when its key is gone; Error when the blob is, or was altered */
export function openUpload(places: UploadPlaces, id: HoldingId, kind: string): AsyncIterable<Buffer> {
  return readBlob(holdingKeys(places, id), blobsOf(places), { holding: id, name: kind })
}

/** How the files of an upload are found by their paths; read once. */
export type OpenFiles = (path: string) => Promise<AsyncIterable<Buffer> | undefined>
export function openFilesOf(
  places: UploadPlaces,
  id: HoldingId,
  { sizeOf, password }: { sizeOf: (no: number) => number; password: string | undefined },
): OpenFiles {
  const keys = holdingKeys(places, id)
  const store = blobsOf(places)
  let known: Promise<Map<string, Lying>> | undefined
  const read = async () => {
    const found = new Map<string, Lying>()
    let rest = ''
    for await (const chunk of readBlob(keys, store, { holding: id, name: placesName })) {
      const lines = (rest + chunk.toString('latin1')).split('\n')
      rest = lines.pop()!
      for (const line of lines) {
        const { path, ...lying } = JSON.parse(Buffer.from(line, 'latin1').toString()) as { path: string } & Lying
        found.set(path, lying)
      }
    }
    return found
  }
  return async (path) => {
    const lying = (await (known ??= read())).get(path)
    return lying && bytesLying(piecesOf(keys, store, { holding: id, no: lying.no, sizeBytes: sizeOf(lying.no) }), lying, password)
  }
}

/** A whole calendar as text. */
export async function textOf(bytes: AsyncIterable<Buffer>): Promise<string> {
  const chunks: Buffer[] = []
  for await (const chunk of bytes) chunks.push(chunk)
  return calendarText(Buffer.concat(chunks))
}

/** Whether a kind can be brought as files. */
export const isBrought = (kind: string) => kindOf(kind).archive?.brought !== undefined
