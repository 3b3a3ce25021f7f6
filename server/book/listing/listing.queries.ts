import { ofTicket } from '../../vault/readings.queries.ts'
import type { z } from 'zod'
import type { entryFilter } from '#contracts/http/ledger.ts'
import type { searchBody } from '#contracts/http/ticket.ts'
import { fates, notOver, origins } from '#core/book/index.ts'
import { many, maybeOne, one, type Client } from '../../base/db/sql.ts'
import { spanOf } from '../entries/entries.queries.ts'
import { facetSql, isTagged } from './facets.ts'
import { partSize } from './tags.queries.ts'
import type { KindRow } from '../../case/tickets.queries.ts'
import type { ReadingId, TicketId } from '../../base/ids.ts'

type Search = z.infer<typeof searchBody> & {
  /** Only what nobody chose to leave. */
  readonly isLeft?: boolean
}
type Filter = z.infer<typeof entryFilter>

export interface Listed {
  seq: number
  reading_id: ReadingId
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

/** The rows a count stands for: entries of the old phone, or records of the new phone's first or last count. */
export interface Source {
  readonly side: 'old' | 'new'
  readonly from: string
  readonly where: string
  readonly order: string
  readonly columns: string
  readonly values: readonly unknown[]
  /** The whole reading its rows are numbered by, or most of them: that of places of shapes and months. */
  readonly readingId: ReadingId | null
  /** Its count where it is kept: a statement with the same values, or a figure. */
  readonly kept: { readonly text: string } | { readonly n: number } | null
}

/** What a filter asks of an entry; the same words hold of the counts kept beside them. */
function entryCondition(filter: Filter): string | undefined {
  if ((fates as readonly string[]).includes(filter)) return `e.fate = '${filter}'`
  const conditions: Partial<Record<Filter, string>> = {
    all: 'true',
    read: 'not e.is_late',
    late: 'e.is_late',
    notOver: `e.fate in (${notOver.map((fate) => `'${fate}'`).join(', ')})`,
    toCome: `e.fate = 'pending' and not e.is_there`,
    willCarry: `e.fate = 'pending' and not e.is_there and not e.has_change and not e.joins`,
    willChange: `e.fate = 'pending' and not e.is_there and e.has_change and not e.joins and not e.by_hand`,
    toInstall: `e.fate = 'pending' and not e.is_there and e.by_hand`,
    willMerge: `e.fate = 'pending' and not e.is_there and e.joins`,
    willBeThere: `e.fate = 'pending' and e.is_there`,
  }
  return conditions[filter]
}

export function sourceOf(filter: Filter, kind: KindRow): Source {
  const condition = entryCondition(filter)
  if (condition !== undefined) {
    const where = `e.ticket_id = $1 and e.kind = $2 and ${condition}`
    return {
      side: 'old',
      order: 'e.seq',
      from: 'entry e join item i on i.reading_id = e.reading_id and i.seq = e.item_seq',
      where,
      columns:
        'e.seq, e.reading_id, i.block, i.slot, i.at, e.fate, shown_reasons(e) as reasons, i.storage, i.shape, e.size_bytes, e.is_chosen, e.is_late',
      values: [kind.ticket_id, kind.kind],
      readingId: kind.old_reading,
      kept: { text: `select coalesce(sum(e.n), 0)::int as n from tally e where ${where}` },
    }
  }
  if (filter === 'differs' || filter === 'onlyHere') {
    const isChanged = `exists (select 1 from origin o where o.ticket_id = $1 and o.kind = $2 and o.origin = 'altered' and o.entry_seq = e.seq)`
    const n = kind.origins.altered ?? 0
    const toCome = `e.ticket_id = $1 and e.kind = $2 and ${entryCondition('toCome')}`
    return {
      ...sourceOf('toCome', kind),
      where: `${toCome} and ${filter === 'differs' ? '' : 'not '}${isChanged}`,
      kept: filter === 'differs' ? { n } : { text: `select coalesce(sum(e.n), 0)::int - ${n} as n from tally e where ${toCome}` },
    }
  }
  const plain = `i.seq, i.reading_id, i.block, i.slot, i.at, i.storage, i.shape, i.size_bytes, true as is_chosen, false as is_late,
    case when i.reason is null then '{}'::text[] else array[i.reason] end as reasons`
  if (filter === 'first' || filter === 'last') {
    return {
      side: 'new',
      order: 'i.seq',
      from: `item i left join origin o on o.ticket_id = $1 and o.kind = $2 and o.side = '${filter}' and o.item_seq = i.seq`,
      // an item's further records are no items of their own
      where: 'i.reading_id = $3 and not coalesce(o.is_part, false)',
      columns: `${plain}, coalesce(o.origin, '${filter}') as fate`,
      values: [kind.ticket_id, kind.kind, filter === 'first' ? kind.first_reading : kind.last_reading],
      readingId: filter === 'first' ? kind.first_reading : kind.last_reading,
      kept: null,
    }
  }
  const origin = originOf(filter)
  return {
    side: 'new',
    order: 'i.seq',
    from: 'origin o join item i on i.reading_id = o.reading_id and i.seq = o.item_seq',
    where: `o.ticket_id = $1 and o.kind = $2 and ${filter === 'parts' ? 'o.is_part' : `o.side = '${origin.side}' and o.origin = '${origin.name}' and not o.is_part`}`,
    columns: `${plain}, o.origin as fate`,
    values: [kind.ticket_id, kind.kind],
    readingId: filter !== 'parts' && origin.side === 'first' ? kind.first_reading : kind.last_reading,
    kept: { n: kind.origins[filter === 'parts' ? 'part' : origin.name] ?? 0 },
  }
}

/** Origins and departures are named alike on the screen; where a fate has the name, a word more tells them apart. */
function originOf(filter: Filter): { side: 'first' | 'last'; name: string } {
  if (filter === 'editedNow') return { side: 'last', name: 'editedThere' }
  if (filter === 'firstPushedOut') return { side: 'first', name: 'pushedOut' }
  return { side: (origins as readonly string[]).includes(filter) ? 'last' : 'first', name: filter }
}

export interface ListQuery {
  readonly source: Source
  readonly search: Search
  readonly after: number
}

/** A reason that every item of its fate has is no condition. */
function isReasonAsked({ source, search }: ListQuery): boolean {
  return (
    search.reason !== '' &&
    source.side === 'old' &&
    !['lost', 'gone', 'editedThere', 'pushedOut', 'joined-by-phone'].includes(search.reason)
  )
}

const leftPrefix = 'left-'
/** Why an item is left that nobody chose to leave: by the storage it is in. */
export const leftReason = (storage: string) => `${leftPrefix}${storage}`

/** Such a reason is a storage by another name: what is asked by it is looked for there. */
export function byStorage<S extends { readonly reason: string; readonly storage: string }>(search: S): S & { readonly isLeft: boolean } {
  const isLeft = search.reason.startsWith(leftPrefix)
  return isLeft ? { ...search, isLeft, reason: '', storage: search.reason.slice(leftPrefix.length) } : { ...search, isLeft }
}

function conditions(query: ListQuery): { text: string; values: unknown[] } {
  const { source, search } = query
  const values = [...source.values]
  const value = (v: unknown) => `$${values.push(v)}`
  let text = source.where
  if (search.facet) text += ` and ${facetSql(search.facet)!}`
  if (search.storage) text += ` and i.storage = ${value(search.storage)}`
  if (search.isLeft && source.side === 'old') text += ' and not e.is_chosen'
  if (search.group) text += ` and i.slice = ${value(search.group)}::bigint`
  if (search.when) {
    const [from, to] = spanOf(search.when)
    text += ` and i.at >= ${value(from)} and i.at < ${value(to)}`
  }
  if (isReasonAsked(query)) text += ` and ${value(search.reason)} = any(shown_reasons(e))`
  return { text, values }
}

export interface ListedPage {
  readonly rows: Listed[]
  readonly next: number | null
  readonly total: number
}

/** A page of what a search without text finds, in the phone's order. */
export async function listedPage(client: Client, query: ListQuery): Promise<ListedPage> {
  return (await taggedPage(client, query)) ?? (await walkedPage(client, query))
}

/** By walking along the list, or along the index of a slice. */
async function walkedPage(client: Client, query: ListQuery): Promise<ListedPage> {
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

/** The tags of a shape or a span that a search asks for; undefined where walking finds them as soon. */
function tagsOf({ facet, when, group }: Search): string[] | undefined {
  // a slice has an index of its own
  if (group) return undefined
  if (when.length > 4) return [when]
  if (isTagged(facet)) return [facet]
  return when ? Array.from({ length: 12 }, (_, i) => `${when}-${String(i + 1).padStart(2, '0')}`) : undefined
}

/** How many places are looked at with one statement. */
const placesAtOnce = 400

/**
 * By the places that are kept with the reading; undefined where none are. Entries that were read anew since are
 * numbered by another reading: few, and looked at besides.
 */
async function taggedPage(client: Client, query: ListQuery): Promise<ListedPage | undefined> {
  const { source, search, after } = query
  const tags = tagsOf(search)
  if (!tags || source.readingId === null) return undefined
  const isKept = await maybeOne<{ is_kept: boolean }>(client, `select figures ? 'tagged' as is_kept from reading where id = $1`, [
    source.readingId,
  ])
  if (!isKept?.is_kept) return undefined
  const { text, values } = conditions(query)
  const rows: Listed[] = []
  const moved = source.side === 'old' ? await movedEntries(client, source, after) : []
  for await (const places of placesOf(client, { readingId: source.readingId, tags, after, moved })) {
    const found = await many<Listed>(
      client,
      `select ${source.columns} from ${source.from} where ${text} and ${source.order} = any($${values.length + 1}::int[])`,
      [...values, places],
    )
    rows.push(...found.sort((a, b) => a.seq - b.seq))
    if (rows.length >= search.limit) break
  }
  const page = rows.slice(0, search.limit)
  return { rows: page, next: page.length === search.limit ? page.at(-1)!.seq : null, total: 0 }
}

/** Entries that were read anew since, and those that came: numbered by other readings than the first, whatever their shape. */
async function movedEntries(client: Client, { values, readingId }: Source, after: number): Promise<number[]> {
  const readings = await many<{ id: number }>(
    client,
    `select id from reading where ${ofTicket} and kind = $2 and place = 'old' and id <> $3`,
    [...values, readingId],
  )
  if (readings.length === 0) return []
  const rows = await many<{ seq: number }>(
    client,
    `select seq from entry where ticket_id = $1 and kind = $2 and reading_id = any($3::bigint[]) and seq > $4`,
    [...values, readings.map(({ id }) => id), after],
  )
  return rows.map(({ seq }) => seq).sort((a, b) => a - b)
}

/** Places in order, some at a time: those of the tags, and among them those that may be anything. */
async function* placesOf(
  client: Client,
  { readingId, tags, after, moved }: { readingId: ReadingId; tags: readonly string[]; after: number; moved: readonly number[] },
): AsyncGenerator<number[]> {
  let left = moved
  let part = Math.max(0, Math.floor(after / partSize))
  for (;;) {
    const parts = await many<{ part: number; seqs: number[] }>(
      client,
      `select part, seqs from item_tag where reading_id = $1 and tag = any($2::text[]) and part >= $3 and part < $3 + 64`,
      [readingId, tags, part],
    )
    const { next } = await one<{ next: number | null }>(
      client,
      `select min(part) as next from item_tag where reading_id = $1 and tag = any($2::text[]) and part >= $3`,
      [readingId, tags, part + 64],
    )
    const end = next === null ? Number.POSITIVE_INFINITY : next * partSize
    const here = new Set([...parts.flatMap((row) => row.seqs), ...left.filter((seq) => seq < end)])
    left = left.filter((seq) => seq >= end)
    const seqs = [...here].filter((seq) => seq > after).sort((x, y) => x - y)
    for (let at = 0; at < seqs.length; at += placesAtOnce) yield seqs.slice(at, at + placesAtOnce)
    if (next === null) return
    part = next
  }
}

/** How many it finds; null where that is not kept and only what is cheap was asked for. */
export async function countListed(client: Client, query: ListQuery, { onlyCheap }: { onlyCheap: boolean }): Promise<number | null> {
  const { source, search } = query
  const { kept } = source
  const isWhole = !search.facet && !search.storage && !search.group && !search.when
  if (kept && isWhole && 'n' in kept) return kept.n
  if (kept && isWhole && 'text' in kept) {
    const { text, values } = isReasonAsked(query)
      ? { text: `${kept.text} and $3 = any(e.reasons)`, values: [...source.values, search.reason] }
      : { text: kept.text, values: [...source.values] }
    return (await one<{ n: number }>(client, text, values)).n
  }
  // a slice is small, and has its index; anything else may be a walk over all
  if (onlyCheap && !search.group && (!isWhole || source.side === 'new') && !(await isSmall(client, query))) return null
  const { text, values } = conditions(query)
  return (await one<{ n: number }>(client, `select count(*) as n from ${source.from} where ${text}`, values)).n
}

async function isSmall(client: Client, { source }: ListQuery): Promise<boolean> {
  const [ticketId, kind] = source.values
  const { n } = await one<{ n: number }>(
    client,
    `select coalesce(max(got), 0) as n from reading where ${ofTicket} and kind = $2 and state = 'whole'`,
    [ticketId, kind],
  )
  return n <= 20_000
}

/** A slice, and where its first item is sealed. */
export interface GroupPlace {
  slice: string
  items: number
  from_at: Date | null
  to_at: Date | null
  reading_id: ReadingId
  block: number
  slot: number
}

/** The slices of a whole reading, the one with the newest item first. */
export function manyGroups(client: Client, { readingId, after, limit }: { readingId: ReadingId; after: number; limit: number }) {
  return many<GroupPlace>(
    client,
    `select g.slice::text as slice, g.items, g.from_at, g.to_at, g.reading_id, i.block, i.slot
       from reading_group g
       join item i on i.reading_id = g.reading_id and i.seq = g.first_seq
      where g.reading_id = $1
      order by g.to_at desc nulls last, g.slice
      limit $3 offset $2`,
    [readingId, after, limit],
  )
}

export async function countGroups(client: Client, readingId: ReadingId): Promise<number> {
  return (await one<{ n: number }>(client, 'select count(*) as n from reading_group where reading_id = $1', [readingId])).n
}

/** How many entries slices have, and how many of them are chosen. */
export function manyChosenOfGroups(
  client: Client,
  { ticketId, kind, slices }: { ticketId: TicketId; kind: string; slices: readonly string[] },
) {
  return many<{ slice: string; items: number; chosen: number }>(
    client,
    `select i.slice::text as slice, count(*) as items, count(*) filter (where e.is_chosen) as chosen
       from item i
       join entry e on e.reading_id = i.reading_id and e.item_seq = i.seq
      where i.slice = any($3::bigint[]) and e.ticket_id = $1 and e.kind = $2
        and i.reading_id in (select k.old_reading from ticket_kind k where k.ticket_id = $1 and k.kind = $2
                             union select k.recount_reading from ticket_kind k where k.ticket_id = $1 and k.kind = $2)
      group by i.slice`,
    [ticketId, kind, slices],
  )
}
