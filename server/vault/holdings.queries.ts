import { change, many, type Client } from '../base/db/sql.ts'
import type { HoldingId } from '../base/ids.ts'

/** What a holding is for. */
export type Purpose = 'ticket' | 'file' | 'locker' | 'look'

export async function insertHolding(client: Client, { id, purpose }: { id: HoldingId; purpose: Purpose }): Promise<void> {
  await change(client, 'insert into holding (id, purpose) values ($1, $2)', [id, purpose])
}

/** What was read into them, its sealed blocks, and dropped files go with them. */
export async function deleteHoldings(client: Client, ids: readonly HoldingId[]): Promise<void> {
  await change(client, 'delete from holding where id = any($1::uuid[])', [ids])
}

/** Which of these are nobody's. */
export async function manyStrayHoldings(client: Client, ids: readonly HoldingId[]): Promise<HoldingId[]> {
  const rows = await many<{ id: HoldingId }>(
    client,
    `select s.id::text as id from unnest($1::uuid[]) as s(id) where not exists (select 1 from holding h where h.id = s.id)`,
    [ids],
  )
  return rows.map(({ id }) => id)
}
