import { change, many, one, type Client } from '../base/db/sql.ts'
import type { HoldingId } from '../base/ids.ts'

/** Keys that still stand wrapped in the database, and what each is bound to. */
export function manyKeysInside(client: Client) {
  return many<{ bound: string; holding: HoldingId; key_wrapped: Buffer }>(
    client,
    `select 'ticket' as bound, holding_id::text as holding, key_wrapped from ticket where key_wrapped is not null
     union all select 'upload ' || id, id::text, key_wrapped from upload where key_wrapped is not null`,
  )
}

export function oneKeyCheck(client: Client): Promise<{ key_check: Buffer }> {
  return one<{ key_check: Buffer }>(client, 'select key_check from shop')
}

/** From now on the keys are files, wrapped by the key of that check. */
export async function setKeysMoved(client: Client, check: Buffer): Promise<void> {
  for (const table of ['ticket', 'upload']) await change(client, `update ${table} set key_wrapped = null where key_wrapped is not null`)
  await change(client, 'update shop set key_check = $1', [check])
}
