import type { ReadingView, TicketView } from '#contracts/http/ticket.ts'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import { looksExchanged } from '#core/plan/guards.ts'
import type { HoldingId } from '../../base/ids.ts'
import type { Client } from '../../base/db/sql.ts'
import type { KindRow, TicketRow } from '../../case/tickets.queries.ts'
import { manyNewestReadings } from '../../vault/readings.queries.ts'
import { byKind } from '../by-kind.ts'

/** What the stage Count in shows: the readings of both phones, and whether they look mixed up. */
export async function countInView(
  client: Client,
  { ticket, kinds, ledger }: { ticket: TicketRow; kinds: readonly KindRow[]; ledger: readonly LedgerRow[] },
): Promise<Pick<TicketView, 'readings' | 'beside' | 'areRolesFrozen' | 'needsExchangeAnswer'>> {
  const { exchange_answered_at: answered, roles_frozen_at: frozen } = ticket
  const oldItems = ledger.reduce((sum, row) => sum + row.old.read, 0)
  const newItems = ledger.reduce((sum, row) => sum + (row.new.first ?? 0), 0)
  return {
    readings: ticket.holding ? await readingsOf(client, ticket.holding, kinds) : [],
    beside: Object.entries(ticket.beside)
      .filter(([kind, items]) => items !== 0 && !kinds.some((row) => row.kind === kind))
      .map(([kind, items]) => ({ kind, items })),
    areRolesFrozen: frozen !== null,
    needsExchangeAnswer: !frozen && !answered && ledger.every((row) => row.new.first !== null) && looksExchanged(oldItems, newItems),
  }
}

async function readingsOf(client: Client, holding: HoldingId, kinds: readonly KindRow[]): Promise<ReadingView[]> {
  const newest = byKind(await manyNewestReadings(client, holding))
  return kinds.flatMap(({ kind }) =>
    (['old', 'new'] as const).flatMap((side) =>
      (['first', 'recount', 'last'] as const).flatMap((purpose): ReadingView[] =>
        newest(kind)
          .filter((r) => r.place === side && r.purpose === purpose)
          .map(({ state, got, counted, derived, unreadable }) => ({
            side,
            kind,
            purpose,
            state,
            got,
            counted: counted === null ? null : counted - derived,
            unreadable,
          })),
      ),
    ),
  )
}
