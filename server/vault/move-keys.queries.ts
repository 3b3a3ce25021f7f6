import { change, many, one, type Client } from '../base/db/sql.ts'
import type { HoldingId } from '../base/ids.ts'

/** Keys that still stand wrapped in the database. */
export function manyKeysInside(client: Client) {
  return many<{ of: 'ticket' | 'upload'; id: string; key_wrapped: Buffer }>(
    client,
    `select 'ticket' as of, id::text, key_wrapped from ticket where key_wrapped is not null
     union all select 'upload', id::text, key_wrapped from upload where key_wrapped is not null`,
  )
}

export function oneKeyCheck(client: Client): Promise<{ key_check: Buffer }> {
  return one<{ key_check: Buffer }>(client, 'select key_check from shop')
}

/** From now on the keys are files, wrapped by the key of that check. */
export async function setKeysMoved(
  client: Client,
  { holdings, check }: { holdings: readonly { ticket: string; holding: HoldingId }[]; check: Buffer },
): Promise<void> {
  await change(
    client,
    `update ticket t set holding_id = h.holding, key_wrapped = null
       from unnest($1::bigint[], $2::uuid[]) as h(ticket, holding)
      where t.id = h.ticket`,
    [holdings.map(({ ticket }) => ticket), holdings.map(({ holding }) => holding)],
  )
  await change(client, 'update upload set key_wrapped = null where key_wrapped is not null')
  await change(client, 'update shop set key_check = $1', [check])
}
