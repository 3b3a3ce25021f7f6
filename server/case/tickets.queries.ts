import type { PlaceKind } from '#contracts/http/fields.ts'
import { kinds } from '#core/kinds/registry.ts'
import type { SidePlatform } from '#core/phones/capability.ts'
import type { StraightLimits, StraightStop } from '#core/plan/straight.ts'
import { change, many, maybeOne, one, type Client } from '../base/db/sql.ts'
import type { CopyId, HoldingId, ReadingId, StaffId, TicketId } from '../base/ids.ts'

/** What was measured of a kind at Count in. */
export interface Measured {
  readonly conversion?: { readonly ratio: number; readonly ms: number; readonly n: number }
}

export interface TicketRow {
  id: TicketId
  number: string
  /** Where its keys are; null once it is erased. */
  holding: HoldingId | null
  customer: Buffer | null
  promised_at: Date
  waits_in_shop: boolean
  booked_by_name: string
  created_at: Date
  roles_frozen_at: Date | null
  exchange_answered_at: Date | null
  signed_by: Buffer | null
  signed_at: Date | null
  printed_at: Date | null
  handed_back_at: Date | null
  erased_at: Date | null
  final_ledger: unknown
  wanted: string[]
  intake: Record<string, string>
  held_by_name: string
  resting_at: Date | null
  /** A fragile phone's dearest kind, carried before all others. */
  first_kind: string | null
  /** Signed though not all agreed: what was open is named. */
  signed_open: boolean
  called_off_at: Date | null
  called_off_why: Buffer | null
  straight: Straight | null
  straight_stop: StraightStop | null
  /** `look`: a copy is looked into, and nothing is carried. */
  purpose: 'carry' | 'look'
  /** Kinds nobody asked for, by the old phone's own count; null where it was not looked at. */
  beside: Readonly<Record<string, number | null>>
}

export interface PhoneRow {
  ticket_id: TicketId
  side: 'old' | 'new'
  place: PlaceKind
  maker: string
  model: string
  platform: SidePlatform
  version: string
  region: string
  zone: string
  serial: string | null
  upload_id: HoldingId | null
  /** Counted while films stood among photos: they stay there to its end. */
  films_in_photos: boolean
  /** In a locker: the copy. */
  copy_id: CopyId | null
  /** What is known of it. */
  copy: { id: number; asOf: string | null; keepUntil: string; shortThen: number; isDestroyed: boolean } | null
  /** What is taken home, as it was made last. */
  archive: {
    sizeBytes: number
    files: number
    items: number
    mark: string
    hasPassword: boolean
    madeAt: string
    keepUntil: string
    isThere: boolean
    takenAt: string | null
  } | null
}

export interface KindRow {
  ticket_id: TicketId
  kind: string
  mode: 'add'
  choice: 'all' | 'none' | 'some'
  chosen_at: Date | null
  old_reading: ReadingId | null
  first_reading: ReadingId | null
  recount_reading: ReadingId | null
  last_reading: ReadingId | null
  frozen_at: Date | null
  writes: number
  checked_writes: number | null
  checked_at: Date | null
  recounted_at: Date | null
  accepted_by: Buffer | null
  accepted_at: Date | null
  accepted_short: number | null
  accepted_over: number | null
  /** Records of the first and the last count by what they are, as they were paired; `part` for further records of an item. */
  origins: Record<string, number>
  /** What was measured of it at Count in. */
  measured: Measured
}

const ticketColumns = `t.id, t.number, case when t.erased_at is null then t.holding_id end as holding, t.customer, t.promised_at, t.waits_in_shop, s.name as booked_by_name,
  t.created_at, t.roles_frozen_at, t.exchange_answered_at, t.signed_by, t.signed_at, t.printed_at, t.handed_back_at, t.erased_at, t.final_ledger,
  t.wanted, t.intake, h.name as held_by_name, t.resting_at, t.first_kind, t.signed_open, t.called_off_at, t.called_off_why, t.straight, t.straight_stop, t.purpose, t.beside`

export function maybeTicket(client: Client, number: string): Promise<TicketRow | undefined> {
  return maybeOne<TicketRow>(
    client,
    `select ${ticketColumns} from ticket t join staff s on s.id = t.booked_by join staff h on h.id = coalesce(t.held_by, t.booked_by) where t.number = $1`,
    [number],
  )
}

