import { mkdir, open, readdir, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { HoldingId } from '../base/ids.ts'

/** A blob by the holding it belongs to and its name in it; neither says anything of a customer. */
export interface BlobName {
  readonly holding: HoldingId
  readonly name: string
}

/** A blob whose sealed chunks are read and written by their places. */
export interface BlobFile {
  /** How many chunks stand there, the last perhaps cut short by a killed write. */
  chunks(): Promise<number>
  read(index: number): Promise<Buffer>
  write(index: number, sealed: Uint8Array): Promise<void>
  /** Nothing stands behind so many bytes any more, and the disk has what stands before. */
  end(sizeBytes: number): Promise<void>
  close(): Promise<void>
}

/** Where sealed blobs are: outside the database, reached by every station. */
export interface BlobStore {
  /** @throws Error when it is to be read and is not there */
  file(blob: BlobName, how: 'read' | 'write'): Promise<BlobFile>
  remove(blob: BlobName): Promise<void>
  /** Names of the blobs of a holding. */
  names(holding: HoldingId): Promise<string[]>
  /** Everything of a holding. */
  drop(holding: HoldingId): Promise<void>
  /** Every holding that has blobs. */
  holdings(): Promise<HoldingId[]>
  /** What the blobs of a holding take, and since when nothing was written; bytes, and milliseconds since 1970. It looks at each: not for a locker of many. */
  sizeOf(holding: HoldingId): Promise<{ bytes: number; atMs: number }>
}

const isName = (text: string) => /^[\w-]{1,80}$/.test(text)

/** A folder a holding, a file a blob. @param slotBytes what a whole sealed chunk takes */
export function folderOfBlobs(folder: string, slotBytes: number): BlobStore {
  const folderOf = (holding: HoldingId) => join(folder, checked(holding))
  const pathOf = ({ holding, name }: BlobName) => join(folderOf(holding), checked(name))
  return {
    async file(blob, how) {
      if (how === 'write') await mkdir(dirname(pathOf(blob)), { recursive: true, mode: 0o700 })
      const file = await open(pathOf(blob), how === 'read' ? 'r' : 'r+').catch((error: unknown) => {
        if (how === 'read' || (error as NodeJS.ErrnoException).code !== 'ENOENT') throw error
        return open(pathOf(blob), 'wx+', 0o600)
      })
      return {
        chunks: async () => Math.ceil((await file.stat()).size / slotBytes),
        async read(index) {
          const slot = Buffer.alloc(slotBytes)
          const { bytesRead } = await file.read(slot, 0, slotBytes, index * slotBytes)
          return slot.subarray(0, bytesRead)
        },
        async write(index, sealed) {
          await file.write(sealed, 0, sealed.length, index * slotBytes)
        },
        async end(sizeBytes) {
          await file.truncate(sizeBytes)
          await file.sync()
        },
        close: () => file.close(),
      }
    },
    remove: (blob) => rm(pathOf(blob), { force: true }),
    names: (holding) => readdir(folderOf(holding)).catch(() => []),
    drop: (holding) => rm(folderOf(holding), { recursive: true, force: true }),
    holdings: async () => (await readdir(folder).catch(() => [])).filter(isName) as HoldingId[],
    async sizeOf(holding) {
      const files = await readdir(folderOf(holding)).catch(() => [])
      const stats = await Promise.all(['', ...files].map((name) => stat(join(folderOf(holding), name)).catch(() => null)))
      return {
        bytes: stats.slice(1).reduce((sum, one) => sum + (one?.size ?? 0), 0),
        atMs: Math.max(0, ...stats.map((one) => one?.mtimeMs ?? 0)),
      }
    },
  }
}

function checked(text: string): string {
  if (!isName(text)) throw new Error('no name of a blob')
  return text
}
