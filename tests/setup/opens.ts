import { entryFilter, type EntryFilter, type LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { countNotOver, departures, fates, origins } from '#core/book/index.ts'
import { countOf, entriesOf, onOpenTicket, type OpenTicket } from '#server/desk/items/entries.ts'
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

/** One look for all counts of a kind: each is what it was at that moment. */
const inOneLook = ({ services, actor }: TestShop, number: string, kindCode: string, look: (open: OpenTicket) => Promise<string[]>) =>
  onOpenTicket(services, number, { kindCode, actor }, look)

/** The changes a forecast tells that do not open to as many items, each in a line; none when all do. */
export async function unopenedChanges(shop: TestShop, { number, forecasts }: TicketView): Promise<string[]> {
  const out: string[] = []
  for (const { kind, changes } of forecasts)
    out.push(
      ...(await inOneLook(shop, number, kind, async (open) => {
        const closed: string[] = []
        for (const { code, items } of changes) {
          const { rows } = await entriesOf(open, search(kind, 'toCome', { reason: code, limit: 500 }))
          if (rows.length !== items) closed.push(`${kind} ${code}: ${items} opens to ${rows.length}`)
        }
        return closed
      })),
    )
  return out
}

/** The counts of a row that do not open to as many items, each in a line; none when all do. The items are listed, not counted. */
export function unopened(shop: TestShop, number: string, row: LedgerRow): Promise<string[]> {
  const limit = 200
  return inOneLook(shop, number, row.kind, async (open) => {
    const closed: string[] = []
    for (const [name, n] of Object.entries(countsOf(row))) {
      const blank = search(row.kind, entryFilter.parse(name), { limit })
      const { rows, total } = await entriesOf(open, blank)
      const counted = total ?? (await countOf(open, blank))
      if (counted !== n || rows.length !== Math.min(n, limit))
        closed.push(`${row.kind} ${name}: ${n} opens to ${counted}, ${rows.length} listed`)
    }
    return closed
  })
}
