import { maybeOne, one, type Client } from './db/sql.ts'

export interface ShopRow {
  name: string
  address: string
  /** IANA. */
  zone: string
}

export function oneShop(client: Client): Promise<ShopRow> {
  return one<ShopRow>(client, 'select name, address, zone from shop where id = 1')
}

/** A digest by the master key that the shop's data was sealed with; undefined in a shop that was not made yet. */
export function maybeKeyCheck(client: Client): Promise<{ key_check: Buffer } | undefined> {
  return maybeOne<{ key_check: Buffer }>(client, 'select key_check from shop where id = 1')
}

/** Listens to what tickets tell. */
export async function listenToTickets(client: Client): Promise<void> {
  await client.query('listen ticket_event')
}