export function manyTicketsOf(client: Client, ids: readonly number[]): Promise<TicketRow[]> {
  return many<TicketRow>(
    client,
    `select ${ticketColumns} from ticket t join staff s on s.id = t.booked_by join staff h on h.id = coalesce(t.held_by, t.booked_by) where t.id = any($1::bigint[])`,
    [ids],
  )
}

export function oneTicketById(client: Client, id: TicketId): Promise<TicketRow> {
  return one<TicketRow>(
    client,
    `select ${ticketColumns} from ticket t join staff s on s.id = t.booked_by join staff h on h.id = coalesce(t.held_by, t.booked_by) where t.id = $1`,
    [id],
  )
}

/** Open tickets by promise, then the last ones handed back. */
export function manyTickets(client: Client): Promise<TicketRow[]> {
  return many<TicketRow>(
    client,
    `(select ${ticketColumns}
        from ticket t join staff s on s.id = t.booked_by join staff h on h.id = coalesce(t.held_by, t.booked_by)
       where t.handed_back_at is null and t.purpose = 'carry'
       order by t.promised_at
       limit 200)
     union all
     (select ${ticketColumns}
        from ticket t join staff s on s.id = t.booked_by join staff h on h.id = coalesce(t.held_by, t.booked_by)
       where t.handed_back_at is not null and t.purpose = 'carry'
       order by t.handed_back_at desc
       limit 12)`,
  )
}

export function manyPhones(client: Client, ticketIds: readonly TicketId[]): Promise<PhoneRow[]> {
  return many<PhoneRow>(
    client,
    `select p.ticket_id, p.side, p.place, p.maker, p.model, p.platform, p.version, p.region, p.zone, p.serial, p.upload_id, p.copy_id, p.films_in_photos,
            case when c.purpose = 'keep' then json_build_object(
              'id', c.id, 'asOf', c.closed_at, 'keepUntil', c.keep_until, 'isDestroyed', c.destroyed_at is not null,
              'shortThen', (select coalesce(sum(f.n::int), 0)
                              from copy_kind k, jsonb_each_text(k.fates) as f(fate, n)
                             where k.copy_id = c.id and f.fate in ('lost', 'unreadable', 'refused'))) end as copy,
            case when a.copy_id is not null then json_build_object(
              'sizeBytes', a.size_bytes, 'files', a.files, 'mark', a.mark, 'hasPassword', a.has_password, 'madeAt', a.made_at, 'takenAt', a.taken_at,
              'keepUntil', a.keep_until, 'isThere', a.blob is not null,
              'items', (select coalesce(sum((k.value->>'items')::int), 0) from jsonb_each(a.kinds) as k)) end as archive
       from ticket_phone p
       left join locker_copy c on c.id = p.copy_id
       left join archive a on a.copy_id = c.id
      where p.ticket_id = any($1::bigint[])`,
    [ticketIds],
  )
}

/** Kinds in the order they are carried: light first. */
export function manyKinds(client: Client, ticketIds: readonly TicketId[]): Promise<KindRow[]> {
  return many<KindRow>(client, `select * from ticket_kind where ticket_id = any($1::bigint[]) order by array_position($2::text[], kind)`, [
    ticketIds,
    kinds.map((kind) => kind.code),
  ])
}

export function oneKind(client: Client, ticketId: TicketId, kind: string): Promise<KindRow> {
  return one<KindRow>(client, `select * from ticket_kind where ticket_id = $1 and kind = $2`, [ticketId, kind])
}

/** Open tickets that name a phone. */
/** Tickets handed back today, in the shop's zone, that had one of these phones. */
export function manyOfToday(client: Client, hashes: readonly Buffer[], zone: string) {
  return many<{ number: string; serial_hash: Buffer }>(
    client,
    `select t.number, p.serial_hash
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.serial_hash = any($1::bytea[])
        and (t.handed_back_at at time zone $2)::date = (now() at time zone $2)::date
      order by t.handed_back_at`,
    [hashes, zone],
  )
}

export function manyTicketsOfSerials(client: Client, serials: readonly string[]) {
  return many<{ number: string; serial: string; side: 'old' | 'new'; ticket_id: TicketId }>(
    client,
    `select t.number, p.serial, p.side, t.id as ticket_id
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.is_open and p.serial = any($1::text[])`,
    [serials],
  )
}

/** Tells every open page that something of a ticket changed. */
export async function tellTicket(client: Client, ticketId: TicketId, what: string): Promise<void> {
  await change(
    client,
    `insert into ticket_event (ticket_id, ticket_number, what)
     select id, number, $2 from ticket where id = $1`,
    [ticketId, what],
  )
}

