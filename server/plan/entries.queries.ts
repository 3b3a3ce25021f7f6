import { change, many, one, type Client } from '../db/sql.ts'
import type { WhereSealed } from '../readings/contents.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { joinedReason } from '../joining/joining.queries.ts'

/** Keeps what was left behind by choice for the next reading of the same phone: the choice outlives a counting in again. */
export async function keepChoices(client: Client, ticketId: number): Promise<void> {
  await client.query(
    `insert into left_behind (ticket_id, kind, native)
     select ticket_id, kind, native from entry where ticket_id = $1 and not is_chosen
     on conflict do nothing`,
    [ticketId],
  )
}

/** Makes the entries of a kind from its whole first reading of the old phone. */
export async function insertEntries(
  client: Client,
  {
    ticketId,
    kind,
    readingId,
    choice,
    leftByDefault,
  }: { ticketId: number; kind: string; readingId: number; choice: string; leftByDefault: readonly string[] },
) {
  await client.query('delete from entry where ticket_id = $1 and kind = $2', [ticketId, kind])
  await client.query(
    `insert into entry (ticket_id, kind, seq, reading_id, item_seq, native, digest, expected, fate, reasons,
                        has_change, has_loss, is_chosen, size_bytes, parts)
     select $1, $2, i.seq, i.reading_id, i.seq, i.native, i.digest, i.expected,
            case i.state when 'unreadable' then 'unreadable' when 'cannot' then 'cannotCross'
              else case when $4 = 'none' or i.storage = any($5) then 'notChosen' else 'pending' end end,
            case when i.reason is null then i.changes else array[i.reason] end,
            cardinality(i.changes) > 0, i.has_loss, $4 <> 'none' and i.storage <> all($5), i.size_bytes, i.parts
       from item i
      where i.reading_id = $3
      order by i.seq`,
    [ticketId, kind, readingId, choice, leftByDefault],
  )
  if (choice === 'some') {
    await client.query(
      `update entry e set is_chosen = false, fate = 'notChosen'
         from left_behind l
        where e.ticket_id = $1 and e.kind = $2 and l.ticket_id = $1 and l.kind = $2 and l.native = e.native and e.fate = 'pending'`,
      [ticketId, kind],
    )
  }
  await client.query('delete from left_behind where ticket_id = $1 and kind = $2', [ticketId, kind])
  await client.query('select refresh_entry_statistics()')
}

/** Entries that are still open to a choice: not settled, or left behind by an earlier choice. */
const isOpen = `e.fate in ('pending', 'notChosen') and e.sends = 0`

export async function chooseAll(
  client: Client,
  { ticketId, kind, isChosen }: { ticketId: number; kind: string; isChosen: boolean },
): Promise<void> {
  await client.query(
    `update entry e set is_chosen = $3, fate = case when $3 then 'pending' else 'notChosen' end
      where e.ticket_id = $1 and e.kind = $2 and ${isOpen}`,
    [ticketId, kind, isChosen],
  )
}

export function chooseSome(
  client: Client,
  { ticketId, kind, seqs, isChosen }: { ticketId: number; kind: string; seqs: readonly number[]; isChosen: boolean },
): Promise<number> {
  return change(
    client,
    `update entry e set is_chosen = $4, fate = case when $4 then 'pending' else 'notChosen' end
      where e.ticket_id = $1 and e.kind = $2 and e.seq = any($3::int[]) and ${isOpen}`,
    [ticketId, kind, seqs, isChosen],
  )
}

export interface Slice {
  /** A condition on the item, from the table of facets; never a caller's text. */
  readonly facetSql: string | null
  readonly storage: string
  readonly reason: string
  /** A conversation or a calendar, by its keyed hash; empty for any. */
  readonly group: string
  /** `2026`, `2026-11`; empty for any. */
  readonly when: string
  readonly isChosen: boolean
}

/** First instant of a year or a month and the first after it, in UTC; nulls for any time. */
export function spanOf(when: string): readonly [string | null, string | null] {
  if (when === '') return [null, null]
  const [year, month] = when.split('-').map(Number) as [number, number | undefined]
  const at = (y: number, m: number) => new Date(Date.UTC(y, m, 1)).toISOString()
  return month === undefined ? [at(year, 0), at(year + 1, 0)] : [at(year, month - 1), at(year, month)]
}

