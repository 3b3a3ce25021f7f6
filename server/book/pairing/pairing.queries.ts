import { change, many, one, type Client } from '../../base/db/sql.ts'
import { settle, type KindScope } from '../settle.ts'
import type { ReadingId } from '../../base/ids.ts'
import { joinByHash } from '../join-by-hash.queries.ts'

export interface PairScope extends KindScope {
  readonly firstReading: ReadingId
  readonly lastReading: ReadingId
  /** The last count of the check before, for what its owner changed since; null at the first check. */
  readonly previousReading: ReadingId | null
}

/** An item the new phone took: its own record is looked for in the last count, whatever an earlier check said. */
const isTaken = `(e.fate in ('carried', 'changed', 'lost', 'editedThere', 'pushedOut') or (e.fate = 'merged' and e.written is not null))`
/** A record this ticket wrote that is no item's any more, as far as anybody knows. */
const isFormer = `w.ticket_id = $1 and w.kind = $2 and not w.is_current and w.ended is null`

/**
 * The matching statement: one signed count for each content, +1 for what should be there, −1 for what is. Contents
 * that balance pair one to one; the rest is looked at record by record.
 */
export const matchingStatement = `
  select digest, sum(n)::int as surplus
    from (
      select digest, 1 as n from item where reading_id = $3
      union all
      select e.expected, 1 from entry e where e.ticket_id = $1 and e.kind = $2 and ${isTaken}
      union all
      select p.digest, 1 from entry e cross join unnest(e.parts) as p(digest) where e.ticket_id = $1 and e.kind = $2 and ${isTaken}
      union all
      select digest, -1 from item where reading_id = $4
    ) both_sides
   group by digest
  having sum(n) <> 0`

/** Finds what does not balance; kept for the transaction, for the statements after it. */
export async function findUnbalanced(client: Client, scope: PairScope): Promise<void> {
  // the hash of both sides fits in memory, or the statement spills
  await change(client, `set local work_mem = '128MB'`)
  await change(client, `set local max_parallel_workers_per_gather = 0`)
  await joinByHash(client, scope)
  await change(client, 'create temporary table unbalanced (digest bytea primary key, surplus int not null) on commit drop')
  await change(client, `insert into unbalanced ${matchingStatement}`, values(scope))
  await addFormers(client, scope)
  await addOwn(client, scope)
  await spreadToParts(client, scope)
}

/** What this ticket wrote and no item claims is looked at record by record: its contents, and what stands under its ids. */
async function addFormers(client: Client, { ticketId, kind, lastReading }: PairScope): Promise<void> {
  await change(
    client,
    `insert into unbalanced
     select digest, 0
       from (
         select w.expected as digest from written w where ${isFormer}
         union
         select i.digest from written w join item i on i.reading_id = $3 and i.native = w.native where ${isFormer}
       ) former
         on conflict do nothing`,
    [ticketId, kind, lastReading],
  )
}

/**
 * An item whose own record says something else is looked at, though another record may stand for its content; and one
 * that stands in for a record that was there and is no more, since the two are one.
 */
async function addOwn(client: Client, { ticketId, kind, lastReading }: PairScope): Promise<void> {
  await change(
    client,
    `insert into unbalanced
     select distinct e.expected, 0
       from item i
       join unbalanced u using (digest)
       join entry e on e.ticket_id = $1 and e.kind = $2 and e.written = i.native and e.expected <> i.digest
      where i.reading_id = $3 and ${isTaken}
     union
     select unnest(array[e.expected, coalesce(e.there, e.expected)]), 0 from entry e
      where e.ticket_id = $1 and e.kind = $2 and e.stands_in and ${isTaken}
         on conflict do nothing`,
    [ticketId, kind, lastReading],
  )
}

/** An item of several records is found whole or not at all: when one of its contents does not balance, all are looked at. */
async function spreadToParts(client: Client, { ticketId, kind }: PairScope): Promise<void> {
  for (;;) {
    const added = await change(
      client,
      `insert into unbalanced
       select distinct r.digest, 0
         from entry e
        cross join unnest(e.parts || e.expected) as r(digest)
        where e.ticket_id = $1 and e.kind = $2 and cardinality(e.parts) > 0
          and exists (select 1 from unbalanced u where u.digest = e.expected or u.digest = any(e.parts))
           on conflict do nothing`,
      [ticketId, kind],
    )
    if (added === 0) return
  }
}

