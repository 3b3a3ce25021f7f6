import { change, many, type Client } from '../base/db/sql.ts'
import type { StaffId } from '../base/ids.ts'

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
  { appId, platform, counterpartId, staffId }: { appId: string; platform: string; counterpartId: string | null; staffId: StaffId },
): Promise<void> {
  await change(
    client,
    `insert into counterpart (app_id, platform, counterpart_id, staff_id) values ($1, $2, $3, $4)
         on conflict (app_id, platform) do update set counterpart_id = excluded.counterpart_id, staff_id = excluded.staff_id`,
    [appId, platform, counterpartId, staffId],
  )
}

export interface CounterpartRow {
  app_id: string
  platform: 'android' | 'ios'
  counterpart_id: string | null
  by: string
}

/** All that the shop remembers of counterparts: what stands in, said by whom, never of whose phone nor when. */
export function manyCounterparts(client: Client): Promise<CounterpartRow[]> {
  return many<CounterpartRow>(
    client,
    `select c.app_id, c.platform, c.counterpart_id, s.name as by
       from counterpart c join staff s on s.id = c.staff_id
      order by c.app_id, c.platform
      limit 500`,
  )
}

export async function forgetCounterpart(client: Client, appId: string, platform: string): Promise<void> {
  await change(client, 'delete from counterpart where app_id = $1 and platform = $2', [appId, platform])
}
