import type { Argon } from './argon.ts'
import { change, many, maybeOne, one, type Client } from '../../base/db/sql.ts'
import type { CopyId, HoldingId, LockerId, StaffId, TicketId } from '../../base/ids.ts'

export interface CopyRow {
  id: CopyId
  locker_id: LockerId | null
  /** The ticket that makes it. */
  ticket_id: TicketId | null
  /** Null once it is destroyed. */
  holding: HoldingId | null
  /** Of what its phone's copies share; null before anything is written. */
  shared: HoldingId | null
  format: number
  maker: string
  model: string
  platform: string
  version: string
  region: string
  zone: string
  created_at: Date
  closed_at: Date | null
  keep_until: Date
  destroyed_at: Date | null
  /** A passphrase of its owner's opens it, and nothing else. */
  is_closed: boolean
  /** Kept for its owner, or made to be taken home as files: that goes with its ticket. */
  purpose: CopyPurpose
}
export type CopyPurpose = 'keep' | 'take-home'

const columns = `c.id, c.locker_id, c.ticket_id, c.holding_id as holding, l.holding_id as shared, c.format, c.maker, c.model, c.platform, c.version, c.region, c.zone,
  c.created_at, c.closed_at, c.keep_until, c.destroyed_at, c.passphrase is not null as is_closed, c.purpose`

export function findCopy(client: Client, id: CopyId): Promise<CopyRow | undefined> {
  return maybeOne<CopyRow>(client, `select ${columns} from locker_copy c left join locker l on l.id = c.locker_id where c.id = $1`, [id])
}

export interface NewCopy {
  readonly holding: HoldingId
  readonly ticketId: TicketId
  readonly staffId: StaffId
  /** Sealed. */
  readonly customer: Buffer
  readonly keepUntil: Date
  readonly purpose: CopyPurpose
}

export async function insertCopy(client: Client, { holding, ticketId, staffId, customer, keepUntil, purpose }: NewCopy): Promise<CopyId> {
  const { id } = await one<{ id: CopyId }>(
    client,
    `insert into locker_copy (holding_id, ticket_id, asked_by, customer, keep_until, purpose) values ($1, $2, $3, $4, $5, $6) returning id`,
    [holding, ticketId, staffId, customer, keepUntil, purpose],
  )
  return id
}

/** The locker of a phone, made where there is none; @param holding of a new one, already keyed */
export async function lockerOf(client: Client, serialHash: Buffer, holding: HoldingId): Promise<{ id: LockerId; holding: HoldingId }> {
  const found = () =>
    maybeOne<{ id: LockerId; holding: HoldingId }>(client, 'select id, holding_id as holding from locker where serial_hash = $1', [
      serialHash,
    ])
  const before = await found()
  if (before) return before
  await change(
    client,
    `with owner as (insert into holding (id, purpose) values ($1, 'locker') returning id)
     insert into locker (holding_id, serial_hash) select id, $2 from owner on conflict (serial_hash) do nothing`,
    [holding, serialHash],
  )
  return (await found())!
}

export interface CopiedPhone {
  readonly maker: string
  readonly model: string
  readonly platform: string
  readonly version: string
  readonly region: string
  readonly zone: string
}

/** From which phone a copy comes, and what it shares with others of that phone. */
export async function nameCopied(client: Client, id: CopyId, lockerId: LockerId, phone: CopiedPhone): Promise<void> {
  await change(
    client,
    `update locker_copy set locker_id = $2, maker = $3, model = $4, platform = $5, version = $6, region = $7, zone = $8 where id = $1`,
    [id, lockerId, phone.maker, phone.model, phone.platform, phone.version, phone.region, phone.zone],
  )
}

/** A new connection: whoever wrote to the copy before writes no more. Answers with its number. */
export async function connectCopy(client: Client, id: CopyId): Promise<number> {
  const { connection } = await one<{ connection: number }>(
    client,
    'update locker_copy set connection = connection + 1 where id = $1 returning connection',
    [id],
  )
  return connection
}

/** Holds a copy for a write of a connection; how many hold: none when another connection was made since, or it is destroyed. */
export function holdCopy(client: Client, id: CopyId, connection: number): Promise<number> {
  return change(
    client,
    'update locker_copy set closed_at = null where id = $1 and connection = $2 and destroyed_at is null and holding_id is not null',
    [id, connection],
  )
}

