import { change, type Client } from '../../base/db/sql.ts'
import { tagsSql } from './facets.ts'
import type { ReadingId } from '../../base/ids.ts'

/** How many places of a reading one row tells of. */
export const partSize = 1000

/** Keeps where the items of each shape and month stand in a whole reading. */
export async function keepPlaces(client: Client, readingId: ReadingId, kind: string): Promise<void> {
  const shapes = tagsSql(kind)
  await change(
    client,
    `insert into item_tag (reading_id, tag, part, seqs)
     select $1, t.tag, i.seq / ${partSize}, array_agg(i.seq)
       from item i
      cross join unnest(${shapes} || case when i.at is null then '{}'::text[] else array[to_char(i.at at time zone 'UTC', 'YYYY-MM')] end) as t(tag)
      where i.reading_id = $1
      group by t.tag, i.seq / ${partSize}`,
    [readingId],
  )
}
