import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'
import { BlobReader, configure, ZipReader, type FileEntry } from '@zip.js/zip.js'
import { sortFiles, type BroughtFile } from '#core/kinds/brought.ts'
import { isPacked } from '#core/formats/sniff.ts'

configure({ useWebWorkers: false, useCompressionStream: true })

/** Files as they were chosen; each with its folders and its name. */
export interface PreviewWish {
  readonly files: readonly { readonly path: string; readonly file: File }[]
}
/** What files seem to hold, before they are taken in: counts alone, nothing of what they say. */
export interface Preview {
  readonly items: Readonly<Partial<Record<string, number>>>
  readonly unreadable: number
  readonly others: number
  readonly readBytes: number
  readonly isDone: boolean
  /** There is a ZIP with a password among them. */
  readonly isLocked: boolean
}

const tell = (preview: Preview) => postMessage(preview)

async function look({ files }: PreviewWish): Promise<void> {
  let readBytes = 0
  let isLocked = false
  const items: Record<string, number> = {}
  let lastTold = 0
  const told = () => {
    if (performance.now() - lastTold < 100) return
    lastTold = performance.now()
    tell({ items: { ...items }, unreadable: 0, others: 0, readBytes, isDone: false, isLocked })
  }
  const brought: BroughtFile[] = []
  for (const { path, file } of files) {
    const head = new Uint8Array(await file.slice(0, 4096).arrayBuffer())
    if (!isPacked(head)) brought.push({ path, sizeBytes: file.size, modifiedMs: file.lastModified, open: () => chunksOf(file.stream()) })
    else {
      const entries = await new ZipReader(new BlobReader(file)).getEntries().catch(() => [])
      for (const entry of entries) {
        if (entry.directory) continue
        if (entry.encrypted) isLocked = true
        else
          brought.push({
            path: entry.filename,
            sizeBytes: entry.uncompressedSize,
            modifiedMs: entry.lastModDate.getTime(),
            open: () => chunksIn(entry),
          })
      }
    }
  }
  const sorted = await sortFiles(brought, {
    record: (kind) => {
      items[kind] = (items[kind] ?? 0) + 1
      told()
    },
    digest: () => {
      const hash = sha256.create()
      return { push: (bytes) => void hash.update(bytes), end: () => bytesToHex(hash.digest()) }
    },
    onBytes: (n) => {
      readBytes += n
      told()
    },
  })
  const others = sorted.others.reduce((sum, { n = 1 }) => sum + n, 0)
  tell({ items: sorted.items, unreadable: sorted.unreadable, others, readBytes, isDone: true, isLocked })
}

async function* chunksOf(stream: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  const reader = stream.getReader()
  try {
    for (let next = await reader.read(); !next.done; next = await reader.read()) yield next.value
  } finally {
    await reader.cancel().catch(() => undefined)
  }
}

function chunksIn(entry: FileEntry): AsyncGenerator<Uint8Array> {
  const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>()
  // a reader that has seen enough ends it
  entry.getData(writable).catch(() => undefined)
  return chunksOf(readable)
}

onmessage = (event: MessageEvent<PreviewWish>) => {
  look(event.data).catch(() => tell({ items: {}, unreadable: 0, others: 0, readBytes: 0, isDone: true, isLocked: false }))
}
