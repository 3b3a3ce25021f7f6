import { maybeOne, type Client } from '../base/db/sql.ts'
import type { HoldingId, TicketId } from '../base/ids.ts'
import type { CopiedPhone } from '../vault/lockers/copies.queries.ts'

/** The phone a ticket carries from, with the copy it is where it comes out of a locker. */
export function maybeOldPhone(client: Client, ticketId: TicketId) {
  return maybeOne<CopiedPhone & { serial: string | null; place: string; locker_id: number | null }>(
    client,
    `select p.maker, p.model, p.platform, p.version, p.region, p.zone, p.serial, p.place, c.locker_id
       from ticket_phone p
       left join locker_copy c on c.id = p.copy_id
      where p.ticket_id = $1 and p.side = 'old'`,
    [ticketId],
  )
}

/** The key of a closed copy that a ticket reads from, sealed by the ticket's. */
export function maybeCopyKey(
  client: Client,
  ticketId: TicketId,
): Promise<{ copy_key: Buffer | null; holding: HoldingId | null } | undefined> {
  return maybeOne(
    client,
    `select p.copy_key, case when t.erased_at is null then t.holding_id end as holding
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.ticket_id = $1 and p.side = 'old'`,
    [ticketId],
  )
}
