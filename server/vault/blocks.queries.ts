import { once } from 'node:events'
import type pg from 'pg'
import { from as copyFrom } from 'pg-copy-streams'
import { change, many, type Client } from '../base/db/sql.ts'
import type { ReadingId } from '../base/ids.ts'

export function manyBlocks(
  client: Client,
  { readingId, family, nos }: { readingId: ReadingId; family: 'list' | 'body'; nos: readonly number[] },
) {
  return many<{ no: number; sealed: Buffer }>(
    client,
    `select no, sealed
       from block
      where reading_id = $1 and family = $2 and no = any($3::int[])`,
    [readingId, family, [...new Set(nos)]],
  )
}

export async function insertBlocks(
  client: Client,
  { readingId, no, list, body }: { readingId: ReadingId; no: number; list: Buffer; body: Buffer },
): Promise<void> {
  await change(client, `insert into block (reading_id, no, family, sealed) values ($1, $2, 'list', $3), ($1, $2, 'body', $4)`, [
    readingId,
    no,
    list,
    body,
  ])
}

export const itemColumns =
  'reading_id, seq, native, digest, expected, keys, state, reason, changes, has_loss, storage, shape, size_bytes, block, slot, at, slice, parts, raw'

/** Sends finished rows of COPY's text form. */
export async function copyItems(client: pg.PoolClient, rows: readonly string[]): Promise<void> {
  const stream = client.query(copyFrom(`copy item (${itemColumns}) from stdin`))
  const finished = once(stream, 'finish')
  for (let at = 0; at < rows.length; at += 500) {
    if (!stream.write(rows.slice(at, at + 500).join(''))) await Promise.race([once(stream, 'drain'), finished])
  }
  stream.end()
  await finished
}

/** Where items of a reading are sealed. */
export function manyPlaces(client: Client, readingId: ReadingId, seqs: readonly number[]) {
  return many<{ reading_id: ReadingId; seq: number; block: number; slot: number }>(
    client,
    `select reading_id, seq, block, slot from item where reading_id = $1 and seq = any($2::int[])`,
    [readingId, seqs],
  )
}

/** Records of a reading whose files were read, with the keyed hash of each as the phone gave it. */
export function manyRaw(client: Client, readingId: ReadingId) {
  return many<{ native: Buffer; raw: Buffer; block: number; slot: number }>(
    client,
    `select native, raw, block, slot from item where reading_id = $1 and raw is not null`,
    [readingId],
  )
}
