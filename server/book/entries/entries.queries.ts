import { kindOf } from '#core/kinds/registry.ts'
import { passingReasons } from '#core/book/index.ts'
import { change, many, type Client } from '../../base/db/sql.ts'
import { joinByHash } from '../join-by-hash.queries.ts'
import { settle, type KindScope } from '../settle.ts'
import type { ReadingId, TicketId } from '../../base/ids.ts'

/** Keeps what was left behind by choice for the next reading of the same phone: the choice outlives a counting in again. */
export async function keepChoices(client: Client, ticketId: TicketId): Promise<void> {
  await change(
    client,
    `insert into left_behind (ticket_id, kind, native)
     select ticket_id, kind, native from entry where ticket_id = $1 and not is_chosen
     on conflict do nothing`,
    [ticketId],
  )
}

/** An entry as an item of the old phone makes it; `$1` ticket, `$2` kind, and the marks of {@link marksOf}. */
const entryColumns = `ticket_id, kind, seq, reading_id, item_seq, native, digest, expected, fate, reasons,
                        has_change, has_loss, is_late, is_chosen, size_bytes, parts, by_hand, converts`

function entryOf({ seq, isLate }: { seq: string; isLate: boolean }): string {
  return `$1, $2, ${seq}, i.reading_id, i.seq, i.native, i.digest, i.expected,
            case i.state when 'unreadable' then 'unreadable' when 'cannot' then 'cannotCross'
              else case when $4 = 'none' or i.storage = any($5) then 'notChosen' else 'pending' end end,
            case when i.reason is null then i.changes else array[i.reason] end,
            cardinality(i.changes) > 0, i.has_loss, ${isLate}, $4 <> 'none' and i.storage <> all($5), i.size_bytes, i.parts,
            i.changes && $6::text[], i.changes && $7::text[]`
}

/** By which changes of a kind an item is made by hand, and by which its files are made at its turn. */
export function marksOf(kind: string): readonly [string[], string[]] {
  const { byHand = [], makes = [] } = kindOf(kind)
  return [[...byHand], [...makes]]
}

export interface NewEntries extends KindScope {
  readonly readingId: ReadingId
  readonly choice: string
  /** Nothing is left behind by where it is kept: what is compared is compared whole. */
  readonly isWhole?: boolean
}

/** Makes the entries of a kind from its whole first reading of the old phone. */
export async function insertEntries(client: Client, { ticketId, kind, readingId, choice, isWhole = false }: NewEntries): Promise<number> {
  const scope = { ticketId, kind }
  await change(client, 'delete from entry where ticket_id = $1 and kind = $2', [ticketId, kind])
  const came = await change(
    client,
    `insert into entry (${entryColumns})
     select ${entryOf({ seq: 'i.seq', isLate: false })}
       from item i
      where i.reading_id = $3
      order by i.seq`,
    [ticketId, kind, readingId, choice, isWhole ? [] : (kindOf(kind).leftByDefault ?? []), ...marksOf(kind)],
  )
  if (choice === 'some') {
    await settle(client, scope, 'left', {
      from: 'left_behind l',
      where: 'l.ticket_id = $1 and l.kind = $2 and l.native = e.native',
      set: 'is_chosen = false',
    })
  }
  await change(client, 'delete from left_behind where ticket_id = $1 and kind = $2', [ticketId, kind])
  return came
}

/** After so many came at once the planner must know; outside of any transaction, since it holds what others wait for. */
export async function refreshEntryStatistics(client: Client, came: number): Promise<void> {
  await change(client, `select refresh_statistics('entry', $1)`, [came])
}

