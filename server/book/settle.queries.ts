import type { BookEvent } from '#core/book/index.ts'
import { change, type Client } from '../base/db/sql.ts'
import type { TicketId } from '../base/ids.ts'

export interface KindScope {
  readonly ticketId: TicketId
  readonly kind: string
}

/** Which entries an event happens to; statement text of ours, never a caller's. Its own values begin at `$4`. */
export interface Which {
  /** A condition on `e`, an entry, and on what `from` joins. */
  readonly where: string
  readonly from?: string
  /** Further columns set in the same statement. */
  readonly set?: string
  readonly values?: readonly unknown[]
}

/** The one statement by which fates change: each by the step its event is from where it stands. Others are left alone. */
export function moveFates(
  client: Client,
  { ticketId, kind }: KindScope,
  event: BookEvent,
  { where, from, set, values = [] }: Which,
): Promise<number> {
  return change(
    client,
    `update entry e
        set fate = s.to_fate, last_event = s.event${set ? `, ${set}` : ''}
       from fate_step s${from ? `, ${from}` : ''}
      where e.ticket_id = $1 and e.kind = $2 and s.event = $3 and s.from_fate = e.fate
        and (${where})`,
    [ticketId, kind, event, ...values],
  )
}

/** What a batch's answer, or a look at the phone, says of one item. */
export interface Settlement {
  readonly seq: number
  readonly event: BookEvent
  readonly reason: string | null
  /** What the new phone calls its record; null where there is none. */
  readonly written: Buffer | null
}

/** The same for many items, each by an event of its own. */
export function moveEach(client: Client, { ticketId, kind }: KindScope, settlements: readonly Settlement[]): Promise<number> {
  return change(
    client,
    `update entry e
        set fate = s.to_fate, last_event = s.event, written = coalesce(a.written, e.written),
            reasons = case when a.reason is null then e.reasons else array_append(array_remove(e.reasons, a.reason), a.reason) end
       from unnest($3::int[], $4::text[], $5::text[], $6::bytea[]) as a(seq, event, reason, written)
       join fate_step s on s.event = a.event
      where e.ticket_id = $1 and e.kind = $2 and e.seq = a.seq and s.from_fate = e.fate`,
    [
      ticketId,
      kind,
      settlements.map(({ seq }) => seq),
      settlements.map(({ event }) => event),
      settlements.map(({ reason }) => reason),
      settlements.map(({ written }) => written),
    ],
  )
}
