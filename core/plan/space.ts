/** What a phone must keep free to go on working: 3% of it, half a gigabyte at least, four at most. */
export function reserveOf(totalBytes: number): number {
  return Math.min(4_000_000_000, Math.max(500_000_000, Math.round(totalBytes * 0.03)))
}

export interface SpaceInput {
  readonly freeBytes: number
  readonly totalBytes: number
  /** Of what is chosen and still waits, as it lies on the old phone. */
  readonly chosenBytes: number
  /** What conversion adds to it. */
  readonly growsBytes: number
}

export interface Space {
  readonly neededBytes: number
  readonly reserveBytes: number
  /** Free after all is over. */
  readonly leftBytes: number
  readonly fits: boolean
  /** How much is missing; 0 when it fits. */
  readonly shortBytes: number
}

/** Whether what is chosen has room on the new phone, growth by conversion included, with the reserve it needs. */
export function spaceFor({ freeBytes, totalBytes, chosenBytes, growsBytes }: SpaceInput): Space {
  const neededBytes = chosenBytes + growsBytes
  const reserveBytes = reserveOf(totalBytes)
  const shortBytes = Math.max(0, neededBytes + reserveBytes - freeBytes)
  return {
    neededBytes,
    reserveBytes,
    leftBytes: freeBytes - neededBytes,
    fits: neededBytes === 0 || shortBytes === 0,
    shortBytes: neededBytes === 0 ? 0 : shortBytes,
  }
}

/** Newest years first, as many whole years as have room: the first year that is carried, or null when not even the newest fits. */
export function newestYearsThatFit(years: readonly { readonly year: number; readonly bytes: number }[], roomBytes: number): number | null {
  let sum = 0
  let since: number | null = null
  for (const { year, bytes } of [...years].sort((a, b) => b.year - a.year)) {
    sum += bytes
    if (sum > roomBytes) break
    since = year
  }
  return since
}
