import { createHash } from 'node:crypto'
import type { BroughtFile } from '#core/kinds/brought.ts'
import { sortFiles, type SortedFiles } from '#core/kinds/brought.ts'
import type { RandomBytes } from '#server/endpoints/archives/zip-reader.ts'
import { filesLying } from '#server/endpoints/brought/entries.ts'
import { pieceBytes } from '#server/endpoints/brought/pieces.ts'
import { beginUpload, sortUploaded, takePiece, type FileWish, type UploadStands } from '#server/endpoints/brought/uploads.ts'
import type { Services } from '#server/base/services.ts'

export async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes
}

/** A file as a browser names it. */
export const fileWish = (path: string, bytes: Uint8Array, modifiedMs = Date.UTC(2026, 5, 1, 9)): FileWish => ({
  path,
  sizeBytes: bytes.length,
  modifiedMs,
  beginning: createHash('sha256').update(bytes.subarray(0, 65_536)).digest('hex'),
})

/** Takes files in as a browser does, piece by piece, and sorts them. */
export async function bring(
  services: Services,
  files: Readonly<Record<string, Uint8Array>>,
  { password = null }: { password?: string | null } = {},
): Promise<UploadStands> {
  const all = Object.entries(files)
  const { upload, files: begun } = await beginUpload(services, { upload: null, files: all.map(([path, bytes]) => fileWish(path, bytes)) })
  for (const [i, { no }] of begun.entries()) {
    const bytes = all[i]![1]
    for (let from = 0; from < bytes.length; from += pieceBytes)
      await takePiece(services, upload, { no, from, body: once(bytes.subarray(from, from + pieceBytes)) })
  }
  return sortUploaded(services, upload, { password })
}

export const randomBytesOf = (bytes: Uint8Array): RandomBytes => ({
  sizeBytes: bytes.length,
  async *read({ from, to }) {
    if (to > from) yield Buffer.from(bytes.subarray(from, to))
  },
})

/** Sorts files that are in memory. @throws ZipError */
export async function sortInMemory(
  files: Readonly<Record<string, Uint8Array>>,
  password?: string,
): Promise<SortedFiles & { records: Record<string, Buffer[]> }> {
  const lying: BroughtFile[] = []
  const incoming = Object.entries(files).map(([path, bytes], no) => ({ no, path, modifiedMs: 0, bytes: randomBytesOf(bytes) }))
  for await (const file of filesLying(incoming, password)) lying.push(file)
  const records: Record<string, Buffer[]> = {}
  const sorted = await sortFiles(lying, {
    record: (kind, bytes) => void (records[kind] ??= []).push(Buffer.from(bytes)),
    digest: () => {
      const hash = createHash('sha256')
      return { push: (bytes) => void hash.update(bytes), end: () => hash.digest('base64url') }
    },
  })
  return { ...sorted, records }
}
