import { joinBytes } from '../../text/bytes.ts'

/** Cuts a file into its records as it comes; each in the bytes it was written in. */
export interface RecordSplitter {
  push(chunk: Uint8Array): Iterable<Uint8Array>
  end(): Iterable<Uint8Array>
}

/** A splitter that tells how much of what it was given is no record. */
export interface CountingSplitter extends RecordSplitter {
  others(): number
}
/** A file that is looked at whole, and is longer than may be. */
export class TooLarge extends Error {}

/** A record longer than this is cut there: who reads it says that it has no end. Bytes. */
const mostRecordBytes = 64_000_000
/** What a line begins with is all that is looked at. Bytes. */
const headBytes = 80

export type LineSays = 'begins' | 'ends' | 'goes-on'

/**
 * Cuts by lines. What stands before the first record, and between one that ended and the next, is left out.
 * @param say what a line does, by what it begins with, its end left off; asked of each line once, in order
 */
export function createRecordSplitter(say: (head: string) => LineSays): RecordSplitter {
  let parts: Uint8Array[] = []
  let size = 0
  let isOpen = false
  /** Of the line that is being read: what of it came already. */
  let line: Uint8Array[] = []
  let lineSize = 0

  function close(): Uint8Array {
    const bytes = joinBytes(parts)
    parts = []
    size = 0
    isOpen = false
    return bytes
  }
  function* takeLine(): Generator<Uint8Array> {
    const bytes = line.length === 1 ? line[0]! : joinBytes(line)
    line = []
    lineSize = 0
    let head = ''
    for (let i = 0; i < bytes.length && i < headBytes && bytes[i] !== 10 && bytes[i] !== 13; i++) head += String.fromCharCode(bytes[i]!)
    const says = say(head)
    if (says === 'begins') {
      if (isOpen) yield close()
      isOpen = true
    }
    if (!isOpen) return
    if (size <= mostRecordBytes) parts.push(bytes)
    size += bytes.length
    if (says === 'ends') yield close()
  }
  return {
    *push(chunk) {
      let from = 0
      for (let at = chunk.indexOf(10); at >= 0; at = chunk.indexOf(10, from)) {
        line.push(chunk.subarray(from, at + 1))
        from = at + 1
        yield* takeLine()
      }
      // one line without an end takes no more than a record may
      if (from < chunk.length && lineSize <= mostRecordBytes) {
        line.push(chunk.slice(from))
        lineSize += chunk.length - from
      }
    },
    *end() {
      if (line.length > 0) yield* takeLine()
      if (isOpen) yield close()
    },
  }
}
