import type { TicketView } from '#contracts/http/ticket.ts'
import { kinds as registered } from '#core/kinds/registry.ts'
import type { Client } from '../../base/db/sql.ts'
import type { KindRow, PhoneRow, TicketRow } from '../../case/tickets.queries.ts'
import type { Guides } from '../../ready/guides.ts'
import { pairCrossings } from '../../ready/ready.ts'
import { kindsToAdd } from './kinds.ts'

/** What the stage Book in shows: who booked it, what is wanted, and what of that can't cross. */
export async function bookInView(
  client: Client,
  ticket: TicketRow,
  { kinds, phones, guides }: { kinds: readonly KindRow[]; phones: readonly PhoneRow[]; guides: Guides },
): Promise<Pick<TicketView, 'bookedBy' | 'kinds' | 'canAdd' | 'frozenKinds' | 'byHand' | 'cannot' | 'intake'>> {
  const crossings = pairCrossings(guides, phones)
  return {
    bookedBy: ticket.booked_by_name,
    kinds: kinds.map((kind) => kind.kind),
    canAdd: ticket.erased_at || ticket.signed_at || ticket.called_off_at ? [] : await kindsToAdd(client, { guides, phones, kinds }),
    frozenKinds: kinds.flatMap(({ kind, frozen_at: at }) => (at ? [kind] : [])),
    byHand: ticket.wanted.filter((kind) => !registered.some((k) => k.code === kind)),
    cannot: Object.fromEntries(crossings.flatMap(({ kind, rule }) => (rule && ticket.wanted.includes(kind) ? [[kind, rule]] : []))),
    intake: ticket.intake,
  }
}