/** Where a phone says it is: national numbers and local times are read by it. */
export async function setPlace(
  client: Client,
  phone: Pick<PhoneRow, 'ticket_id' | 'side'>,
  { region, zone }: { region: string; zone: string },
): Promise<void> {
  await change(client, `update ticket_phone set region = $3, zone = $4 where ticket_id = $1 and side = $2 and (region, zone) <> ($3, $4)`, [
    phone.ticket_id,
    phone.side,
    region,
    zone,
  ])
}

/** Open tickets with a phone that is named by its model alone: a stranger of that model may be it. */
export function manyUnnamed(client: Client): Promise<{ ticket: string; side: 'old' | 'new'; maker: string; model: string }[]> {
  return many(
    client,
    `select t.number as ticket, p.side, p.maker, p.model
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.is_open and p.place = 'bench' and p.serial is null and t.handed_back_at is null
      order by t.promised_at`,
  )
}

/** What of a kind is carried: all, none, or some. */
export async function setChoice(
  client: Client,
  { ticketId, kind }: { ticketId: TicketId; kind: string },
  choice: KindRow['choice'],
): Promise<void> {
  await change(client, 'update ticket_kind set choice = $3, chosen_at = now() where ticket_id = $1 and kind = $2', [ticketId, kind, choice])
}

/** What a kind's ledger stands on from now on. */
export async function setReading(
  client: Client,
  { ticketId, kind }: { ticketId: TicketId; kind: string },
  which: 'old_reading' | 'first_reading' | 'recount_reading',
  readingId: ReadingId,
): Promise<void> {
  await change(client, `update ticket_kind set ${which} = $3 where ticket_id = $1 and kind = $2`, [ticketId, kind, readingId])
}

/** Freezes a kind's first count at the first write, and with it which phone is which. */
export async function freeze(
  client: Client,
  { ticketId, kind }: { ticketId: TicketId; kind: string },
  firstReading: ReadingId,
): Promise<void> {
  await change(
    client,
    `update ticket_kind set first_reading = $3, frozen_at = now() where ticket_id = $1 and kind = $2 and frozen_at is null`,
    [ticketId, kind, firstReading],
  )
  await change(client, `update ticket set roles_frozen_at = coalesce(roles_frozen_at, now()) where id = $1`, [ticketId])
}

export interface Checked {
  readonly ticketId: TicketId
  readonly kind: string
  readonly lastReading: ReadingId
  readonly recountReading: ReadingId | null
  /** As they stood before the reading began: a write after it asks for another check. */
  readonly writes: number
}

export async function setChecked(client: Client, { ticketId, kind, lastReading, recountReading, writes }: Checked): Promise<void> {
  await change(
    client,
    `update ticket_kind
        set last_reading = $3, recount_reading = coalesce($4, recount_reading), checked_writes = $5, checked_at = now(), recounted_at = now()
      where ticket_id = $1 and kind = $2`,
    [ticketId, kind, lastReading, recountReading, writes],
  )
}

/** What the old phone holds of kinds nobody asked for. */
export async function setBeside(client: Client, ticketId: TicketId, beside: TicketRow['beside']): Promise<void> {
  await change(client, 'update ticket set beside = $2 where id = $1', [ticketId, JSON.stringify(beside)])
}

/** The kind that is carried before all others; null for the usual order. */
export async function setFirstKind(client: Client, ticketId: TicketId, kind: string | null): Promise<void> {
  await change(client, 'update ticket set first_kind = $2 where id = $1', [ticketId, kind])
}

export interface SeenPhone {
  readonly serial: string
  readonly maker: string
  readonly model: string
  readonly platform: string
  readonly version: string
}

/** The phone that stands for a side from now on. */
export async function namePhone(
  client: Client,
  { ticketId, side, seen }: { ticketId: TicketId; side: 'old' | 'new'; seen: SeenPhone },
): Promise<void> {
  await change(
    client,
    `update ticket_phone set place = 'bench', serial = $3, maker = $4, model = $5, platform = $6, version = $7, upload_id = null, copy_id = null where ticket_id = $1 and side = $2`,
    [ticketId, side, seen.serial, seen.maker, seen.model, seen.platform, seen.version],
  )
}