export interface CopyKindRow {
  kind: string
  items: number
  bytes: number
  saved_bytes: number
  writes: number
  /** Sealed. */
  manifest: Buffer | null
  fates: Record<string, number> | null
  /** Of each fate, by their reasons together, how many. */
  whys: CopyWhys | null
}
/** What became of its phone's items, and why. */
export interface CopyEnd {
  readonly fates: Readonly<Record<string, number>>
  readonly whys: CopyWhys
}
type CopyWhys = readonly { readonly fate: string; readonly codes: readonly string[]; readonly items: number }[]

export function maybeCopyKind(client: Client, id: CopyId, kind: string): Promise<CopyKindRow | undefined> {
  return maybeOne<CopyKindRow>(
    client,
    'select kind, items, bytes, saved_bytes, writes, manifest, fates, whys from copy_kind where copy_id = $1 and kind = $2',
    [id, kind],
  )
}

/** The kinds of copies, each with how many records it keeps beside them that could not be read. */
export function manyCopyKinds(client: Client, ids: readonly CopyId[]): Promise<(CopyKindRow & { copy_id: CopyId; unread: number })[]> {
  return many(
    client,
    `select k.copy_id, k.kind, k.items, k.bytes, k.saved_bytes, k.writes, k.manifest, k.fates, k.whys, coalesce(u.items, 0) as unread
       from copy_kind k
       left join copy_kind u on u.copy_id = k.copy_id and u.kind = 'unread:' || k.kind
      where k.copy_id = any($1::bigint[]) and k.kind not like 'unread:%'`,
    [ids],
  )
}

/** Takes so many places for new records of a kind; answers with the first. */
export async function takeSeqs(client: Client, id: CopyId, kind: string, n: number): Promise<number> {
  const { next } = await one<{ next: number }>(
    client,
    `insert into copy_kind (copy_id, kind, next_seq) values ($1, $2, $3)
     on conflict (copy_id, kind) do update set next_seq = copy_kind.next_seq + excluded.next_seq
     returning next_seq as next`,
    [id, kind, n],
  )
  return next - n
}

/** What a kind holds by now; whatever was closed is open again. */
export async function addToKind(
  client: Client,
  { id, kind, items, bytes }: { id: CopyId; kind: string; items: number; bytes: number },
): Promise<void> {
  await change(
    client,
    `insert into copy_kind (copy_id, kind, items, bytes, writes) values ($1, $2, $3, $4, 1)
     on conflict (copy_id, kind) do update
        set items = copy_kind.items + $3, bytes = copy_kind.bytes + $4, writes = copy_kind.writes + 1, manifest = null`,
    [id, kind, items, bytes],
  )
}

/**
 * What a kind takes, by what it holds: a file that was taken twice counts once. `saved`: of it, what an earlier copy of
 * the phone, or the copy itself, had stored already.
 */
export async function sumKind(client: Client, id: CopyId, kind: string): Promise<{ bytes: number; saved: number }> {
  return one<{ bytes: number; saved: number }>(
    client,
    `with held as (
       select body_id from copy_record where copy_id = $1 and kind = $2
       union all
       select body_id from copy_file where copy_id = $1 and kind = $2 and seq is not null),
     own as (
       select distinct h.body_id from held h
        where not exists (select 1 from copy_record r where r.body_id = h.body_id and r.copy_id < $1)
          and not exists (select 1 from copy_file f where f.body_id = h.body_id and f.copy_id < $1))
     select coalesce(sum(b.size_bytes), 0)::float8 as bytes,
            (coalesce(sum(b.size_bytes), 0) - coalesce((select sum(o.size_bytes) from own join locker_body o on o.id = own.body_id), 0))::float8 as saved
       from held h
       join locker_body b on b.id = h.body_id`,
    [id, kind],
  )
}

/** @param manifest sealed: what it holds, now that it is closed */
export async function closeKind(
  client: Client,
  id: CopyId,
  kind: string,
  { manifest, bytes, saved }: { manifest: Buffer; bytes: number; saved: number },
): Promise<void> {
  await change(
    client,
    `insert into copy_kind (copy_id, kind, manifest, bytes, saved_bytes) values ($1, $2, $3, $4, $5)
     on conflict (copy_id, kind) do update set manifest = excluded.manifest, bytes = excluded.bytes, saved_bytes = excluded.saved_bytes`,
    [id, kind, manifest, bytes, saved],
  )
}

