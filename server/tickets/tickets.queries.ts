import { kinds } from '#core/kinds/registry.ts'
import type { Measured } from '../plan/media.queries.ts'
import { many, maybeOne, one, type Client } from '../db/sql.ts'

export interface TicketRow {
  id: number
  number: string
  key_wrapped: Buffer | null
  customer: Buffer | null
  promised_at: Date
  waits_in_shop: boolean
  booked_by_name: string
  created_at: Date
  roles_frozen_at: Date | null
  exchange_answered_at: Date | null
  signed_by: Buffer | null
  signed_at: Date | null
  handed_back_at: Date | null
  erased_at: Date | null
  final_ledger: unknown
  wanted: string[]
  intake: Record<string, string>
  held_by_name: string
  resting_at: Date | null
  /** A fragile phone's dearest kind, carried before all others. */
  first_kind: string | null
}

export interface PhoneRow {
  ticket_id: number
  side: 'old' | 'new'
  link: 'standin' | 'file'
  maker: string
  model: string
  platform: 'android' | 'ios' | 'keypad' | 'file'
  version: string
  region: string
  zone: string
  serial: string | null
  upload_id: string | null
}

export interface KindRow {
  ticket_id: number
  kind: string
  mode: 'add'
  choice: 'all' | 'none' | 'some'
  chosen_at: Date | null
  old_reading: number | null
  first_reading: number | null
  recount_reading: number | null
  last_reading: number | null
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

const ticketColumns = `t.id, t.number, t.key_wrapped, t.customer, t.promised_at, t.waits_in_shop, s.name as booked_by_name,
  t.created_at, t.roles_frozen_at, t.exchange_answered_at, t.signed_by, t.signed_at, t.handed_back_at, t.erased_at, t.final_ledger,
  t.wanted, t.intake, h.name as held_by_name, t.resting_at, t.first_kind`

export function maybeTicket(client: Client, number: string): Promise<TicketRow | undefined> {
  return maybeOne<TicketRow>(
    client,
    `select ${ticketColumns} from ticket t join staff s on s.id = t.booked_by join staff h on h.id = coalesce(t.held_by, t.booked_by) where t.number = $1`,
    [number],
  )
}

export function oneTicketById(client: Client, id: number): Promise<TicketRow> {
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
       where t.handed_back_at is null
       order by t.promised_at
       limit 200)
     union all
     (select ${ticketColumns}
        from ticket t join staff s on s.id = t.booked_by join staff h on h.id = coalesce(t.held_by, t.booked_by)
       where t.handed_back_at is not null
       order by t.handed_back_at desc
       limit 12)`,
  )
}

export function manyPhones(client: Client, ticketIds: readonly number[]): Promise<PhoneRow[]> {
  return many<PhoneRow>(
    client,
    `select ticket_id, side, link, maker, model, platform, version, region, zone, serial, upload_id
       from ticket_phone
      where ticket_id = any($1::bigint[])`,
    [ticketIds],
  )
}

/** Kinds in the order they are carried: light first. */
export function manyKinds(client: Client, ticketIds: readonly number[]): Promise<KindRow[]> {
  return many<KindRow>(client, `select * from ticket_kind where ticket_id = any($1::bigint[]) order by array_position($2::text[], kind)`, [
    ticketIds,
    kinds.map((kind) => kind.code),
  ])
}

export function oneKind(client: Client, ticketId: number, kind: string): Promise<KindRow> {
  return one<KindRow>(client, `select * from ticket_kind where ticket_id = $1 and kind = $2`, [ticketId, kind])
}

/** Open tickets that name a phone. */
export function manyTicketsOfSerials(client: Client, serials: readonly string[]) {
  return many<{ number: string; serial: string; side: 'old' | 'new'; ticket_id: number }>(
    client,
    `select t.number, p.serial, p.side, t.id as ticket_id
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.is_open and p.serial = any($1::text[])`,
    [serials],
  )
}

/** Tells every open page that something of a ticket changed. */
export async function tellTicket(client: Client, ticketId: number, what: string): Promise<void> {
  await client.query(
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
  await client.query(`update ticket_phone set region = $3, zone = $4 where ticket_id = $1 and side = $2 and (region, zone) <> ($3, $4)`, [
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
      where p.is_open and p.link = 'standin' and p.serial is null and t.handed_back_at is null
      order by t.promised_at`,
  )
}

/** What of a kind is carried: all, none, or some. */
export async function setChoice(
  client: Client,
  { ticketId, kind }: { ticketId: number; kind: string },
  choice: KindRow['choice'],
): Promise<void> {
  await client.query('update ticket_kind set choice = $3, chosen_at = now() where ticket_id = $1 and kind = $2', [ticketId, kind, choice])
}

/** The kind that is carried before all others; null for the usual order. */
export async function setFirstKind(client: Client, ticketId: number, kind: string | null): Promise<void> {
  await client.query('update ticket set first_kind = $2 where id = $1', [ticketId, kind])
}
