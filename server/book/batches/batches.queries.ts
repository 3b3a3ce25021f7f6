import { change, many, one, type Client } from '../../base/db/sql.ts'
import { joinByHash } from '../join-by-hash.queries.ts'
import type { KindScope } from '../settle.ts'
import type { ReadingId, RunId, TicketId } from '../../base/ids.ts'

export interface BatchItem {
  readonly seq: number
  readonly expected: Buffer
  /** Digests of the further records the phone makes of it. */
  readonly parts: readonly Buffer[]
  readonly reading_id: ReadingId
  readonly item_seq: number
}

export interface NewBatch extends KindScope {
  readonly runId: RunId
  readonly epoch: number
  readonly items: readonly BatchItem[]
}

/** Decides a batch before it is sent: every record it will write is in the list of what this ticket wrote from now on. */
export async function insertBatch(client: Client, { ticketId, kind, runId, epoch, items }: NewBatch): Promise<number> {
  const { id } = await one<{ id: number }>(
    client,
    `insert into batch (ticket_id, kind, run_id, epoch) values ($1, $2, $3, $4) returning id`,
    [ticketId, kind, runId, epoch],
  )
  const rows = items.flatMap(({ seq, expected, parts, reading_id: readingId, item_seq: itemSeq }, ord) =>
    [expected, ...parts].map((digest, part) => ({ seq, ord, part, digest, readingId, itemSeq })),
  )
  await change(
    client,
    `insert into written (ticket_id, kind, batch_id, entry_seq, ord, part, expected, reading_id, item_seq)
     select $1, $2, $3, b.* from unnest($4::int[], $5::int[], $6::smallint[], $7::bytea[], $8::bigint[], $9::int[]) as b`,
    [
      ticketId,
      kind,
      id,
      rows.map((row) => row.seq),
      rows.map((row) => row.ord),
      rows.map((row) => row.part),
      rows.map((row) => row.digest),
      rows.map((row) => row.readingId),
      rows.map((row) => row.itemSeq),
    ],
  )
  await change(client, `update entry set sends = sends + 1 where ticket_id = $1 and kind = $2 and seq = any($3::int[])`, [
    ticketId,
    kind,
    items.map((item) => item.seq),
  ])
  await countWrite(client, { ticketId, kind })
  return id
}

/** Something was written or taken away: a check made before it no longer holds. */
export async function countWrite(client: Client, { ticketId, kind }: KindScope): Promise<void> {
  await change(client, `update ticket_kind set writes = writes + 1 where ticket_id = $1 and kind = $2`, [ticketId, kind])
}

/** Batches whose answer never came. */
export function manySentBatches(client: Client, ticketId: TicketId, kind: string): Promise<{ id: number }[]> {
  return many<{ id: number }>(client, `select id from batch where ticket_id = $1 and kind = $2 and state = 'sent' order by id`, [
    ticketId,
    kind,
  ])
}

/** The items of batches, in order. */
export function manyBatchItems(client: Client, batchIds: readonly number[]) {
  return many<{ entry_seq: number; expected: Buffer }>(
    client,
    `select entry_seq, expected from written where batch_id = any($1::bigint[]) and part = 0 order by batch_id, ord`,
    [batchIds],
  )
}

/** What a batch wrote of one item: the phone's names of its records, in order; or why there is none. */
export interface Outcome {
  readonly seq: number
  readonly natives: readonly Buffer[]
  /** no-trace: nobody knows of a record, and one may still turn up. */
  readonly ended: 'refused' | 'joined' | 'no-trace' | null
}

/** Closes batches with what became of each of their items. A record's id is filled in once. */
export async function closeBatches(client: Client, batchIds: readonly number[], outcomes: readonly Outcome[]): Promise<void> {
  const named = outcomes.flatMap(({ seq, natives }) => natives.map((native, part) => ({ seq, native, part })))
  if (named.length > 0) {
    await change(
      client,
      `update written w set native = n.native
         from unnest($2::int[], $3::smallint[], $4::bytea[]) as n(seq, part, native)
        where w.batch_id = any($1::bigint[]) and w.entry_seq = n.seq and w.part = n.part and w.native is null`,
      [batchIds, named.map((n) => n.seq), named.map((n) => n.part), named.map((n) => n.native)],
    )
  }
  const none = outcomes.filter(({ ended }) => ended !== null)
  if (none.length > 0) {
    await change(
      client,
      `update written w set is_current = false, ended = nullif(n.ended, 'no-trace')
         from unnest($2::int[], $3::text[]) as n(seq, ended)
        where w.batch_id = any($1::bigint[]) and w.entry_seq = n.seq`,
      [batchIds, none.map(({ seq }) => seq), none.map(({ ended }) => ended)],
    )
  }
  await change(client, `update batch set state = 'settled' where id = any($1::bigint[])`, [batchIds])
}

export interface Known extends KindScope {
  readonly firstReading: ReadingId
  readonly digests: readonly Buffer[]
  readonly probe: ReadingId
}

