import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'

/** The other counts of a row that hold something, to go to from one that is open. */
export function siblingsOf({ fates, new: now, old }: LedgerRow): [EntryFilter, number][] {
  const all: [EntryFilter, number][] = [
    ['all', old.read + old.late],
    ...(Object.entries(fates) as [EntryFilter, number][]),
    ['late', old.late],
    ['first', now.first ?? 0],
    ['last', now.last ?? 0],
    ...(['kept', 'addedTo', 'altered', 'arrived', 'cameOtherwise', 'double', 'absorbed', 'missing', 'parts'] as const).map(
      (origin): [EntryFilter, number] => [origin, now[origin]],
    ),
  ]
  return all.filter(([, n]) => n > 0)
}
