import { createHash } from 'node:crypto'
import type { ForecastView } from '#contracts/http/ticket.ts'
import { forecastOf } from '#core/book/forecast.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { Client } from '../../base/db/sql.ts'
import { countJoinings, countsOf } from '../../book/joining/joining.queries.ts'
import { manyChangesToCome, manyForecasts, manyReasons } from '../../book/plan/plan.queries.ts'
import type { KindRow } from '../../case/tickets.queries.ts'
import { manyGot } from '../../vault/readings.queries.ts'
import { byKind } from '../by-kind.ts'

/** The forecasts of those kinds whose phones are both read. As many statements for twenty kinds as for one. */
export async function readForecasts(client: Client, kinds: readonly KindRow[]): Promise<ForecastView[]> {
  const read = kinds.filter((kind) => kind.old_reading && kind.first_reading)
  if (read.length === 0) return []
  const ticketId = read[0]!.ticket_id
  const codes = read.map(({ kind }) => kind)
  const [forecasts, reasons, changes, joinings] = [
    byKind(await manyForecasts(client, ticketId)),
    byKind(await manyReasons(client, ticketId, codes)),
    byKind(await manyChangesToCome(client, ticketId)),
    byKind(await countJoinings(client, ticketId)),
  ]
  const got = await manyGot(
    client,
    read.map((kind) => kind.first_reading!),
  )
  return read.map((kind) =>
    forecastViewOf(kind, {
      counts: forecasts(kind.kind)[0],
      reasons: reasons(kind.kind),
      changes: changes(kind.kind),
      joinings: joinings(kind.kind),
      first: got.find(({ id }) => id === kind.first_reading)?.got ?? 0,
    }),
  )
}

type Rows<Query extends (...args: never[]) => Promise<readonly unknown[]>> = Awaited<ReturnType<Query>>

/** The forecast as it is now; its `stamp` changes with it. */
function forecastViewOf(
  kind: KindRow,
  of: {
    readonly counts: Rows<typeof manyForecasts>[number] | undefined
    readonly reasons: Rows<typeof manyReasons>
    readonly changes: Rows<typeof manyChangesToCome>
    readonly joinings: Rows<typeof countJoinings>
    readonly first: number
  },
): ForecastView {
  const n = of.counts
  const counts = forecastOf(of.first, {
    carried: n?.carried ?? 0,
    changed: n?.changed ?? 0,
    changedWithLoss: n?.changed_with_loss ?? 0,
    merged: n?.merged ?? 0,
    alreadyThere: n?.already_there ?? 0,
    notChosen: n?.not_chosen ?? 0,
    cannotCross: n?.cannot_cross ?? 0,
    unreadable: n?.unreadable ?? 0,
    parts: n?.parts ?? 0,
  })
  const known = kindOf(kind.kind).changes
  const changes = of.changes.filter(({ code }) => code in known)
  const rules = of.reasons.filter((r) => r.fate === 'cannotCross' || r.fate === 'unreadable')
  const view = {
    kind: kind.kind,
    mode: kind.mode,
    choice: kind.choice,
    counts,
    changes: changes.map(({ code, items }) => ({ code, items, loss: known[code]!.loss })),
    rules: rules.map(({ code, fate, items }) => ({ code, fate, items })),
  }
  const { all, toJoin, joined } = countsOf(of.joinings)
  return {
    ...view,
    onBoth: { all, toJoin, joined },
    stamp: createHash('sha256').update(JSON.stringify(view)).digest('base64url').slice(0, 16),
  }
}
