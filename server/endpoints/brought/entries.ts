import type { BroughtFile } from '#core/kinds/brought.ts'
import { isPacked } from '#core/formats/sniff.ts'
import { joinBytes } from '#core/text/bytes.ts'
import { openZipEntry, readZipDirectory, ZipError, type RandomBytes, type ZipEntry } from '../archives/zip-reader.ts'

/** A file as it was brought: which of them, and where it lies in its ZIP if it is in one. */
export interface Lying {
  readonly no: number
  readonly entry?: ZipEntry
}
export interface FileIn {
  readonly no: number
  readonly path: string
  readonly modifiedMs: number
  readonly bytes: RandomBytes
}

/** The bytes of a file, wherever it lies. */
export function bytesLying(bytes: RandomBytes, { entry }: Lying, password: string | undefined): AsyncIterable<Buffer> {
  return entry ? openZipEntry(bytes, entry, password) : bytes.read({ from: 0, to: bytes.sizeBytes })
}

/** Folders and a name, and nothing that leads anywhere else. */
export function plainPath(path: string): string {
  return path
    .replaceAll('\\', '/')
    .split('/')
    .filter((part) => part !== '' && part !== '.' && part !== '..')
    .join('/')
}

/** What an archiver of another system puts beside each file. */
const isSystems = (path: string) => /(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$)/i.test(path)

/**
 * Every file that was brought, those in ZIPs each by itself.
 * @throws ZipError of the first ZIP that can't be read; `zip-encrypted`, `zip-wrong-password`
 */
export async function* filesLying(files: readonly FileIn[], password: string | undefined): AsyncGenerator<BroughtFile & Lying> {
  for (const { no, path, modifiedMs, bytes } of files) {
    if (!(await beginsAsZip(bytes))) {
      yield { no, path: plainPath(path), sizeBytes: bytes.sizeBytes, modifiedMs, open: () => bytes.read({ from: 0, to: bytes.sizeBytes }) }
      continue
    }
    const entries = (await readZipDirectory(bytes)).filter((entry) => !entry.isFolder && !isSystems(entry.path))
    const locked = entries.find(({ lock }) => lock)
    if (locked) await tryOut(bytes, locked, password)
    // several ZIPs may hold the same paths
    const folder = files.length > 1 ? `${plainPath(path).replace(/\.zip$/i, '')}/` : ''
    for (const entry of entries) {
      if (entry.sizeBytes > 1_000_000 && entry.sizeBytes > entry.packedBytes * 300 && entry.method === 8) throw new ZipError('zip-bomb')
      yield {
        no,
        entry,
        path: folder + plainPath(entry.path),
        sizeBytes: entry.sizeBytes,
        modifiedMs: entry.modifiedMs,
        open: () => openZipEntry(bytes, entry, password),
      }
    }
  }
}

async function beginsAsZip(bytes: RandomBytes): Promise<boolean> {
  if (bytes.sizeBytes < 4) return false
  const head: Uint8Array[] = []
  for await (const piece of bytes.read({ from: 0, to: Math.min(4096, bytes.sizeBytes) })) head.push(piece)
  return isPacked(joinBytes(head))
}

/** @throws ZipError */
async function tryOut(bytes: RandomBytes, entry: ZipEntry, password: string | undefined): Promise<void> {
  for await (const _ of openZipEntry(bytes, entry, password)) return
}