/**
 * How many records of these digests the new phone held before some batches and still holds: of the first count, and
 * what this ticket wrote. A record whose id the fresh listing lacks is gone: its place is nobody's, and what stands
 * there under a new id is what was just written; and one that says something else by now is none of that content. Only where the phone knows none of its ids again has it numbered its
 * records anew, and then what is believed to be there counts.
 */
export function manyKnownCounts(
  client: Client,
  { ticketId, kind, firstReading, digests, probe, batchIds }: Known & { batchIds: readonly number[] },
) {
  return many<{ digest: Buffer; n: number }>(
    client,
    `with ids as (
       select exists (select 1 from item f join item p on p.reading_id = $6 and p.native = f.native where f.reading_id = $3)
           or exists (select 1 from written w join item p on p.reading_id = $6 and p.native = w.native
                       where w.ticket_id = $1 and w.kind = $2) as stand
     )
     select digest, count(*) as n
       from (
         select i.digest
           from item i
           left join item p on p.reading_id = $6 and p.native = i.native
           left join origin o on o.ticket_id = $1 and o.kind = $2 and o.side = 'first' and o.item_seq = i.seq
          where i.reading_id = $3 and i.digest = any($4::bytea[])
            and (p.digest = i.digest
              or (not (select stand from ids) and coalesce(o.origin, '') <> all('{missing,cleared,absorbed,pushedOut}')))
         union all
         select w.expected as digest
           from written w
           join entry e on e.ticket_id = w.ticket_id and e.kind = w.kind and e.seq = w.entry_seq
           left join item p on p.reading_id = $6 and p.native = w.native
          where w.ticket_id = $1 and w.kind = $2 and w.ended is null and w.native is not null and w.expected = any($4::bytea[])
            and (w.batch_id is null or w.batch_id <> all($5::bigint[]))
            and (p.digest = w.expected
              or (not (select stand from ids) and w.is_current and e.fate in ('carried', 'changed')))
       ) known
      group by digest`,
    [ticketId, kind, firstReading, digests, batchIds, probe],
  )
}

/** Native ids that were known before the batch, with the content they had. */
const knownIds = `
  select native, digest, reading_id, seq, null::int as entry_seq from item where reading_id = $3
  union all
  select native, expected, reading_id, item_seq, entry_seq from written
   where ticket_id = $1 and kind = $2 and native is not null and ended is null and part = 0`

/** Records of a fresh listing that matter to a batch: of its digests, under an id not known, or changed. */
export function manyRecordsOfInterest(client: Client, { ticketId, kind, firstReading, probe, digests }: Known) {
  return many<{
    seq: number
    native: Buffer
    digest: Buffer
    block: number
    slot: number
    at: Date | null
    was: Buffer | null
    was_reading: ReadingId | null
    was_seq: number | null
    was_entry: number | null
  }>(
    client,
    `select p.seq, p.native, p.digest, p.block, p.slot, p.at, k.digest as was, k.reading_id as was_reading, k.seq as was_seq, k.entry_seq as was_entry
       from item p
       left join (${knownIds}) k on k.native = p.native
      where p.reading_id = $4
        and (p.digest = any($5::bytea[]) or k.native is null or k.digest <> p.digest)`,
    [ticketId, kind, firstReading, probe, digests],
  )
}

/** What this ticket wrote and settled, by the phone's id of it: its files are read again at Check off, not sooner. */
export async function writtenDigests(client: Client, { ticketId, kind }: KindScope): Promise<Map<string, Buffer>> {
  const rows = await many<{ written: Buffer; expected: Buffer }>(
    client,
    `select written, expected from entry where ticket_id = $1 and kind = $2 and written is not null and fate in ('carried', 'changed')`,
    [ticketId, kind],
  )
  return new Map(rows.map((row) => [row.written.toString('hex'), row.expected]))
}

/** A former record of an item, or one asked to be taken away; or theirs that a joined record stands in for. */
export interface FormerRow {
  /** Null for a record of the new phone's own, which a joined one stands in for. */
  id: number | null
  entry_seq: number
  native: Buffer
  /** Only what says this, unchanged, may be taken away. */
  digest: Buffer
  /** Its item's record now, and what that must say before the former goes; null where it goes on request. */
  now_native: Buffer | null
  now_digest: Buffer | null
}

/**
 * What is to go from the new phone: what was asked to be taken away; what an item that was carried again left behind;
 * and theirs, where a joined record stands in for it. Within a transaction.
 */
export async function manyToClear(client: Client, { ticketId, kind }: KindScope): Promise<FormerRow[]> {
  await joinByHash(client, { ticketId, kind })
  return many<FormerRow>(
    client,
    `select w.id, w.entry_seq, coalesce(w.away_native, w.native) as native, coalesce(w.away_digest, w.expected) as digest,
            case when w.away_native is null then e.written end as now_native, case when w.away_native is null then e.expected end as now_digest
       from written w
       join entry e on e.ticket_id = w.ticket_id and e.kind = w.kind and e.seq = w.entry_seq
      where w.ticket_id = $1 and w.kind = $2 and w.ended is null
        and (w.away_native is not null
          or (not w.is_current and not w.is_double and w.native is not null and e.fate in ('carried', 'changed') and e.written is not null))
     union all
     select null, e.seq, j.native, j.before_digest, e.written, e.expected
       from joining j
       join entry e on e.ticket_id = j.ticket_id and e.kind = j.kind and e.seq = j.entry_seq
      where j.ticket_id = $1 and j.kind = $2 and j.replaces and e.written is not null and e.fate in ('carried', 'changed')
      order by 2`,
    [ticketId, kind],
  )
}

