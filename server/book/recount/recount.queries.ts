import { change, type Client } from '../../base/db/sql.ts'
import { insertLate, letGo, marksOf } from '../entries/entries.queries.ts'
import { undoEdited } from '../joining/joining.queries.ts'
import { settle, type KindScope } from '../settle.ts'
import type { ReadingId } from '../../base/ids.ts'
import { joinByHash } from '../join-by-hash.queries.ts'

export interface Recount extends KindScope {
  /** A whole reading of the old phone, taken after the first. */
  readonly readingId: ReadingId
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
  const scope = { ticketId, kind }
  await joinByHash(client, scope)
  await pairEntries(client, scope, readingId)
  await undoEdited(client, scope)
  await passOnTheirs(client, scope)
  const edited = await settle(client, scope, 'edited', {
    from: 'recount_pair p join item i on i.reading_id = $4 and i.seq = p.item_seq',
    where: 'e.seq = p.entry_seq and not p.is_same',
    // what this ticket wrote of its former form stays in the list of what was written
    set: `reading_id = i.reading_id, item_seq = i.seq, digest = i.digest, expected = i.expected, size_bytes = i.size_bytes, parts = i.parts,
            made = null, is_there = false, there = null, stands_in = false, has_change = cardinality(i.changes) > 0, has_loss = i.has_loss,
            sends = 0, written = null, no_room = false, other_there = false,
            joins = exists (select 1 from joining j where j.ticket_id = $1 and j.kind = $2 and j.entry_seq = e.seq and j.again),
            by_hand = i.changes && $5::text[], converts = i.changes && $6::text[],
            reasons = case when i.reason is null then i.changes else array[i.reason] end`,
    values: [readingId, ...marksOf(kind)],
  })
  await letGo(client, scope)
  const ofState = (state: string) => ({
    from: 'recount_pair p join item i on i.reading_id = $4 and i.seq = p.item_seq',
    where: `e.seq = p.entry_seq and not p.is_same and i.state = '${state}'`,
    values: [readingId],
  })
  await settle(client, scope, 'unread', ofState('unreadable'))
  await settle(client, scope, 'cannot', ofState('cannot'))
  await settle(client, scope, 'cameBack', { from: 'recount_pair p', where: `e.seq = p.entry_seq and e.fate = 'gone'` })
  await settle(client, scope, 'left', { where: 'not e.is_chosen' })
  const gone = await vanish(client, scope)
  const late = await insertLate(client, { ticketId, kind, readingId, choice })
  await change(client, 'drop table recount_pair')
  return { late, edited, gone }
}

/**
 * Of equal items some were there already and the others carried; which is which nobody can see. When one that was
 * there is edited, an equal one is there instead, and what was carried for that is the edited one's former record.
 */
async function passOnTheirs(client: Client, scope: KindScope): Promise<void> {
  await change(client, 'create temporary table passed_on (to_seq int, from_seq int, there bytea) on commit drop')
  await change(
    client,
    `insert into passed_on
     with edited as (
       select e.seq, e.digest, e.there, row_number() over (partition by e.digest order by e.seq) as rank
         from recount_pair p
         join entry e on e.ticket_id = $1 and e.kind = $2 and e.seq = p.entry_seq
        where not p.is_same and e.fate = 'alreadyThere'
     ), carried as (
       select e.seq, e.digest, row_number() over (partition by e.digest order by e.seq) as rank
         from entry e
        where e.ticket_id = $1 and e.kind = $2 and e.fate in ('carried', 'changed') and e.written is not null and cardinality(e.parts) = 0
          and e.digest in (select digest from edited)
          and not exists (select 1 from recount_pair p where p.entry_seq = e.seq and not p.is_same)
     )
     select carried.seq as to_seq, edited.seq as from_seq, edited.there from edited join carried using (digest, rank)`,
    [scope.ticketId, scope.kind],
  )
  await settle(client, scope, 'heldByTheirs', {
    from: 'passed_on o',
    where: 'e.seq = o.to_seq',
    set: 'is_there = true, there = o.there, written = null, sends = 0',
  })
  await change(
    client,
    `update written w set entry_seq = s.from_seq, is_current = false
       from passed_on s
      where w.ticket_id = $1 and w.kind = $2 and w.entry_seq = s.to_seq and w.is_current`,
    [scope.ticketId, scope.kind],
  )
  await change(client, 'drop table passed_on')
}

/** What waits once more since the old phone was last read, and was not on it then: it is gone, and not sent from what we keep. */
export async function settleVanished(client: Client, scope: KindScope, readingId: ReadingId): Promise<void> {
  await pairEntries(client, scope, readingId)
  await vanish(client, scope)
  await change(client, 'drop table recount_pair')
}

function vanish(client: Client, scope: KindScope): Promise<number> {
  return settle(client, scope, 'vanished', {
    where: 'not exists (select 1 from recount_pair p where p.entry_seq = e.seq)',
    set: 'is_there = false, there = null',
  })
}

/**
 * Entries and the items they are now: by native id, then by equal content, where the phone numbered its records anew.
 * What came over and is not listed any more is the same under another number where an equal one that waits is: nothing
 * is carried for that a second time.
 */
async function pairEntries(client: Client, { ticketId, kind }: KindScope, readingId: ReadingId): Promise<void> {
  await change(client, 'create temporary table recount_pair (entry_seq int, item_seq int, is_same boolean) on commit drop')
  await change(
    client,
    `insert into recount_pair
     select e.seq, i.seq, e.digest = i.digest
       from entry e
       join item i on i.reading_id = $3 and i.native = e.native
      where e.ticket_id = $1 and e.kind = $2`,
    [ticketId, kind, readingId],
  )
  await change(
    client,
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
  await change(
    client,
    `update recount_pair p set entry_seq = s.over_seq
       from (select o.seq as over_seq, w.seq as waiting_seq
               from (select seq, digest, row_number() over (partition by digest order by seq) as rank
                       from entry e
                      where ticket_id = $1 and kind = $2 and fate in ('carried', 'changed', 'alreadyThere')
                        and not exists (select 1 from recount_pair p where p.entry_seq = e.seq)) o
               join (select e.seq, e.digest, row_number() over (partition by e.digest order by e.seq) as rank
                       from recount_pair p
                       join entry e on e.ticket_id = $1 and e.kind = $2 and e.seq = p.entry_seq
                      where p.is_same and e.fate in ('pending', 'gone')) w using (digest, rank)) s
      where p.entry_seq = s.waiting_seq`,
    [ticketId, kind],
  )
}
