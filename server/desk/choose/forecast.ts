import { createHash } from 'node:crypto'
import type { ForecastView } from '#contracts/http/ticket.ts'
import { forecastOf } from '#core/book/forecast.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { Client } from '../../base/db/sql.ts'
import { countJoinings, countsOf } from '../../book/joining/joining.queries.ts'
import { manyChangesToCome, manyReasons, oneForecast } from '../../book/plan/plan.queries.ts'
import type { KindRow } from '../../case/tickets.queries.ts'
import { maybeReading } from '../../vault/readings.queries.ts'

/** The forecasts of those kinds whose phones are both read. */
export async function readForecasts(client: Client, kinds: readonly KindRow[]): Promise<ForecastView[]> {
  const out: ForecastView[] = []
  for (const kind of kinds) if (kind.old_reading && kind.first_reading) out.push(await readForecast(client, kind))
  return out
}

/** The forecast as it is now; its `seen` mark changes with it. */
async function readForecast(client: Client, kind: KindRow): Promise<ForecastView> {
  const scope = { ticketId: kind.ticket_id, kind: kind.kind }
  const n = await oneForecast(client, scope)
  const reasons = await manyReasons(client, scope)
  const first = await maybeReading(client, kind.first_reading)
  const counts = forecastOf(first?.got ?? 0, {
    carried: n.carried,
    changed: n.changed,
    changedWithLoss: n.changed_with_loss,
    merged: n.merged,
    alreadyThere: n.already_there,
    notChosen: n.not_chosen,
    cannotCross: n.cannot_cross,
    unreadable: n.unreadable,
    parts: n.parts,
  })
  const known = kindOf(kind.kind).changes
  const changes = (await manyChangesToCome(client, scope)).filter(({ code }) => code in known)
  const rules = reasons.filter((r) => r.fate === 'cannotCross' || r.fate === 'unreadable')
  const view = {
    kind: kind.kind,
    mode: kind.mode,
    choice: kind.choice,
    counts,
    changes: changes.map(({ code, items }) => ({ code, items, loss: known[code]!.loss })),
    rules: rules.map(({ code, fate, items }) => ({ code, fate, items })),
  }
  const { all, toJoin, joined } = countsOf(await countJoinings(client, scope))
  return {
    ...view,
    onBoth: { all, toJoin, joined },
    seen: createHash('sha256').update(JSON.stringify(view)).digest('base64url').slice(0, 16),
  }
}
