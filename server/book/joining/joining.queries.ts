import { change, many, maybeOne, one, type Client } from '../../base/db/sql.ts'
import { countWrite } from '../batches/batches.queries.ts'
import { joinByHash } from '../join-by-hash.queries.ts'
import { settle, type KindScope } from '../settle.ts'
import type { ReadingId, TicketId } from '../../base/ids.ts'

/** An item of the old phone and a record of the first count that share match keys, and where each is sealed. */
export interface Candidate {
  entry_seq: number
  ours_reading: ReadingId
  ours_block: number
  ours_slot: number
  theirs_reading: ReadingId
  theirs_seq: number
  theirs_block: number
  theirs_slot: number
  native: Buffer
}

/** Items that wait and records of the first count that share a match key, those that share most first; within a transaction. */
export async function manyCandidates(
  client: Client,
  { ticketId, kind, firstReading }: KindScope & { firstReading: ReadingId },
): Promise<Candidate[]> {
  await joinByHash(client, { ticketId, kind })
  return many<Candidate>(
    client,
    `with ours as materialized (
       select e.seq, i.reading_id, i.block, i.slot, k.key
         from entry e
         join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
        cross join unnest(i.keys) as k(key)
        where e.ticket_id = $1 and e.kind = $2 and e.fate in ('pending', 'notChosen') and not e.is_there and e.sends = 0
     ), theirs as materialized (
       select i.reading_id, i.seq, i.native, i.block, i.slot, k.key
         from item i cross join unnest(i.keys) as k(key)
        where i.reading_id = $3 and i.state = 'read'
          -- what an equal item of ours is there already is nobody else's
          and not exists (select 1 from entry e where e.ticket_id = $1 and e.kind = $2 and e.is_there and e.expected = i.digest)
     )
     select o.seq as entry_seq, o.reading_id as ours_reading, o.block as ours_block, o.slot as ours_slot,
            t.reading_id as theirs_reading, t.seq as theirs_seq, t.block as theirs_block, t.slot as theirs_slot, t.native
       from ours o
       join theirs t using (key)
      group by o.seq, o.reading_id, o.block, o.slot, t.reading_id, t.seq, t.block, t.slot, t.native
      order by count(*) desc, o.seq, t.seq
      limit 50000`,
    [ticketId, kind, firstReading],
  )
}

export interface NewJoining {
  readonly candidate: Candidate
  readonly shared: readonly string[]
  readonly conflicts: readonly string[]
}

/** Sets what was found in place of what was found before; what is on its way or done stays. */
export async function replaceJoinings(client: Client, { ticketId, kind }: KindScope, found: readonly NewJoining[]): Promise<void> {
  await change(client, `delete from joining where ticket_id = $1 and kind = $2 and state = 'open'`, [ticketId, kind])
  await markEntries(client, { ticketId, kind })
  for (const { candidate: c, shared, conflicts } of found) {
    await change(
      client,
      `insert into joining (ticket_id, kind, entry_seq, reading_id, item_seq, native, shared, conflicts) values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict do nothing`,
      [ticketId, kind, c.entry_seq, c.theirs_reading, c.theirs_seq, c.native, shared, conflicts],
    )
  }
}

/** The first count was taken anew: each joining follows its record there, and goes where the record is no more. */
export async function moveJoinings(client: Client, { ticketId, kind }: KindScope, firstReading: ReadingId): Promise<void> {
  await change(
    client,
    `update joining j set reading_id = i.reading_id, item_seq = i.seq
       from item i
      where j.ticket_id = $1 and j.kind = $2 and i.reading_id = $3 and i.native = j.native`,
    [ticketId, kind, firstReading],
  )
  await change(client, `delete from joining where ticket_id = $1 and kind = $2 and reading_id <> $3`, [ticketId, kind, firstReading])
  await markEntries(client, { ticketId, kind })
}

/** Marks the items that are to be one record with one the new phone has: what was decided, and nothing else. */
async function markEntries(client: Client, { ticketId, kind }: KindScope): Promise<void> {
  await change(
    client,
    `update entry e set joins = not e.joins
      where e.ticket_id = $1 and e.kind = $2 and e.fate in ('pending', 'notChosen')
        and e.joins <> exists (select 1 from joining j where j.ticket_id = $1 and j.kind = $2 and j.entry_seq = e.seq and j.decision = 'join')`,
    [ticketId, kind],
  )
}

