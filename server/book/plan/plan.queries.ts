import { kindOf } from '#core/kinds/registry.ts'
import { change, many, one, type Client } from '../../base/db/sql.ts'
import { settle, type KindScope } from '../settle.ts'
import type { ReadingId, TicketId } from '../../base/ids.ts'
import { joinByHash } from '../join-by-hash.queries.ts'

export interface PlanScope extends KindScope {
  /** The first count. */
  readonly firstReading: ReadingId
  /** How many the new phone keeps, the newest; undefined when it does not say. */
  readonly capacity: number | undefined
  /** Its items have an identity beside their content: two of one can't both be there. */
  readonly hasIdentity: boolean
}

/** Lets all wait again that only had no room or no place: what is chosen may be another now. */
export async function unbar(client: Client, scope: KindScope): Promise<void> {
  await settle(client, scope, 'unbarred', { where: 'e.no_room or e.other_there', set: 'no_room = false, other_there = false' })
  await settle(client, scope, 'left', { where: 'not e.is_chosen' })
}

/**
 * Works out anew what of the waiting items is there already and what has no place. With k equal items waiting and j
 * equal records of the first count, the smaller number is there; equal is the form an item takes on that phone, or
 * the form it has. A phone that keeps only its newest pushes the others out: none of its own is pushed out by us, so
 * as many of ours go over as there is room for, the newest of them, and the rest can't cross.
 */
export async function fitPlan(client: Client, scope: PlanScope): Promise<void> {
  const { ticketId, kind, firstReading, capacity, hasIdentity } = scope
  await joinByHash(client, scope)
  await unbar(client, scope)
  await markThere(client, scope)
  if (hasIdentity) {
    await settle(client, scope, 'barred', {
      where: `not e.is_there and not e.by_hand and e.sends = 0
        and exists (select 1
                      from item mine
                      join item theirs on theirs.reading_id = $4 and theirs.keys && mine.keys
                     where mine.reading_id = e.reading_id and mine.seq = e.item_seq)`,
      set: 'other_there = true',
      values: [firstReading],
    })
  }
  if (capacity === undefined) return
  await settle(client, scope, 'barred', {
    from: `(
       select e.seq, row_number() over (order by i.at desc nulls last, e.seq desc) as rank
         from entry e
         join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
        where e.ticket_id = $1 and e.kind = $2 and e.fate = 'pending' and not e.is_there
     ) r`,
    where: 'e.seq = r.seq and r.rank > $4',
    set: 'no_room = true',
    values: [Math.max(0, capacity - (await countHeld(client, { ticketId, kind, firstReading })))],
  })
}

/** How many records the new phone holds, as far as is known: counted since the last write, or the first count and what was written since. */
async function countHeld(client: Client, { ticketId, kind, firstReading }: KindScope & { firstReading: ReadingId }): Promise<number> {
  const { n } = await one<{ n: number }>(
    client,
    `select coalesce(
              (select r.got from ticket_kind k join reading r on r.id = k.last_reading
                where k.ticket_id = $1 and k.kind = $2 and k.checked_writes = k.writes),
              (select got from reading where id = $3)
                + (select count(*) from entry where ticket_id = $1 and kind = $2 and fate in ('carried', 'changed', 'lost', 'editedThere')))::int as n`,
    [ticketId, kind, firstReading],
  )
  return n
}

/** Marks which waiting items the first count holds already, one record for one item: by the form there first, then by the form they have. */
async function markThere(client: Client, { ticketId, kind, firstReading }: PlanScope): Promise<void> {
  await change(
    client,
    `with settled as (
       select coalesce(there, expected) as digest, count(*) as n from entry where ticket_id = $1 and kind = $2 and fate = 'alreadyThere' group by 1
     ), held as (
       select f.digest, f.n - coalesce(s.n, 0) as n
         from (select digest, count(*) as n from item where reading_id = $3 group by digest) f
         left join settled s using (digest)
     ), waiting as (
       select seq, digest, expected, parts from entry where ticket_id = $1 and kind = $2 and fate = 'pending' and sends = 0 and not stands_in
     ), changed_form as (
       select w.seq, w.expected as there
         from (select *, row_number() over (partition by expected order by seq) as rank from waiting) w
         join held f on f.digest = w.expected
        where w.rank <= f.n
          and not exists (select 1 from unnest(w.parts) as p(digest) where not exists (select 1 from item i where i.reading_id = $3 and i.digest = p.digest))
     ), taken as (
       select there as digest, count(*) as n from changed_form group by 1
     ), own_form as (
       select w.seq, w.digest as there
         from (select *, row_number() over (partition by digest order by seq) as rank
                 from waiting where digest <> expected and seq not in (select seq from changed_form)) w
         join held f on f.digest = w.digest
         left join taken t on t.digest = w.digest
        where w.rank <= f.n - coalesce(t.n, 0)
     ), now as (
       select e.seq, t.there
         from entry e
         left join (select * from changed_form union all select * from own_form) t using (seq)
        where e.ticket_id = $1 and e.kind = $2 and e.fate <> 'alreadyThere' and not e.stands_in
     )
     update entry e
        set is_there = now.there is not null, there = nullif(now.there, e.expected)
       from now
      where e.ticket_id = $1 and e.kind = $2 and e.seq = now.seq
        and (e.is_there, e.there) is distinct from (now.there is not null, nullif(now.there, e.expected))`,
    [ticketId, kind, firstReading],
  )
}