/** Chooses every open item of a slice, or leaves it behind. */
export function chooseSlice(
  client: Client,
  { ticketId, kind }: { ticketId: number; kind: string },
  { facetSql, storage, reason, group, when, isChosen }: Slice,
): Promise<number> {
  return change(
    client,
    `update entry e set is_chosen = $3, fate = case when $3 then 'pending' else 'notChosen' end
       from item i
      where e.ticket_id = $1 and e.kind = $2 and i.reading_id = e.reading_id and i.seq = e.item_seq and ${isOpen} and e.is_chosen <> $3
        and ($4 = '' or i.storage = $4) and ($5 = '' or $5 = any(e.reasons)) and ($6 = '' or i.slice = nullif($6, '')::bigint)
        and ($7::timestamptz is null or (i.at >= $7 and i.at < $8))
        and ${facetSql ?? 'true'}`,
    [ticketId, kind, isChosen, storage, reason, group, ...spanOf(when)],
  )
}

export interface PlanScope {
  readonly ticketId: number
  readonly kind: string
  /** The first count. */
  readonly firstReading: number
  /** How many the new phone keeps, the newest; undefined when it does not say. */
  readonly capacity: number | undefined
}

/**
 * Works out anew what of the waiting items is there already and what has no room. With k equal items waiting and j
 * equal records of the first count, the smaller number is there. A phone that keeps only its newest pushes the
 * others out: none of its own is pushed out by us, so as many of ours go over as there is room for beside the first
 * count, the newest of them, and the rest can't cross.
 */
export async function fitPlan(client: Client, { ticketId, kind, firstReading, capacity }: PlanScope): Promise<void> {
  await client.query(
    `update entry set fate = 'pending', reasons = array_remove(reasons, 'no-room')
      where ticket_id = $1 and kind = $2 and fate = 'cannotCross' and 'no-room' = any(reasons)`,
    [ticketId, kind],
  )
  await client.query(
    `with there as (
       select e.seq
         from (select seq, expected, parts, row_number() over (partition by expected order by seq) as rank
                 from entry
                where ticket_id = $1 and kind = $2 and fate = 'pending' and sends = 0 and not is_late) e
         join (select digest, count(*) as n from item where reading_id = $3 group by digest) f on f.digest = e.expected
        where e.rank <= f.n
          and not exists (select 1 from unnest(e.parts) as p(digest) where not exists (select 1 from item i where i.reading_id = $3 and i.digest = p.digest))
     ), now as (
       select e.seq, t.seq is not null as is_there from entry e left join there t using (seq) where e.ticket_id = $1 and e.kind = $2
     )
     update entry e set is_there = now.is_there
       from now
      where e.ticket_id = $1 and e.kind = $2 and e.seq = now.seq and e.is_there <> now.is_there`,
    [ticketId, kind, firstReading],
  )
  if (capacity === undefined) return
  await client.query(
    `with room as (
       select greatest(0, $4 - (select got from reading where id = $3)
                - (select count(*) from entry where ticket_id = $1 and kind = $2 and fate in ('carried', 'changed', 'lost'))) as n
     ), ranked as (
       select e.seq, row_number() over (order by i.at desc nulls last, e.seq desc) as rank
         from entry e
         join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
        where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and not e.is_there
     )
     update entry e set fate = 'cannotCross', reasons = array_append(e.reasons, 'no-room')
       from ranked r, room
      where e.ticket_id = $1 and e.kind = $2 and e.seq = r.seq and r.rank > room.n`,
    [ticketId, kind, firstReading, capacity],
  )
}

/** What was found there already is settled; nothing this ticket writes ever becomes it. */
export function settleAlreadyThere(client: Client, { ticketId, kind }: { ticketId: number; kind: string }): Promise<number> {
  return change(
    client,
    `update entry set fate = 'alreadyThere', is_there = false where ticket_id = $1 and kind = $2 and fate = 'pending' and is_there`,
    [ticketId, kind],
  )
}

/** Of a tally's row: joined, or to be joined, into a record of the first count. */
const isJoined = `'${joinedReason}' = any(reasons)`

export function oneForecast(client: Client, { ticketId, kind }: { ticketId: number; kind: string }) {
  return one<
    Record<
      'carried' | 'changed' | 'changed_with_loss' | 'merged' | 'already_there' | 'not_chosen' | 'cannot_cross' | 'unreadable' | 'parts',
      number
    >
  >(
    client,
    `select coalesce(sum(n) filter (where fate = 'pending' and not is_there and not has_change and not ${isJoined}), 0)::int as carried,
            coalesce(sum(n) filter (where fate = 'pending' and not is_there and has_change and not ${isJoined}), 0)::int as changed,
            coalesce(sum(n) filter (where fate = 'pending' and not is_there and has_loss), 0)::int as changed_with_loss,
            coalesce(sum(n) filter (where fate = 'pending' and not is_there and ${isJoined}), 0)::int as merged,
            coalesce(sum(n) filter (where fate = 'alreadyThere' or (fate = 'pending' and is_there)), 0)::int as already_there,
            coalesce(sum(n) filter (where fate = 'notChosen'), 0)::int as not_chosen,
            coalesce(sum(n) filter (where fate = 'cannotCross'), 0)::int as cannot_cross,
            coalesce(sum(n) filter (where fate = 'unreadable'), 0)::int as unreadable,
            coalesce(sum(parts) filter (where fate = 'pending' and not is_there), 0)::int as parts
       from tally
      where ticket_id = $1 and kind = $2`,
    [ticketId, kind],
  )
}