/** Items of a later reading of the old phone that no entry was paired with: they join the old side as late. */
export function insertLate(client: Client, { ticketId, kind, readingId, choice }: NewEntries): Promise<number> {
  return change(
    client,
    `insert into entry (${entryColumns})
     select ${entryOf({
       seq: '(select coalesce(max(seq), -1) from entry where ticket_id = $1 and kind = $2) + row_number() over (order by i.seq)',
       isLate: true,
     })}
       from item i
      where i.reading_id = $3
        and not exists (select 1 from recount_pair p where p.item_seq = i.seq)`,
    [ticketId, kind, readingId, choice, kindOf(kind).leftByDefault ?? [], ...marksOf(kind)],
  )
}

/** Open to a choice: it waits or was left behind, and it is not on its way with nobody knowing whether it came. */
const isOpen = `e.fate in ('pending', 'notChosen')
        and e.seq not in (select w.entry_seq from written w join batch b on b.id = w.batch_id where b.ticket_id = $1 and b.kind = $2 and b.state = 'sent')`

const eventOf = (isChosen: boolean) => (isChosen ? 'chosen' : 'left')

/** All, as it was at first: what is nobody's own is left until it is chosen by itself; or none. */
export async function chooseAll(client: Client, { isChosen, ...scope }: KindScope & { isChosen: boolean }): Promise<void> {
  const ofDefault = (isLeft: boolean) => ({
    from: 'item i',
    where: `i.reading_id = e.reading_id and i.seq = e.item_seq and (i.storage = any($4::text[])) = ${isLeft} and ${isOpen}`,
    values: [kindOf(scope.kind).leftByDefault ?? []],
  })
  if (!isChosen) return void (await settle(client, scope, 'left', { where: isOpen, set: 'is_chosen = false' }))
  await settle(client, scope, 'chosen', { ...ofDefault(false), set: 'is_chosen = true' })
  await settle(client, scope, 'left', { ...ofDefault(true), set: 'is_chosen = false' })
}

export function chooseSome(
  client: Client,
  { seqs, isChosen, ...scope }: KindScope & { seqs: readonly number[]; isChosen: boolean },
): Promise<number> {
  return settle(client, scope, eventOf(isChosen), {
    where: `e.seq = any($4::int[]) and ${isOpen}`,
    set: `is_chosen = ${isChosen}`,
    values: [seqs],
  })
}

export interface Slice {
  /** A condition on the item, from the table of facets; never a caller's text. */
  readonly facetSql: string | null
  readonly storage: string
  readonly reason: string
  /** A conversation or a calendar, by its keyed hash; empty for any. */
  readonly group: string
  /** `2026`, `2026-11`; empty for any. */
  readonly when: string
  readonly isChosen: boolean
}

/** First instant of a year or a month and the first after it, in UTC; nulls for any time. */
export function spanOf(when: string): readonly [string | null, string | null] {
  if (when === '') return [null, null]
  const [year, month] = when.split('-').map(Number) as [number, number | undefined]
  // not by a Date: it takes the years before 100 for those of 1900, and writes those after 9999 as the database can’t read
  const at = (y: number, m: number) => `${String(y).padStart(4, '0')}-${String(m).padStart(2, '0')}-01T00:00:00Z`
  if (month === undefined) return [at(year, 1), at(year + 1, 1)]
  return [at(year, month), month === 12 ? at(year + 1, 1) : at(year, month + 1)]
}

/** Chooses every open item of a slice, or leaves it behind. */
export function chooseSlice(
  client: Client,
  scope: KindScope,
  { facetSql, storage, reason, group, when, isChosen }: Slice,
): Promise<number> {
  return settle(client, scope, eventOf(isChosen), {
    from: 'item i',
    where: `i.reading_id = e.reading_id and i.seq = e.item_seq and ${isOpen}
        and ($4 = '' or i.storage = $4) and ($5 = '' or $5 = any(shown_reasons(e))) and ($6 = '' or i.slice = nullif($6, '')::bigint)
        and ($7::timestamptz is null or (i.at >= $7 and i.at < $8))
        and ${facetSql ?? 'true'}`,
    set: `is_chosen = ${isChosen}`,
    values: [storage, reason, group, ...spanOf(when)],
  })
}

