import { join } from 'node:path'
import { folderOfBlobs, type BlobName, type BlobStore } from './blob-store.ts'
import { contentDigest, open, seal, type TicketKeys } from './keys.ts'

/** What is sealed as one: large enough to cost little, small enough to be read for a few bytes of it. */
export const chunkBytes = 256 * 1024
/** Of a sealed chunk beyond its text: nonce and tag. */
const sealBytes = 28

/** A blob that is whole. */
export interface Blob {
  readonly sizeBytes: number
  /** Keyed digest over the digests of its chunks, in hex; equal within a holding alone. Empty where none was asked for. */
  readonly digest: string
}

/** Where the blobs of this house are. */
export function blobsOf({ dataFolder }: { readonly dataFolder: string }): BlobStore {
  return folderOfBlobs(join(dataFolder, 'blobs'), chunkBytes + sealBytes)
}

/** Each chunk opens in its own place alone, and the last as the last: none can be exchanged, left out or cut off unseen. */
const boundTo = ({ holding, name }: BlobName, index: number, isLast: boolean) =>
  `blob ${holding} ${name} ${index}${isLast ? ' last' : ''} v1`

export interface BlobWriter {
  /** Answers with a promise when it should be waited for. */
  write(bytes: Uint8Array): Promise<void> | undefined
  /** @throws Error when a chunk could not be written */
  end(): Promise<Blob>
  /** Gives it up; what was written goes. */
  drop(): Promise<void>
}

/**
 * Seals bytes as they come, chunk by chunk. Where a killed write left chunks, those that hold what comes now are kept
 * and it goes on behind them: whoever gives the bytes again from their start writes only what is missing.
 * @param hasDigest false where nobody asks what it is: a digest is a third of the cost
 */
export function writeBlob(keys: TicketKeys, store: BlobStore, blob: BlobName, { hasDigest = true } = {}): BlobWriter {
  const file = store.file(blob, 'write')
  const known = file.then((opened) => opened.chunks())
  // said by whatever needs it first
  known.catch(() => undefined)
  let buffer = Buffer.alloc(chunkBytes)
  let filled = 0
  let index = 0
  let sizeBytes = 0
  let running: Buffer = Buffer.alloc(0)
  let queued = 0
  let last: Promise<void> = Promise.resolve()

  async function keep(text: Buffer, at: number, isLast: boolean): Promise<void> {
    const opened = await file
    const bound = boundTo(blob, at, isLast)
    const isThere = at < (await known) && opensTo(keys, bound, await opened.read(at), text)
    if (!isThere) await opened.write(at, seal(keys.seal, bound, text))
    if (hasDigest) running = contentDigest(keys, Buffer.concat([running, contentDigest(keys, text)]))
  }
  function flush(isLast: boolean): void {
    const [text, at] = [buffer.subarray(0, filled), index++]
    queued++
    last = last.then(() => keep(text, at, isLast)).finally(() => queued--)
    // whoever waits for it next is told
    last.catch(() => undefined)
    buffer = Buffer.alloc(chunkBytes)
    filled = 0
  }
  return {
    write(bytes) {
      sizeBytes += bytes.length
      for (let from = 0; from < bytes.length;) {
        // a full chunk is not the last one once more comes
        if (filled === chunkBytes) flush(false)
        const some = Math.min(chunkBytes - filled, bytes.length - from)
        buffer.set(bytes.subarray(from, from + some), filled)
        filled += some
        from += some
      }
      return queued > 4 ? last : undefined
    },
    async end() {
      flush(true)
      try {
        await last
        await (await file).end(sizeBytes + index * sealBytes)
      } finally {
        await (await file).close()
      }
      return { sizeBytes, digest: running.toString('hex') }
    },
    async drop() {
      await last.catch(() => undefined)
      await file.then((opened) => opened.close()).catch(() => undefined)
      await store.remove(blob)
    },
  }
}

function opensTo(keys: TicketKeys, bound: string, sealed: Buffer, text: Buffer): boolean {
  if (sealed.length !== text.length + sealBytes) return false
  try {
    return open(keys.seal, bound, sealed).equals(text)
  } catch {
    return false
  }
}

/**
 * The bytes of a blob from any place on, a chunk at a time.
 * @param range of bytes; `to` is not part of it
 * @throws Error when it is not there, or a chunk is missing, altered, in another place, or cut off
 */
export async function* readBlob(
  keys: TicketKeys,
  store: BlobStore,
  blob: BlobName,
  { from = 0, to = Number.POSITIVE_INFINITY }: { from?: number; to?: number } = {},
): AsyncGenerator<Buffer> {
  const file = await store.file(blob, 'read')
  try {
    const chunks = await file.chunks()
    if (chunks === 0) throw new Error('a blob without chunks')
    for (let index = Math.floor(from / chunkBytes); index < chunks && index * chunkBytes < to; index++) {
      const text = open(keys.seal, boundTo(blob, index, index === chunks - 1), await file.read(index))
      const at = index * chunkBytes
      const some = text.subarray(Math.max(0, from - at), Math.min(text.length, to - at))
      if (some.length > 0) yield some
    }
  } finally {
    await file.close()
  }
}