/** Writes back what balances: every such record of the last count is kept, or arrived for one item. */
export async function writeBalanced(client: Client, scope: PairScope): Promise<void> {
  await change(client, `delete from origin where ticket_id = $1 and kind = $2`, [scope.ticketId, scope.kind])
  await change(
    client,
    `insert into origin (ticket_id, kind, side, reading_id, item_seq, origin, entry_seq, is_part)
     select $1, $2, 'last', $4, l.seq, case when w.entry_seq is null then 'kept' else 'arrived' end, w.entry_seq, w.is_part
       from (
         select digest, entry_seq, is_part, row_number() over (partition by digest order by entry_seq nulls first) as rank
           from (
             select digest, null::int as entry_seq, false as is_part from item where reading_id = $3
             union all
             select e.expected, e.seq, false from entry e where e.ticket_id = $1 and e.kind = $2 and ${isTaken}
             union all
             select p.digest, e.seq, true from entry e cross join unnest(e.parts) as p(digest) where e.ticket_id = $1 and e.kind = $2 and ${isTaken}
           ) wanted
       ) w
       join (select digest, seq, row_number() over (partition by digest order by seq) as rank from item where reading_id = $4) l
         using (digest, rank)
      where not exists (select 1 from unbalanced u where u.digest = l.digest)`,
    values(scope),
  )
  const isBalanced = 'not exists (select 1 from unbalanced u where u.digest = e.expected)'
  const wasElsewhere = `(e.fate in ('lost', 'editedThere', 'pushedOut') or (e.fate = 'merged' and e.written is not null))`
  await settle(client, scope, 'found', { where: `${wasElsewhere} and not e.has_change and ${isBalanced}` })
  await settle(client, scope, 'foundChanged', { where: `${wasElsewhere} and e.has_change and ${isBalanced}` })
}

export interface RecordPlace {
  seq: number
  native: Buffer
  digest: Buffer
  reading_id: ReadingId
  block: number
  slot: number
  at: Date | null
}

export function manyUnbalancedRecords(client: Client, readingId: ReadingId): Promise<(RecordPlace & { is_unreadable: boolean })[]> {
  return many(
    client,
    `select i.seq, i.native, i.digest, i.reading_id, i.block, i.slot, i.at, i.state = 'unreadable' as is_unreadable
       from item i
       join unbalanced u using (digest)
      where i.reading_id = $1
      order by i.seq`,
    [readingId],
  )
}

export interface UnbalancedEntry extends RecordPlace {
  fate: string
  written: Buffer | null
  has_change: boolean
  parts: Buffer[]
  made: Buffer | null
  /** It is there under the form it has, not under the one it would take. */
  is_own_form: boolean
  was_found: boolean
  /** The content of the first count it stands in for. */
  stands_in_for: Buffer | null
}

/** Items of contents that do not balance, and every item a phone joined into another record. */
export function manyUnbalancedEntries(client: Client, { ticketId, kind, previousReading }: PairScope): Promise<UnbalancedEntry[]> {
  return many<UnbalancedEntry>(
    client,
    `select e.seq, e.native, case when e.fate = 'alreadyThere' then coalesce(e.there, e.expected) else e.expected end as digest,
            e.reading_id, i.block, i.slot, i.at, e.fate, e.written, e.has_change, e.parts, e.made,
            case when e.stands_in then coalesce(e.there, e.expected) end as stands_in_for,
            e.fate = 'alreadyThere' and e.there is not null as is_own_form,
            e.fate = 'editedThere' or p.native is not null or coalesce(w.was_found, false) as was_found
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       left join item p on p.reading_id = $3 and p.native = e.written and p.digest = e.expected
       left join written w on w.ticket_id = $1 and w.kind = $2 and w.entry_seq = e.seq and w.native = e.written and w.part = 0 and w.is_current
      where e.ticket_id = $1 and e.kind = $2
        and ((e.fate = 'merged' and e.written is null)
          or (${isTaken} and exists (select 1 from unbalanced u where u.digest = e.expected))
          or (e.fate = 'alreadyThere' and exists (select 1 from unbalanced u where u.digest = coalesce(e.there, e.expected))))
      order by e.seq`,
    [ticketId, kind, previousReading],
  )
}

