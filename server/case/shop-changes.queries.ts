import { change, many, type Client } from '../base/db/sql.ts'
import type { StaffId } from '../base/ids.ts'

export interface ShopChange {
  /** A field of the settings; `staff`, `pin`, `port`, `counterpart`, `first-start`. */
  readonly what: string
  readonly of?: string
  readonly before?: string | null
  readonly after?: string | null
}

/** Adds to the log of what was changed in the settings. */
export async function insertShopChange(client: Client, staffId: StaffId | null, { what, of, before, after }: ShopChange): Promise<void> {
  await change(client, 'insert into shop_change (staff_id, what, of_what, before, after) values ($1, $2, $3, $4, $5)', [
    staffId,
    what,
    of ?? null,
    before ?? null,
    after ?? null,
  ])
}

export interface ShopChangeRow {
  at: Date
  by: string | null
  what: string
  of: string | null
  before: string | null
  after: string | null
}

/** The last changes of settings, the newest first. */
export function manyShopChanges(client: Client): Promise<ShopChangeRow[]> {
  return many<ShopChangeRow>(
    client,
    `select c.at, s.name as by, c.what, c.of_what as of, c.before, c.after
       from shop_change c left join staff s on s.id = c.staff_id
      order by c.id desc
      limit 200`,
  )
}