/** What became of its phone's items, as it was checked; with its last open kind the copy is closed. */
export async function noteChecked(client: Client, id: CopyId, kind: string, { fates, whys }: CopyEnd): Promise<void> {
  await change(client, 'update copy_kind set fates = $3, whys = $4 where copy_id = $1 and kind = $2', [
    id,
    kind,
    JSON.stringify(fates),
    JSON.stringify(whys),
  ])
  await change(
    client,
    `update locker_copy set closed_at = now()
      where id = $1 and not exists (select 1 from copy_kind k where k.copy_id = $1 and k.manifest is null)`,
    [id],
  )
}

/** Records of a copy, of all kinds. */
export async function countRecords(client: Client, id: CopyId): Promise<number> {
  return (await one<{ n: number }>(client, 'select coalesce(sum(items), 0)::int as n from copy_kind where copy_id = $1', [id])).n
}

export interface CopyWish {
  readonly isDestroyed: boolean
  /** A copy's number, a ticket's or a model; empty for any. */
  readonly find: string
  /** The same as the keyed hash of a phone's serial. */
  readonly serialHash: Buffer | null
}

const answers = `from locker_copy c
       join staff s on s.id = c.asked_by
       left join locker l on l.id = c.locker_id
       left join staff d on d.id = c.destroyed_by
       left join ticket t on t.id = c.ticket_id
      where c.purpose = 'keep'
        and case when $1 then c.destroyed_at is not null else c.destroyed_at is null and c.closed_at is not null end
        and ($2 = '' or c.id::text = $2 or lower(t.number) = lower($2) or strpos(lower(c.model), lower($2)) > 0 or l.serial_hash = $3)`
const valuesOf = ({ isDestroyed, find, serialHash }: CopyWish) => [isDestroyed, find, serialHash]

/** Copies in lockers with whose and who asked, the newest first, one more than a page. */
export function manyCopies(
  client: Client,
  wish: CopyWish,
  { after, limit }: { after: number | null; limit: number },
): Promise<
  (CopyRow & {
    customer: Buffer | null
    asked_by: string
    ticket: string | null
    destroyed_how: 'date' | 'asked' | 'unfinished' | null
    destroyed_why: string | null
    destroyed_by: string | null
  })[]
> {
  return many(
    client,
    `select ${columns}, c.customer, s.name as asked_by, t.number as ticket, c.destroyed_how, c.destroyed_why, d.name as destroyed_by
       ${answers} and ($4::bigint is null or c.id < $4)
      order by c.id desc
      limit $5`,
    [...valuesOf(wish), after, limit + 1],
  )
}

export async function countCopies(client: Client, wish: CopyWish): Promise<number> {
  return (await one<{ n: number }>(client, `select count(*)::int as n ${answers}`, valuesOf(wish))).n
}

/** Copies whose date is within a week, the next first. */
export function manyEnding(
  client: Client,
): Promise<{ id: CopyId; holding: HoldingId | null; customer: Buffer | null; keep_until: Date }[]> {
  return many(
    client,
    `select id, holding_id as holding, customer, keep_until from locker_copy
      where purpose = 'keep' and destroyed_at is null and closed_at is not null and keep_until < now() + interval '7 days'
      order by keep_until
      limit 20`,
  )
}

/** Bytes of everything in lockers, equal records of a phone's copies once. */
export async function sumStored(client: Client): Promise<number> {
  const { bytes } = await one<{ bytes: number }>(client, 'select coalesce(sum(size_bytes), 0)::float8 as bytes from locker_body')
  return bytes
}

export async function setKeepUntil(client: Client, id: CopyId, until: Date): Promise<number> {
  return change(client, 'update locker_copy set keep_until = $2 where id = $1 and destroyed_at is null', [id, until])
}

export async function insertCopyAct(
  client: Client,
  {
    id,
    staffId,
    what,
    before,
    after,
  }: { id: CopyId; staffId: StaffId | null; what: 'prolonged' | 'destroyed'; before?: string; after?: string },
): Promise<void> {
  await change(client, 'insert into copy_act (copy_id, staff_id, what, before, after) values ($1, $2, $3, $4, $5)', [
    id,
    staffId,
    what,
    before ?? null,
    after ?? null,
  ])
}

