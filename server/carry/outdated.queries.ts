import { many, type Client } from '../db/sql.ts'

export interface OutdatedEntry {
  seq: number
  outdated: Buffer
  outdated_digest: Buffer | null
  written: Buffer
  expected: Buffer
}

/** Items carried again after an edit, whose former record is not cleared yet. */
export function manyOutdated(client: Client, { ticketId, kind }: { ticketId: number; kind: string }): Promise<OutdatedEntry[]> {
  return many<OutdatedEntry>(
    client,
    `select seq, outdated, outdated_digest, written, expected
       from entry
      where ticket_id = $1 and kind = $2 and outdated is not null and written is not null and fate in ('carried', 'changed')
      order by seq`,
    [ticketId, kind],
  )
}

export async function markCleared(
  client: Client,
  { ticketId, kind }: { ticketId: number; kind: string },
  seqs: readonly number[],
): Promise<void> {
  await client.query(
    `update entry set outdated = null, outdated_digest = null where ticket_id = $1 and kind = $2 and seq = any($3::int[])`,
    [ticketId, kind, seqs],
  )
  // taking away is a write: a check made before it no longer holds
  if (seqs.length > 0) await client.query(`update ticket_kind set writes = writes + 1 where ticket_id = $1 and kind = $2`, [ticketId, kind])
}
