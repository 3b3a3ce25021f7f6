import { entryFilter, type EntryFilter, type LedgerRow } from '#contracts/http/ledger.ts'
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

/** The counts of a row that do not open to as many items, each in a line; none when all do. The items are listed, not counted. */
export async function unopened({ services, actor }: TestShop, number: string, row: LedgerRow): Promise<string[]> {
  const limit = 200
  const out: string[] = []
  for (const [name, n] of Object.entries(countsOf(row))) {
    const filter = entryFilter.parse(name)
    const blank = { kind: row.kind, filter, facet: '', storage: '', reason: '', group: '', when: '', text: '', after: null, limit }
    const { rows, total } = await readEntries(services, number, { actor, search: blank })
    const counted = total ?? (await countEntries(services, number, { actor, search: blank }))
    if (counted !== n || rows.length !== Math.min(n, limit))
      out.push(`${row.kind} ${name}: ${n} opens to ${counted}, ${rows.length} listed`)
  }
  return out
}
