import { mostRetries } from '#core/book/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { lineParts } from '#core/plan/order.ts'
import { MustWait, type RunContext } from '../runs/context.ts'
import type { RunRow } from '../runs/runs.queries.ts'
import { attach, loadRunTicket, type RunTicket } from '../runs/ticket-of-run.ts'
import { measureConversion } from './moving/measure.ts'
import type { Step, WorkAlone } from './step.ts'
import { checkOff } from './steps/check-off.ts'
import { clearLeft } from './steps/clear.ts'
import { countBothIn, fitKinds } from './steps/count-in.ts'
import { findSamePeople } from './steps/find-same-people.ts'
import { freezeFirst } from './steps/freeze.ts'
import { joinChosen, undoAsked } from './steps/join.ts'
import { lookAgain } from './steps/look-again.ts'
import { resolveUnknown } from './steps/resolve.ts'
import { sendWaiting } from './steps/send.ts'
import { tryAgain } from './steps/try-again.ts'
import { closeWritten } from './steps/close-written.ts'

interface Line {
  /** For the whole ticket, before any kind. */
  readonly once: readonly ((context: RunContext, ticket: RunTicket) => Promise<void>)[]
  /** For each kind, with no phone in hand. */
  readonly alone: readonly ((work: WorkAlone) => Promise<void>)[]
  /** For each kind, with a session of its own: the last one may have ended with a cable. */
  readonly each: readonly Step[]
}

const lines: Readonly<Record<RunRow['type'], Line>> = {
  'count-in': { once: [countBothIn, fitKinds], alone: [findSamePeople, measureConversion], each: [] },
  carry: {
    once: [],
    alone: [],
    each: [
      resolveUnknown,
      lookAgain,
      freezeFirst,
      undoAsked,
      joinChosen,
      sendWaiting,
      (work) => tryAgain(work, mostRetries.carry),
      clearLeft,
      closeWritten,
    ],
  },
  'check-off': { once: [], alone: [], each: [resolveUnknown, (work) => tryAgain(work, mostRetries.checkOff), checkOff] },
  'take-away': { once: [], alone: [], each: [resolveUnknown, undoAsked, clearLeft] },
}

/** The same context, whose progress always says of which kind. */
function naming(context: RunContext, kind: string): RunContext {
  return { ...context, progress: (step, done, total, of) => context.progress(step, done, total, { kind, ...of }) }
}

/** Whatever is waited for, is waited for on behalf of that kind. */
async function waitingFor(kind: string, work: () => Promise<void>): Promise<void> {
  try {
    await work()
  } catch (error) {
    throw error instanceof MustWait && error.kind === null ? new MustWait(error.code, error.side, kind) : error
  }
}

/**
 * Runs the line of a run to its end: light kinds first and media after, unless one was put before all.
 * @throws MustWait, LeaseLost
 */
export async function runLine(context: RunContext): Promise<void> {
  const { once, alone, each } = lines[context.run.type]
  const ticket = await loadRunTicket(context)
  for (const step of once) await step(context, ticket)
  const parts = lineParts(
    ticket.kinds.map(({ kind }) => ({ kind, isMedia: kindOf(kind).isMedia === true })),
    ticket.ticket.first_kind,
  )
  for (const kind of parts.flatMap((part) => part.kinds)) {
    const of = naming(context, kind)
    for (const step of alone) await step({ context: of, ticket, kind })
    if (each.length === 0) continue
    await of.progress('beginning', 0, 1)
    await waitingFor(kind, async () => {
      const work = { context: of, ticket, kind, now: await attach(of, ticket.new) }
      for (const step of each) await step(work)
    })
  }
}