/** Can be one record, and shares a name and a number or an address. */
const isSure = `conflicts = '{}' and 'name' = any(shared) and shared && array['phone', 'email']`

export type Rule = 'sure' | 'all' | 'none'

/** Decides by a rule over all that is open: `sure` is who shares a name and a number or an address. */
export async function decideByRule(client: Client, { ticketId, kind }: KindScope, rule: Rule): Promise<void> {
  await change(
    client,
    `update joining set decision = case when ($3 = 'all' and conflicts = '{}') or ($3 = 'sure' and ${isSure}) then 'join' else 'keep' end
      where ticket_id = $1 and kind = $2 and state = 'open'`,
    [ticketId, kind, rule],
  )
  await markEntries(client, { ticketId, kind })
}

/** Decides one by one. Answers how many of them could be decided so. */
export async function decideSome(
  client: Client,
  { ticketId, kind }: KindScope,
  { seqs, decision }: { seqs: readonly number[]; decision: 'keep' | 'join' },
): Promise<number> {
  const n = await change(
    client,
    `update joining set decision = $4 where ticket_id = $1 and kind = $2 and entry_seq = any($3::int[]) and state = 'open' and ($4 = 'keep' or conflicts = '{}')`,
    [ticketId, kind, seqs, decision],
  )
  await markEntries(client, { ticketId, kind })
  return n
}

/** An item and the record of the first count, and where each is sealed. */
interface Sealed {
  entry_seq: number
  state: 'open' | 'sent' | 'joined' | 'undoing' | 'undone'
  reading_id: ReadingId
  block: number
  slot: number
  theirs_reading: ReadingId
  theirs_block: number
  theirs_slot: number
}

const sealedColumns = `j.entry_seq, j.state, e.reading_id, i.block, i.slot, t.reading_id as theirs_reading, t.block as theirs_block, t.slot as theirs_slot`

export interface JoiningRow extends Sealed {
  shared: string[]
  conflicts: string[]
  decision: 'keep' | 'join'
  fate: string
  position: number
}

const columns = `${sealedColumns}, j.shared, j.conflicts, j.decision, e.fate, e.seq + 1 as position`
const joined = `joining j
       join entry e on e.ticket_id = j.ticket_id and e.kind = j.kind and e.seq = j.entry_seq
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       join item t on t.reading_id = j.reading_id and t.seq = j.item_seq`

export function manyJoinings(
  client: Client,
  { ticketId, kind, after, limit }: KindScope & { after: number; limit: number },
): Promise<JoiningRow[]> {
  return many<JoiningRow>(
    client,
    `select ${columns} from ${joined} where j.ticket_id = $1 and j.kind = $2 and j.entry_seq > $3 order by j.entry_seq limit $4`,
    [ticketId, kind, after, limit],
  )
}

export function maybeJoining(client: Client, { ticketId, kind, seq }: KindScope & { seq: number }): Promise<JoiningRow | undefined> {
  return maybeOne<JoiningRow>(client, `select ${columns} from ${joined} where j.ticket_id = $1 and j.kind = $2 and j.entry_seq = $3`, [
    ticketId,
    kind,
    seq,
  ])
}

/** How many of each kind there are, by what becomes of them. */
export function countJoinings(client: Client, ticketId: TicketId) {
  return many<{ kind: string; state: string; decision: string; can: boolean; sure: boolean; n: number }>(
    client,
    `select kind, state, decision, conflicts = '{}' as can, ${isSure} as sure, count(*)::int as n
       from joining where ticket_id = $1 group by 1, 2, 3, 4, 5`,
    [ticketId],
  )
}

/** The counts a screen shows, of groups of {@link countJoinings}. */
export function countsOf(groups: Awaited<ReturnType<typeof countJoinings>>) {
  const sum = (which: (group: (typeof groups)[number]) => boolean) => groups.filter(which).reduce((total, { n }) => total + n, 0)
  return {
    all: sum(() => true),
    can: sum(({ can, state }) => can && state === 'open'),
    sure: sum(({ sure, state }) => sure && state === 'open'),
    toJoin: sum(({ decision, state }) => decision === 'join' && (state === 'open' || state === 'sent')),
    joined: sum(({ state }) => state === 'joined' || state === 'undoing'),
    undone: sum(({ state }) => state === 'undone'),
  }
}

