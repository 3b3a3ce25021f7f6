import type { Measured } from '../../case/tickets.queries.ts'
import { change, many, one, type Client } from '../../base/db/sql.ts'
import { settle } from '../settle.ts'
import type { ReadingId, TicketId } from '../../base/ids.ts'

interface Scope {
  readonly ticketId: TicketId
  readonly kind: string
}

/** Of what waits: all of it, and what is to be converted. */
const waits = `e.ticket_id = $1 and e.kind = any($2::text[]) and e.fate = 'pending' and e.is_chosen and not e.is_there and not e.by_hand`

/** Bytes and items that wait of some kinds, and what of them is to be converted; from the entries alone, since every look at a ticket asks. */
export function manyMediaPlans(client: Client, ticketId: TicketId, kinds: readonly string[]) {
  return many<{ kind: string; items: number; bytes: number; conversions: number; to_convert: number; bytes_to_convert: number }>(
    client,
    `select e.kind, count(*)::int as items, coalesce(sum(e.size_bytes), 0)::bigint as bytes,
            count(*) filter (where e.converts)::int as conversions,
            count(*) filter (where e.converts and e.made is null)::int as to_convert,
            coalesce(sum(e.size_bytes) filter (where e.converts and e.made is null), 0)::bigint as bytes_to_convert
       from entry e
      where ${waits}
      group by e.kind`,
    [ticketId, kinds],
  )
}

/** What could be carried at all, by the year it was taken; the choice left out of account. */
export function manyYears(client: Client, { ticketId, kinds }: KindsScope) {
  return many<{ year: number; items: number; bytes: number }>(
    client,
    `select extract(year from i.at)::int as year, count(*)::int as items, sum(e.size_bytes)::bigint as bytes
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = any($2::text[]) and e.fate in ('pending', 'notChosen') and not e.is_there and i.at is not null and i.storage <> 'deleted'
      group by 1
      order by 1 desc`,
    [ticketId, kinds],
  )
}

interface KindsScope {
  readonly ticketId: TicketId
  readonly kinds: readonly string[]
}

/** A file of so many bytes is a large one. */
export const largeBytes = 50_000_000
/** What plays so long is long. Seconds. */
export const longSeconds = 600
/** Conditions on an item by which less is carried; never a caller's text. */
const ways = {
  'no-large': `e.size_bytes < ${largeBytes}`,
  'no-long': `coalesce((i.shape->>'seconds')::int, 0) <= ${longSeconds}`,
  favourites: `i.shape ? 'favourite'`,
} as const
export type Way = keyof typeof ways

/** What would be carried of those kinds that way. */
export function oneWay(client: Client, { ticketId, kinds }: KindsScope, way: Way) {
  return one<{ items: number; bytes: number }>(
    client,
    `select count(*)::int as items, coalesce(sum(e.size_bytes), 0)::bigint as bytes
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = any($2::text[]) and e.fate = 'pending' and not e.is_there and ${ways[way]}`,
    [ticketId, kinds],
  )
}

/** Leaves behind what that way leaves behind; since a year, everything before it, and what says no date. */
export async function takeWay(client: Client, scope: Scope, way: Way | { readonly sinceYear: number }): Promise<void> {
  const keeps = typeof way === 'string' ? ways[way] : `coalesce(i.at >= make_timestamptz($4::int, 1, 1, 0, 0, 0, 'UTC'), false)`
  await settle(client, scope, 'left', {
    from: 'item i',
    where: `not e.is_there and i.reading_id = e.reading_id and i.seq = e.item_seq and not (${keeps})`,
    set: 'is_chosen = false',
    values: typeof way === 'string' ? [] : [way.sinceYear],
  })
}

/** Some items whose pictures are to be converted: what growth and time are measured by. */
export function manyToMeasure(client: Client, { ticketId, kind }: Scope) {
  return many<{ reading_id: ReadingId; block: number; slot: number }>(
    client,
    `select e.reading_id, i.block, i.slot
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = $2 and e.converts and e.fate = 'pending'
      order by e.size_bytes desc
      limit 3`,
    [ticketId, kind],
  )
}

export async function setMeasured(client: Client, { ticketId, kind }: Scope, measured: Measured): Promise<void> {
  await change(client, 'update ticket_kind set measured = $3 where ticket_id = $1 and kind = $2', [
    ticketId,
    kind,
    JSON.stringify(measured),
  ])
}

/** How fast the old phone gave the files of each of these readings, where that was long enough to tell. Bytes a second. */
export function manyRates(client: Client, readingIds: readonly ReadingId[]) {
  return many<{ id: number; rate: number }>(
    client,
    'select id, (bytes * 1000.0 / took_ms)::float8 as rate from reading where id = any($1::bigint[]) and took_ms > 200 and bytes > 100000',
    [readingIds],
  )
}

/** Items by month: of the old phone; of those that were to arrive; arrived; and all the new phone holds. What was there already is in neither. */
export function manyMonths(client: Client, { ticketId, kind, lastReading }: Scope & { lastReading: ReadingId | null }) {
  return many<{ month: string; old: number; wanted: number; arrived: number; now: number }>(
    client,
    `with old as (
       select to_char(i.at at time zone 'UTC', 'YYYY-MM') as month, count(*) as old,
              count(*) filter (where e.fate in ('carried', 'changed', 'lost', 'editedThere', 'pushedOut', 'pending') and not e.is_there) as wanted
         from entry e
         join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
        where e.ticket_id = $1 and e.kind = $2 and i.at is not null
        group by 1
     ), now as (
       select to_char(i.at at time zone 'UTC', 'YYYY-MM') as month, count(*) as now,
              count(*) filter (where exists (select 1 from origin o where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.item_seq = i.seq and o.origin = 'arrived' and not o.is_part)) as arrived
         from item i
        where i.reading_id = $3 and i.at is not null
        group by 1
     )
     select month, coalesce(old, 0)::int as old, coalesce(wanted, 0)::int as wanted, coalesce(arrived, 0)::int as arrived, coalesce(now, 0)::int as now
       from old full join now using (month)
      order by month`,
    [ticketId, kind, lastReading],
  )
}