/** Another phone, or none yet, is booked for a side. @throws unique_violation when it is on another open ticket */
export async function setPhone(
  client: Client,
  ticketId: TicketId,
  side: 'old' | 'new',
  phone: Omit<NewPhone, 'uploadId' | 'copyId' | 'copyKey'>,
): Promise<void> {
  await change(
    client,
    `update ticket_phone
        set place = $3, maker = $4, model = $5, platform = $6, version = $7, serial = $8, upload_id = null, copy_id = null
      where ticket_id = $1 and side = $2`,
    [ticketId, side, phone.place, phone.maker, phone.model, phone.platform, phone.version, phone.serial],
  )
}

/** @param customer sealed */
export async function setCustomer(client: Client, ticketId: TicketId, customer: Buffer): Promise<void> {
  await change(client, 'update ticket set customer = $2 where id = $1', [ticketId, customer])
}

export async function setBooking(
  client: Client,
  ticketId: TicketId,
  { promisedAt, waitsInShop }: { promisedAt: Date; waitsInShop: boolean },
): Promise<void> {
  await change(client, 'update ticket set promised_at = $2, waits_in_shop = $3 where id = $1', [ticketId, promisedAt, waitsInShop])
}

/** What was agreed for a ticket that runs straight through, and who said so. */
export interface Straight {
  readonly staffId: StaffId
  readonly by: string
  readonly since: string
  readonly limits: StraightLimits
}

/** @param straight null: it runs by itself no longer */
export async function setStraight(client: Client, ticketId: TicketId, straight: Straight | null): Promise<void> {
  await change(client, 'update ticket set straight = $2, straight_stop = null where id = $1', [
    ticketId,
    straight && JSON.stringify(straight),
  ])
}

/** What it stopped for, or nothing any more. Answers whether that is news. */
export async function setStraightStop(client: Client, ticketId: TicketId, stop: StraightStop | null): Promise<boolean> {
  return (
    (await change(
      client,
      'update ticket set straight_stop = $2 where id = $1 and straight is not null and straight_stop is distinct from $2::jsonb',
      [ticketId, stop && JSON.stringify(stop)],
    )) > 0
  )
}

/** Tickets that run by themselves and for which nothing runs now. */
export function manyStraight(client: Client): Promise<{ number: string; has_stop: boolean }[]> {
  return many<{ number: string; has_stop: boolean }>(
    client,
    `select number, straight_stop is not null as has_stop from ticket t
      where straight is not null and signed_at is null and called_off_at is null and erased_at is null and resting_at is null
        and not exists (select 1 from run r where r.ticket_id = t.id and r.state in ('waiting', 'running', 'paused', 'held'))
        and exists (select 1 from ticket_kind k where k.ticket_id = t.id and k.frozen_at is null)
      order by promised_at`,
  )
}

/** No phone stands for a side until another is named. */
export async function unnamePhone(client: Client, ticketId: TicketId, side: 'old' | 'new'): Promise<void> {
  await change(client, `update ticket_phone set serial = null where ticket_id = $1 and side = $2 and place = 'bench'`, [ticketId, side])
}

/** Locks a ticket for work on it: a worker that adds rows of it while it holds its run need not wait for us, nor we for it. */
export async function lockTicket(client: Client, number: string): Promise<void> {
  await change(client, 'select 1 from ticket where number = $1 for no key update', [number])
}

/** Which phones a past ticket had is forgotten after as many days as the shop says. */
export function forgetSerials(client: Client): Promise<number> {
  return change(
    client,
    `update ticket_phone p
        set serial_hash = null
       from ticket t
      where t.id = p.ticket_id and p.serial_hash is not null
        and t.handed_back_at < now() - make_interval(days => (select serial_days from shop where id = 1))`,
  )
}

export interface NewTicket {
  readonly holding: HoldingId
  readonly customer: Buffer
  readonly promisedAt: string
  readonly waitsInShop: boolean
  readonly staffId: StaffId
  readonly wanted: readonly string[]
  readonly intake: Readonly<Record<string, string>>
  readonly purpose?: TicketRow['purpose']
}

export function insertTicket(client: Client, ticket: NewTicket): Promise<{ id: TicketId; number: string }> {
  return one<{ id: TicketId; number: string }>(
    client,
    `with given as (update shop set next_number = next_number + 1 where id = 1 returning (next_number - 1)::text as n)
     insert into ticket (number, holding_id, customer, promised_at, waits_in_shop, booked_by, held_by, wanted, intake, purpose)
     select case $8 when 'look' then 'L-' else 'T-' end || lpad(n, greatest(4, length(n)), '0'), $1, $2, $3, $4, $5, $5, $6, $7, $8
       from given returning id, number`,
    [
      ticket.holding,
      ticket.customer,
      ticket.promisedAt,
      ticket.waitsInShop,
      ticket.staffId,
      ticket.wanted,
      JSON.stringify(ticket.intake),
      ticket.purpose ?? 'carry',
    ],
  )
}

