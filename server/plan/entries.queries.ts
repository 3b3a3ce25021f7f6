import { change, many, one, type Client } from '../db/sql.ts'

/** Keeps what was left behind by choice for the next reading of the same phone: the choice outlives a counting in again. */
export async function keepChoices(client: Client, ticketId: number): Promise<void> {
  await client.query(
    `insert into left_behind (ticket_id, kind, native)
     select ticket_id, kind, native from entry where ticket_id = $1 and not is_chosen
     on conflict do nothing`,
    [ticketId],
  )
}

/** Makes the entries of a kind from its whole first reading of the old phone. */
export async function insertEntries(
  client: Client,
  { ticketId, kind, readingId, choice, leftByDefault }: { ticketId: number; kind: string; readingId: number; choice: string; leftByDefault: readonly string[] },
) {
  await client.query('delete from entry where ticket_id = $1 and kind = $2', [ticketId, kind])
  await client.query(
    `insert into entry (ticket_id, kind, seq, reading_id, item_seq, native, digest, expected, fate, reasons,
                        has_change, has_loss, is_chosen, size_bytes)
     select $1, $2, i.seq, i.reading_id, i.seq, i.native, i.digest, i.expected,
            case i.state when 'unreadable' then 'unreadable' when 'cannot' then 'cannotCross'
              else case when $4 = 'none' or i.storage = any($5) then 'notChosen' else 'pending' end end,
            case when i.reason is null then i.changes else array[i.reason] end,
            cardinality(i.changes) > 0, i.has_loss, $4 <> 'none' and i.storage <> all($5), i.size_bytes
       from item i
      where i.reading_id = $3
      order by i.seq`,
    [ticketId, kind, readingId, choice, leftByDefault],
  )
  if (choice === 'some') {
    await client.query(
      `update entry e set is_chosen = false, fate = 'notChosen'
         from left_behind l
        where e.ticket_id = $1 and e.kind = $2 and l.ticket_id = $1 and l.kind = $2 and l.native = e.native and e.fate = 'pending'`,
      [ticketId, kind],
    )
  }
  await client.query('delete from left_behind where ticket_id = $1 and kind = $2', [ticketId, kind])
  await client.query('select refresh_entry_statistics()')
}

/** Entries that are still open to a choice: not settled, or left behind by an earlier choice. */
const isOpen = `e.fate in ('pending', 'notChosen') and e.sends = 0`

export async function chooseAll(client: Client, { ticketId, kind, isChosen }: { ticketId: number; kind: string; isChosen: boolean }): Promise<void> {
  await client.query(
    `update entry e set is_chosen = $3, fate = case when $3 then 'pending' else 'notChosen' end
      where e.ticket_id = $1 and e.kind = $2 and ${isOpen}`,
    [ticketId, kind, isChosen],
  )
}

export function chooseSome(client: Client, { ticketId, kind, seqs, isChosen }: { ticketId: number; kind: string; seqs: readonly number[]; isChosen: boolean }): Promise<number> {
  return change(
    client,
    `update entry e set is_chosen = $4, fate = case when $4 then 'pending' else 'notChosen' end
      where e.ticket_id = $1 and e.kind = $2 and e.seq = any($3::int[]) and ${isOpen}`,
    [ticketId, kind, seqs, isChosen],
  )
}

export interface Slice {
  /** A condition on the item, from the table of facets; never a caller's text. */
  readonly facetSql: string | null
  readonly storage: string
  readonly reason: string
  readonly isChosen: boolean
}

/** Chooses every open item of a slice, or leaves it behind. */
export function chooseSlice(client: Client, { ticketId, kind }: { ticketId: number; kind: string }, { facetSql, storage, reason, isChosen }: Slice): Promise<number> {
  return change(
    client,
    `update entry e set is_chosen = $3, fate = case when $3 then 'pending' else 'notChosen' end
       from item i
      where e.ticket_id = $1 and e.kind = $2 and i.reading_id = e.reading_id and i.seq = e.item_seq and ${isOpen}
        and ($4 = '' or i.storage = $4) and ($5 = '' or $5 = any(e.reasons)) and ${facetSql ?? 'true'}`,
    [ticketId, kind, isChosen, storage, reason],
  )
}

/** With k equal items waiting and j equal records of the first count, the smaller number is there already. */
export const alreadyThere = `
  select e.seq
    from (select seq, expected, row_number() over (partition by expected order by seq) as rank
            from entry
           where ticket_id = $1 and kind = $2 and fate = 'pending' and sends = 0 and not is_late) e
    join (select digest, count(*) as n from item where reading_id = $3 group by digest) f on f.digest = e.expected
   where e.rank <= f.n`

