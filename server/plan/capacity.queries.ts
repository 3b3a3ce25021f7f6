import type { Client } from '../db/sql.ts'
import { alreadyThere } from './entries.queries.ts'

export interface CapacityScope {
  readonly ticketId: number
  readonly kind: string
  /** The first count; null once it is frozen and what is there already is settled. */
  readonly firstReading: number
  /** How many the new phone keeps, the newest. */
  readonly capacity: number
}

/**
 * A phone that keeps only the newest so many pushes the others out. None of its own is pushed out by us: as many of
 * ours go over as there is room for beside the first count, the newest of them, and the rest can't cross.
 */
export async function fitToCapacity(client: Client, { ticketId, kind, firstReading, capacity }: CapacityScope): Promise<void> {
  await client.query(
    `update entry set fate = 'pending', reasons = array_remove(reasons, 'no-room')
      where ticket_id = $1 and kind = $2 and fate = 'cannotCross' and 'no-room' = any(reasons)`,
    [ticketId, kind],
  )
  await client.query(
    `with room as (
       select greatest(0, $4 - (select got from reading where id = $3)
                - (select count(*) from entry where ticket_id = $1 and kind = $2 and fate in ('carried', 'changed', 'lost'))) as n
     ), ranked as (
       select e.seq, row_number() over (order by i.at desc nulls last, e.seq desc) as rank
         from entry e
         join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
        where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and e.seq not in (${alreadyThere})
     )
     update entry e set fate = 'cannotCross', reasons = array_append(e.reasons, 'no-room')
       from ranked r, room
      where e.ticket_id = $1 and e.kind = $2 and e.seq = r.seq and r.rank > room.n`,
    [ticketId, kind, firstReading, capacity],
  )
}
