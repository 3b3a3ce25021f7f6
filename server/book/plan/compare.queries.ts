import { change, type Client } from '../../base/db/sql.ts'
import type { ReadingId } from '../../base/ids.ts'
import type { KindScope } from '../settle.ts'

/**
 * Of two places that are compared, what only the new one holds: its records beyond as many equal ones as the old one's
 * items found there, one for one. They are kept as what came otherwise, so that they open like any other count.
 */
export async function noteOnlyThere(client: Client, { ticketId, kind }: KindScope, firstReading: ReadingId): Promise<void> {
  await change(client, 'delete from origin where ticket_id = $1 and kind = $2', [ticketId, kind])
  const n = await change(
    client,
    `with found as (
       select coalesce(e.there, e.expected) as digest, count(*) as n
         from entry e
        where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and e.is_there
        group by 1)
     insert into origin (ticket_id, kind, side, reading_id, item_seq, origin)
     select $1, $2, 'last', $3, i.seq, 'cameOtherwise'
       from (select seq, digest, row_number() over (partition by digest order by seq) as rank from item where reading_id = $3) i
       left join found f on f.digest = i.digest
      where i.rank > coalesce(f.n, 0)`,
    [ticketId, kind, firstReading],
  )
  await change(client, `update ticket_kind set origins = jsonb_build_object('cameOtherwise', $3::int) where ticket_id = $1 and kind = $2`, [
    ticketId,
    kind,
    n,
  ])
}
