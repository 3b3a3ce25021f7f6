import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import { countNotOver } from '#core/book/index.ts'
import { common } from '../../words/common.ts'
import { ledgerColumns as said } from '../../words/ticket.ts'

export interface Column {
  readonly key: string
  readonly head: string
  readonly group: 'old' | 'way' | 'new'
  /** Null: it opens the account, which says what it is the sum of. */
  readonly opens: EntryFilter | null
  /** Null while it is not known. */
  readonly of: (row: LedgerRow) => number | null
  readonly isStrong?: boolean
  readonly isBad?: (row: LedgerRow) => boolean
  /** Folds away while it is nought for every row. */
  readonly folds?: boolean
}

/**
 * The ledger's columns. A row adds up by eye: the count of the old phone is the sum of all columns up to Did not come;
 * the expected count is the first count, what the new phone took, and what is still to come.
 */
export const columns: readonly Column[] = [
  {
    key: 'count',
    head: said.count,
    group: 'old',
    opens: 'all',
    of: (r) => (r.old.own === null && r.old.read === 0 ? null : r.old.read + r.old.late),
    isStrong: true,
  },
  { key: 'notChosen', head: common.notChosen, group: 'old', opens: 'notChosen', of: (r) => r.fates.notChosen, folds: true },
  { key: 'cannotCross', head: common.cantCross, group: 'old', opens: 'cannotCross', of: (r) => r.fates.cannotCross, folds: true },
  { key: 'pending', head: said.waiting, group: 'way', opens: 'pending', of: (r) => r.fates.pending },
  { key: 'carried', head: said.carried, group: 'way', opens: 'carried', of: (r) => r.fates.carried },
  { key: 'changed', head: said.changed, group: 'way', opens: 'changed', of: (r) => r.fates.changed },
  { key: 'merged', head: said.merged, group: 'way', opens: 'merged', of: (r) => r.fates.merged, folds: true },
  { key: 'alreadyThere', head: common.alreadyThere, group: 'way', opens: 'alreadyThere', of: (r) => r.fates.alreadyThere, folds: true },
  {
    key: 'editedThere',
    head: said.changedThere,
    group: 'way',
    opens: 'editedThere',
    of: (r) => r.fates.editedThere,
    folds: true,
  },
  { key: 'notOver', head: said.didNotCome, group: 'way', opens: 'notOver', of: countNotOver, isBad: (r) => r.fates.lost > 0 },
  { key: 'first', head: said.firstCount, group: 'new', opens: 'first', of: (r) => r.new.first },
  { key: 'expected', head: common.expected, group: 'new', opens: null, of: (r) => r.new.expected },
  {
    key: 'last',
    head: said.lastCount,
    group: 'new',
    opens: 'last',
    of: (r) => r.new.last,
    isStrong: true,
    isBad: (r) => r.short + r.over > 0,
  },
]

/** Three that are rarely there at once stand in one then; which of them it is the account says. */
const metThere: Column = {
  key: 'metThere',
  head: said.metThere,
  group: 'way',
  opens: null,
  of: (r) => r.fates.merged + r.fates.alreadyThere + r.fates.editedThere,
}
const met: readonly string[] = ['merged', 'alreadyThere', 'editedThere']

/** The columns that say something of these rows. */
export function columnsFor(rows: readonly LedgerRow[]): readonly Column[] {
  const shown = columns.filter((column) => !column.folds || rows.some((row) => (column.of(row) ?? 0) > 0))
  const first = shown.findIndex(({ key }) => met.includes(key))
  if (shown.filter(({ key }) => met.includes(key)).length < 2) return shown
  return shown.flatMap((column, i) => (met.includes(column.key) ? (i === first ? [metThere] : []) : [column]))
}