/** What was found there already is settled; nothing this ticket writes ever becomes it. */
export function settleAlreadyThere(client: Client, scope: KindScope): Promise<number> {
  return settle(client, scope, 'there', { where: 'e.is_there', set: 'is_there = false' })
}

/** What becomes of each kind's items, from the counts kept beside them. */
export function manyForecasts(client: Client, ticketId: TicketId) {
  return many<
    { kind: string } & Record<
      'carried' | 'changed' | 'changed_with_loss' | 'merged' | 'already_there' | 'not_chosen' | 'cannot_cross' | 'unreadable' | 'parts',
      number
    >
  >(
    client,
    `select kind,
            coalesce(sum(n) filter (where fate = 'pending' and not is_there and not has_change and not joins), 0)::int as carried,
            coalesce(sum(n) filter (where fate = 'pending' and not is_there and has_change and not joins), 0)::int as changed,
            coalesce(sum(n) filter (where fate = 'pending' and not is_there and has_loss), 0)::int as changed_with_loss,
            coalesce(sum(n) filter (where fate = 'pending' and not is_there and joins), 0)::int as merged,
            coalesce(sum(n) filter (where fate = 'alreadyThere' or (fate = 'pending' and is_there)), 0)::int as already_there,
            coalesce(sum(n) filter (where fate = 'notChosen'), 0)::int as not_chosen,
            coalesce(sum(n) filter (where fate = 'cannotCross'), 0)::int as cannot_cross,
            coalesce(sum(n) filter (where fate = 'unreadable'), 0)::int as unreadable,
            coalesce(sum(parts) filter (where fate = 'pending' and not is_there), 0)::int as parts
       from tally
      where ticket_id = $1
      group by kind`,
    [ticketId],
  )
}

/** Of what is not chosen, how much is of storages whose items are left unless they are chosen: nobody chose that. */
export function manyLeftByDefault(
  client: Client,
  ticketId: TicketId,
  left: readonly { readonly kind: string; readonly storage: string }[],
) {
  return many<{ kind: string; storage: string; items: number }>(
    client,
    `select e.kind, i.storage, count(*)::int as items
       from entry e
       join unnest($2::text[], $3::text[]) as l(kind, storage) on l.kind = e.kind
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq and i.storage = l.storage
      where e.ticket_id = $1 and e.fate = 'notChosen' and not e.is_chosen
      group by e.kind, i.storage
      order by e.kind, i.storage`,
    [ticketId, left.map(({ kind }) => kind), left.map(({ storage }) => storage)],
  )
}

/** How many items of each kind that are to come over meet each change. What is there already meets none. */
export function manyChangesToCome(client: Client, ticketId: TicketId) {
  return many<{ kind: string; code: string; items: number }>(
    client,
    `select t.kind, r.code, sum(t.n)::int as items
       from tally t
      cross join unnest(t.reasons) as r(code)
      where t.ticket_id = $1 and t.fate = 'pending' and not t.is_there
      group by t.kind, r.code
     having sum(t.n) > 0
      order by t.kind, items desc, r.code`,
    [ticketId],
  )
}

/**
 * Why items stand as they do, of a row `t` of the tally. A fate that needs no other reason stands as its own; and what an
 * item would change on its way is no reason why it was left: `$2` has the changes as {@link changesOf} names them.
 */
const whyOf = `case when t.fate in ('lost', 'gone', 'editedThere', 'pushedOut') then array[t.fate]
                    when t.fate = 'merged' and not t.joins then array['joined-by-phone']
                    when t.fate = 'notChosen' then array(select code from unnest(t.reasons) with ordinality as r(code, ord)
                                                          where t.kind || ' ' || code <> all($2::text[]) order by ord)
                    else t.reasons end`

/** What becomes of items of kinds on the way, each told from a reason of another kind that has its name. */
const changesOf = (kinds: readonly string[]) =>
  kinds.flatMap((kind) => ['joined-with-theirs', ...Object.keys(kindOf(kind).changes)].map((code) => `${kind} ${code}`))

/** Items of a kind by fate and by all of their reasons together: each is in one line. */
export function manyWhys(client: Client, ticketId: TicketId, kind: string) {
  return many<{ fate: string; codes: string[]; items: number }>(
    client,
    `select t.fate, w.codes, sum(t.n)::int as items
       from tally t
      cross join lateral (select ${whyOf} as codes) w
      where t.ticket_id = $1 and t.kind = $3
      group by t.fate, w.codes
     having sum(t.n) > 0
      order by t.fate, items desc, w.codes`,
    [ticketId, changesOf([kind]), kind],
  )
}

/** How many items of each kind meet each change or rule. */
export function manyReasons(client: Client, ticketId: TicketId, kinds: readonly string[]) {
  return many<{ kind: string; code: string; fate: string; items: number }>(
    client,
    `select t.kind, r.code, t.fate, sum(t.n)::int as items
       from tally t
      cross join unnest(${whyOf}) as r(code)
      where t.ticket_id = $1
      group by t.kind, r.code, t.fate
     having sum(t.n) > 0
      order by t.kind, t.fate = 'lost' desc, t.fate, items desc, r.code`,
    [ticketId, changesOf(kinds)],
  )
}
