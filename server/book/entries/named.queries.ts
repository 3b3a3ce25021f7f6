import { change, many, type Client } from '../../base/db/sql.ts'
import type { ReadingId, TicketId } from '../../base/ids.ts'

export interface NamedRow {
  seq: number
  reading_id: ReadingId
  block: number
  slot: number
  /** Nothing stands against it for good. */
  can_come: boolean
  /** It is on the new phone by now, from this ticket or from before. */
  is_over: boolean
}

/** Items of a kind that others name, a page at a time, with whether they come, and whether they came. */
export function manyOfFiles(
  client: Client,
  { ticketId, kind, after, limit }: { ticketId: TicketId; kind: string; after: number; limit: number },
): Promise<NamedRow[]> {
  return many<NamedRow>(
    client,
    `select e.seq, e.reading_id, i.block, i.slot,
            e.fate not in ('cannotCross', 'unreadable', 'gone', 'notChosen') as can_come,
            e.fate in ('carried', 'changed', 'merged', 'alreadyThere', 'editedThere') as is_over
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = $2 and e.seq > $3 and i.state <> 'unreadable'
      order by e.seq
      limit $4`,
    [ticketId, kind, after, limit],
  )
}

/** What is missing of an item at its turn is named with it, as a change that loses something. */
export async function nameMissing(
  client: Client,
  { ticketId, kind }: { ticketId: TicketId; kind: string },
  seq: number,
  code: string,
): Promise<void> {
  await change(
    client,
    `update entry
        set reasons = case when $4 = any(reasons) then reasons else reasons || $4 end, has_change = true, has_loss = true
      where ticket_id = $1 and kind = $2 and seq = $3`,
    [ticketId, kind, seq, code],
  )
}
