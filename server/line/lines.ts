import { mostRetries } from '#core/book/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { isFolder } from '#core/phones/capability.ts'
import { usualSeconds } from '#core/plan/left.ts'
import { stretchesOf } from '#core/plan/order.ts'
import { oneCarryBytes, oneCarryTotals } from '../book/entries/carry.queries.ts'
import { oneKind } from '../case/tickets.queries.ts'
import { maybeReading } from '../vault/readings.queries.ts'
import { MustWait, type RunContext } from '../runs/context.ts'
import type { RunRow } from '../runs/runs.queries.ts'
import { attach, loadRunTicket, type RunTicket } from '../runs/ticket-of-run.ts'
import { measureConversion } from './moving/measure.ts'
import type { Step, WorkAlone } from './step.ts'
import { checkOff } from './steps/check-off.ts'
import { clearLeft } from './steps/clear.ts'
import { compareBoth } from './steps/compare.ts'
import { closePlace, finishFolder, noteCopy } from './steps/copy.ts'
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
  /** For each kind, with a connection of its own: the last one may have ended with a cable. */
  readonly each: readonly Step[]
}

const beforeChecking: readonly Step[] = [resolveUnknown, (work) => tryAgain(work, mostRetries.checkOff)]
/** What is taken home is one archive: nothing is written to it once the first kind is checked. */
const unlessFolder =
  (step: Step): Step =>
  async (work) =>
    isFolder(work.ticket.target) ? undefined : step(work)

const lines: Readonly<Record<RunRow['type'], Line>> = {
  'count-in': { once: [countBothIn, fitKinds], alone: [findSamePeople, measureConversion, compareBoth], each: [] },
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
  'check-off': {
    once: [(context, ticket) => finishFolder(context, ticket, beforeChecking)],
    alone: [],
    each: [...beforeChecking.map(unlessFolder), closePlace, checkOff, noteCopy],
  },
  'take-away': { once: [], alone: [], each: [resolveUnknown, undoAsked, clearLeft] },
}

/** A kind's place in its stretch of the line, in seconds as they are usual. */
interface Usual {
  readonly stretch: string
  /** Of the stretch's other kinds: what is over with. */
  readonly otherS: number
  /** Of the kind: before its first item, and all. */
  readonly beforeS: number
  readonly wholeS: number
  /** Of the whole stretch. */
  readonly totalS: number
}

/** Light kinds first and media after, unless one was put before all; each with what its stretch takes as a rule. */
async function kindsInOrder(context: RunContext, ticket: RunTicket): Promise<{ kind: string; usual: Usual }[]> {
  const { type } = context.run
  const stretches = stretchesOf(
    ticket.kinds.map(({ kind }) => ({ kind, isMedia: kindOf(kind).isMedia === true })),
    ticket.ticket.first_kind,
  )
  // checking off is one stretch, whatever it reads
  const measured = type === 'carry' ? stretches : [{ code: 'all', kinds: stretches.flatMap(({ kinds }) => kinds) }]
  const out: { kind: string; usual: Usual }[] = []
  for (const { code, kinds } of measured) {
    const amounts = await Promise.all(kinds.map((kind) => usualOf(context, ticket, kind)))
    const totalS = amounts.reduce((sum, one) => sum + one.wholeS, 0)
    kinds.forEach((kind, at) => {
      const { beforeS, wholeS } = amounts[at]!
      const otherS = amounts.reduce((sum, one, i) => sum + (i < at ? one.wholeS : i > at ? one.doneS : 0), 0)
      out.push({ kind, usual: { stretch: `${type} ${code}`, otherS, beforeS, wholeS, totalS } })
    })
  }
  return out
}

/** What a run has to do with a kind, and what of that is done, in seconds as they are usual. */
async function usualOf({ services: { pool }, run }: RunContext, { ticket }: RunTicket, code: string) {
  const { isMedia = false, perSecond } = kindOf(code)
  const scope = { ticketId: ticket.id, kind: code }
  const { waiting, done } = await (isMedia ? oneCarryBytes : oneCarryTotals)(pool, scope)
  const seconds = (work: 'carrying' | 'reading', n: number) =>
    usualSeconds(work, { n, isMedia, perSecond, settleS: work === 'reading' ? 1 : 0 })
  if (run.type === 'carry') {
    const { beforeS, wholeS } = seconds('carrying', done)
    return { ...seconds('carrying', done + waiting), doneS: wholeS - beforeS }
  }
  const first = await maybeReading(pool, (await oneKind(pool, ticket.id, code)).first_reading)
  return { ...seconds('reading', done + ((isMedia ? first?.bytes : first?.got) ?? 0)), doneS: 0 }
}

/** The steps that are long: how far they are is how far the kind is. */
const measuredSteps: readonly string[] = ['carrying', 'reading']

/** The same context, whose progress always says of which kind, and how far the whole stretch is. */
function naming(context: RunContext, kind: string, { stretch, otherS, beforeS, wholeS, totalS }: Usual): RunContext {
  let doneS = 0
  return {
    ...context,
    progress: (step, done, total, of) => {
      if (measuredSteps.includes(step) && total > 0) doneS = Math.max(doneS, beforeS + (wholeS - beforeS) * Math.min(1, done / total))
      const measured = context.run.type === 'count-in' ? {} : { stretch: { name: stretch, doneS: otherS + doneS, totalS } }
      return context.progress(step, done, total, { kind, ...measured, ...of })
    },
  }
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
  for (const { kind, usual } of await kindsInOrder(context, ticket)) {
    const of = naming(context, kind, usual)
    for (const step of alone) await step({ context: of, ticket, kind })
    if (each.length === 0) continue
    await of.progress('beginning', 0, 1)
    await waitingFor(kind, async () => {
      const work = { context: of, ticket, kind, now: await attach(of, ticket.new) }
      for (const step of each) await step(work)
    })
  }
}
