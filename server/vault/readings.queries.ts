import { change, many, maybeOne, one, type Client } from '../base/db/sql.ts'
import type { HoldingId, ReadingId, TicketId } from '../base/ids.ts'

export interface ReadingRow {
  id: ReadingId
  holding_id: HoldingId
  /** Of the places of its holding, which it was read from: a ticket's old phone or its new one. */
  place: 'old' | 'new'
  kind: string
  purpose: 'first' | 'recount' | 'last' | 'probe'
  state: 'open' | 'whole' | 'torn' | 'superseded'
  phone_revision: string | null
  counted: number | null
  derived: number
  also: Record<string, number>
  got: number
  unreadable: number
  bytes: number
  figures: ReadingFigures
}

export interface ReadingFigures {
  /** How many slices: conversations, calendars. */
  readonly groups?: number
  /** Sums of shapes: attachments, occurrences. */
  readonly sums?: Readonly<Record<string, number>>
  /** Items by month, `2026-11`. */
  readonly months?: Readonly<Record<string, number>>
}

const columns = 'id, holding_id, place, kind, purpose, state, phone_revision, counted, derived, also, got, unreadable, bytes, figures'

/** What was read for the ticket that is the first value. */
export const ofTicket = 'holding_id = (select holding_id from ticket where id = $1)'

export interface NewReading {
  readonly holding: HoldingId
  readonly place: 'old' | 'new'
  readonly kind: string
  readonly purpose: ReadingRow['purpose']
  readonly canonicalVersion: number
}

/** Opens a reading; one of the same purpose that was left open is torn. */
export async function insertReading(client: Client, r: NewReading): Promise<ReadingRow> {
  await change(
    client,
    `update reading set state = 'torn', ended_at = now() where holding_id = $1 and place = $2 and kind = $3 and purpose = $4 and state = 'open'`,
    [r.holding, r.place, r.kind, r.purpose],
  )
  return one<ReadingRow>(
    client,
    `insert into reading (holding_id, place, kind, purpose, canonical_version) values ($1, $2, $3, $4, $5) returning ${columns}`,
    [r.holding, r.place, r.kind, r.purpose, r.canonicalVersion],
  )
}

export async function advanceReading(
  client: Client,
  id: number,
  by: { got: number; unreadable: number; bytes: number; counted: number },
): Promise<void> {
  await change(
    client,
    `update reading set got = got + $2, unreadable = unreadable + $3, bytes = bytes + $4, counted = $5 where id = $1 and state = 'open'`,
    [id, by.got, by.unreadable, by.bytes, by.counted],
  )
}

/** A reading is whole only when the link's end and the phone's own count were met. */
export async function closeReading(
  client: Client,
  id: number,
  how:
    | {
        state: 'whole'
        counted: number
        derived: number
        derivedOf: Record<string, number>
        revision: string
        also: Record<string, number>
        tookMs: number
      }
    | { state: 'torn' },
): Promise<void> {
  if (how.state === 'torn') {
    await change(client, `update reading set state = 'torn', ended_at = now() where id = $1 and state = 'open'`, [id])
    return
  }
  await change(
    client,
    `update reading
        set state = 'whole', counted = $2, derived = $3, phone_revision = $4, also = $5, derived_of = $6, took_ms = $7, ended_at = now()
      where id = $1 and state = 'open'`,
    [id, how.counted, how.derived, how.revision, JSON.stringify(how.also), JSON.stringify(how.derivedOf), how.tookMs],
  )
}

/**
 * Second figures of a whole reading whose places are kept (`keepPlaces`): its slices, each with its time span, the sums of the shapes asked for, and its
 * items by year. Made once, so that a look at them costs nothing.
 */
export async function summarizeReading(client: Client, id: number, sums: readonly string[]): Promise<void> {
  await change(
    client,
    `insert into reading_group (reading_id, slice, items, from_at, to_at, first_seq)
     select reading_id, slice, count(*), min(at), max(at), min(seq)
       from item
      where reading_id = $1 and slice is not null and state <> 'unreadable'
      group by reading_id, slice`,
    [id],
  )
  await change(
    client,
    `update reading
        set figures = jsonb_build_object(
              'groups', (select count(*) from reading_group where reading_id = $1),
              'sums', coalesce((select jsonb_object_agg(name, n) from (
                 select s.name, coalesce(sum((i.shape->>s.name)::bigint), 0) as n
                   from unnest($2::text[]) as s(name) left join item i on i.reading_id = $1 and i.shape ? s.name
                  group by s.name) s), '{}'),
              'months', coalesce((select jsonb_object_agg(month, n) from (
                 select tag as month, sum(cardinality(seqs))::int as n from item_tag where reading_id = $1 and tag ~ '^\\d+-\\d\\d$' group by 1) m), '{}'),
              'tagged', true)
      where id = $1`,
    [id, sums],
  )
}

/** A look that was for finding out once: nothing stands on it. */
export async function supersede(client: Client, id: number): Promise<void> {
  await change(client, `update reading set state = 'superseded' where id = $1`, [id])
}

/** From so many on that came at once, statistics are always made anew: `refresh_statistics`, migration 0038. */
export const fewestLookedOver = 20_000

/** After so many came at once the planner must know; outside of any transaction, since it holds what others wait for. */
export async function refreshItemStatistics(client: Client, came: number): Promise<void> {
  await change(client, `select refresh_statistics('item', $1)`, [came])
}

export function maybeReading(client: Client, id: number | null): Promise<ReadingRow | undefined> {
  return id === null ? Promise.resolve(undefined) : maybeOne<ReadingRow>(client, `select ${columns} from reading where id = $1`, [id])
}

/** How many items each of these readings has. */
export function manyGot(client: Client, ids: readonly number[]) {
  return many<{ id: number; got: number }>(client, 'select id, got from reading where id = any($1::bigint[])', [ids])
}

/** The newest reading of each kind, place and purpose in a holding, whatever its state: what the screen shows while it grows. */
export function manyNewestReadings(client: Client, holding: HoldingId): Promise<ReadingRow[]> {
  return many<ReadingRow>(
    client,
    `select distinct on (kind, place, purpose) ${columns} from reading
      where holding_id = $1 and state in ('open', 'whole')
      order by kind, place, purpose, id desc`,
    [holding],
  )
}

/** Readings nobody points to any more: their rows and sealed blocks go. */
export async function dropUnusedReadings(client: Client, ticketId: TicketId): Promise<void> {
  await change(
    client,
    `delete from reading r
      where r.${ofTicket}
        and r.state <> 'open'
        and not exists (
          select 1 from ticket_kind k
           where k.ticket_id = $1 and r.id in (k.old_reading, k.first_reading, k.recount_reading, k.last_reading)
        )
        and not exists (select 1 from entry e where e.ticket_id = $1 and e.reading_id = r.id)
        and not exists (select 1 from written w where w.ticket_id = $1 and w.reading_id = r.id and not w.is_current and w.ended is null)`,
    [ticketId],
  )
}