export interface Destroyed {
  readonly how: 'date' | 'asked' | 'unfinished'
  readonly why?: string
  readonly staffId?: StaffId
}

/** Marks a copy as destroyed; what opens it goes after. */
export function setDestroyed(client: Client, id: CopyId, { how, why, staffId }: Destroyed): Promise<number> {
  return change(
    client,
    `update locker_copy
        set destroyed_at = now(), destroyed_how = $2, destroyed_why = $3, destroyed_by = $4, customer = null
      where id = $1 and destroyed_at is null`,
    [id, how, why ?? null, staffId ?? null],
  )
}

/** Copies whose date is over, and those that were never read back, or made to be taken home, and that no ticket works on any more. */
export function manyDue(client: Client): Promise<{ id: CopyId; how: 'date' | 'unfinished' }[]> {
  return many(
    client,
    `select c.id, case when c.closed_at is null or c.purpose = 'take-home' then 'unfinished' else 'date' end as how
       from locker_copy c
      where c.destroyed_at is null
        and (c.keep_until <= now()
             or ((c.closed_at is null or c.purpose = 'take-home')
                 and not exists (select 1 from ticket_phone p join ticket t on t.id = p.ticket_id
                                  where p.copy_id = c.id and p.side = 'new' and t.erased_at is null)))`,
  )
}

/** Destroyed copies that still have something: a process ended on the way. */
export function manyHalfDestroyed(client: Client): Promise<CopyRow[]> {
  return many<CopyRow>(
    client,
    `select ${columns} from locker_copy c left join locker l on l.id = c.locker_id
      where c.destroyed_at is not null and (c.holding_id is not null or c.locker_id is not null)`,
  )
}

/** Whether an open ticket puts a copy back or still makes it, or anything reads from it now. */
export async function isCopyInUse(client: Client, id: CopyId): Promise<boolean> {
  const { n } = await one<{ n: number }>(
    client,
    `select count(*)::int as n
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.copy_id = $1 and p.is_open
        and (t.purpose = 'carry' and t.signed_at is null and t.called_off_at is null
             or exists (select 1 from run r where r.ticket_id = t.id and r.state in ('waiting', 'running', 'paused', 'held')))`,
    [id],
  )
  return n > 0
}

/** Closes a copy by a passphrase: another holding has its key from now on. None when it is closed already, or gone. */
export function setClosedBy(
  client: Client,
  id: CopyId,
  { from, to, how }: { from: HoldingId; to: HoldingId; how: Argon },
): Promise<number> {
  return change(
    client,
    `update locker_copy set holding_id = $3, passphrase = $4, customer = null
      where id = $1 and holding_id = $2 and passphrase is null and destroyed_at is null`,
    [id, from, to, JSON.stringify(how)],
  )
}

/** A closed copy: how its passphrase becomes a key, and whether a wrong one was tried too often just now. */
export function findClosed(client: Client, id: CopyId): Promise<{ holding: HoldingId; passphrase: Argon; must_wait: boolean } | undefined> {
  return maybeOne(
    client,
    `select holding_id as holding, passphrase, coalesce(wait_until > now(), false) as must_wait
       from locker_copy where id = $1 and destroyed_at is null and holding_id is not null and passphrase is not null`,
    [id],
  )
}

export async function countWrongTry(
  client: Client,
  id: CopyId,
  { freeTries, firstWaitS, longestWaitS }: { freeTries: number; firstWaitS: number; longestWaitS: number },
): Promise<void> {
  await change(
    client,
    `update locker_copy
        set wrong_tries = wrong_tries + 1,
            wait_until = case when wrong_tries + 1 >= $2
                              then now() + make_interval(secs => least($4, $3 * power(2, wrong_tries + 1 - $2))) end
      where id = $1`,
    [id, freeTries, firstWaitS, longestWaitS],
  )
}

export async function forgetTries(client: Client, id: CopyId): Promise<void> {
  await change(client, 'update locker_copy set wrong_tries = 0, wait_until = null where id = $1 and wrong_tries > 0', [id])
}
