import { maybeOne, type Client } from '../base/db/sql.ts'
import type { StaffId, TicketId } from '../base/ids.ts'

/** The showing that is allowed now, if any. */
export function maybeShowing(client: Client, ticketId: TicketId, staffId: StaffId): Promise<{ until_at: Date } | undefined> {
  return maybeOne<{ until_at: Date }>(
    client,
    `select until_at from showing
      where ticket_id = $1 and staff_id = $2 and until_at > now() and scope <> 'ended'
        and not exists (select 1 from showing e where e.ticket_id = $1 and e.staff_id = $2 and e.scope = 'ended' and e.id > showing.id)
      order by id desc
      limit 1`,
    [ticketId, staffId],
  )
}

/** Adds a row to what can't be rewritten: who sees what of whom, why, and until when. */
export async function insertShowing(
  client: Client,
  { ticketId, number, staffId, scope, reason }: { ticketId: TicketId; number: string; staffId: StaffId; scope: string; reason: string },
): Promise<void> {
  await client.query(
    `insert into showing (ticket_id, ticket_number, staff_id, scope, reason, until_at)
     values ($1, $2, $3, $4, $5, now() + case when $4 = 'ended' then interval '0' else interval '10 minutes' end)`,
    [ticketId, number, staffId, scope, reason],
  )
}
