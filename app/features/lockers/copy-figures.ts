import type { CopyView } from '#contracts/http/lockers.ts'

/** What a copy lacks against its phone: what was asked for and is not in it. */
export function shortOf(fates: Readonly<Record<string, number>>): number {
  return (fates.lost ?? 0) + (fates.unreadable ?? 0) + (fates.refused ?? 0)
}

/** What of a copy's phone is in it: those lead to its items. */
export const inCopy: ReadonlySet<string> = new Set(['carried', 'changed', 'alreadyThere'])

/** Why items of one fate are not in a copy: lines whose sum is its count, what nobody noted a reason of with them. */
export function whysOf(
  { fates, whys }: Pick<CopyView['kinds'][number], 'fates' | 'whys'>,
  fate: string,
): readonly { readonly codes: readonly string[]; readonly items: number }[] {
  const lines = whys.filter((why) => why.fate === fate)
  const rest = (fates[fate] ?? 0) - lines.reduce((sum, { items }) => sum + items, 0)
  return rest > 0 ? [...lines, { codes: [], items: rest }] : lines
}

/** Whole days a copy is still kept, its last one included as 0. */
export function daysLeft(keepUntil: string, nowMs: number): number {
  return Math.ceil((Date.parse(keepUntil) - nowMs) / 86_400_000) - 1
}
