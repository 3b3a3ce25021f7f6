import { z } from 'zod'
import type { entryPage, EntryRow } from '#contracts/http/ledger.ts'
import { entryFilter } from '#contracts/http/ledger.ts'
import { searchBody } from '#contracts/http/ticket.ts'
import { fates } from '#core/ledger/index.ts'
import { many, snapshot, type Client } from '../db/sql.ts'
import { Problem } from '../http/problem.ts'
import { alreadyThere } from '../plan/entries.queries.ts'
import { openLists } from '../seal/blocks.ts'
import { ticketKeys, type TicketKeys } from '../seal/keys.ts'
import type { Services } from '../services.ts'
import { maybeShowing } from '../showing/showing.queries.ts'
import { facets } from './facets.ts'
import { maybeTicket, oneKind, type KindRow } from './tickets.queries.ts'

type Page = z.infer<typeof entryPage>
type Search = z.infer<typeof searchBody>

interface Listed {
  seq: number
  reading_id: number
  block: number
  slot: number
  fate: string
  reasons: string[]
  storage: string
  shape: Record<string, number>
  size_bytes: number
  is_chosen: boolean
  is_late: boolean
  at: Date | null
}

/**
 * The items behind a count, a page at a time. Titles are sent only while showing is allowed; text is searched only
 * then, by opening the sealed lists block by block.
 * @throws Problem `TicketNotFound`, `TicketErased`, `ShowingNotAllowed`, `BadRequest`
 */
export async function readEntries(services: Services, number: string, { search, staffId }: { search: Search; staffId: number }): Promise<Page> {
  const filter = entryFilter.safeParse(search.filter)
  if (!filter.success || (search.facet && !facets[search.facet])) throw new Problem('BadRequest', { fields: ['filter'] })
  return snapshot(services.pool, async (client) => {
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    if (!ticket.key_wrapped) throw new Problem('TicketErased')
    const kind = await oneKind(client, ticket.id, search.kind)
    const isShowing = (await maybeShowing(client, ticket.id, staffId)) !== undefined
    if (search.text && !isShowing) throw new Problem('ShowingNotAllowed')
    const keys = ticketKeys(services.config.masterKey, ticket.key_wrapped)
    const source = sourceOf(filter.data, kind)
    const after = search.after === null ? -1 : Number(search.after)
    if (!Number.isInteger(after)) throw new Problem('BadRequest', { fields: ['after'] })
    const query = { source, search, after }
    const page = search.text ? await searchPage(client, keys, query) : await plainPage(client, query)
    const titles = isShowing ? await titlesOf(client, keys, page.rows) : undefined
    const total = search.text ? page.total : await countAll(client, query)
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
  })
}

interface Source {
  readonly side: 'old' | 'new'
  readonly from: string
  readonly where: string
  readonly order: string
  readonly columns: string
  readonly values: readonly unknown[]
}

/** The rows a count stands for: entries of the old phone, or records of the new phone's first or last count. */
function sourceOf(filter: z.infer<typeof entryFilter>, kind: KindRow): Source {
  const isFate = (fates as readonly string[]).includes(filter)
  if (isFate || ['all', 'read', 'late', 'notOver'].includes(filter)) {
    const which = isFate ? `and e.fate = '${filter}'` : filter === 'notOver' ? `and e.fate in ('refused', 'unreadable', 'gone', 'lost', 'undone')` : filter === 'read' ? 'and not e.is_late' : filter === 'late' ? 'and e.is_late' : ''
    return {
      side: 'old',
      order: 'e.seq',
      from: 'entry e join item i on i.reading_id = e.reading_id and i.seq = e.item_seq',
      where: `e.ticket_id = $1 and e.kind = $2 ${which}`,
      columns: 'e.seq, e.reading_id, i.block, i.slot, i.at, e.fate, e.reasons, i.storage, i.shape, e.size_bytes, e.is_chosen, e.is_late',
      values: [kind.ticket_id, kind.kind],
    }
  }
  const forecast = { willCarry: 'not e.has_change and', willChange: 'e.has_change and', willBeThere: '' }[filter as string]
  if (forecast !== undefined) {
    const isThere = filter === 'willBeThere' ? 'in' : 'not in'
    return {
      side: 'old',
      order: 'e.seq',
      from: 'entry e join item i on i.reading_id = e.reading_id and i.seq = e.item_seq',
      where: `e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and ${forecast} e.seq ${isThere} (${alreadyThere})`,
      columns: 'e.seq, e.reading_id, i.block, i.slot, i.at, e.fate, e.reasons, i.storage, i.shape, e.size_bytes, e.is_chosen, e.is_late',
      // once the first count is frozen, what was there is settled
      values: [kind.ticket_id, kind.kind, kind.frozen_at ? null : kind.first_reading],
    }
  }
  const plain = `i.seq, i.reading_id, i.block, i.slot, i.at, i.storage, i.shape, i.size_bytes, true as is_chosen, false as is_late,
    case when i.reason is null then '{}'::text[] else array[i.reason] end as reasons`
  if (filter === 'first' || filter === 'last') {
    const reading = filter === 'first' ? kind.first_reading : kind.last_reading
    return {
      side: 'new',
      order: 'i.seq',
      from: `item i left join origin o on o.ticket_id = $1 and o.kind = $2 and o.side = '${filter}' and o.item_seq = i.seq`,
      where: 'i.reading_id = $3',
      columns: `${plain}, coalesce(o.origin, '${filter}') as fate`,
      values: [kind.ticket_id, kind.kind, reading],
    }
  }
  return {
    side: 'new',
    order: 'i.seq',
    from: 'origin o join item i on i.reading_id = o.reading_id and i.seq = o.item_seq',
    where: `o.ticket_id = $1 and o.kind = $2 and o.origin = '${filter}'`,
    columns: `${plain}, o.origin as fate`,
    values: [kind.ticket_id, kind.kind],
  }
}

