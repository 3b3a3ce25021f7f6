import { many, type Client } from '../base/db/sql.ts'
import type { ReadingFigures } from '../vault/readings.queries.ts'
import type { ReadingId, TicketId } from '../base/ids.ts'

/** Fates of many tickets' items, from the counts kept beside them. */
export function manyFateCounts(client: Client, ticketIds: readonly TicketId[]) {
  return many<{
    ticket_id: TicketId
    kind: string
    fate: string
    n: number
    late: number
    with_loss: number
    in_place_of_theirs: number
    by_hand: number
  }>(
    client,
    `select ticket_id, kind, fate, sum(n)::int as n,
            coalesce(sum(n) filter (where is_late), 0)::int as late,
            coalesce(sum(n) filter (where has_loss and fate = 'changed'), 0)::int as with_loss,
            coalesce(sum(n) filter (where joins and fate in ('carried', 'changed', 'lost')), 0)::int as in_place_of_theirs,
            coalesce(sum(n) filter (where fate = 'pending' and not is_there and by_hand), 0)::int as by_hand
       from tally
      where ticket_id = any($1::bigint[])
      group by ticket_id, kind, fate`,
    [ticketIds],
  )
}

export interface LedgerReading {
  ticket_id: TicketId
  kind: string
  place: 'old' | 'new'
  purpose: string
  state: string
  id: ReadingId
  got: number
  counted: number | null
  derived: number
  unreadable: number
  bytes: number
  also: Record<string, number>
  derived_of: Record<string, number>
  figures: ReadingFigures
}

/** The readings a ledger stands on, and those that are growing. */
export function manyLedgerReadings(client: Client, ticketIds: readonly TicketId[]): Promise<LedgerReading[]> {
  return many<LedgerReading>(
    client,
    `select t.id as ticket_id, r.kind, r.place, r.purpose, r.state, r.id, r.got, r.counted, r.derived, r.unreadable, r.bytes, r.also, r.derived_of, r.figures
       from ticket t
       join reading r on r.holding_id = t.holding_id
       left join ticket_kind k on k.ticket_id = t.id and k.kind = r.kind
      where t.id = any($1::bigint[])
        and (r.id in (k.old_reading, k.first_reading, k.last_reading) or (r.state = 'open' and r.purpose = 'first'))`,
    [ticketIds],
  )
}
