import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeSync,
} from 'node:fs'
import { randomBytes } from 'node:crypto'
import { dirname, join } from 'node:path'
import type { HoldingId } from '../base/ids.ts'

/** Where the wrapped keys of holdings are: outside the database, reached by every station. */
export interface KeyStore {
  /** Kept for good when it returns. */
  put(holding: HoldingId, wrapped: Buffer): void
  /** Undefined when there is none, or none any more. */
  find(holding: HoldingId): Buffer | undefined
  /** Overwrites and removes; nothing happens when there is none. */
  destroy(holding: HoldingId): void
  /** Every key that is there, and since when; milliseconds since 1970. */
  all(): { holding: HoldingId; atMs: number }[]
}

const suffix = '.key'

/** A small file a holding in a folder, which stations share. What a disk may keep of removed files: docs/architecture.md. */
export function folderOfKeys(folder: string): KeyStore {
  const pathOf = (holding: HoldingId) => {
    if (!/^[\w-]+$/.test(holding)) throw new Error('no name of a holding')
    return join(folder, holding + suffix)
  }
  return {
    put(holding, wrapped) {
      mkdirSync(folder, { recursive: true, mode: 0o700 })
      // whole or not at all, and there after a power cut
      const fresh = `${pathOf(holding)}.new`
      writeFile(fresh, wrapped, 'w')
      renameSync(fresh, pathOf(holding))
      syncFolder(folder)
    },
    find(holding) {
      try {
        return readFileSync(pathOf(holding))
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code === 'ENOENT') return undefined
        throw error
      }
    },
    destroy(holding) {
      destroyFile(pathOf(holding))
    },
    all() {
      if (!existsSync(folder)) return []
      return readdirSync(folder)
        .filter((name) => name.endsWith(suffix))
        .map((name) => ({ holding: name.slice(0, -suffix.length) as HoldingId, atMs: statSync(join(folder, name)).mtimeMs }))
    },
  }
}

/** Overwrites a file with chance in its place and removes it; nothing happens when there is none. */
export function destroyFile(path: string): void {
  if (!existsSync(path)) return
  writeFile(path, randomBytes(statSync(path).size), 'r+')
  rmSync(path, { force: true })
  syncFolder(dirname(path))
}

/** Writes a file and has the disk keep it. */
export function writeFile(path: string, bytes: Uint8Array, how: 'w' | 'r+'): void {
  const file = openSync(path, how, 0o600)
  try {
    writeSync(file, bytes, 0, bytes.length, 0)
    fsyncSync(file)
  } finally {
    closeSync(file)
  }
}

export function syncFolder(folder: string): void {
  const handle = openSync(folder, 'r')
  try {
    fsyncSync(handle)
  } finally {
    closeSync(handle)
  }
}
