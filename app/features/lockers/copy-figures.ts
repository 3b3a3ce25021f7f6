/** What a copy lacks against its phone: what was asked for and is not in it. */
export function shortOf(fates: Readonly<Record<string, number>>): number {
  return (fates.lost ?? 0) + (fates.unreadable ?? 0) + (fates.refused ?? 0)
}

/** Whole days a copy is still kept, its last one included as 0. */
export function daysLeft(keepUntil: string, nowMs: number): number {
  return Math.ceil((Date.parse(keepUntil) - nowMs) / 86_400_000) - 1
}
