import { many, one, type Client } from '../db/sql.ts'

export interface BatchItem {
  entry_seq: number
  expected: Buffer
}

/** Decides a batch before it is sent: items in order, with the digest each will have. */
export async function insertBatch(
  client: Client,
  { ticketId, kind, runId, epoch, items }: { ticketId: number; kind: string; runId: number; epoch: number; items: readonly BatchItem[] },
): Promise<number> {
  const { id } = await one<{ id: number }>(
    client,
    `insert into batch (ticket_id, kind, run_id, epoch) values ($1, $2, $3, $4) returning id`,
    [ticketId, kind, runId, epoch],
  )
  await client.query(
    `insert into batch_item (batch_id, ord, entry_seq, expected)
     select $1, b.ord, b.seq, b.expected from unnest($2::int[], $3::bytea[]) with ordinality as b(seq, expected, ord)`,
    [id, items.map((item) => item.entry_seq), items.map((item) => item.expected)],
  )
  await client.query(`update entry set sends = sends + 1 where ticket_id = $1 and kind = $2 and seq = any($3::int[])`, [
    ticketId,
    kind,
    items.map((item) => item.entry_seq),
  ])
  await client.query(`update ticket_kind set writes = writes + 1 where ticket_id = $1 and kind = $2`, [ticketId, kind])
  return id
}

/** Batches whose answer never came. */
export function manySentBatches(client: Client, ticketId: number, kind: string): Promise<{ id: number }[]> {
  return many<{ id: number }>(client, `select id from batch where ticket_id = $1 and kind = $2 and state = 'sent' order by id`, [
    ticketId,
    kind,
  ])
}

export function manyBatchItems(client: Client, batchIds: readonly number[]): Promise<BatchItem[]> {
  return many<BatchItem>(client, `select entry_seq, expected from batch_item where batch_id = any($1::bigint[]) order by batch_id, ord`, [
    batchIds,
  ])
}

export async function closeBatches(client: Client, batchIds: readonly number[]): Promise<void> {
  await client.query(`update batch set state = 'settled' where id = any($1::bigint[])`, [batchIds])
}

/** How many records of these digests the new phone held before: of the first count, and written by settled batches. */
export function manyKnownCounts(
  client: Client,
  {
    ticketId,
    kind,
    firstReading,
    digests,
    batchIds,
  }: { ticketId: number; kind: string; firstReading: number; digests: readonly Buffer[]; batchIds: readonly number[] },
) {
  return many<{ digest: Buffer; n: number }>(
    client,
    `select digest, count(*) as n
       from (
         select digest from item where reading_id = $3 and digest = any($4::bytea[])
         union all
         select e.expected as digest
           from entry e
          where e.ticket_id = $1 and e.kind = $2 and e.fate in ('carried', 'changed', 'lost') and e.expected = any($4::bytea[])
            and e.seq not in (select entry_seq from batch_item where batch_id = any($5::bigint[]))
         union all
         select p.digest
           from entry e cross join unnest(e.parts) as p(digest)
          where e.ticket_id = $1 and e.kind = $2 and e.fate in ('carried', 'changed', 'lost') and p.digest = any($4::bytea[])
            and e.seq not in (select entry_seq from batch_item where batch_id = any($5::bigint[]))
       ) known
      group by digest`,
    [ticketId, kind, firstReading, digests, batchIds],
  )
}

/** Native ids that were known before the batch, with the content they had. */
const knownIds = `
  select native, digest, reading_id, seq, null::int as entry_seq from item where reading_id = $3
  union all
  select written, expected, reading_id, item_seq, seq from entry
   where ticket_id = $1 and kind = $2 and written is not null and fate in ('carried', 'changed', 'lost', 'merged')`

/** Records of a fresh listing that matter to a batch: of its digests, under an id not known, or changed. */
export function manyRecordsOfInterest(
  client: Client,
  {
    ticketId,
    kind,
    firstReading,
    probe,
    digests,
  }: { ticketId: number; kind: string; firstReading: number; probe: number; digests: readonly Buffer[] },
) {
  return many<{
    seq: number
    native: Buffer
    digest: Buffer
    block: number
    slot: number
    was: Buffer | null
    was_reading: number | null
    was_seq: number | null
    was_entry: number | null
  }>(
    client,
    `select p.seq, p.native, p.digest, p.block, p.slot, k.digest as was, k.reading_id as was_reading, k.seq as was_seq, k.entry_seq as was_entry
       from item p
       left join (${knownIds}) k on k.native = p.native
      where p.reading_id = $4
        and (p.digest = any($5::bytea[]) or k.native is null or k.digest <> p.digest)`,
    [ticketId, kind, firstReading, probe, digests],
  )
}

/** What this ticket wrote and settled, by the phone's id of it: its files are read again at Check off, not sooner. */
export async function writtenDigests(client: Client, { ticketId, kind }: { ticketId: number; kind: string }): Promise<Map<string, Buffer>> {
  const rows = await many<{ written: Buffer; expected: Buffer }>(
    client,
    `select written, expected from entry where ticket_id = $1 and kind = $2 and written is not null and fate in ('carried', 'changed')`,
    [ticketId, kind],
  )
  return new Map(rows.map((row) => [row.written.toString('hex'), row.expected]))
}