export interface ToJoin extends Sealed {
  native: Buffer
  before: Buffer | null
  before_digest: Buffer | null
  joined_digest: Buffer | null
  /** The item was edited on the old phone since: undone, it is joined anew. */
  again: boolean
  /** What the new phone calls the record that was written for it; null where it was joined in place. */
  written: Buffer | null
}

/** The record that was written as joined: the item's own, or its former one where it was edited since. */
const joinedRecord = `coalesce(e.written, (select w.native from written w where w.ticket_id = j.ticket_id and w.kind = j.kind and w.entry_seq = j.entry_seq
                       and w.expected = j.joined_digest and w.ended is null and w.native is not null order by w.id desc limit 1))`
const working = `${sealedColumns}, j.native, j.before, j.before_digest, j.joined_digest, j.again, ${joinedRecord} as written`

/** How many records of the first count say what the one that was joined into said. */
export async function countEqual(client: Client, { theirs_reading: readingId, before_digest: digest }: ToJoin): Promise<number> {
  return (await one<{ n: number }>(client, 'select count(*) as n from item where reading_id = $1 and digest = $2', [readingId, digest])).n
}

/** What is to be joined, or was on its way when the work broke off. */
export function manyToJoin(client: Client, { ticketId, kind }: KindScope): Promise<ToJoin[]> {
  return many<ToJoin>(
    client,
    `select ${working} from ${joined}
      where j.ticket_id = $1 and j.kind = $2 and j.decision = 'join' and j.state in ('open', 'sent') and e.fate = 'pending' and e.is_chosen and not e.is_there
      order by j.entry_seq`,
    [ticketId, kind],
  )
}

export function manyToUndo(client: Client, { ticketId, kind }: KindScope): Promise<ToJoin[]> {
  return many<ToJoin>(
    client,
    `select ${working} from ${joined} where j.ticket_id = $1 and j.kind = $2 and j.state = 'undoing' order by j.entry_seq`,
    [ticketId, kind],
  )
}

/** Stores the record as it was and what it is to become, before anything is sent. */
export async function markSent(
  client: Client,
  { ticketId, kind }: KindScope,
  { seq, before, beforeDigest, joinedDigest }: { seq: number; before: Buffer; beforeDigest: Buffer; joinedDigest: Buffer },
): Promise<void> {
  await change(
    client,
    `update joining set state = 'sent', before = $4, before_digest = $5, joined_digest = $6 where ticket_id = $1 and kind = $2 and entry_seq = $3`,
    [ticketId, kind, seq, before, beforeDigest, joinedDigest],
  )
}

/** On a phone that can't change a record in place: the item is written as the joined record, and theirs goes once that is proved. */
export async function writeInstead(
  client: Client,
  { ticketId, kind }: KindScope,
  { seq, joinedDigest }: { seq: number; joinedDigest: Buffer },
): Promise<void> {
  await change(client, `update entry set expected = $4, has_change = true where ticket_id = $1 and kind = $2 and seq = $3`, [
    ticketId,
    kind,
    seq,
    joinedDigest,
  ])
  await change(client, `update joining set replaces = true where ticket_id = $1 and kind = $2 and entry_seq = $3`, [ticketId, kind, seq])
}

export async function settleJoined(client: Client, scope: KindScope, seq: number): Promise<void> {
  const { ticketId, kind } = scope
  await change(client, `update joining set state = 'joined' where ticket_id = $1 and kind = $2 and entry_seq = $3`, [ticketId, kind, seq])
  await settle(client, scope, 'joined', { where: 'e.seq = $4', set: 'sends = greatest(e.sends, 1), written = null', values: [seq] })
  await countWrite(client, scope)
}

