import type { TicketView } from '#contracts/http/ticket.ts'
import { kinds as registered } from '#core/kinds/registry.ts'
import type { Crossing } from '#core/phones/crossing.ts'
import type { KindRow, TicketRow } from '../../case/tickets.queries.ts'

/** What the stage Book in shows: who booked it, what is wanted, and what of that can't cross. */
export function bookInView(
  ticket: TicketRow,
  { kinds, crossings }: { kinds: readonly KindRow[]; crossings: readonly Crossing[] },
): Pick<TicketView, 'bookedBy' | 'kinds' | 'byHand' | 'cannot' | 'intake'> {
  return {
    bookedBy: ticket.booked_by_name,
    kinds: kinds.map((kind) => kind.kind),
    byHand: ticket.wanted.filter((kind) => !registered.some((k) => k.code === kind)),
    cannot: Object.fromEntries(crossings.flatMap(({ kind, rule }) => (rule && ticket.wanted.includes(kind) ? [[kind, rule]] : []))),
    intake: ticket.intake,
  }
}
