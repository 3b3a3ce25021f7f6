import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate'

/** What keeps a ZIP from growing beyond all bounds while it is inflated. */
export const zipLimits = { entries: 5_000, bytes: 500_000_000, ratio: 300 } as const

export type ZipIssue = 'zip-too-many-entries' | 'zip-too-large' | 'zip-bomb' | 'zip-damaged' | 'zip-encrypted'

/** Takes the bytes of one entry as they are inflated; told when they end. Names are never given: they may be a customer's, and never become paths. */
export type EntrySink = (chunk: Uint8Array, isLast: boolean) => void

/**
 * Reads a ZIP as it comes (APPNOTE 4.3: local headers, in order), entry after entry, within {@link zipLimits}.
 * The first issue ends it: nothing of a file that lies is taken. Folders are passed over.
 * @param open gives what takes the next entry
 */
export function createZipReader(open: () => EntrySink) {
  let entries = 0
  let inflated = 0
  let taken = 0
  let ended = 0
  let issue: ZipIssue | undefined
  const fail = (code: ZipIssue) => (issue ??= code)
  const unzip = new Unzip((file) => {
    if (file.name.endsWith('/')) return
    if (++entries > zipLimits.entries) return void fail('zip-too-many-entries')
    if (file.compression !== 0 && file.compression !== 8) return void fail('zip-damaged')
    const sink = open()
    file.ondata = (error, chunk, isLast) => {
      if (issue) return
      if (error) return void fail('zip-damaged')
      inflated += chunk.length
      if (inflated > zipLimits.bytes) return void fail('zip-too-large')
      if (inflated > 1_000_000 && inflated > taken * zipLimits.ratio) return void fail('zip-bomb')
      if (isLast) ended++
      sink(chunk, isLast)
    }
    file.start()
  })
  unzip.register(UnzipPassThrough)
  unzip.register(UnzipInflate)
  const feed = (chunk: Uint8Array, isLast: boolean) => {
    if (issue) return issue
    taken += chunk.length
    try {
      unzip.push(chunk, isLast)
    } catch {
      fail('zip-damaged')
    }
    return issue
  }
  return {
    /** Answers with the issue that ended it, if any. */
    push: (chunk: Uint8Array) => feed(chunk, false),
    end() {
      feed(new Uint8Array(0), true)
      if (ended < entries) fail('zip-damaged')
      return { entries, issue }
    },
  }
}

/** It begins with a local file header, or is an empty archive. */
export function isZip(head: Uint8Array): boolean {
  return head[0] === 0x50 && head[1] === 0x4b && ((head[2] === 3 && head[3] === 4) || (head[2] === 5 && head[3] === 6))
}