export interface NewPhone {
  readonly place: string
  readonly maker: string
  readonly model: string
  readonly platform: string
  readonly version: string
  readonly serial: string | null
  readonly uploadId: string | null
  readonly copyId: CopyId | null
  /** Of a closed copy: its key, sealed by the ticket's. */
  readonly copyKey: Buffer | null
}

/** @throws unique_violation when the phone is on another open ticket */
export async function insertPhone(client: Client, ticketId: TicketId, side: 'old' | 'new', phone: NewPhone): Promise<void> {
  await change(
    client,
    `insert into ticket_phone (ticket_id, side, place, maker, model, platform, version, serial, upload_id, copy_id, copy_key)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
    [
      ticketId,
      side,
      phone.place,
      phone.maker,
      phone.model,
      phone.platform,
      phone.version,
      phone.serial,
      phone.uploadId,
      phone.copyId,
      phone.copyKey,
    ],
  )
  // what was brought or copied while films were counted among photos is carried so, on both sides
  await change(
    client,
    `with counted as (
       select exists (select 1 from ticket_phone p
                        left join upload u on u.id = p.upload_id
                        left join locker_copy c on c.id = p.copy_id
                       where p.ticket_id = $1 and (u.films_in_photos or c.films_in_photos)) as so),
     made as (update locker_copy c set films_in_photos = true from counted, ticket_phone p
               where counted.so and p.ticket_id = $1 and p.copy_id = c.id and not c.films_in_photos)
     update ticket_phone p set films_in_photos = true from counted where counted.so and p.ticket_id = $1 and not p.films_in_photos`,
    [ticketId],
  )
}

export async function insertKind(client: Client, ticketId: TicketId, kind: string): Promise<void> {
  await change(client, 'insert into ticket_kind (ticket_id, kind) values ($1, $2)', [ticketId, kind])
}

/** What the customer wants carried, by hand or by us. */
export async function setWanted(client: Client, ticketId: TicketId, wanted: readonly string[]): Promise<void> {
  await change(client, 'update ticket set wanted = $2 where id = $1', [ticketId, wanted])
}

/** Somebody looked and said that the phones are the right way round. */
export async function answerExchange(client: Client, ticketId: TicketId): Promise<void> {
  await change(client, 'update ticket set exchange_answered_at = now() where id = $1', [ticketId])
}

/** The customer accepts a difference by name. @param by sealed */
export async function setAccepted(
  client: Client,
  { ticketId, kind, by, short, over }: { ticketId: TicketId; kind: string; by: Buffer; short: number; over: number },
): Promise<void> {
  await change(
    client,
    `update ticket_kind set accepted_by = $3, accepted_at = now(), accepted_short = $4, accepted_over = $5 where ticket_id = $1 and kind = $2`,
    [ticketId, kind, by, short, over],
  )
}

/** The sealed list of apps to install, and the link its code opens. */
export async function maybeInstallList(client: Client, ticketId: TicketId): Promise<Buffer | undefined> {
  return (
    (await maybeOne<{ install_list: Buffer | null }>(client, 'select install_list from ticket where id = $1', [ticketId]))?.install_list ??
    undefined
  )
}

export async function setInstallList(client: Client, ticketId: TicketId, sealed: Buffer): Promise<void> {
  await change(client, 'update ticket set install_list = $2 where id = $1', [ticketId, sealed])
}

export async function setPrinted(client: Client, ticketId: TicketId): Promise<void> {
  await change(client, 'update ticket set printed_at = now() where id = $1', [ticketId])
}

export async function dropAccepted(client: Client, { ticketId, kind }: { ticketId: TicketId; kind: string }): Promise<void> {
  await change(
    client,
    `update ticket_kind set accepted_by = null, accepted_at = null, accepted_short = null, accepted_over = null where ticket_id = $1 and kind = $2`,
    [ticketId, kind],
  )
}

/** @param by sealed @param isOpen with differences that nobody accepted */
export async function setSigned(client: Client, ticketId: TicketId, { by, isOpen }: { by: Buffer; isOpen: boolean }): Promise<void> {
  await change(client, 'update ticket set signed_by = $2, signed_at = now(), signed_open = $3 where id = $1', [ticketId, by, isOpen])
}

/** @param why sealed */
export async function setCalledOff(client: Client, ticketId: TicketId, why: Buffer | null): Promise<void> {
  await change(client, 'update ticket set called_off_at = now(), called_off_why = $2, resting_at = null where id = $1', [ticketId, why])
}

export async function setResting(client: Client, ticketId: TicketId, isResting: boolean): Promise<void> {
  await change(client, 'update ticket set resting_at = case when $2 then now() end where id = $1', [ticketId, isResting])
}

export async function setHolder(client: Client, ticketId: TicketId, staffId: StaffId): Promise<void> {
  await change(client, 'update ticket set held_by = $2 where id = $1', [ticketId, staffId])
}

/** With another new phone, which phone is which is open again. */
export async function reopen(client: Client, ticketId: TicketId): Promise<void> {
  await change(client, 'update ticket set roles_frozen_at = null, exchange_answered_at = null where id = $1', [ticketId])
}

/** The phones are the customer's again; what remains are the counts. Its key, contents and files go next. */
export async function setErased(
  client: Client,
  ticketId: TicketId,
  { ledger, phones }: { ledger: unknown; phones: readonly { readonly side: 'old' | 'new'; readonly serialHash: Buffer }[] },
): Promise<void> {
  await change(client, 'update ticket_phone set is_open = false, serial = null, copy_key = null where ticket_id = $1', [ticketId])
  await change(
    client,
    `update ticket_phone p
        set serial_hash = h.hash
       from unnest($2::text[], $3::bytea[]) as h(side, hash)
      where p.ticket_id = $1 and p.side = h.side`,
    [ticketId, phones.map(({ side }) => side), phones.map(({ serialHash }) => serialHash)],
  )
  await change(
    client,
    `update ticket
        set customer = null, signed_by = null, called_off_why = null, erased_at = now(), handed_back_at = now(), final_ledger = $2
      where id = $1`,
    [ticketId, JSON.stringify(ledger)],
  )
}

/** The open look of a member of staff into a copy alone. */
export async function maybeLook(client: Client, { copyId, staffId }: { copyId: CopyId; staffId: StaffId }): Promise<string | undefined> {
  const row = await maybeOne<{ number: string }>(
    client,
    `select t.number
       from ticket t
       join ticket_phone p on p.ticket_id = t.id and p.side = 'old'
       join ticket_phone n on n.ticket_id = t.id and n.side = 'new' and n.place = 'nothing'
      where t.purpose = 'look' and t.erased_at is null and p.copy_id = $1 and t.booked_by = $2
      order by t.id desc
      limit 1`,
    [copyId, staffId],
  )
  return row?.number
}

/** Looks nobody closed for so long, and those into a copy that is destroyed or closed by its owner. */
export async function manyStaleLooks(client: Client, hours: number): Promise<string[]> {
  const rows = await many<{ number: string }>(
    client,
    `select number
       from ticket t
      where purpose = 'look' and erased_at is null
        and (created_at < now() - make_interval(hours => $1)
             or exists (select 1 from ticket_phone p join locker_copy c on c.id = p.copy_id
                         where p.ticket_id = t.id and (c.destroyed_at is not null or c.passphrase is not null)))`,
    [hours],
  )
  return rows.map(({ number }) => number)
}

/** What is erased and still has its key, contents or files: a process ended on the way. */
export function manyHalfErased(client: Client): Promise<{ id: TicketId; holding: HoldingId; uploads: HoldingId[] }[]> {
  return many<{ id: TicketId; holding: HoldingId; uploads: HoldingId[] }>(
    client,
    `select t.id, t.holding_id as holding,
            coalesce((select array_agg(p.upload_id) from ticket_phone p where p.ticket_id = t.id and p.upload_id is not null), '{}') as uploads
       from ticket t
      where t.erased_at is not null and t.holding_id is not null`,
  )
}

/** What a page missed since the event it saw last, a row a ticket. */
export function manyMissed(client: Client, since: number): Promise<{ ticket: string; seq: number }[]> {
  return many<{ ticket: string; seq: number }>(
    client,
    `select ticket_number as ticket, max(seq) as seq from ticket_event where seq > $1 group by ticket_number order by seq limit 500`,
    [since],
  )
}
