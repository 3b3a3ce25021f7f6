/** Bytes of a frame behind its first, by the mode in it (RFC 4867, section 5.3; AMR and AMR-WB). */
const narrow = [12, 13, 15, 17, 19, 20, 26, 31, 5, 0, 0, 0, 0, 0, 0, 0]
const wide = [17, 23, 32, 36, 40, 46, 50, 58, 60, 5, 0, 0, 0, 0, 0, 0]
const frameMs = 20

/** Counts the frames of an AMR file as it streams by: its length stands nowhere in it. */
export function createAmrCounter(): { push(chunk: Uint8Array): void; end(): { durationMs: number; isCut: boolean } } {
  let head: number[] = []
  let sizes: readonly number[] | undefined
  let left = 0
  let frames = 0
  return {
    push(chunk) {
      let at = 0
      // `#!AMR\n`, or `#!AMR-WB\n`
      while (!sizes && at < chunk.length) {
        head.push(chunk[at++]!)
        if (head.at(-1) === 10) sizes = head.length > 6 ? wide : narrow
        if (head.length > 20) sizes = narrow
      }
      while (sizes && at < chunk.length) {
        if (left > 0) {
          const n = Math.min(left, chunk.length - at)
          left -= n
          at += n
          continue
        }
        left = sizes[(chunk[at++]! >> 3) & 15]!
        frames++
      }
      head = sizes ? [] : head
    },
    end: () => ({ durationMs: frames * frameMs, isCut: left > 0 }),
  }
}
