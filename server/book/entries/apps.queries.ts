import { change, many, one, type Client } from '../../base/db/sql.ts'
import { settle } from '../settle.ts'
import type { ReadingId, StaffId, TicketId } from '../../base/ids.ts'

/** Apps bound to the old phone, and how many nobody moved by hand yet. */
export function countTied(client: Client, ticketId: TicketId): Promise<{ all: number; open: number }> {
  return one<{ all: number; open: number }>(
    client,
    `select count(*)::int as all, count(*) filter (where m.native is null)::int as open
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       left join tied_moved m on m.ticket_id = e.ticket_id and m.native = e.native
      where e.ticket_id = $1 and e.kind = 'apps' and i.shape ? 'tied'`,
    [ticketId],
  )
}

export interface AppEntry {
  seq: number
  reading_id: ReadingId
  block: number
  slot: number
  native: Buffer
  fate: string
  reasons: string[]
  is_there: boolean
  is_moved: boolean
}

/** Every app of the old phone; a customer has some dozens. */
export function manyApps(client: Client, ticketId: TicketId, seq: number | null = null): Promise<AppEntry[]> {
  return many<AppEntry>(
    client,
    `select e.seq, e.reading_id, i.block, i.slot, e.native, e.fate, shown_reasons(e) as reasons, e.is_there, m.native is not null as is_moved
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       left join tied_moved m on m.ticket_id = e.ticket_id and m.native = e.native
      where e.ticket_id = $1 and e.kind = 'apps' and ($2::int is null or e.seq = $2)
      order by e.seq
      limit 1000`,
    [ticketId, seq],
  )
}

export async function setMoved(
  client: Client,
  { ticketId, native, isMoved, staffId }: { ticketId: TicketId; native: Buffer; isMoved: boolean; staffId: StaffId },
): Promise<void> {
  if (isMoved)
    await change(client, 'insert into tied_moved (ticket_id, native, staff_id) values ($1, $2, $3) on conflict do nothing', [
      ticketId,
      native,
      staffId,
    ])
  else await change(client, 'delete from tied_moved where ticket_id = $1 and native = $2', [ticketId, native])
}

export interface NewCounterpart {
  readonly seq: number
  /** The form it is to have; null when it can't cross. */
  readonly expected: Buffer | null
  readonly reasons: readonly string[]
  readonly isByHand: boolean
  readonly hasLoss: boolean
}

/** An app's counterpart is another one now, or none. */
export async function setCounterpart(
  client: Client,
  ticketId: TicketId,
  { seq, expected, reasons, isByHand, hasLoss }: NewCounterpart,
): Promise<void> {
  const scope = { ticketId, kind: 'apps' }
  const one = { where: 'e.seq = $4', values: [seq] }
  // whatever it was, it waits with its new form, and then it can cross or not, and is chosen or not
  await settle(client, scope, 'unbarred', one)
  await settle(client, scope, 'chosen', one)
  await change(
    client,
    `update entry
        set expected = $3, reasons = $4, has_change = $3::bytea is not null, has_loss = $5, by_hand = $6, is_there = false, there = null, made = null
      where ticket_id = $1 and kind = 'apps' and seq = $2`,
    [ticketId, seq, expected, reasons, hasLoss, isByHand],
  )
  if (expected === null) await settle(client, scope, 'cannot', one)
  await settle(client, scope, 'left', { where: 'e.seq = $4 and not e.is_chosen', values: [seq] })
}
