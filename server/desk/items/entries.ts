import { z } from 'zod'
import type { entryPage, EntryRow, groupPage, GroupRow } from '#contracts/http/ledger.ts'
import type { groupsBody, searchBody } from '#contracts/http/ticket.ts'
import { searcherFor } from '#core/text/search.ts'
import type { Actor } from '../../base/did.ts'
import { snapshot, type Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import { maybeReading } from '../../vault/readings.queries.ts'
import type { WhereSealed } from '../../vault/contents.ts'
import { openLists } from '../../vault/blocks.ts'
import { type TicketKeys } from '../../vault/keys.ts'
import type { Services } from '../../base/services.ts'
import { maybeShowing } from '../../vault/showing.queries.ts'
import { facetSql } from '../../book/listing/facets.ts'
import {
  byStorage,
  countGroups,
  countListed,
  listedPage,
  manyChosenOfGroups,
  manyGroups,
  sourceOf,
  type GroupPlace,
  type Listed,
  type ListQuery,
} from '../../book/listing/listing.queries.ts'
import { maybeTicket, type KindRow, type TicketRow } from '../../case/tickets.queries.ts'
import { ticketKind } from '../guard.ts'
import { holdingKeys } from '../../vault/holdings.ts'
import type { ReadingId } from '../../base/ids.ts'

type Page = z.infer<typeof entryPage>
type Search = z.infer<typeof searchBody>

/**
 * The items behind a count, a page at a time. Titles are sent only while showing is allowed; text is searched only
 * then, by opening the sealed lists block by block.
 * @throws Problem `TicketNotFound`, `TicketErased`, `ShowingNotAllowed`, `BadRequest`
 */
export function readEntries(services: Services, number: string, { search, actor }: { search: Search; actor: Actor }): Promise<Page> {
  return onOpenTicket(services, number, { kindCode: search.kind, actor }, (open) => entriesOf(open, search))
}

/** {@link readEntries} of a ticket that is open already: for who opens many counts of one moment. @throws as it */
export async function entriesOf({ client, kind, keys, isShowing }: OpenTicket, asked: Search): Promise<Page> {
  const search = byStorage(asked)
  mustBeFacet(search)
  if (search.text && !isShowing) throw new Problem('ShowingNotAllowed')
  const source = sourceOf(search.filter, kind)
  const query = { source, search, after: search.after === null ? -1 : Number(search.after) }
  const page = search.text ? await searchPage(client, keys, query) : await listedPage(client, query)
  const titles = isShowing ? await titlesOf(client, keys, page.rows) : undefined
  const total = search.text ? page.total : await countListed(client, query, { onlyCheap: true })
  return {
    total,
    isShowing,
    next: page.next === null ? null : String(page.next),
    rows: page.rows.map((row, i): EntryRow => ({
      key: `${source.side}-${row.seq}`,
      position: row.seq + 1,
      fate: row.fate,
      reasons: row.reasons,
      storage: row.storage,
      shape: row.shape,
      sizeBytes: row.size_bytes,
      isChosen: row.is_chosen,
      late: row.is_late,
      at: row.at?.toISOString() ?? null,
      title: titles?.[i] ?? null,
    })),
  }
}

/** How many items a search without text finds, where the page did not say. @throws as {@link readEntries} */
export function countEntries(services: Services, number: string, { search, actor }: { search: Search; actor: Actor }): Promise<number> {
  return onOpenTicket(services, number, { kindCode: search.kind, actor }, (open) => countOf(open, search))
}

/** {@link countEntries} of a ticket that is open already. @throws as it */
export async function countOf({ client, kind }: OpenTicket, asked: Search): Promise<number> {
  const search = byStorage(asked)
  mustBeFacet(search)
  return (await countListed(client, { source: sourceOf(search.filter, kind), search, after: -1 }, { onlyCheap: false }))!
}

/** The slices of a kind, or its months, a page at a time; what a slice is called only while showing is allowed. @throws Problem */
export async function readGroups(
  services: Services,
  number: string,
  { wish, actor }: { wish: z.infer<typeof groupsBody>; actor: Actor },
): Promise<z.infer<typeof groupPage>> {
  return onOpenTicket(services, number, { kindCode: wish.kind, actor }, async ({ client, kind, keys, isShowing }) => {
    const readingId = wish.side === 'old' ? (kind.recount_reading ?? kind.old_reading) : (kind.last_reading ?? kind.first_reading)
    if (readingId === null) return { total: 0, rows: [], isShowing }
    if (wish.by !== 'group') {
      const reading = await maybeReading(client, readingId)
      const spans = new Map<string, number>()
      for (const [month, items] of Object.entries(reading?.figures.months ?? {})) {
        const key = wish.by === 'year' ? month.slice(0, 4) : month
        spans.set(key, (spans.get(key) ?? 0) + items)
      }
      const sorted = [...spans].sort(([a], [b]) => b.localeCompare(a))
      return {
        total: sorted.length,
        isShowing,
        rows: sorted
          .slice(wish.after, wish.after + wish.limit)
          .map(([key, items]): GroupRow => ({ key, items, chosen: 0, from: null, to: null, title: null })),
      }
    }
    if (wish.text && !isShowing) throw new Problem('ShowingNotAllowed')
    const { rows, total } = wish.text
      ? await searchGroups(client, keys, { readingId, wish })
      : { rows: await manyGroups(client, { readingId, ...wish }), total: await countGroups(client, readingId) }
    const chosen =
      wish.side === 'old'
        ? await manyChosenOfGroups(client, { ticketId: kind.ticket_id, kind: kind.kind, slices: rows.map((row) => row.slice) })
        : []
    const slots = isShowing ? await slotsOf(client, keys, rows) : undefined
    return {
      total,
      isShowing,
      rows: rows.map((row, i): GroupRow => {
        const mine = chosen.find(({ slice }) => slice === row.slice)
        return {
          key: row.slice,
          items: mine?.items ?? row.items,
          chosen: mine?.chosen ?? 0,
          from: row.from_at?.toISOString() ?? null,
          to: row.to_at?.toISOString() ?? null,
          title: slots?.[i]?.group ?? null,
        }
      }),
    }
  })
}

const groupsAtOnce = 500

/** Slices of what they are called, or of the numbers of those who write in them: looked for in what is sealed. */
async function searchGroups(
  client: Client,
  keys: TicketKeys,
  { readingId, wish }: { readingId: ReadingId; wish: z.infer<typeof groupsBody> },
): Promise<{ rows: GroupPlace[]; total: number }> {
  const isFound = searcherFor(wish.text)
  const found: GroupPlace[] = []
  for (let after = 0; ; after += groupsAtOnce) {
    const rows = await manyGroups(client, { readingId, after, limit: groupsAtOnce })
    const slots = await slotsOf(client, keys, rows)
    found.push(...rows.filter((_, i) => isFound(`${slots[i]!.group ?? ''} ${slots[i]!.title}`)))
    if (rows.length < groupsAtOnce) break
  }
  return { rows: found.slice(wish.after, wish.after + wish.limit), total: found.length }
}

function mustBeFacet({ facet }: Search): void {
  if (facet && !facetSql(facet)) throw new Problem('BadRequest', { fields: ['facet'] })
}

export interface OpenTicket {
  readonly client: Client
  readonly ticket: TicketRow
  readonly kind: KindRow
  readonly keys: TicketKeys
  readonly isShowing: boolean
}

/** One look at a ticket whose content can still be opened. @throws Problem `TicketNotFound`, `TicketErased` */
export function onOpenTicket<T>(
  services: Services,
  number: string,
  { kindCode, actor }: { kindCode: string; actor: Actor },
  work: (open: OpenTicket) => Promise<T>,
): Promise<T> {
  return snapshot(services.pool, async (client) => {
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    if (!ticket.holding) throw new Problem('TicketErased')
    return work({
      client,
      ticket,
      kind: await ticketKind(client, ticket.id, kindCode),
      keys: holdingKeys(services.config, ticket.holding),
      isShowing: (await maybeShowing(client, ticket.id, actor.id)) !== undefined,
    })
  })
}

/** Searches what is sealed: page after page, opening each list block once, until the page is full. */
async function searchPage(
  client: Client,
  keys: TicketKeys,
  query: ListQuery,
): Promise<{ rows: Listed[]; next: number | null; total: number }> {
  const isFound = searcherFor(query.search.text)
  const found: Listed[] = []
  let { after } = query
  let total = 0
  for (;;) {
    const page = await listedPage(client, { ...query, after, search: { ...query.search, limit: 1000 } })
    const slots = await slotsOf(client, keys, page.rows)
    page.rows.forEach((row, i) => {
      if (!isFound(slots[i]!.search)) return
      total++
      if (found.length < query.search.limit) found.push(row)
    })
    if (page.next === null) break
    after = page.next
  }
  return { rows: found, next: found.length < total ? found.at(-1)!.seq : null, total }
}

export async function titlesOf(client: Client, keys: TicketKeys, rows: readonly WhereSealed[]): Promise<string[]> {
  return (await slotsOf(client, keys, rows)).map((slot) => slot.title)
}

async function slotsOf(client: Client, keys: TicketKeys, rows: readonly WhereSealed[]) {
  const byReading = new Map<number, Awaited<ReturnType<typeof openLists>>>()
  for (const readingId of new Set(rows.map((row) => row.reading_id))) {
    const blocks = rows.filter((row) => row.reading_id === readingId).map((row) => row.block)
    byReading.set(readingId, await openLists(client, keys, readingId, blocks))
  }
  return rows.map((row) => byReading.get(row.reading_id)!.get(row.block)![row.slot]!)
}
