import { entryFilter, type EntryFilter, type LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { countNotOver, departures, fates, origins } from '#core/book/index.ts'
import { countEntries, readEntries } from '#server/desk/items/entries.ts'
import type { TestShop } from './shop.ts'

/** Every count of a row, by what it opens to. */
function countsOf(row: LedgerRow): Partial<Record<EntryFilter, number>> {
  const { old, fates: ended, new: now } = row
  const isLast = now.last !== null
  return {
    ...Object.fromEntries(fates.map((fate) => [fate, ended[fate]])),
    read: old.read,
    late: old.late,
    all: old.read + old.late,
    notOver: countNotOver(row),
    toInstall: row.toInstall,
    ...(row.toCarry + row.toChange > 0 ? { willCarry: row.toCarry, willChange: row.toChange } : {}),
    ...(now.first === null ? {} : { first: now.first }),
    ...(isLast ? { last: now.last!, parts: now.parts } : {}),
    ...(isLast ? Object.fromEntries(origins.map((origin) => [origin === 'editedThere' ? 'editedNow' : origin, now[origin]])) : {}),
    ...(isLast ? Object.fromEntries(departures.map((one) => [one === 'pushedOut' ? 'firstPushedOut' : one, now[one]])) : {}),
  }
}

const search = (kind: string, filter: EntryFilter, { reason = '', limit = 200 } = {}) => {
  return { kind, filter, facet: '', storage: '', reason, group: '', when: '', text: '', after: null, limit }
}

/** The changes a forecast tells that do not open to as many items, each in a line; none when all do. */
export async function unopenedChanges({ services, actor }: TestShop, { number, forecasts }: TicketView): Promise<string[]> {
  const out: string[] = []
  for (const { kind, changes } of forecasts)
    for (const { code, items } of changes) {
      const { rows } = await readEntries(services, number, { actor, search: search(kind, 'toCome', { reason: code, limit: 500 }) })
      if (rows.length !== items) out.push(`${kind} ${code}: ${items} opens to ${rows.length}`)
    }
  return out
}

/** The counts of a row that do not open to as many items, each in a line; none when all do. The items are listed, not counted. */
export async function unopened({ services, actor }: TestShop, number: string, row: LedgerRow): Promise<string[]> {
  const limit = 200
  const out: string[] = []
  for (const [name, n] of Object.entries(countsOf(row))) {
    const filter = entryFilter.parse(name)
    const blank = search(row.kind, filter, { limit })
    const { rows, total } = await readEntries(services, number, { actor, search: blank })
    const counted = total ?? (await countEntries(services, number, { actor, search: blank }))
    if (counted !== n || rows.length !== Math.min(n, limit))
      out.push(`${row.kind} ${name}: ${n} opens to ${counted}, ${rows.length} listed`)
  }
  return out
}
