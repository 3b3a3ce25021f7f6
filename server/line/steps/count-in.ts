import { kindOf, kinds as registered } from '#core/kinds/registry.ts'
import { createLookUp } from '../reading/note-known.ts'
import { insertEntries, refreshEntryStatistics } from '../../book/entries/entries.queries.ts'
import { fitPlan } from '../../book/plan/plan.queries.ts'
import { usualSeconds } from '#core/plan/left.ts'
import { LinkError, type Source } from '../../endpoints/endpoint.ts'
import { filmKind } from '../../endpoints/films.ts'
import { LeaseLost, type RunContext } from '../../runs/context.ts'
import { attach, type RunTicket } from '../../runs/ticket-of-run.ts'
import { oneKind, setBeside, setReading, tellTicket } from '../../case/tickets.queries.ts'
import { takeReading, type Wanted } from '../reading/take-reading.ts'

/** Count in: reads both phones side by side, every wanted kind. @throws MustWait, LeaseLost */
export async function countBothIn(context: RunContext, ticket: RunTicket): Promise<void> {
  await context.progress('counting', 0, 1)
  // which form an item takes there depends on where the new phone's clock is
  await attach(context, ticket.new)
  const at: Partial<Record<'old' | 'new', { done: number; all: number; unit: 'items' | 'bytes'; kind: string }>> = {}
  const plans: Partial<Record<'old' | 'new', readonly KindToRead[]>> = {}
  const report = (side: 'old' | 'new') => (kind: string) => (done: number, all: number, unit: 'items' | 'bytes') => {
    at[side] = { done, all: Math.max(all, done), unit, kind }
    // one figure of one unit: bytes as soon as a phone gives its photos
    const shown = Object.values(at).filter(
      (one) => one.unit === (Object.values(at).some((other) => other.unit === 'bytes') ? 'bytes' : 'items'),
    )
    return context.progress(
      'counting',
      shown.reduce((sum, one) => sum + one.done, 0),
      shown.reduce((sum, one) => sum + one.all, 0),
      { unit: shown[0]!.unit, kind: at.old?.kind ?? kind, stretch: { name: 'count-in', ...readSoFar(plans, at) } },
    )
  }
  const both = await Promise.allSettled(
    (['old', 'new'] as const).map((side) =>
      readSide(context, ticket, { side, report: report(side), plan: (kinds) => void (plans[side] = kinds) }),
    ),
  )
  const failures = both.flatMap((result) => (result.status === 'rejected' ? [result.reason as Error] : []))
  // a lost lease outranks a phone that waits for a hand
  const first = failures.find((failure) => failure instanceof LeaseLost) ?? failures[0]
  if (first) throw first
}

/** A kind that is to be read, and how long that takes as a rule. */
interface KindToRead {
  readonly kind: string
  readonly usualS: number
}

/** How far the side is that has more to read, in seconds as they are usual: both read side by side, and that one ends last. */
function readSoFar(
  plans: Partial<Record<'old' | 'new', readonly KindToRead[]>>,
  at: Partial<Record<'old' | 'new', { done: number; all: number; kind: string }>>,
): { doneS: number; totalS: number } {
  const sides = (['old', 'new'] as const).map((side) => {
    const plan = plans[side] ?? []
    const sum = (kinds: readonly KindToRead[]) => kinds.reduce((all, { usualS }) => all + usualS, 0)
    const now = at[side]
    const i = plan.findIndex(({ kind }) => kind === now?.kind)
    const doneS = i < 0 ? 0 : sum(plan.slice(0, i)) + plan[i]!.usualS * Math.min(1, now!.done / Math.max(1, now!.all))
    return { doneS, totalS: sum(plan) }
  })
  return sides.reduce((a, b) => (b.totalS > a.totalS ? b : a))
}

/** With both phones read, what is there already and what has no room is known before anything is chosen. */
export async function fitKinds(context: RunContext, ticket: RunTicket): Promise<void> {
  for (const { kind } of ticket.kinds) {
    await context.fenced(async (client) => {
      const { first_reading: firstReading } = await oneKind(client, ticket.ticket.id, kind)
      await fitPlan(client, {
        ticketId: ticket.ticket.id,
        kind,
        firstReading: firstReading!,
        capacity: kindOf(kind).capacity?.(ticket.target),
        hasIdentity: kindOf(kind).hasIdentity === true,
      })
    })
  }
}

async function readSide(
  context: RunContext,
  ticket: RunTicket,
  {
    side,
    report,
    plan,
  }: { side: 'old' | 'new'; report: (kind: string) => NonNullable<Wanted['onProgress']>; plan: (kinds: readonly KindToRead[]) => void },
): Promise<void> {
  const { source, place } = await attach(context, ticket[side])
  const ticketId = ticket.ticket.id
  // what was read whole by an earlier turn of this run stays
  const unread = ticket.kinds.filter((row) => !(side === 'old' ? row.old_reading : row.first_reading))
  plan(await Promise.all(unread.map(async ({ kind }) => ({ kind, usualS: await usualOf(source, kind) }))))
  for (const { kind, choice } of unread) {
    const readingId = await takeReading(context, {
      source,
      keys: ticket.keys,
      ticketId,
      holding: ticket.holding,
      side,
      kind,
      purpose: 'first',
      tools: ticket.toolsFor(place),
      target: side === 'old' ? ticket.target : null,
      lookUp: side === 'old' ? await createLookUp({ context, ticket, kind }) : undefined,
      onProgress: report(kind),
    })
    const came = await context.fenced(async (client) => {
      await setReading(client, { ticketId, kind }, side === 'old' ? 'old_reading' : 'first_reading', readingId)
      const isWhole = ticket.ticket.purpose === 'look'
      const entries = side === 'old' ? await insertEntries(client, { ticketId, kind, readingId, choice, isWhole }) : 0
      await tellTicket(client, ticketId, 'read')
      return entries
    })
    await refreshEntryStatistics(context.services.pool, came)
  }
  if (side === 'old') await countBeside(context, ticket, source)
}

/**
 * What the phone holds of kinds nobody asked for, so that somebody can be asked whether they are wanted: counted as far as
 * no further permission is needed. Whatever stands against it, the ticket goes on.
 */
async function countBeside(context: RunContext, ticket: RunTicket, source: Source): Promise<void> {
  if (ticket.old.place !== 'bench' || ticket.ticket.purpose !== 'carry') return
  const asked = new Set(ticket.kinds.map(({ kind }) => kind))
  const beside: Record<string, number | null> = {}
  for (const { code } of registered) {
    if (asked.has(code) || (code === filmKind && ticket.old.films_in_photos)) continue
    try {
      const { items, derived } = await source.count(code)
      beside[code] = Math.max(0, items - derived)
    } catch (error) {
      if (!(error instanceof LinkError)) throw error
      if (error.code === 'PermissionMissing') beside[code] = null
    }
  }
  await context.fenced((client) => setBeside(client, ticket.ticket.id, beside))
}

/** How long reading a kind takes as a rule, by the phone's own count; one that can't be counted now is met at its turn. */
async function usualOf(source: Source, kind: string): Promise<number> {
  const { isMedia = false, perSecond } = kindOf(kind)
  const { items, bytes } = await source.count(kind).catch(() => ({ items: 0, bytes: 0 }))
  return usualSeconds('reading', { n: isMedia ? bytes : items, isMedia, perSecond }).wholeS
}
