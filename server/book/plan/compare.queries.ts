import { change, one, type Client } from '../../base/db/sql.ts'
import type { ReadingId } from '../../base/ids.ts'
import { joinByHash } from '../join-by-hash.queries.ts'
import type { KindScope } from '../settle.ts'

/**
 * Of two places that are compared, what only the new one holds: its records beyond as many equal ones as the old one's
 * items found there, one for one. Of the same phone a record that is called as one of the old side's is that, changed in
 * between; it names that item. They are kept as what came otherwise and what was altered, so that they open like any other
 * count.
 */
export async function noteOnlyThere(
  client: Client,
  { ticketId, kind }: KindScope,
  { firstReading, isSamePhone }: { firstReading: ReadingId; isSamePhone: boolean },
): Promise<void> {
  await joinByHash(client, { ticketId, kind })
  await change(client, 'delete from origin where ticket_id = $1 and kind = $2', [ticketId, kind])
  await change(
    client,
    `with found as (
       select coalesce(e.there, e.expected) as digest, count(*) as n
         from entry e
        where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and e.is_there
        group by 1),
     beyond as (
       select i.seq, i.native, row_number() over (partition by i.native order by i.seq) as place
         from (select seq, native, digest, row_number() over (partition by digest order by seq) as rank from item where reading_id = $3) i
         left join found f on f.digest = i.digest
        where i.rank > coalesce(f.n, 0)),
     open as (
       select e.seq, i.native, row_number() over (partition by i.native order by e.seq) as place
         from entry e
         join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
        where $4 and e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and not e.is_there)
     insert into origin (ticket_id, kind, side, reading_id, item_seq, origin, entry_seq)
     select $1, $2, 'last', $3, b.seq, case when o.seq is null then 'cameOtherwise' else 'altered' end, o.seq
       from beyond b
       left join open o on o.native = b.native and o.place = b.place`,
    [ticketId, kind, firstReading, isSamePhone],
  )
  await change(
    client,
    `update ticket_kind k
        set origins = (select jsonb_build_object('cameOtherwise', count(*) filter (where o.origin = 'cameOtherwise'),
                                                 'altered', count(*) filter (where o.origin = 'altered'))
                         from origin o where o.ticket_id = k.ticket_id and o.kind = k.kind)
      where k.ticket_id = $1 and k.kind = $2`,
    [ticketId, kind],
  )
}

/** Whether the two sides of a look are of one phone: copies of it, or a copy and the phone itself. @param serialHash of the phone on the bench */
export async function areOfOnePhone(client: Client, ticketId: KindScope['ticketId'], serialHash: Buffer | null): Promise<boolean> {
  const { is } = await one<{ is: boolean }>(
    client,
    `select coalesce(bool_or(l.serial_hash = $2 or oc.locker_id = c.locker_id), false) as is
       from ticket_phone p
       join locker_copy c on c.id = p.copy_id
       join locker l on l.id = c.locker_id
       join ticket_phone op on op.ticket_id = p.ticket_id and op.side = 'old'
       left join locker_copy oc on oc.id = op.copy_id
      where p.ticket_id = $1 and p.side = 'new'`,
    [ticketId, serialHash],
  )
  return is
}