/** How many items meet each change or rule. */
export function manyReasons(client: Client, { ticketId, kind }: { ticketId: number; kind: string }) {
  return many<{ code: string; fate: string; items: number }>(
    client,
    `select r.code, t.fate, sum(t.n)::int as items
       from tally t
      cross join unnest(case when t.fate in ('lost', 'gone') then array[t.fate] when t.fate = 'merged' and not '${joinedReason}' = any(t.reasons) then array['joined-by-phone'] else t.reasons end) as r(code)
      where t.ticket_id = $1 and t.kind = $2
      group by r.code, t.fate
     having sum(t.n) > 0
      order by t.fate = 'lost' desc, t.fate, items desc, r.code`,
    [ticketId, kind],
  )
}

export interface EntryContent {
  seq: number
  reading_id: number
  item_seq: number
  block: number
  slot: number
  expected: Buffer
  has_change: boolean
  sends: number
  /** Digests of the further records the new phone makes of it. */
  parts: Buffer[]
  size_bytes: number
  /** Sealed: what was made at its turn. */
  made: Buffer | null
  /** The record of the new phone that it is written into one with, sealed. */
  joins: Buffer | null
}

/** Changes by which items of a kind are made by hand on the new phone, and never sent. */
export function byHandOf(kind: string): readonly string[] {
  return kindOf(kind).byHand ?? []
}

/** Items made by hand that wait until the new phone reports them. */
export function manyByHand(client: Client, { ticketId, kind }: { ticketId: number; kind: string }) {
  return many<WhereSealed & { seq: number; made: Buffer | null }>(
    client,
    `select e.seq, e.reading_id, i.block, i.slot, e.made
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and e.is_chosen and not e.is_there and e.reasons && $3::text[]
      order by e.seq`,
    [ticketId, kind, byHandOf(kind)],
  )
}

/**
 * What the new phone reports installed since the first count: an item made by hand is changed when a record of its
 * content stands there that no other claims.
 */
export function settleByHand(
  client: Client,
  { ticketId, kind, firstReading, lastReading }: { ticketId: number; kind: string; firstReading: number; lastReading: number },
): Promise<number> {
  return change(
    client,
    `update entry e set fate = 'changed'
       from (
         select seq, expected, row_number() over (partition by expected order by seq) as rank
           from entry
          where ticket_id = $1 and kind = $2 and fate = 'pending' and is_chosen and reasons && $5::text[]) w
       join (
         select digest, count(*) filter (where reading_id = $4) - count(*) filter (where reading_id = $3)
                        - (select count(*) from entry o where o.ticket_id = $1 and o.kind = $2 and o.fate in ('carried', 'changed') and o.expected = item.digest) as n
           from item where reading_id in ($3, $4) group by digest) s on s.digest = w.expected
      where e.ticket_id = $1 and e.kind = $2 and e.seq = w.seq and w.rank <= s.n`,
    [ticketId, kind, firstReading, lastReading, byHandOf(kind)],
  )
}

/** What is still to be installed by hand when the phones are handed back stays the customer's to do. */
export function leaveByHand(client: Client, { ticketId, kind }: { ticketId: number; kind: string }): Promise<number> {
  return change(
    client,
    `update entry set fate = 'notChosen', reasons = array_append(array_remove(reasons, 'to-install-by-hand'), 'to-install-by-hand')
      where ticket_id = $1 and kind = $2 and fate = 'pending' and reasons && $3::text[]`,
    [ticketId, kind, byHandOf(kind)],
  )
}

