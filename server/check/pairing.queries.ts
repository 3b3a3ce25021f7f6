import { many, type Client } from '../db/sql.ts'

export interface PairScope {
  readonly ticketId: number
  readonly kind: string
  readonly firstReading: number
  readonly lastReading: number
}

/** An item the new phone took: its own record is looked for in the last count, whatever an earlier check said. */
const isTaken = `(e.fate in ('carried', 'changed', 'lost') or (e.fate = 'merged' and e.written is not null))`

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
export async function findUnbalanced(client: Client, scope: PairScope): Promise<number> {
  // the hash of both sides fits in memory, or the statement spills
  await client.query(`set local work_mem = '128MB'`)
  await client.query(`set local max_parallel_workers_per_gather = 0`)
  await client.query('create temporary table unbalanced (digest bytea primary key, surplus int not null) on commit drop')
  const { rowCount } = await client.query(`insert into unbalanced ${matchingStatement}`, values(scope))
  await spreadToParts(client, scope)
  return rowCount ?? 0
}

/** An item of several records is found whole or not at all: when one of its contents does not balance, all are looked at. */
async function spreadToParts(client: Client, { ticketId, kind }: PairScope): Promise<void> {
  for (;;) {
    const { rowCount } = await client.query(
      `insert into unbalanced
       select distinct r.digest, 0
         from entry e
        cross join unnest(e.parts || e.expected) as r(digest)
        where e.ticket_id = $1 and e.kind = $2 and cardinality(e.parts) > 0
          and exists (select 1 from unbalanced u where u.digest = e.expected or u.digest = any(e.parts))
           on conflict do nothing`,
      [ticketId, kind],
    )
    if (!rowCount) return
  }
}

/** Writes back what balances: every such record of the last count is kept, or arrived for one item. */
export async function writeBalanced(client: Client, scope: PairScope): Promise<void> {
  await client.query(`delete from origin where ticket_id = $1 and kind = $2`, [scope.ticketId, scope.kind])
  await client.query(
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
  await client.query(
    `update entry e set fate = case when e.has_change then 'changed' else 'carried' end
      where e.ticket_id = $1 and e.kind = $2 and (e.fate = 'lost' or (e.fate = 'merged' and e.written is not null))
        and not exists (select 1 from unbalanced u where u.digest = e.expected)`,
    [scope.ticketId, scope.kind],
  )
}

export interface RecordPlace {
  seq: number
  native: Buffer
  digest: Buffer
  reading_id: number
  block: number
  slot: number
}

export function manyUnbalancedRecords(client: Client, readingId: number): Promise<RecordPlace[]> {
  return many<RecordPlace>(
    client,
    `select i.seq, i.native, i.digest, i.reading_id, i.block, i.slot
       from item i
       join unbalanced u using (digest)
      where i.reading_id = $1
      order by i.seq`,
    [readingId],
  )
}

/** Items of contents that do not balance, and every item a phone joined into another record. */
export function manyUnbalancedEntries(client: Client, { ticketId, kind }: PairScope) {
  return many<RecordPlace & { fate: string; written: Buffer | null; has_change: boolean; parts: Buffer[]; made: Buffer | null }>(
    client,
    `select e.seq, e.native, e.expected as digest, e.reading_id, i.block, i.slot, e.fate, e.written, e.has_change, e.parts, e.made
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = $2
        and ((e.fate = 'merged' and e.written is null)
          or ((${isTaken} or e.fate = 'alreadyThere') and exists (select 1 from unbalanced u where u.digest = e.expected)))
      order by e.seq`,
    [ticketId, kind],
  )
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
     select distinct i.seq, i.native, i.digest, i.reading_id, i.block, i.slot
       from item i cross join unnest(i.keys) as k(key)
       join sought using (key)
      where i.reading_id = $4
        and not exists (select 1 from unbalanced u where u.digest = i.digest)`,
    [ticketId, kind, firstReading, lastReading],
  )
}

export interface OriginRow {
  readonly side: 'first' | 'last'
  readonly readingId: number
  readonly itemSeq: number
  readonly origin: string
  readonly entrySeq: number | null
  readonly isPart: boolean
}

export async function insertOrigins(client: Client, { ticketId, kind }: PairScope, rows: readonly OriginRow[]): Promise<void> {
  await client.query(
    `insert into origin (ticket_id, kind, side, reading_id, item_seq, origin, entry_seq, is_part)
     select $1, $2, o.* from unnest($3::text[], $4::bigint[], $5::int[], $6::text[], $7::int[], $8::boolean[]) as o`,
    [
      ticketId,
      kind,
      rows.map((r) => r.side),
      rows.map((r) => r.readingId),
      rows.map((r) => r.itemSeq),
      rows.map((r) => r.origin),
      rows.map((r) => r.entrySeq),
      rows.map((r) => r.isPart),
    ],
  )
}

/** What an edited item left behind under its former content is one record too many: never a stray that agrees. */
export async function markOutdated(client: Client, { ticketId, kind, lastReading }: PairScope): Promise<void> {
  await client.query(
    `update origin o set origin = 'double'
       from item i
      where o.ticket_id = $1 and o.kind = $2 and o.side = 'last' and o.origin = 'cameOtherwise'
        and i.reading_id = $3 and i.seq = o.item_seq
        and i.native in (select outdated from entry where ticket_id = $1 and kind = $2 and outdated is not null)`,
    [ticketId, kind, lastReading],
  )
}

export async function updateFates(
  client: Client,
  { ticketId, kind }: PairScope,
  fates: readonly { seq: number; fate: string }[],
): Promise<void> {
  await client.query(
    `update entry e set fate = f.fate, sends = case when f.fate = 'pending' then 0 else e.sends end
       from unnest($3::int[], $4::text[]) as f(seq, fate)
      where e.ticket_id = $1 and e.kind = $2 and e.seq = f.seq`,
    [ticketId, kind, fates.map((f) => f.seq), fates.map((f) => f.fate)],
  )
}

/** Counts what was written, so that a look at a ledger need not. */
export async function countOrigins(client: Client, { ticketId, kind }: PairScope): Promise<void> {
  await client.query(
    `update ticket_kind
        set origins = coalesce((
          select jsonb_object_agg(c.origin, c.n)
            from (select case when is_part then 'part' else origin end as origin, count(*) as n from origin where ticket_id = $1 and kind = $2 group by 1) c
        ), '{}')
      where ticket_id = $1 and kind = $2`,
    [ticketId, kind],
  )
}

function values({ ticketId, kind, firstReading, lastReading }: PairScope): unknown[] {
  return [ticketId, kind, firstReading, lastReading]
}
