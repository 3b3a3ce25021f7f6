import { change, many, type Client } from '../base/db/sql.ts'

/** The shop's own word on counterparts for a platform: null for none. */
export async function shopsCounterparts(client: Client, platform: string): Promise<Map<string, string | null>> {
  const rows = await many<{ app_id: string; counterpart_id: string | null }>(
    client,
    'select app_id, counterpart_id from counterpart where platform = $1',
    [platform],
  )
  return new Map(rows.map((row) => [row.app_id, row.counterpart_id]))
}

export async function setShopsCounterpart(
  client: Client,
  { appId, platform, counterpartId, staffId }: { appId: string; platform: string; counterpartId: string | null; staffId: number },
): Promise<void> {
  await change(
    client,
    `insert into counterpart (app_id, platform, counterpart_id, staff_id) values ($1, $2, $3, $4)
         on conflict (app_id, platform) do update set counterpart_id = excluded.counterpart_id, staff_id = excluded.staff_id, at = now()`,
    [appId, platform, counterpartId, staffId],
  )
}
