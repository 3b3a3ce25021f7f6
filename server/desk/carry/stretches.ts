import type { RunView, TicketView } from '#contracts/http/ticket.ts'
import type { MediaPlan } from '#contracts/http/media.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { stretchesOf } from '#core/plan/order.ts'
import type { Client } from '../../base/db/sql.ts'
import { byKind } from '../by-kind.ts'
import type { KindRow } from '../../case/tickets.queries.ts'
import { manyCarryBytes, manyCarryTotals } from '../../book/entries/carry.queries.ts'

const isMediaKind = (kind: string) => kindOf(kind).isMedia === true

/** The visible stretches of the line: which is over, which runs, which waits, each with what it measures and how long it takes. */
export async function readStretches(
  client: Client,
  { kinds, first, run, plan }: { kinds: readonly KindRow[]; first: string | null; run: RunView; plan: MediaPlan | null },
): Promise<TicketView['stretches']> {
  const stretches = stretchesOf(
    kinds.map(({ kind }) => ({ kind, isMedia: kindOf(kind).isMedia === true })),
    first,
  )
  const at = run.kind === null ? 0 : stretches.findIndex((stretch) => stretch.kinds.includes(run.kind!))
  const out: TicketView['stretches'] = []
  const ticketId = kinds[0]!.ticket_id
  const [media, light] = [true, false].map((is) => stretches.flatMap((stretch) => stretch.kinds.filter((kind) => isMediaKind(kind) === is)))
  const totalsOf = byKind([
    ...(media!.length > 0 ? await manyCarryBytes(client, ticketId, media!) : []),
    ...(light!.length > 0 ? await manyCarryTotals(client, ticketId, light!) : []),
  ])
  for (const [i, stretch] of stretches.entries()) {
    const isMedia = stretch.kinds.every(isMediaKind)
    let [done, total] = [0, 0]
    for (const kind of stretch.kinds) {
      const totals = totalsOf(kind)[0] ?? { done: 0, waiting: 0 }
      const all = totals.done + totals.waiting
      // a file that is on its way counts while it is
      const isNow = run.kind === kind && run.unit === 'bytes' && run.step === 'carrying'
      done += isNow ? Math.max(totals.done, Math.min(run.done, all)) : totals.done
      total += all
    }
    const isRunning = i === at && run.state === 'running'
    const left = isRunning
      ? { leftLowS: run.leftLowS, leftHighS: run.leftHighS }
      : i > at && isMedia && plan
        ? { leftLowS: Math.ceil(plan.duration.lowS / 2), leftHighS: Math.ceil(plan.duration.highS / 2) }
        : { leftLowS: null, leftHighS: null }
    out.push({
      code: stretch.code,
      kinds: [...stretch.kinds],
      state: i < at ? 'over' : i === at ? 'running' : 'waiting',
      done,
      total,
      unit: isMedia ? 'bytes' : 'items',
      ...left,
    })
  }
  return out
}
