import { createHash } from 'node:crypto'
import type { ErrorCode } from '#contracts/errors.ts'
import { sortFiles, type BroughtFile } from '#core/kinds/brought.ts'
import { blobsOf, writeBlob } from '../vault/blobs.ts'
import { keysFrom } from '../vault/keys.ts'
import { ZipError, type ZipFault } from './archives/zip-reader.ts'
import { filesLying, type Lying } from './brought/entries.ts'
import { piecesOf } from './brought/pieces.ts'
import { placesName, writeKind, type HeldKind, type KindWriter, type Sorted, type SortTask } from './upload-store.ts'

const problemOf: Partial<Record<ZipFault, ErrorCode>> = {
  'zip-too-many-entries': 'FileTooLarge',
  'zip-too-large': 'FileTooLarge',
  'zip-encrypted': 'ZipLocked',
  'zip-wrong-password': 'ZipWrongPassword',
}

/**
 * Sorts what was brought into one sealed file a kind, and notes where the pictures and films lie that belong to it. It
 * runs in a thread: whatever a file holds, pages go on being answered.
 */
export async function sortUpload(task: SortTask): Promise<Sorted> {
  const { id, password, files } = task
  const keys = keysFrom(Buffer.from(task.secret))
  const store = blobsOf(task)
  const parts = new Map<string, KindWriter>()
  const dropAll = () => Promise.allSettled([...parts.values()].map((part) => part.drop()))
  try {
    const lying = new Map<string, BroughtFile & Lying>()
    const incoming = files.map((file) => ({ ...file, bytes: piecesOf(keys, store, { holding: id, ...file }) }))
    for await (const file of filesLying(incoming, password)) {
      // two of one path are two all the same
      let { path } = file
      for (let n = 2; lying.has(path); n++) path = `${file.path} (${n})`
      lying.set(path, { ...file, path })
    }
    const sorted = await sortFiles([...lying.values()], {
      record: async (kind, bytes) => {
        let part = parts.get(kind)
        if (!part) parts.set(kind, (part = writeKind(keys, store, { holding: id, kind })))
        await part.write(bytes)
      },
      digest: () => {
        const hash = createHash('sha256')
        return { push: (bytes) => void hash.update(bytes), end: () => hash.digest('base64url') }
      },
    })
    const kinds: Record<string, HeldKind> = {}
    for (const [kind, part] of parts) kinds[kind] = await part.end()
    const places = writeBlob(keys, store, { holding: id, name: placesName })
    for (const path of sorted.kept) {
      const { no, entry } = lying.get(path)!
      await places.write(Buffer.from(`${JSON.stringify({ path, no, entry })}\n`))
    }
    await places.end()
    const keptNos = [...new Set([...sorted.kept].map((path) => lying.get(path)!.no))]
    return { kinds, unreadable: sorted.unreadable, others: sorted.others, place: sorted.from, keptNos }
  } catch (error) {
    await dropAll()
    if (error instanceof ZipError) return { problem: problemOf[error.code] ?? 'ZipRefused' }
    throw error
  }
}