export async function settleAlreadyThere(client: Client, { ticketId, kind, firstReading }: { ticketId: number; kind: string; firstReading: number }): Promise<number> {
  return change(
    client,
    `update entry set fate = 'alreadyThere' where ticket_id = $1 and kind = $2 and seq in (${alreadyThere})`,
    [ticketId, kind, firstReading],
  )
}

export function oneForecast(client: Client, { ticketId, kind, firstReading }: { ticketId: number; kind: string; firstReading: number | null }) {
  return one<Record<'carried' | 'changed' | 'changed_with_loss' | 'already_there' | 'not_chosen' | 'cannot_cross' | 'unreadable', number>>(
    client,
    `with there as (${alreadyThere}),
          e as (select e.*, t.seq is not null as is_there from entry e left join there t using (seq) where e.ticket_id = $1 and e.kind = $2)
     select count(*) filter (where fate = 'pending' and not is_there and not has_change) as carried,
            count(*) filter (where fate = 'pending' and not is_there and has_change) as changed,
            count(*) filter (where fate = 'pending' and not is_there and has_loss) as changed_with_loss,
            count(*) filter (where fate = 'alreadyThere' or is_there) as already_there,
            count(*) filter (where fate = 'notChosen') as not_chosen,
            count(*) filter (where fate = 'cannotCross') as cannot_cross,
            count(*) filter (where fate = 'unreadable') as unreadable
       from e`,
    [ticketId, kind, firstReading],
  )
}

/** How many chosen items meet each change or rule. */
export function manyReasons(client: Client, { ticketId, kind }: { ticketId: number; kind: string }) {
  return many<{ code: string; fate: string; items: number }>(
    client,
    `select r.code, e.fate, count(*) as items
       from entry e
      cross join unnest(case when e.fate in ('lost', 'gone') then array[e.fate] when e.fate = 'merged' then array['joined-by-phone'] else e.reasons end) as r(code)
      where e.ticket_id = $1 and e.kind = $2
      group by r.code, e.fate
      order by e.fate = 'lost' desc, e.fate, items desc, r.code`,
    [ticketId, kind],
  )
}

export interface EntryContent {
  seq: number
  reading_id: number
  item_seq: number
  block: number
  slot: number
  expected: Buffer
  has_change: boolean
  sends: number
}

/** The next items to carry, in order. */
export function manyToCarry(client: Client, { ticketId, kind, limit }: { ticketId: number; kind: string; limit: number }): Promise<EntryContent[]> {
  return many<EntryContent>(
    client,
    `select e.seq, e.reading_id, e.item_seq, i.block, i.slot, e.expected, e.has_change, e.sends
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and e.is_chosen
      order by e.seq
      limit $3`,
    [ticketId, kind, limit],
  )
}

export function manyEntryContents(client: Client, { ticketId, kind, seqs }: { ticketId: number; kind: string; seqs: readonly number[] }): Promise<EntryContent[]> {
  return many<EntryContent>(
    client,
    `select e.seq, e.reading_id, e.item_seq, i.block, i.slot, e.expected, e.has_change, e.sends
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = $2 and e.seq = any($3::int[])
      order by e.seq`,
    [ticketId, kind, seqs],
  )
}

export function oneCarryTotals(client: Client, { ticketId, kind }: { ticketId: number; kind: string }) {
  return one<{ waiting: number; done: number }>(
    client,
    `select count(*) filter (where fate = 'pending' and is_chosen) as waiting,
            count(*) filter (where sends > 0 and fate <> 'pending') as done
       from entry
      where ticket_id = $1 and kind = $2`,
    [ticketId, kind],
  )
}

export interface Settlement {
  readonly seq: number
  readonly fate: 'carried' | 'changed' | 'merged' | 'refused' | 'pending'
  readonly reason: string | null
  readonly written: Buffer | null
}

/** Writes how items of a batch ended. */
export async function settleEntries(client: Client, { ticketId, kind }: { ticketId: number; kind: string }, settlements: readonly Settlement[]): Promise<void> {
  if (settlements.length === 0) return
  await client.query(
    `update entry e
        set fate = s.fate, written = coalesce(s.written, e.written),
            reasons = case when s.reason is null then e.reasons else array_append(array_remove(e.reasons, s.reason), s.reason) end
       from unnest($3::int[], $4::text[], $5::text[], $6::bytea[]) as s(seq, fate, reason, written)
      where e.ticket_id = $1 and e.kind = $2 and e.seq = s.seq`,
    [
      ticketId,
      kind,
      settlements.map((s) => s.seq),
      settlements.map((s) => s.fate),
      settlements.map((s) => s.reason),
      settlements.map((s) => s.written),
    ],
  )
}
