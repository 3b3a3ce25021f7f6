import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { ForecastView, TicketView } from '#contracts/http/ticket.ts'
import type { Client } from '../../base/db/sql.ts'
import { leftByDefault } from '../../book/left-by-default.ts'
import { manyReasons } from '../../book/plan/plan.queries.ts'
import type { KindRow, TicketRow } from '../../case/tickets.queries.ts'
import { byKind } from '../by-kind.ts'
import type { Sides } from '../summary.ts'
import { readForecasts } from './forecast.ts'
import { readMediaPlan } from './media-plan.ts'

/** What the stage Choose shows: the forecast of each kind, room and time, and every reason with its count. */
export async function chooseView(
  client: Client,
  { ticket, kinds, sides }: { ticket: TicketRow; kinds: readonly KindRow[]; sides: Sides },
): Promise<Pick<TicketView, 'forecasts' | 'plan' | 'reasons'>> {
  if (ticket.erased_at) return { forecasts: [], plan: null, reasons: [] }
  const forecasts = await readForecasts(client, kinds)
  const phones = { old: sides.old.view?.phone?.facts ?? null, new: sides.new.view?.phone?.facts ?? null }
  const isWhole = forecasts.length === kinds.length && forecasts.length > 0
  return {
    forecasts,
    plan: isWhole ? await readMediaPlan(client, kinds, { forecasts, phones }) : null,
    reasons: await reasonsOf(client, kinds),
  }
}

/** The ledger with what is still to come: a new phone will hold its first count, what is over, and that. */
export function withForecasts(ledger: readonly LedgerRow[], forecasts: readonly ForecastView[]): LedgerRow[] {
  return ledger.map((row) => {
    const counts = forecasts.find((forecast) => forecast.kind === row.kind)?.counts
    if (!counts || row.new.expected === null) return row
    const expected = row.new.expected + counts.carried + counts.changed
    // what a hand installs is named apart
    const toChange = Math.max(0, counts.changed - row.toInstall)
    return { ...row, new: { ...row.new, expected }, toCarry: counts.carried, toChange }
  })
}

async function reasonsOf(client: Client, kinds: readonly KindRow[]): Promise<TicketView['reasons']> {
  const [first] = kinds
  if (!first) return []
  const codes = kinds.map(({ kind }) => kind)
  const reasons = byKind(await manyReasons(client, first.ticket_id, codes))
  const left = byKind(await leftByDefault(client, first.ticket_id, codes))
  return kinds.flatMap(({ kind }) => [
    ...reasons(kind).map(({ fate, code, items }) => ({ kind, fate, code, items })),
    ...left(kind).map(({ code, items }) => ({ kind, fate: 'notChosen', code, items })),
  ])
}
