import type { ShopView } from '#contracts/http/shop.ts'
import { change, maybeOne, one, type Client } from './db/sql.ts'

export interface ShopRow {
  name: string
  address: string
  /** IANA. */
  zone: string
  locale: string
  /** After so many minutes without a hand a browser is signed out. */
  idle_minutes: number
  receipt_terms: string
  sheet_words: string
  serial_days: number
  port_names: Record<string, string>
}

export function oneShop(client: Client): Promise<ShopRow> {
  return one<ShopRow>(
    client,
    `select name, address, zone, locale, idle_minutes, receipt_terms, sheet_words, serial_days,
            (select coalesce(jsonb_object_agg(port, p.name), '{}') from port_name p) as port_names
       from shop where id = 1`,
  )
}

export function viewOfShop(row: ShopRow): ShopView {
  const {
    idle_minutes: idleMinutes,
    receipt_terms: receiptTerms,
    sheet_words: sheetWords,
    serial_days: serialDays,
    port_names: portNames,
    ...rest
  } = row
  return { ...rest, idleMinutes, receiptTerms, sheetWords, serialDays, portNames }
}

/** The end of a day in the shop's zone. @param day ISO 8601 */
export async function endOfShopDay(client: Client, day: string): Promise<Date> {
  return (await one<{ at: Date }>(client, `select ($1::date + 1)::timestamp at time zone zone as at from shop where id = 1`, [day])).at
}

/** Who changes settings does so alone. */
export async function lockShop(client: Client): Promise<void> {
  await change(client, 'select 1 from shop where id = 1 for update')
}

export async function setShopFields(client: Client, shop: Omit<ShopView, 'portNames'>): Promise<void> {
  await change(
    client,
    `update shop
        set name = $1, address = $2, zone = $3, locale = $4, idle_minutes = $5, receipt_terms = $6, sheet_words = $7, serial_days = $8
      where id = 1`,
    [shop.name, shop.address, shop.zone, shop.locale, shop.idleMinutes, shop.receiptTerms, shop.sheetWords, shop.serialDays],
  )
}

/** @param name empty for none */
export async function setPortName(client: Client, port: number, name: string): Promise<void> {
  if (name === '') await change(client, 'delete from port_name where port = $1', [port])
  else
    await change(client, 'insert into port_name (port, name) values ($1, $2) on conflict (port) do update set name = excluded.name', [
      port,
      name,
    ])
}

/** A digest by the master key that the shop's data was sealed with; undefined in a shop that was not made yet. */
export function maybeKeyCheck(client: Client): Promise<{ key_check: Buffer } | undefined> {
  return maybeOne<{ key_check: Buffer }>(client, 'select key_check from shop where id = 1')
}

/** Listens to what tickets tell. */
export async function listenToTickets(client: Client): Promise<void> {
  await client.query('listen ticket_event')
}

/** How much a look sees of what is changed beside it. */
export interface Seen {
  /** Transactions numbered below this are seen, but for those that had not ended. */
  readonly holds: { readonly below: number; readonly without: number[] }
  /** Of two looks the one that sees more has the larger; equal, they see the same. */
  readonly moment: number
}

/** What the caller's transaction sees: those that began before it looked, but for those that had not ended. */
export function readSeen(client: Client): Promise<Seen> {
  return one<Seen>(
    client,
    `select json_build_object(
              'below', pg_snapshot_xmax(s)::text::bigint,
              'without', (select coalesce(json_agg(x::text::bigint), '[]') from pg_snapshot_xip(s) x)
            ) as holds,
            pg_snapshot_xmax(s)::text::bigint * 1000 + 999 - least((select count(*) from pg_snapshot_xip(s)), 999) as moment
       from pg_current_snapshot() s`,
  )
}
