import { change, maybeOne, one, type Client } from './db/sql.ts'

export interface ShopRow {
  name: string
  address: string
  /** IANA. */
  zone: string
  /** After so many minutes without a hand a browser is signed out. */
  idle_minutes: number
}

export function oneShop(client: Client): Promise<ShopRow> {
  return one<ShopRow>(client, 'select name, address, zone, idle_minutes from shop where id = 1')
}

/** Sets when an idle browser is signed out, for the whole shop. */
export async function setIdleMinutes(client: Client, minutes: number): Promise<void> {
  await change(client, 'update shop set idle_minutes = $1 where id = 1', [minutes])
}

/** A digest by the master key that the shop's data was sealed with; undefined in a shop that was not made yet. */
export function maybeKeyCheck(client: Client): Promise<{ key_check: Buffer } | undefined> {
  return maybeOne<{ key_check: Buffer }>(client, 'select key_check from shop where id = 1')
}

/** Listens to what tickets tell. */
export async function listenToTickets(client: Client): Promise<void> {
  await client.query('listen ticket_event')
}

/** Every transaction numbered below this has ended before the caller's look: what it changed is seen. */
export async function changesSeen(client: Client): Promise<number> {
  return (await one<{ n: number }>(client, `select pg_snapshot_xmin(pg_current_snapshot())::text::bigint as n`)).n
}
