import type { Figure, LedgerRow } from '#contracts/http/ledger.ts'

/** The readings of a side whose figures stand in its account: the new phone's are of its last count. */
const readingOf = { old: 'old', new: 'last' } as const

/** Entries a phone counts though nobody stored them. */
export function derivedFigures({ also }: Pick<LedgerRow, 'also'>, side: 'old' | 'new'): Figure[] {
  return also.filter((figure) => figure.code === 'derived' && figure.side === readingOf[side])
}

/** What the phone's own screen shows of something; undefined where it says nothing. */
export function shownFigure({ also }: Pick<LedgerRow, 'also'>, side: 'old' | 'new', of: string): number | undefined {
  return also.find((figure) => figure.code === 'shows' && figure.side === readingOf[side] && figure.of === of)?.n
}