/** Those that were written as a record of their own are joined when that stands and theirs is gone. */
export async function settleWritten(client: Client, { ticketId, kind }: KindScope): Promise<void> {
  await change(
    client,
    `update joining j set state = 'joined'
       from entry e
      where j.ticket_id = $1 and j.kind = $2 and j.state = 'sent' and e.ticket_id = $1 and e.kind = $2 and e.seq = j.entry_seq
        and e.fate in ('carried', 'changed') and not j.replaces`,
    [ticketId, kind],
  )
}

/** The record is no longer what it was, or the two can't be one any more: nothing is joined into it, and the item goes over as its own. */
export async function giveUpJoining(client: Client, { ticketId, kind }: KindScope, seq: number): Promise<void> {
  await change(
    client,
    `update joining set decision = 'keep', state = 'open', again = false, replaces = false, conflicts = array['record-changed'] where ticket_id = $1 and kind = $2 and entry_seq = $3`,
    [ticketId, kind, seq],
  )
  await change(client, `update entry set joins = false where ticket_id = $1 and kind = $2 and seq = $3`, [ticketId, kind, seq])
}

/** Asks for undoing; answers how many. */
export function askUndo(client: Client, { ticketId, kind }: KindScope, seqs: readonly number[] | null): Promise<number> {
  return change(
    client,
    `update joining set state = 'undoing' where ticket_id = $1 and kind = $2 and state = 'joined' and ($3::int[] is null or entry_seq = any($3))`,
    [ticketId, kind, seqs],
  )
}

/**
 * Of items edited on the old phone since (`recount_pair`): what was joined, or on its way, is put back as it was and
 * joined anew with the new content; what was only to be joined was another content, of which nobody has said so.
 */
export async function undoEdited(client: Client, { ticketId, kind }: KindScope): Promise<void> {
  await change(
    client,
    `update joining j
        set state = case when j.state in ('joined', 'sent') then 'undoing' else j.state end,
            again = j.state in ('joined', 'sent'),
            decision = case when j.state in ('joined', 'sent') then j.decision else 'keep' end
       from recount_pair p
      where j.ticket_id = $1 and j.kind = $2 and j.entry_seq = p.entry_seq and not p.is_same and j.state in ('open', 'sent', 'joined')`,
    [ticketId, kind],
  )
}

/**
 * The record stands as it did; the item is taken away again, with the form it would have as its own; or, edited
 * since, it is joined anew.
 */
export async function settleUndone(
  client: Client,
  scope: KindScope,
  { entry_seq: seq, again, native }: Pick<ToJoin, 'entry_seq' | 'again'> & { native: Buffer | null },
): Promise<void> {
  const { ticketId, kind } = scope
  // what was written as joined was taken away by us, and its place seen empty
  await change(
    client,
    `update written w set ended = 'gone', is_current = false
       from joining j
      where w.ticket_id = $1 and w.kind = $2 and w.entry_seq = $3 and w.native is not null and w.ended is null
        and j.ticket_id = $1 and j.kind = $2 and j.entry_seq = $3 and w.expected = j.joined_digest`,
    [ticketId, kind, seq],
  )
  await change(
    client,
    `update joining set state = $4, decision = $5, again = false, replaces = false, native = coalesce($6, native) where ticket_id = $1 and kind = $2 and entry_seq = $3`,
    [ticketId, kind, seq, again ? 'open' : 'undone', again ? 'join' : 'keep', native],
  )
  if (!again) {
    await settle(client, scope, 'undone', {
      from: 'item i',
      where: 'e.seq = $4 and i.reading_id = e.reading_id and i.seq = e.item_seq',
      set: 'written = null, expected = i.expected, has_change = cardinality(i.changes) > 0, sends = 0, joins = false',
      values: [seq],
    })
  }
  await countWrite(client, scope)
}

/** It changed meanwhile, and what was written into it since must not be lost: it stays joined. */
export async function keepJoined(client: Client, { ticketId, kind }: KindScope, seq: number): Promise<void> {
  await change(
    client,
    `update joining set state = 'joined', again = false, conflicts = array['record-changed'], decision = 'keep' where ticket_id = $1 and kind = $2 and entry_seq = $3`,
    [ticketId, kind, seq],
  )
  // an item edited since goes over as its own
  await change(client, `update entry set joins = false where ticket_id = $1 and kind = $2 and seq = $3 and fate = 'pending'`, [
    ticketId,
    kind,
    seq,
  ])
}
