import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate'
import { crc32, directoryBytes, readDirectory, type Listed } from './directory.ts'

/** What keeps a ZIP from growing beyond all bounds while it is inflated. */
export const zipLimits = { entries: 5_000, bytes: 500_000_000, ratio: 300 } as const

export type ZipIssue = 'zip-too-many-entries' | 'zip-too-large' | 'zip-bomb' | 'zip-damaged' | 'zip-encrypted'

/** Takes the bytes of one entry as they are inflated; told when they end. Names are never given: they may be a customer's, and never become paths. */
export type EntrySink = (chunk: Uint8Array, isLast: boolean) => void

/**
 * Reads a ZIP as it comes (APPNOTE 4.3: local headers, in order), entry after entry, within {@link zipLimits}, and in
 * the end holds what it gave against the directory: an entry that is not listed, or is not what it is said to be, makes
 * the whole file one that lies, and nothing of it is taken. Folders are counted and passed over, whatever they hold.
 * @param open gives what takes the next entry
 */
export function createZipReader(open: () => EntrySink) {
  let entries = 0
  let inflated = 0
  let taken = 0
  let issue: ZipIssue | undefined
  let isBroken = false
  const given: { crc: number; size: number }[] = []
  const tail = createTail(directoryBytes)
  const fail = (code: ZipIssue) => (issue ??= code)
  // the directory says whether it is damaged, or locked: it comes last
  const breakOff = () => void (isBroken = true)
  const unzip = new Unzip((file) => {
    if (++entries > zipLimits.entries) return void fail('zip-too-many-entries')
    if (file.compression !== 0 && file.compression !== 8) return breakOff()
    const isFolder = file.name.endsWith('/')
    const sink = isFolder ? undefined : open()
    let crc = 0
    let size = 0
    file.ondata = (error, chunk, isLast) => {
      if (issue || isBroken) return
      if (error) return breakOff()
      inflated += chunk.length
      size += chunk.length
      if (inflated > zipLimits.bytes) return void fail('zip-too-large')
      if (inflated > 1_000_000 && inflated > taken * zipLimits.ratio) return void fail('zip-bomb')
      if (!sink) return
      crc = crc32(chunk, crc)
      if (isLast) given.push({ crc, size })
      sink(chunk, isLast)
    }
    file.start()
  })
  unzip.register(UnzipPassThrough)
  unzip.register(UnzipInflate)
  const feed = (chunk: Uint8Array, isLast: boolean) => {
    if (issue) return issue
    taken += chunk.length
    tail.push(chunk)
    if (isBroken) return undefined
    try {
      unzip.push(chunk, isLast)
    } catch {
      breakOff()
    }
    return issue
  }
  return {
    /** Answers with the issue that ended it, if any. */
    push: (chunk: Uint8Array) => feed(chunk, false),
    end() {
      feed(new Uint8Array(0), true)
      if (!issue) {
        const listed = readDirectory(tail.bytes())
        if (listed?.some((entry) => entry.isEncrypted)) fail('zip-encrypted')
        else if (isBroken || !listed || !isAsListed(given, listed)) fail('zip-damaged')
      }
      return { entries: given.length, issue }
    },
  }
}

/** The last bytes of a file that comes in pieces: at most twice as many as are wanted are held, and each is moved once or twice. */
function createTail(wanted: number) {
  let held = new Uint8Array(64_000)
  let length = 0
  return {
    push(chunk: Uint8Array): void {
      const bytes = chunk.length > wanted ? chunk.subarray(-wanted) : chunk
      if (length + bytes.length > held.length) {
        const keep = Math.min(length, wanted)
        const next = length + bytes.length > 2 * wanted ? held : new Uint8Array(Math.min(2 * wanted, 2 * (length + bytes.length)))
        const from = next === held ? length - keep : 0
        next.set(held.subarray(from, length))
        length -= from
        held = next
      }
      held.set(bytes, length)
      length += bytes.length
    },
    bytes: () => held.subarray(0, length),
  }
}

/** Every entry that was given is listed as it is, and every one that is listed was given. */
function isAsListed(given: readonly { crc: number; size: number }[], listed: readonly Listed[]): boolean {
  const files = listed.filter((entry) => !entry.isFolder)
  if (files.length !== given.length) return false
  const open = new Map<string, number>()
  const key = (crc: number, size: number | undefined) => `${crc} ${size ?? ''}`
  for (const { crc, size } of files) open.set(key(crc, size), (open.get(key(crc, size)) ?? 0) + 1)
  return given.every(({ crc, size }) => {
    const found = [key(crc, size), key(crc, undefined)].find((k) => (open.get(k) ?? 0) > 0)
    if (found) open.set(found, open.get(found)! - 1)
    return found !== undefined
  })
}

/** It begins with a local file header, or is an empty archive. */
export function isZip(head: Uint8Array): boolean {
  return head[0] === 0x50 && head[1] === 0x4b && ((head[2] === 3 && head[3] === 4) || (head[2] === 5 && head[3] === 6))
}