/** Items that were taken away again, as far as they share a match key with some: what a phone joined into them went with them. */
export function manyTakenAway(client: Client, { ticketId, kind }: KindScope, seqs: readonly number[]) {
  return many<RecordPlace & { made: Buffer | null }>(
    client,
    `with sought as (
       select distinct k.key
         from entry e
         join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
        cross join unnest(i.keys) as k(key)
        where e.ticket_id = $1 and e.kind = $2 and e.seq = any($3::int[])
     )
     select distinct e.seq, e.native, e.expected as digest, e.reading_id, i.block, i.slot, i.at, e.made
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      cross join unnest(i.keys) as k(key)
       join sought using (key)
      where e.ticket_id = $1 and e.kind = $2 and e.fate = 'undone'`,
    [ticketId, kind, seqs],
  )
}

/** What this ticket wrote and no item claims; of what was seen gone, the content alone still tells. */
export function manyFormers(client: Client, { ticketId, kind }: KindScope) {
  return many<{ id: number; native: Buffer | null; expected: Buffer; is_gone: boolean; is_double: boolean }>(
    client,
    `select w.id, w.native, w.expected, w.ended is not null as is_gone, w.is_double
       from written w
      where w.ticket_id = $1 and w.kind = $2 and not w.is_current and (w.ended is null or w.ended = 'gone')
      order by w.id`,
    [ticketId, kind],
  )
}

/** Records of the first count that an undo put back. */
export async function manyPutBack(client: Client, { ticketId, kind, firstReading }: PairScope): Promise<ReadonlySet<number>> {
  const rows = await many<{ item_seq: number }>(
    client,
    `select item_seq from joining where ticket_id = $1 and kind = $2 and reading_id = $3 and state = 'undone'`,
    [ticketId, kind, firstReading],
  )
  return new Set(rows.map((row) => row.item_seq))
}

/** When the oldest record a reading holds happened, and how many it holds. */
export function oneOldest(client: Client, readingId: ReadingId) {
  return one<{ at: Date | null; n: number }>(client, 'select min(at) as at, count(*) as n from item where reading_id = $1', [readingId])
}

/** Records of the last count that balance and share a match key with what does not: content may stand in them. */
export function manyHosts(client: Client, { ticketId, kind, firstReading, lastReading }: PairScope): Promise<RecordPlace[]> {
  return many<RecordPlace>(
    client,
    `with sought as (
       select distinct k.key
         from item i cross join unnest(i.keys) as k(key)
        where (i.reading_id = $3 and exists (select 1 from unbalanced u where u.digest = i.digest))
           or (i.reading_id, i.seq) in (
             select e.reading_id, e.item_seq from entry e
              where e.ticket_id = $1 and e.kind = $2
                and (e.fate = 'merged' or exists (select 1 from unbalanced u where u.digest = e.expected)))
     )
     select distinct i.seq, i.native, i.digest, i.reading_id, i.block, i.slot, i.at
       from item i cross join unnest(i.keys) as k(key)
       join sought using (key)
      where i.reading_id = $4
        and not exists (select 1 from unbalanced u where u.digest = i.digest)`,
    [ticketId, kind, firstReading, lastReading],
  )
}

export interface OriginRow {
  readonly side: 'first' | 'last'
  readonly readingId: ReadingId
  readonly itemSeq: number
  readonly origin: string
  readonly entrySeq: number | null
  readonly isPart: boolean
  /** Of one left behind: what this ticket wrote. */
  readonly writtenId: number | null
}

export async function insertOrigins(client: Client, { ticketId, kind }: PairScope, rows: readonly OriginRow[]): Promise<void> {
  await change(
    client,
    `insert into origin (ticket_id, kind, side, reading_id, item_seq, origin, entry_seq, is_part, written_id)
     select $1, $2, o.* from unnest($3::text[], $4::bigint[], $5::int[], $6::text[], $7::int[], $8::boolean[], $9::bigint[]) as o`,
    [
      ticketId,
      kind,
      rows.map((r) => r.side),
      rows.map((r) => r.readingId),
      rows.map((r) => r.itemSeq),
      rows.map((r) => r.origin),
      rows.map((r) => r.entrySeq),
      rows.map((r) => r.isPart),
      rows.map((r) => r.writtenId),
    ],
  )
}

