import { change, maybeOne, type Client } from '../../base/db/sql.ts'
import type { KindScope } from '../settle.ts'
import type { ReadingId } from '../../base/ids.ts'

/** Where an item or a record is sealed. */
export interface PlaceRow {
  reading_id: ReadingId
  item_seq: number
  block: number
  slot: number
}

/** Of an item of the old phone, by its entry; of a record of the new one, by its reading. */
export function maybePlace(
  client: Client,
  { ticketId, kind, seq, isOld, readingId }: KindScope & { seq: number; isOld: boolean; readingId: ReadingId | null },
): Promise<PlaceRow | undefined> {
  return isOld
    ? maybeOne<PlaceRow>(
        client,
        `select e.reading_id, e.item_seq, i.block, i.slot
           from entry e
           join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
          where e.ticket_id = $1 and e.kind = $2 and e.seq = $3`,
        [ticketId, kind, seq],
      )
    : maybeOne<PlaceRow>(client, `select reading_id, seq as item_seq, block, slot from item where reading_id = $1 and seq = $2`, [
        readingId,
        seq,
      ])
}

/** A small picture that was made before; empty where none could be. */
export function maybeThumbnail(
  client: Client,
  { reading_id: readingId, item_seq: seq }: PlaceRow,
): Promise<{ sealed: Buffer } | undefined> {
  return maybeOne<{ sealed: Buffer }>(client, 'select sealed from thumbnail where reading_id = $1 and seq = $2', [readingId, seq])
}

export async function insertThumbnail(
  client: Client,
  { readingId, seq, sealed }: { readingId: ReadingId; seq: number; sealed: Buffer },
): Promise<void> {
  await change(client, 'insert into thumbnail (reading_id, seq, sealed) values ($1, $2, $3) on conflict do nothing', [
    readingId,
    seq,
    sealed,
  ])
}