interface Query {
  readonly source: Source
  readonly search: Search
  readonly after: number
}

function conditions({ source, search }: Query): { text: string; values: unknown[] } {
  const values = [...source.values]
  let text = source.where
  if (search.facet) text += ` and ${facets[search.facet]}`
  if (search.storage) {
    values.push(search.storage)
    text += ` and i.storage = $${values.length}`
  }
  // a reason that every item of its fate has is no condition
  if (search.reason && source.side === 'old' && !['lost', 'gone', 'joined-by-phone'].includes(search.reason)) {
    values.push(search.reason)
    text += ` and $${values.length} = any(e.reasons)`
  }
  return { text, values }
}

async function plainPage(client: Client, query: Query): Promise<{ rows: Listed[]; next: number | null; total: number }> {
  const { source, search, after } = query
  const { text, values } = conditions(query)
  const rows = await many<Listed>(
    client,
    `select ${source.columns} from ${source.from}
      where ${text} and ${source.order} > $${values.length + 1}
      order by ${source.order}
      limit ${search.limit}`,
    [...values, after],
  )
  return { rows, next: rows.length === search.limit ? rows.at(-1)!.seq : null, total: 0 }
}

async function countAll(client: Client, query: Query): Promise<number> {
  const { text, values } = conditions(query)
  const [row] = await many<{ n: number }>(client, `select count(*) as n from ${query.source.from} where ${text}`, values)
  return row!.n
}

/** Searches what is sealed: page after page, opening each list block once, until the page is full. */
async function searchPage(client: Client, keys: TicketKeys, query: Query): Promise<{ rows: Listed[]; next: number | null; total: number }> {
  const wanted = query.search.text.toLowerCase().trim()
  const found: Listed[] = []
  let { after } = query
  let total = 0
  for (;;) {
    const page = await plainPage(client, { ...query, after, search: { ...query.search, limit: 1000 } })
    const slots = await slotsOf(client, keys, page.rows)
    page.rows.forEach((row, i) => {
      if (!slots[i]!.search.includes(wanted)) return
      total++
      if (found.length < query.search.limit) found.push(row)
    })
    if (page.next === null) break
    after = page.next
  }
  return { rows: found, next: found.length < total ? found.at(-1)!.seq : null, total }
}

async function titlesOf(client: Client, keys: TicketKeys, rows: readonly Listed[]): Promise<string[]> {
  return (await slotsOf(client, keys, rows)).map((slot) => slot.title)
}

async function slotsOf(client: Client, keys: TicketKeys, rows: readonly Listed[]) {
  const byReading = new Map<number, Awaited<ReturnType<typeof openLists>>>()
  for (const readingId of new Set(rows.map((row) => row.reading_id))) {
    const blocks = rows.filter((row) => row.reading_id === readingId).map((row) => row.block)
    byReading.set(readingId, await openLists(client, keys, readingId, blocks))
  }
  return rows.map((row) => byReading.get(row.reading_id)!.get(row.block)![row.slot]!)
}
