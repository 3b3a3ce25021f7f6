import { createCipheriv, createDecipheriv, createHash, hash, randomBytes, randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { finished } from 'node:stream/promises'
import { createFileSorter, fileKinds, type FileKind } from '#core/formats/files/sort.ts'
import { splitCalendar } from '#core/formats/icalendar/split.ts'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { Problem } from '../base/problem.ts'
import { open, seal } from '../vault/keys.ts'

const mostBytes = 500_000_000
/** A calendar is cut by what shares a UID, so it is looked at whole. */
const mostCalendarBytes = 64_000_000

export interface HeldKind {
  readonly items: number
  readonly sizeBytes: number
  readonly revision: string
}

export interface Upload {
  readonly id: string
  readonly keyWrapped: Buffer
  readonly sizeBytes: number
  readonly kinds: Partial<Record<FileKind, HeldKind>>
  /** Files of a ZIP, and components of a calendar, that are nothing Corvend takes. */
  readonly others: number
}

/**
 * Streams a dropped file (vCards, a calendar, or a ZIP of such) to sealed temporary files, one for each kind; what it
 * and the files in it were called is not kept.
 * @throws Problem `FileTooLarge`, `FileUnreadable`, `ZipRefused`
 */
export async function takeUpload(dataFolder: string, masterKey: Buffer, body: AsyncIterable<Uint8Array>): Promise<Upload> {
  const id = randomUUID()
  const secret = { key: randomBytes(32), nonce: randomBytes(16) }
  await mkdir(folderOf(dataFolder), { recursive: true, mode: 0o700 })
  const parts = new Map<FileKind, ReturnType<typeof createPart>>()
  let full: Promise<unknown> | undefined
  const sorter = createFileSorter((kind, bytes) => {
    let part = parts.get(kind)
    if (!part) parts.set(kind, (part = createPart(pathOf(dataFolder, id, kind), { ...secret, kind })))
    const drained = part.write(bytes)
    if (drained) full = full ? Promise.all([full, drained]) : drained
  })
  let sizeBytes = 0
  try {
    for await (const chunk of body) {
      sizeBytes += chunk.length
      if (sizeBytes > mostBytes) throw new Problem('FileTooLarge')
      const issue = sorter.push(chunk)
      if (issue) throw new Problem(issue === 'zip-too-large' || issue === 'zip-too-many-entries' ? 'FileTooLarge' : 'ZipRefused')
      await full
      full = undefined
    }
    const { others, issue } = sorter.end()
    if (issue) throw new Problem('ZipRefused')
    const kinds: Partial<Record<FileKind, HeldKind>> = {}
    let left = 0
    for (const [kind, part] of parts) kinds[kind] = await part.end()
    const keyWrapped = seal(masterKey, `upload ${id}`, Buffer.concat([secret.key, secret.nonce]))
    if (kinds.calendar) {
      if (kinds.calendar.sizeBytes > mostCalendarBytes) throw new Problem('FileTooLarge')
      const calendar = splitCalendar(await textOf(openUpload(dataFolder, masterKey, { id, keyWrapped }, 'calendar')))
      kinds.calendar = { ...kinds.calendar, items: calendar.items.length }
      left = calendar.others
    }
    if (Object.values(kinds).every((kind) => kind.items === 0)) throw new Problem('FileUnreadable')
    return { id, keyWrapped, sizeBytes, kinds, others: others + left }
  } catch (error) {
    await Promise.allSettled([...parts.values()].map((part) => part.drop()))
    await dropUpload(dataFolder, id)
    throw error
  }
}

/** A sealed file that grows; cards are counted on the way. */
function createPart(path: string, { key, nonce, kind }: { key: Buffer; nonce: Buffer; kind: FileKind }) {
  // counter mode: the file is read from its start only, and its digest is kept beside it
  const cipher = createCipheriv('aes-256-ctr', key, nonceOf(nonce, kind))
  const file = createWriteStream(path, { mode: 0o600 })
  cipher.pipe(file)
  const digest = createHash('sha256')
  const splitter = kind === 'contacts' ? createCardSplitter() : undefined
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

/** Two files under one key must never share a key stream; that of contacts is the one it always was. */
function nonceOf(nonce: Buffer, kind: FileKind): Buffer {
  return kind === 'contacts' ? nonce : hash('sha256', Buffer.concat([nonce, Buffer.from(kind)]), 'buffer').subarray(0, 16)
}

/** The bytes of a kind again. @throws Error when the file is gone */
export function openUpload(dataFolder: string, masterKey: Buffer, upload: { id: string; keyWrapped: Buffer }, kind: FileKind): Readable {
  const secret = open(masterKey, `upload ${upload.id}`, upload.keyWrapped)
  const decipher = createDecipheriv('aes-256-ctr', secret.subarray(0, 32), nonceOf(secret.subarray(32), kind))
  const source = createReadStream(pathOf(dataFolder, upload.id, kind))
  source.on('error', (error) => decipher.destroy(error))
  return source.pipe(decipher)
}

/** A whole calendar as text: UTF-8, or what old programs wrote. */
export async function textOf(bytes: Readable): Promise<string> {
  const chunks: Buffer[] = []
  for await (const chunk of bytes) chunks.push(chunk as Buffer)
  const whole = Buffer.concat(chunks)
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(whole)
  } catch {
    return new TextDecoder('windows-1252').decode(whole)
  }
}

export async function dropUpload(dataFolder: string, id: string): Promise<void> {
  for (const kind of fileKinds) await rm(pathOf(dataFolder, id, kind), { force: true })
}

function folderOf(dataFolder: string): string {
  return join(dataFolder, 'uploads')
}

function pathOf(dataFolder: string, id: string, kind: FileKind): string {
  return join(folderOf(dataFolder), `${id}${kind === 'contacts' ? '' : `.${kind}`}.sealed`)
}