/**
 * Notes which records a listing held: one that is gone later is gone for good. A record that is its item's still was
 * found only where it says what was written: by standing there it may be what the phone made of it.
 * @param equal of those that stand, those that say what they were known to say
 */
export async function noteFound(client: Client, ids: readonly number[], equal: readonly number[]): Promise<void> {
  if (ids.length === 0) return
  await change(
    client,
    `update written set was_found = true
      where id = any($1::bigint[]) and not was_found
        and (not is_current or (id = any($2::bigint[]) and coalesce(away_digest, expected) = expected))`,
    [ids, equal],
  )
}

/** Seen once and gone now: a later record under the same id is nobody's of ours. */
export async function retire(client: Client, ids: readonly number[]): Promise<void> {
  if (ids.length > 0)
    await change(
      client,
      `update written set ended = 'gone', is_current = false where id = any($1::bigint[]) and (was_found or away_digest <> expected)`,
      [ids],
    )
}

/**
 * Items whose record was taken away on request have none any more. Where that record was left behind, the last count
 * found the item in another one, and it stays where it is. @returns the numbers of those that are nowhere now
 */
export async function forgetTaken(client: Client, { ticketId, kind }: KindScope, ids: readonly number[]): Promise<number[]> {
  const rows = await many<{ seq: number; was_left: boolean }>(
    client,
    `with taken as (
       update written set is_current = false where id = any($3::bigint[]) and is_current and part = 0 returning entry_seq, id
     )
     update entry e
        set written = null
       from taken t
      where e.ticket_id = $1 and e.kind = $2 and e.seq = t.entry_seq
     returning e.seq,
       e.fate in ('carried', 'changed') and exists (
         select 1 from origin o
          where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.origin = 'leftBehind' and o.written_id = t.id) as was_left`,
    [ticketId, kind, ids],
  )
  return rows.filter((row) => !row.was_left).map(({ seq }) => seq)
}

/** Theirs is gone, and the joined record stands in for it. */
export async function dropReplaced(client: Client, { ticketId, kind }: KindScope, seqs: readonly number[]): Promise<void> {
  await change(client, 'update joining set replaces = false where ticket_id = $1 and kind = $2 and entry_seq = any($3::int[])', [
    ticketId,
    kind,
    seqs,
  ])
}

/**
 * Asks to take away what is left behind on the new phone: the records as the last count found them. What still says
 * what we wrote goes by one press; what reads otherwise, only when that is wanted. @returns how many were asked for
 */
export function askAway(
  client: Client,
  { ticketId, kind, seqs, withChanged }: KindScope & { seqs: readonly number[] | null; withChanged: boolean },
): Promise<number> {
  return change(
    client,
    `update written w set away_native = i.native, away_digest = i.digest, ended = null
       from origin o
       join item i on i.reading_id = o.reading_id and i.seq = o.item_seq
      where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.origin = 'leftBehind' and o.written_id = w.id
        and (w.ended is null or w.ended = 'gone')
        and ($3::int[] is null or o.item_seq = any($3)) and ($4 or i.digest = w.expected)`,
    [ticketId, kind, seqs, withChanged],
  )
}

/** Asks to take away all this ticket wrote that still says what was written. @returns how many */
export function askAllAway(client: Client, { ticketId, kind }: KindScope): Promise<number> {
  return change(
    client,
    `update written set away_native = native, away_digest = expected
      where ticket_id = $1 and kind = $2 and ended is null and native is not null`,
    [ticketId, kind],
  )
}

/** What was asked and reads otherwise by now stays: the asking is over. */
export async function dropAsked(client: Client, { ticketId, kind }: KindScope): Promise<void> {
  await change(
    client,
    'update written set away_native = null, away_digest = null where ticket_id = $1 and kind = $2 and away_native is not null',
    [ticketId, kind],
  )
}

/** Left-behind records: those that still say what was written, and those that read otherwise. */
export function countLeftBehind(client: Client, ticketId: TicketId) {
  return many<{ kind: string; as_written: number; changed: number }>(
    client,
    `select o.kind, count(*) filter (where i.digest = w.expected)::int as as_written, count(*) filter (where i.digest is distinct from w.expected)::int as changed
       from origin o
       join item i on i.reading_id = o.reading_id and i.seq = o.item_seq
       left join written w on w.id = o.written_id
      where o.ticket_id = $1 and o.side = 'last' and o.origin = 'leftBehind'
      group by o.kind`,
    [ticketId],
  )
}
