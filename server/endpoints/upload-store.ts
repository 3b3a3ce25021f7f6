import { createCipheriv, createDecipheriv, createHash, hash, randomBytes, randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, readdir, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { finished } from 'node:stream/promises'
import type { ErrorCode } from '#contracts/errors.ts'
import { routes } from '#contracts/http/routes.ts'
import { fileKinds, isOfCards, type FileKind } from '#core/formats/files/sort.ts'
import { calendarText } from '#core/formats/icalendar/decode.ts'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { Problem } from '../base/problem.ts'
import { inThread, ThreadEnded } from '../base/threads.ts'
import type { Config } from '../base/config.ts'
import { destroyKey, keepSecret, secretOf, type KeyPlaces } from '../vault/holdings.ts'
import type { HoldingId } from '../base/ids.ts'

/** A calendar is cut by what shares a UID, so it is looked at whole. */
const mostCalendarBytes = 64_000_000

export interface HeldKind {
  readonly items: number
  readonly sizeBytes: number
  readonly revision: string
}

export interface Upload {
  readonly id: HoldingId
  readonly sizeBytes: number
  readonly kinds: Partial<Record<FileKind, HeldKind>>
  /** Files of a ZIP, and components of a calendar, that are nothing Corvend takes. */
  readonly others: number
}

/** How long taking a file apart may take. Milliseconds. */
const sortMs = 180_000
/** All files that wait to be booked, together. */
const mostWaitingBytes = 2_000_000_000

/** Where sealed files and their keys are. */
export type UploadPlaces = KeyPlaces & Pick<Config, 'dataFolder'>

/** The key and the nonce of an upload. */
export interface UploadSecret {
  readonly key: Uint8Array
  readonly nonce: Uint8Array
}

/** What the thread that takes a file apart is told. */
export interface SortTask {
  readonly dataFolder: string
  readonly id: string
  readonly secret: UploadSecret
  readonly mostCalendarBytes: number
}
export type Sorted = { readonly kinds: Upload['kinds']; readonly others: number } | { readonly problem: ErrorCode }

/**
 * Streams a dropped file (vCards, a calendar, or a ZIP of such) to a sealed temporary file, and has a thread take it
 * apart into one for each kind; what it and the files in it were called is not kept.
 * @param bookedBytes what of the folder belongs to tickets
 * @throws Problem `FileTooLarge`, `FileUnreadable`, `ZipRefused`, `UploadsFull`
 */
export async function takeUpload(
  places: UploadPlaces,
  body: AsyncIterable<Uint8Array>,
  { bookedBytes = 0 }: { bookedBytes?: number } = {},
): Promise<Upload> {
  // a dropped file is a holding of its own
  const id = randomUUID() as string as HoldingId
  const secret = { key: randomBytes(32), nonce: randomBytes(16) }
  const { dataFolder } = places
  const keep = () => keepSecret(places, id, Buffer.concat([secret.key, secret.nonce]))
  keep()
  await mkdir(folderOf(dataFolder), { recursive: true, mode: 0o700 })
  const waiting = (await bytesOf(folderOf(dataFolder))) - bookedBytes
  const raw = createPart(pathOf(dataFolder, id, 'raw'), { ...secret, kind: 'raw' })
  let sizeBytes = 0
  try {
    for await (const chunk of body) {
      sizeBytes += chunk.length
      if (sizeBytes > routes.takeUpload.mostBytes) throw new Problem('FileTooLarge')
      if (waiting + sizeBytes > mostWaitingBytes) throw new Problem('UploadsFull')
      await raw.write(chunk)
    }
    await raw.end()
    const sorted = await inThread<Sorted>(
      'server/endpoints/sort-upload.ts',
      'sortUpload',
      { dataFolder, id, secret, mostCalendarBytes } satisfies SortTask,
      sortMs,
    ).catch((error: unknown): Sorted => {
      if (error instanceof ThreadEnded) return { problem: 'FileUnreadable' }
      throw error
    })
    if ('problem' in sorted) throw new Problem(sorted.problem)
    await rm(pathOf(dataFolder, id, 'raw'), { force: true })
    // what came slower than strays are kept may have lost its key on the way, since no row names it yet
    keep()
    return { id, sizeBytes, ...sorted }
  } catch (error) {
    await raw.drop().catch(() => undefined)
    destroyKey(places, id)
    await dropUpload(dataFolder, id)
    throw error
  }
}

/** What lies in a folder now. Bytes. */
async function bytesOf(folder: string): Promise<number> {
  let sum = 0
  for (const name of await readdir(folder)) sum += (await stat(join(folder, name)).catch(() => null))?.size ?? 0
  return sum
}

/** Sealed files nobody's row names any more, or that nobody booked in time. Answers how many uploads went. @param olderThanMs since they were last written */
export async function dropStrayUploads(dataFolder: string, isKept: (id: string) => Promise<boolean>, olderThanMs: number): Promise<number> {
  const names = await readdir(folderOf(dataFolder)).catch(() => [])
  const ids = new Set(names.map((name) => name.slice(0, 36)))
  let gone = 0
  for (const id of ids) {
    const files = names.filter((name) => name.startsWith(id))
    const ages = await Promise.all(
      files.map((name) =>
        stat(join(folderOf(dataFolder), name)).then(
          ({ mtimeMs }) => Date.now() - mtimeMs,
          () => 0,
        ),
      ),
    )
    if (Math.min(...ages) < olderThanMs || (await isKept(id))) continue
    await dropUpload(dataFolder, id)
    gone++
  }
  return gone
}

/** A sealed file that grows; cards are counted on the way. */
export function createPart(path: string, { key, nonce, kind }: { key: Buffer; nonce: Buffer; kind: FileKind | 'raw' }) {
  // counter mode: the file is read from its start only, and its digest is kept beside it
  const cipher = createCipheriv('aes-256-ctr', key, nonceOf(nonce, kind))
  const file = createWriteStream(path, { mode: 0o600 })
  cipher.pipe(file)
  const digest = createHash('sha256')
  const splitter = isOfCards(kind) ? createCardSplitter() : undefined
  let sizeBytes = 0
  let items = 0
  return {
    /** A promise when it should be waited for. */
    write(bytes: Uint8Array): Promise<unknown> | undefined {
      sizeBytes += bytes.length
      digest.update(bytes)
      for (const _ of splitter?.push(bytes) ?? []) items++
      return cipher.write(bytes) ? undefined : once(cipher, 'drain')
    },
    async end(): Promise<HeldKind> {
      for (const _ of splitter?.end() ?? []) items++
      cipher.end()
      await finished(file)
      return { items, sizeBytes, revision: digest.digest('hex').slice(0, 32) }
    },
    async drop(): Promise<void> {
      cipher.destroy()
      file.destroy()
      await finished(file).catch(() => undefined)
    },
  }
}

/** Two files under one key must never share a key stream; that of cards is the one it always was. */
function nonceOf(nonce: Buffer, kind: FileKind | 'raw'): Buffer {
  return isOfCards(kind) ? nonce : hash('sha256', Buffer.concat([nonce, Buffer.from(kind)]), 'buffer').subarray(0, 16)
}

/** The bytes of a kind again. @throws Problem `KeyAway` when its key is gone; Error when the file is */
export function openUpload(places: UploadPlaces, id: HoldingId, kind: FileKind | 'raw'): Readable {
  const secret = secretOf(places, id)
  return openPart(places.dataFolder, { id, kind, secret: { key: secret.subarray(0, 32), nonce: secret.subarray(32) } })
}

/** The same, by a secret that is at hand. */
export function openPart(
  dataFolder: string,
  { id, kind, secret: { key, nonce } }: { id: string; kind: FileKind | 'raw'; secret: UploadSecret },
): Readable {
  const decipher = createDecipheriv('aes-256-ctr', key, nonceOf(Buffer.from(nonce), kind))
  const source = createReadStream(pathOf(dataFolder, id, kind))
  source.on('error', (error) => decipher.destroy(error))
  return source.pipe(decipher)
}

/** A whole calendar as text. */
export async function textOf(bytes: Readable): Promise<string> {
  const chunks: Buffer[] = []
  for await (const chunk of bytes) chunks.push(chunk as Buffer)
  return calendarText(Buffer.concat(chunks))
}

export async function dropUpload(dataFolder: string, id: string): Promise<void> {
  for (const kind of [...fileKinds, 'raw'] as const) await rm(pathOf(dataFolder, id, kind), { force: true })
}

function folderOf(dataFolder: string): string {
  return join(dataFolder, 'uploads')
}

export function pathOf(dataFolder: string, id: string, kind: FileKind | 'raw'): string {
  return join(folderOf(dataFolder), `${id}${isOfCards(kind) ? '' : `.${kind}`}.sealed`)
}