/**
 * Notes in the list of what was written what this count saw of it: former records that stand; those seen once and
 * gone now are retired. The record of a lost item is left behind where it stands under its own id.
 */
export async function noteWritten(client: Client, { ticketId, kind, lastReading, previousReading }: PairScope): Promise<void> {
  await change(
    client,
    `update written w set was_found = true
       from item i
      where w.ticket_id = $1 and w.kind = $2 and not w.was_found and w.ended is null and i.native = w.native
        and ((not w.is_current and i.reading_id = $3)
          or (w.is_current and (i.reading_id = $4 and i.digest = w.expected)
              and w.entry_seq in (select seq from entry where ticket_id = $1 and kind = $2 and fate in ('lost', 'editedThere', 'pushedOut'))))`,
    [ticketId, kind, lastReading, previousReading],
  )
  await change(
    client,
    `update written w set ended = 'gone'
      where ${isFormer} and w.was_found and w.native is not null
        and not exists (select 1 from item i where i.reading_id = $3 and i.native = w.native)
        and not exists (select 1 from origin o where o.ticket_id = $1 and o.kind = $2 and o.written_id = w.id)`,
    [ticketId, kind, lastReading],
  )
  await change(
    client,
    `update origin o set written_id = w.id
       from item i
       join written w on w.ticket_id = $1 and w.kind = $2 and w.native = i.native and w.ended is null
      where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.origin = 'leftBehind' and o.written_id is null
        and i.reading_id = $3 and i.seq = o.item_seq`,
    [ticketId, kind, lastReading],
  )
}

/**
 * Second records of items that were found since something was last written are ours as well: the phone stored one
 * twice, or an answer was lost. They are left behind, whatever they say later, until somebody takes them away.
 */
export async function claimDoubles(client: Client, { ticketId, kind, lastReading }: PairScope): Promise<void> {
  await change(
    client,
    `with doubles as (
       select distinct on (o.item_seq) o.item_seq, i.native, i.digest, e.seq, e.reading_id, e.item_seq as entry_item
         from origin o
         join item i on i.reading_id = $3 and i.seq = o.item_seq
         join entry e on e.ticket_id = $1 and e.kind = $2 and e.expected = i.digest
          and e.fate in ('carried', 'changed', 'editedThere') and e.written is not null
         join ticket_kind k on k.ticket_id = $1 and k.kind = $2 and k.checked_writes is distinct from k.writes
        where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.origin = 'double'
     ), claimed as (
       insert into written (ticket_id, kind, entry_seq, expected, reading_id, item_seq, native, is_current, was_found, is_double)
       select $1, $2, seq, digest, reading_id, entry_item, native, false, true, true from doubles
       returning id, native
     )
     update origin o set origin = 'leftBehind', written_id = c.id
       from claimed c
       join doubles d using (native)
      where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.item_seq = d.item_seq`,
    [ticketId, kind, lastReading],
  )
}

/** Counts what was written, so that a look at a ledger need not; and of those that came otherwise, the twins of ours. */
export async function countOrigins(client: Client, { ticketId, kind, lastReading }: PairScope): Promise<void> {
  await change(
    client,
    `with counted as (
       select case when is_part then 'part' else origin end as origin, count(*) as n from origin where ticket_id = $1 and kind = $2 group by 1
     ), strays as (
       select i.seq, k.key
         from origin o
         join item i on i.reading_id = $3 and i.seq = o.item_seq
        cross join unnest(i.keys) as k(key)
        where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.origin = 'cameOtherwise'
     ), twins as (
       select count(distinct s.seq) as n
         from strays s
        where s.key in (
          select k.key
            from origin o
            join item i on i.reading_id = $3 and i.seq = o.item_seq
           cross join unnest(i.keys) as k(key)
           where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.origin in ('arrived', 'addedTo', 'editedThere')
             and exists (select 1 from strays))
     )
     update ticket_kind
        set origins = coalesce((select jsonb_object_agg(origin, n) from (select * from counted union all select 'twin', n from twins where n > 0) c), '{}')
      where ticket_id = $1 and kind = $2`,
    [ticketId, kind, lastReading],
  )
}

export async function dropUnbalanced(client: Client): Promise<void> {
  await change(client, 'drop table unbalanced')
}

function values({ ticketId, kind, firstReading, lastReading }: PairScope): unknown[] {
  return [ticketId, kind, firstReading, lastReading]
}
