import { many, type Client } from '../../base/db/sql.ts'
import type { ReadingId } from '../../base/ids.ts'

export interface ItemPlace {
  seq: number
  reading_id: ReadingId
  block: number
  slot: number
}

/** The readable items of a reading in the phone's order, from the one after a place on. */
export function manyReadItems(
  client: Client,
  { readingId, after, limit }: { readingId: ReadingId; after: number; limit: number },
): Promise<ItemPlace[]> {
  return many<ItemPlace>(
    client,
    `select seq, reading_id, block, slot from item where reading_id = $1 and seq > $2 and state <> 'unreadable' order by seq limit $3`,
    [readingId, after, limit],
  )
}