/** Puts what was lost, refused, could not be given or was pushed out back among what waits. Answers how many. */
export async function carryAgain(
  client: Client,
  scope: KindScope,
  fates: readonly ('lost' | 'refused' | 'unreadable' | 'pushedOut' | 'editedThere' | 'undone')[],
): Promise<number> {
  const n = await settle(client, scope, 'again', {
    // what could not be read has no form to be sent in: the old phone is asked for it anew when something is carried
    where: `e.fate = any($4::text[]) and e.expected is not null`,
    set: `written = null, sends = 0, retries = 0, is_chosen = true`,
    values: [fates],
  })
  await letGo(client, scope)
  const toRead = await change(
    client,
    `update entry set retries = -1, is_chosen = true where ticket_id = $1 and kind = $2 and fate = 'unreadable' and fate = any($3::text[]) and expected is null`,
    [scope.ticketId, scope.kind, fates],
  )
  return n + toRead
}

export interface Passing {
  /** The old phone must give it anew. */
  readonly native: Buffer
}

/**
 * Tries again what was refused, or could not be given, for a reason that may pass, and was not tried so often yet.
 * @returns the items the old phone must give anew, and how many there are in all
 */
export async function retryPassing(client: Client, scope: KindScope, most: number): Promise<{ tried: number; toRead: Passing[] }> {
  const { ticketId, kind } = scope
  const rows = await many<{ native: Buffer; fate: string }>(
    client,
    `update entry set retries = retries + 1
      where ticket_id = $1 and kind = $2 and fate in ('refused', 'unreadable') and ((reasons && $3::text[] and retries < $4) or retries < 0)
      returning native, fate`,
    [ticketId, kind, passingReasons, most],
  )
  if (rows.length === 0) return { tried: 0, toRead: [] }
  await settle(client, scope, 'again', {
    where: `e.fate in ('refused', 'unreadable') and e.reasons && $4::text[] and e.retries <= $5 and e.expected is not null and e.native = any($6::bytea[])`,
    set: `written = null, sends = 0, reasons = array(select r from unnest(e.reasons) as r where r <> all($4::text[]))`,
    values: [passingReasons, most, rows.map(({ native }) => native)],
  })
  await letGo(client, scope)
  return { tried: rows.length, toRead: rows.filter(({ fate }) => fate === 'unreadable') }
}

/** Undone items wait again, each as an item of its own. Answers how many. */
export function carryUndone(client: Client, scope: KindScope, seqs: readonly number[]): Promise<number> {
  return settle(client, scope, 'again', { where: `e.seq = any($4::int[]) and e.fate = 'undone'`, set: 'is_chosen = true', values: [seqs] })
}

/** What this ticket wrote for items that have no record of theirs any more is a former record from now on. */
export async function letGo(client: Client, { ticketId, kind }: KindScope): Promise<void> {
  await joinByHash(client, { ticketId, kind })
  await change(
    client,
    `update written w set is_current = false
       from entry e
      where w.ticket_id = $1 and w.kind = $2 and w.is_current and w.native is not null
        and e.ticket_id = $1 and e.kind = $2 and e.seq = w.entry_seq and e.written is null`,
    [ticketId, kind],
  )
}

/** At the signature, or when a ticket is called off, what still waits is left behind for good. Answers how many. */
export function closeWaiting(client: Client, scope: KindScope, reason: 'open-at-signing' | 'called-off'): Promise<number> {
  return settle(client, scope, 'closed', {
    where: 'true',
    set: `is_there = false, reasons = array_append(e.reasons, case when e.by_hand then 'to-install-by-hand' else '${reason}' end)`,
  })
}

/** Leaves behind what is still to be installed by hand when the phones are handed back: it is the customer's to do. */
export function leaveByHand(client: Client, scope: KindScope): Promise<number> {
  return settle(client, scope, 'closed', { where: 'e.by_hand', set: `reasons = array_append(e.reasons, 'to-install-by-hand')` })
}
