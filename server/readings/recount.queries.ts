import { kindOf } from '#core/kinds/registry.ts'
import type { Client } from '../db/sql.ts'
import { joinedReason } from '../joining/joining.queries.ts'

export interface Recount {
  readonly ticketId: number
  readonly kind: string
  /** A whole reading of the old phone, taken after the first. */
  readonly readingId: number
  readonly choice: 'all' | 'none' | 'some'
}

export interface RecountFigures {
  readonly late: number
  readonly edited: number
  readonly gone: number
}

/**
 * Compares the old phone as it is now with the entries: what came is late, what was edited waits again with its
 * new content, what went before its turn is gone. Paired by native id, then by equal content under another id.
 */
export async function settleRecount(client: Client, { ticketId, kind, readingId, choice }: Recount): Promise<RecountFigures> {
  await client.query(`
    create temporary table recount_pair (entry_seq int, item_seq int, is_same boolean) on commit drop`)
  await client.query(
    `insert into recount_pair
     select e.seq, i.seq, e.digest = i.digest
       from entry e
       join item i on i.reading_id = $3 and i.native = e.native
      where e.ticket_id = $1 and e.kind = $2`,
    [ticketId, kind, readingId],
  )
  // the phone may have numbered its records anew
  await client.query(
    `insert into recount_pair
     select e.seq, i.seq, true
       from (select seq, digest, row_number() over (partition by digest order by seq) as rank
               from entry
              where ticket_id = $1 and kind = $2 and seq not in (select entry_seq from recount_pair)) e
       join (select seq, digest, row_number() over (partition by digest order by seq) as rank
               from item
              where reading_id = $3 and seq not in (select item_seq from recount_pair)) i using (digest, rank)`,
    [ticketId, kind, readingId],
  )
  const edited = await client.query(
    `update entry e
        set reading_id = i.reading_id, item_seq = i.seq, digest = i.digest, expected = i.expected, size_bytes = i.size_bytes, parts = i.parts, made = null, is_there = false,
            has_change = cardinality(i.changes) > 0, has_loss = i.has_loss, sends = 0,
            -- a record that also holds what the new phone had is not ours to take away
            outdated = case when '${joinedReason}' = any(e.reasons) then null else coalesce(e.written, e.outdated) end, written = null,
            outdated_digest = case when e.written is null then e.outdated_digest else e.expected end,
            reasons = case when i.reason is null then i.changes else array[i.reason] end,
            fate = case i.state when 'unreadable' then 'unreadable' when 'cannot' then 'cannotCross'
                     else case when e.is_chosen then 'pending' else 'notChosen' end end
       from recount_pair p
       join item i on i.reading_id = $3 and i.seq = p.item_seq
      where e.ticket_id = $1 and e.kind = $2 and e.seq = p.entry_seq and not p.is_same`,
    [ticketId, kind, readingId],
  )
  // what was to be joined was another content: nobody has said so of the new one
  await client.query(
    `update joining j set decision = 'keep', state = 'open'
       from recount_pair p
      where j.ticket_id = $1 and j.kind = $2 and j.entry_seq = p.entry_seq and not p.is_same and j.state in ('open', 'sent')`,
    [ticketId, kind],
  )
  // gone, and there again
  await client.query(
    `update entry e set fate = 'pending'
       from recount_pair p
      where e.ticket_id = $1 and e.kind = $2 and e.seq = p.entry_seq and e.fate = 'gone'`,
    [ticketId, kind],
  )
  const gone = await client.query(
    `update entry e set fate = 'gone'
      where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending'
        and not exists (select 1 from recount_pair p where p.entry_seq = e.seq)`,
    [ticketId, kind],
  )
  const late = await client.query(
    `insert into entry (ticket_id, kind, seq, reading_id, item_seq, native, digest, expected, fate, reasons,
                        has_change, has_loss, is_late, is_chosen, size_bytes, parts)
     select $1, $2, (select coalesce(max(seq), -1) from entry where ticket_id = $1 and kind = $2) + row_number() over (order by i.seq),
            i.reading_id, i.seq, i.native, i.digest, i.expected,
            case i.state when 'unreadable' then 'unreadable' when 'cannot' then 'cannotCross'
              else case when $4 = 'none' or i.storage = any($5) then 'notChosen' else 'pending' end end,
            case when i.reason is null then i.changes else array[i.reason] end,
            cardinality(i.changes) > 0, i.has_loss, true, $4 <> 'none' and i.storage <> all($5), i.size_bytes, i.parts
       from item i
      where i.reading_id = $3
        and not exists (select 1 from recount_pair p where p.item_seq = i.seq)`,
    [ticketId, kind, readingId, choice, kindOf(kind).leftByDefault ?? []],
  )
  await client.query('drop table recount_pair')
  return { late: late.rowCount ?? 0, edited: edited.rowCount ?? 0, gone: gone.rowCount ?? 0 }
}
