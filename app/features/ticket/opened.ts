import type { EntryFilter } from '#contracts/http/ledger.ts'

/** What of a kind is open beside its ledger: items behind a count, or its slices. */
export interface Opened {
  readonly kind: string
  /** The column or line that was pressed. */
  readonly column: string
  readonly filter: EntryFilter
  readonly reason: string
  readonly facet: string
  /** A conversation or a calendar by its key, and what it is called while showing. */
  readonly group: string
  readonly groupTitle: string
  /** `2026-11` */
  readonly when: string
}

export const nothingMore = { reason: '', facet: '', group: '', groupTitle: '', when: '' } as const

/** A conversation or a calendar, or a span of time. */
export type GroupedBy = 'group' | 'month' | 'year'

/** Slices of a side, by conversation or calendar, or by month. */
export interface OpenedGroups {
  readonly kind: string
  readonly side: 'old' | 'new'
  readonly by: GroupedBy
}
