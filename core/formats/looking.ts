import { joinBytes } from '../text/bytes.ts'

/** Of a file as it streams by: the next so many bytes, or none of them. */
export type Want = { readonly take: number } | { readonly skip: number }
/** Asks for bytes and is given them; fewer only where the file ends. */
export type Looking<Result> = Generator<Want, Result, Uint8Array>

/** Looks into a file while it streams by, and keeps only what it asked for. */
export interface Looker<Result> {
  push(chunk: Uint8Array): void
  /** What it found; undefined where it was not done when the file ended and gave nothing back. */
  end(): Result | undefined
}

/** Drives a reader that asks for what it wants of a file, by the pieces in which the file comes. */
export function createLooker<Result>(reader: Looking<Result>): Looker<Result> {
  let looking: Looking<Result> | undefined = reader
  let want = reader.next().value as Want
  let found: Result | undefined
  /** What came and is not asked for yet. */
  let pieces: Uint8Array[] = []
  let held = 0
  let toSkip = 0

  function give(bytes: Uint8Array): void {
    const { done, value } = looking!.next(bytes)
    if (!done) want = value
    else {
      found = value
      looking = undefined
      pieces = []
    }
  }
  function go(isEnd: boolean): void {
    while (looking) {
      if ('skip' in want) {
        toSkip = want.skip
        want = { take: 0 }
      }
      while (toSkip > 0 && pieces.length > 0) {
        const first = pieces[0]!
        const n = Math.min(toSkip, first.length)
        toSkip -= n
        held -= n
        if (n === first.length) pieces.shift()
        else pieces[0] = first.subarray(n)
      }
      if (toSkip > 0) {
        if (!isEnd) return
        toSkip = 0
      }
      const { take } = want as { take: number }
      if (held < take && !isEnd) return
      const all = pieces.length === 1 ? pieces[0]! : joinBytes(pieces)
      const n = Math.min(take, held)
      held -= n
      pieces = n < all.length ? [all.subarray(n)] : []
      give(all.subarray(0, n))
    }
  }
  return {
    push(chunk) {
      if (!looking || chunk.length === 0) return
      pieces.push(chunk)
      held += chunk.length
      go(false)
    },
    end() {
      go(true)
      return found
    },
  }
}

/** A number of so many bytes, the most significant first. */
export function numberAt(bytes: Uint8Array, at: number, n: number): number {
  let value = 0
  for (let i = 0; i < n; i++) value = value * 256 + (bytes[at + i] ?? 0)
  return value
}
