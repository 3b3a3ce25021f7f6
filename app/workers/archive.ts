import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'
import { configure, ERR_ENCRYPTED, ERR_INVALID_PASSWORD, ZipReader, type Entry, type FileEntry, type Reader } from '@zip.js/zip.js'
import { archiveManifest, manifestName, markLength, type ArchiveManifest } from '#core/formats/files/manifest.ts'

// it is a worker already, and the browser inflates by itself
configure({ useWebWorkers: false, useCompressionStream: true })

export type ArchiveIssue = 'no-zip' | 'no-list' | 'needs-password' | 'wrong-password' | 'another' | 'unreadable'
export class ArchiveUnread extends Error {
  constructor(readonly issue: ArchiveIssue) {
    super(issue)
  }
}

/** An archive in a browser: its list, and each of its files. */
export interface OpenArchive {
  readonly manifest: ArchiveManifest
  readonly mark: string
  readonly entries: ReadonlyMap<string, FileEntry>
}

const isFile = (entry: Entry): entry is FileEntry => !entry.directory

/** @throws ArchiveUnread */
export async function openArchive(reader: Reader<unknown>, password: string): Promise<OpenArchive> {
  const zip = new ZipReader(reader, password ? { password } : {})
  const all = await zip.getEntries().catch((error: unknown) => {
    throw error instanceof ArchiveUnread ? error : new ArchiveUnread('no-zip')
  })
  const entries = new Map(all.filter(isFile).map((entry) => [entry.filename, entry]))
  const list = entries.get(manifestName)
  if (!list) throw new ArchiveUnread('no-list')
  if (list.encrypted && !password) throw new ArchiveUnread('needs-password')
  const chunks: Uint8Array[] = []
  await readEntry(list, (chunk) => void chunks.push(chunk))
  const bytes = new Uint8Array(await new Blob(chunks as BlobPart[]).arrayBuffer())
  try {
    const manifest = archiveManifest.parse(JSON.parse(new TextDecoder().decode(bytes)))
    return { manifest, mark: bytesToHex(sha256(bytes)).slice(0, markLength), entries }
  } catch {
    throw new ArchiveUnread('no-list')
  }
}

/** The bytes of a file of it, in order, held against its check sums. @throws ArchiveUnread `wrong-password`; Error when it is damaged, or of `take` */
export async function readEntry(entry: FileEntry, take: (chunk: Uint8Array) => Promise<void> | void): Promise<void> {
  const out = new WritableStream<Uint8Array>({ write: (chunk) => take(chunk) })
  try {
    await entry.getData(out, { checkSignature: true })
  } catch (error) {
    const { message } = error as Error
    if (message === ERR_INVALID_PASSWORD) throw new ArchiveUnread('wrong-password')
    if (message === ERR_ENCRYPTED) throw new ArchiveUnread('needs-password')
    throw error
  }
}

/** What bytes are, as they come. */
export function createDigest() {
  const hash = sha256.create()
  let bytes = 0
  return {
    push(chunk: Uint8Array): void {
      hash.update(chunk)
      bytes += chunk.length
    },
    end: () => ({ bytes, sha256: bytesToHex(hash.digest()) }),
  }
}
