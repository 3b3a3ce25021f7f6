import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import { entryFilters } from '#contracts/http/sets.ts'

/** A conversation or a calendar, or a span of time. */
export type GroupedBy = 'group' | 'month' | 'year'
export type Side = 'old' | 'new'

/** The items behind a count, narrowed where something more than a count was pressed. */
export interface OpenedItems {
  readonly what: 'items'
  readonly kind: string
  readonly filter: EntryFilter
  readonly reason: string
  readonly facet: string
  /** A conversation or a calendar, by its key. */
  readonly group: string
  /** `2026-11` */
  readonly when: string
}

/** What of a kind is open beside its ledger. One at a time. */
export type Opened =
  | OpenedItems
  | { readonly what: 'groups'; readonly kind: string; readonly side: Side; readonly by: GroupedBy }
  | { readonly what: 'joinings'; readonly kind: string }
  | { readonly what: 'own'; readonly kind: string; readonly side: Side }
  | { readonly what: 'months'; readonly kind: string }

/** Items of a count, with nothing narrowed but what is said. */
export function openedItems(kind: string, filter: EntryFilter, narrowed: Partial<OpenedItems> = {}): OpenedItems {
  return { reason: '', facet: '', group: '', when: '', ...narrowed, what: 'items', kind, filter }
}

/** The count that holds all of a side: of the new phone the last one, once there is one. */
export function wholeOf(row: LedgerRow, side: Side): EntryFilter {
  return side === 'old' ? 'all' : row.new.last === null ? 'first' : 'last'
}

const narrowings = ['reason', 'facet', 'group', 'when'] as const
/** Codes, keys and months alone: no word of a customer’s is ever in an address. */
const isCode = /^[\w.:-]{1,80}$/

type Query = Readonly<Record<string, unknown>>

/** The part of an address that says what is open, as `messages.lost`, `photos.months`, `contacts.own.new`. */
export function addressOf(opened: Opened | null): Record<string, string> {
  if (!opened) return {}
  const { kind } = opened
  if (opened.what === 'items') {
    const more = narrowings.flatMap((name) => (isCode.test(opened[name]) ? [[name, opened[name]] as const] : []))
    return { open: `${kind}.${opened.filter}`, ...Object.fromEntries(more) }
  }
  if (opened.what === 'groups') return { open: `${kind}.by-${opened.by}.${opened.side}` }
  if (opened.what === 'own') return { open: `${kind}.own.${opened.side}` }
  return { open: `${kind}.${opened.what}` }
}

/** What an address says is open; null for what says nothing, or nothing known. */
export function openedFrom(query: Query): Opened | null {
  const [kind, what, side] = String(query.open ?? '').split('.')
  if (!kind || !what || !isCode.test(kind)) return null
  if (what === 'joinings' || what === 'months') return { what, kind }
  const isSide = side === 'old' || side === 'new'
  if (what === 'own') return isSide ? { what, kind, side } : null
  const by = /^by-(group|month|year)$/.exec(what)?.[1] as GroupedBy | undefined
  if (by) return isSide ? { what: 'groups', kind, side, by } : null
  const filter = entryFilters.find((known) => known === what)
  if (!filter) return null
  const narrowed = narrowings.flatMap((name) => (isCode.test(String(query[name] ?? '')) ? [[name, String(query[name])] as const] : []))
  return openedItems(kind, filter, Object.fromEntries(narrowed))
}