/** The next items to carry, in order, from the one after a place on. */
export function manyToCarry(
  client: Client,
  { ticketId, kind, after, limit }: { ticketId: number; kind: string; after: number; limit: number },
): Promise<EntryContent[]> {
  return many<EntryContent>(
    client,
    `select e.seq, e.reading_id, e.item_seq, i.block, i.slot, e.expected, e.has_change, e.sends, e.parts, e.size_bytes, e.made, j.before as joins
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       left join joining j on j.ticket_id = e.ticket_id and j.kind = e.kind and j.entry_seq = e.seq and j.state = 'sent'
      where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and e.is_chosen and e.seq > $4 and not (e.reasons && $5::text[])
      order by e.seq
      limit $3`,
    [ticketId, kind, limit, after, byHandOf(kind)],
  )
}

export function manyEntryContents(
  client: Client,
  { ticketId, kind, seqs }: { ticketId: number; kind: string; seqs: readonly number[] },
): Promise<EntryContent[]> {
  return many<EntryContent>(
    client,
    `select e.seq, e.reading_id, e.item_seq, i.block, i.slot, e.expected, e.has_change, e.sends, e.parts, e.size_bytes, e.made, j.before as joins
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       left join joining j on j.ticket_id = e.ticket_id and j.kind = e.kind and j.entry_seq = e.seq and j.state = 'sent'
      where e.ticket_id = $1 and e.kind = $2 and e.seq = any($3::int[])
      order by e.seq`,
    [ticketId, kind, seqs],
  )
}

export function oneCarryTotals(client: Client, { ticketId, kind }: { ticketId: number; kind: string }) {
  return one<{ waiting: number; done: number }>(
    client,
    `select coalesce(sum(n) filter (where fate = 'pending' and is_chosen and not (reasons && $3::text[])), 0)::int as waiting,
            coalesce(sum(n) filter (where is_sent and fate <> 'pending'), 0)::int as done
       from tally
      where ticket_id = $1 and kind = $2`,
    [ticketId, kind, byHandOf(kind)],
  )
}

/** Bytes of a kind's items: waiting, and done. */
export function oneCarryBytes(client: Client, { ticketId, kind }: { ticketId: number; kind: string }) {
  return one<{ waiting: number; done: number }>(
    client,
    `select coalesce(sum(size_bytes) filter (where fate = 'pending' and is_chosen and not is_there), 0)::bigint as waiting,
            coalesce(sum(size_bytes) filter (where fate in ('carried', 'changed', 'lost')), 0)::bigint as done
       from entry
      where ticket_id = $1 and kind = $2 and not (reasons && $3::text[])`,
    [ticketId, kind, byHandOf(kind)],
  )
}

/**
 * What an item became at its turn, when its files were made. When the first count holds exactly that, and nobody else
 * claims it, it is there already.
 */
export async function settleMade(
  client: Client,
  { ticketId, kind, firstReading }: { ticketId: number; kind: string; firstReading: number },
  { seq, expected, parts, made, sizeBytes }: { seq: number; expected: Buffer; parts: readonly Buffer[]; made: Buffer; sizeBytes: number },
): Promise<boolean> {
  const { rows } = await client.query<{ fate: string }>(
    `update entry e
        set expected = $4, parts = $5, made = $6, size_bytes = $7,
            fate = case when sends = 0 and not is_late
                         and (select count(*) from item where reading_id = $8 and digest = $4) > (select count(*) from entry o where o.ticket_id = $1 and o.kind = $2 and o.fate = 'alreadyThere' and o.expected = $4)
                        then 'alreadyThere' else fate end
      where ticket_id = $1 and kind = $2 and seq = $3
      returning fate`,
    [ticketId, kind, seq, expected, parts, made, sizeBytes, firstReading],
  )
  return rows[0]?.fate === 'alreadyThere'
}

export interface Settlement {
  readonly seq: number
  readonly fate: 'carried' | 'changed' | 'merged' | 'refused' | 'pending' | 'unreadable' | 'cannotCross'
  readonly reason: string | null
  readonly written: Buffer | null
}

/** Writes how items of a batch ended. */
export async function settleEntries(
  client: Client,
  { ticketId, kind }: { ticketId: number; kind: string },
  settlements: readonly Settlement[],
): Promise<void> {
  if (settlements.length === 0) return
  await client.query(
    `update entry e
        set fate = s.fate, written = coalesce(s.written, e.written),
            reasons = case when s.reason is null then e.reasons else array_append(array_remove(e.reasons, s.reason), s.reason) end
       from unnest($3::int[], $4::text[], $5::text[], $6::bytea[]) as s(seq, fate, reason, written)
      where e.ticket_id = $1 and e.kind = $2 and e.seq = s.seq`,
    [
      ticketId,
      kind,
      settlements.map((s) => s.seq),
      settlements.map((s) => s.fate),
      settlements.map((s) => s.reason),
      settlements.map((s) => s.written),
    ],
  )
}
