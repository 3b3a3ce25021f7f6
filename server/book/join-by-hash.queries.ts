import { change, type Client } from '../base/db/sql.ts'
import { fewestLookedOver, ofTicket } from '../vault/readings.queries.ts'
import type { KindScope } from './settle.queries.ts'

/**
 * Until the transaction ends, statements that join all of a kind with all of another do it by hash: statistics say nothing of
 * a ticket too small to be looked over for them, and the planner, who takes it for one row, would walk all of one side for
 * each of the other. Of a large one they are made anew when it comes (`refresh_statistics`), and the planner chooses itself.
 */
export async function joinByHash(client: Client, { ticketId, kind }: KindScope): Promise<void> {
  await change(
    client,
    `select set_config('enable_nestloop', case when coalesce(max(got), 0) < $3 then 'off' else 'on' end, true)
       from reading
      where ${ofTicket} and kind = $2 and state = 'whole'`,
    [ticketId, kind, fewestLookedOver],
  )
}
