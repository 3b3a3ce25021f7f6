import { change, many, type Client } from '../../base/db/sql.ts'
import type { WhereSealed } from '../../vault/contents.ts'
import { settle, type KindScope } from '../settle.ts'
import type { ReadingId, TicketId } from '../../base/ids.ts'

export interface EntryContent {
  seq: number
  reading_id: ReadingId
  item_seq: number
  block: number
  slot: number
  expected: Buffer
  has_change: boolean
  sends: number
  /** Digests of the further records the new phone makes of it. */
  parts: Buffer[]
  size_bytes: number
  at: Date | null
  /** Sealed: what was made at its turn. */
  made: Buffer | null
  /** The record of the new phone that it is written into one with, sealed. */
  joins: Buffer | null
  storage: string
}

const contents = `select e.seq, e.reading_id, e.item_seq, i.block, i.slot, e.expected, e.has_change, e.sends, e.parts, e.size_bytes, i.at, i.storage, e.made, j.before as joins
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       left join joining j on j.ticket_id = e.ticket_id and j.kind = e.kind and j.entry_seq = e.seq and j.state = 'sent'`

/** The next items to carry, in order, from the one after a place on. */
export function manyToCarry(
  client: Client,
  { ticketId, kind, after, limit }: KindScope & { after: number; limit: number },
): Promise<EntryContent[]> {
  return many<EntryContent>(
    client,
    `${contents}
      where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and e.is_chosen and not e.is_there and e.seq > $4 and not e.by_hand
      order by e.seq
      limit $3`,
    [ticketId, kind, limit, after],
  )
}

/** Items that could not be read though the old phone gave something of them, in order, from the one after a place on. */
export function manyUnread(
  client: Client,
  { ticketId, kind, after, limit }: KindScope & { after: number; limit: number },
): Promise<EntryContent[]> {
  return many<EntryContent>(
    client,
    `${contents}
      where e.ticket_id = $1 and e.kind = $2 and e.fate = 'unreadable' and e.is_chosen and e.seq > $4 and i.size_bytes > 0
      order by e.seq
      limit $3`,
    [ticketId, kind, limit, after],
  )
}

export function manyEntryContents(
  client: Client,
  { ticketId, kind, seqs }: KindScope & { seqs: readonly number[] },
): Promise<EntryContent[]> {
  return many<EntryContent>(
    client,
    `${contents}
      where e.ticket_id = $1 and e.kind = $2 and e.seq = any($3::int[])
      order by e.seq`,
    [ticketId, kind, seqs],
  )
}

/** Items made by hand that wait until the new phone reports them. */
export function manyByHand(client: Client, { ticketId, kind }: KindScope) {
  return many<WhereSealed & { seq: number; made: Buffer | null }>(
    client,
    `select e.seq, e.reading_id, i.block, i.slot, e.made
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
      where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and e.is_chosen and not e.is_there and e.by_hand
      order by e.seq`,
    [ticketId, kind],
  )
}

/**
 * What the new phone reports installed since the first count: an item made by hand is changed when a record of its
 * content stands there that no other claims.
 */
export function settleByHand(
  client: Client,
  { firstReading, lastReading, ...scope }: KindScope & { firstReading: ReadingId; lastReading: ReadingId },
): Promise<number> {
  return settle(client, scope, 'installed', {
    from: `(
         select seq, expected, row_number() over (partition by expected order by seq) as rank
           from entry
          where ticket_id = $1 and kind = $2 and fate = 'pending' and is_chosen and by_hand) w
       join (
         select digest, count(*) filter (where reading_id = $5) - count(*) filter (where reading_id = $4)
                        - (select count(*) from entry o where o.ticket_id = $1 and o.kind = $2 and o.fate in ('carried', 'changed') and o.expected = item.digest) as n
           from item where reading_id in ($4, $5) group by digest) c on c.digest = w.expected`,
    where: 'e.seq = w.seq and w.rank <= c.n',
    values: [firstReading, lastReading],
  })
}

export interface CarryTotals {
  readonly kind: string
  readonly waiting: number
  readonly done: number
}

/** Items of some kinds: waiting, and done. */
export function manyCarryTotals(client: Client, ticketId: TicketId, kinds: readonly string[]): Promise<CarryTotals[]> {
  return many<CarryTotals>(
    client,
    `select kind, coalesce(sum(n) filter (where fate = 'pending' and is_chosen and not by_hand), 0)::int as waiting,
            coalesce(sum(n) filter (where is_sent and fate <> 'pending'), 0)::int as done
       from tally
      where ticket_id = $1 and kind = any($2::text[])
      group by kind`,
    [ticketId, kinds],
  )
}

/** Bytes of some kinds' items: waiting, and done. */
export function manyCarryBytes(client: Client, ticketId: TicketId, kinds: readonly string[]): Promise<CarryTotals[]> {
  return many<CarryTotals>(
    client,
    `select kind, coalesce(sum(size_bytes) filter (where fate = 'pending' and is_chosen and not is_there), 0)::bigint as waiting,
            coalesce(sum(size_bytes) filter (where fate in ('carried', 'changed', 'lost', 'editedThere')), 0)::bigint as done
       from entry
      where ticket_id = $1 and kind = any($2::text[]) and not by_hand
      group by kind`,
    [ticketId, kinds],
  )
}

const nothing = { waiting: 0, done: 0 }

export async function oneCarryTotals(client: Client, { ticketId, kind }: KindScope): Promise<Omit<CarryTotals, 'kind'>> {
  return (await manyCarryTotals(client, ticketId, [kind]))[0] ?? nothing
}

export async function oneCarryBytes(client: Client, { ticketId, kind }: KindScope): Promise<Omit<CarryTotals, 'kind'>> {
  return (await manyCarryBytes(client, ticketId, [kind]))[0] ?? nothing
}

export interface MadeItem {
  readonly seq: number
  readonly expected: Buffer
  readonly parts: readonly Buffer[]
  readonly made: Buffer
  readonly sizeBytes: number
}

/**
 * What an item became at its turn, when its files were made. When the first count holds exactly that, and nobody else
 * claims it, it is there already. @returns whether it is
 */
export async function settleMade(
  client: Client,
  { firstReading, ...scope }: KindScope & { firstReading: ReadingId },
  { seq, expected, parts, made, sizeBytes }: MadeItem,
): Promise<boolean> {
  await change(
    client,
    `update entry set expected = $4, parts = $5, made = $6, size_bytes = $7 where ticket_id = $1 and kind = $2 and seq = $3`,
    [scope.ticketId, scope.kind, seq, expected, parts, made, sizeBytes],
  )
  const there = await settle(client, scope, 'there', {
    where: `e.seq = $4 and e.sends = 0 and not e.stands_in
        and (select count(*) from item where reading_id = $5 and digest = e.expected)
          > (select count(*) from entry o where o.ticket_id = $1 and o.kind = $2 and o.fate = 'alreadyThere' and coalesce(o.there, o.expected) = e.expected)`,
    values: [seq, firstReading],
  })
  return there > 0
}
