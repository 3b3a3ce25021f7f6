import type { RunView } from '#contracts/http/ticket.ts'
import { timeLeft } from '#core/plan/left.ts'
import type { RunRow } from '../../runs/runs.queries.ts'
import { iso } from '../iso.ts'

/** What a run does, how far it is and how long it still takes. */
export function runViewOf(run: RunRow): RunView {
  const elapsedS = run.step_since ? (Date.now() - run.step_since.getTime()) / 1000 : 0
  const doneNow = Math.max(0, run.done - run.step_from)
  const isCounting = run.state === 'running' && ['carrying', 'counting', 'reading', 'recounting'].includes(run.step)
  // of the whole part; while it waits or is paused, nothing is known of it
  const left =
    run.state === 'running' && run.measured_since
      ? timeLeft({
          doneS: run.usual_done - run.measured_from,
          leftS: run.usual_total - run.usual_done,
          elapsedS: (Date.now() - run.measured_since.getTime()) / 1000,
        })
      : undefined
  return {
    id: String(run.id),
    type: run.type,
    state: run.state,
    reason: run.reason,
    side: run.side,
    done: run.done,
    total: run.total,
    unit: run.unit,
    kind: run.kind,
    step: run.step,
    startedAt: run.started_at.toISOString(),
    endedAt: iso(run.ended_at),
    leftLowS: left?.lowS ?? null,
    leftHighS: left?.highS ?? null,
    perSecond: isCounting && elapsedS > 0.5 && doneNow > 0 ? Math.round((doneNow / elapsedS) * 10) / 10 : null,
  }
}
