import { fates as fateCodes } from '#core/book/index.ts'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'

/** The other counts of a row that hold something, to go to from one that is open. */
export function siblingsOf({ fates, new: now, old }: LedgerRow): [EntryFilter, number][] {
  const all: [EntryFilter, number][] = [
    ['all', old.read + old.late],
    ...fateCodes.map((fate): [EntryFilter, number] => [fate, fates[fate]]),
    ['late', old.late],
    ['first', now.first ?? 0],
    ['last', now.last ?? 0],
    ...(['kept', 'addedTo', 'altered', 'arrived', 'cameOtherwise', 'double', 'absorbed', 'missing', 'parts'] as const).map(
      (origin): [EntryFilter, number] => [origin, now[origin]],
    ),
  ]
  return all.filter(([, n]) => n > 0)
}
