import { kindOf } from '#core/kinds/registry.ts'
import { createLookUp } from '../catalogue/note-known.ts'
import { findSamePeople } from '../joining/find-same-people.ts'
import { measureConversion } from '../media/measure.ts'
import { fitPlan, insertEntries } from '../plan/entries.queries.ts'
import { LeaseLost, type RunContext } from '../runs/context.ts'
import { attach, loadRunTicket, type RunTicket } from '../runs/ticket-of-run.ts'
import { oneKind, tellTicket } from '../tickets/tickets.queries.ts'
import { takeReading, type Wanted } from './take-reading.ts'

/** Count in: reads both phones side by side, every wanted kind. @throws MustWait, LeaseLost */
export async function countInRun(context: RunContext): Promise<void> {
  const ticket = await loadRunTicket(context)
  await context.progress('counting', 0, 1)
  const at: Partial<Record<'old' | 'new', { done: number; all: number; unit: 'items' | 'bytes'; kind: string }>> = {}
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
      { unit: shown[0]!.unit, kind: at.old?.kind ?? kind },
    )
  }
  const both = await Promise.allSettled((['old', 'new'] as const).map((side) => readSide(context, ticket, { side, report: report(side) })))
  const failures = both.flatMap((result) => (result.status === 'rejected' ? [result.reason as Error] : []))
  // a lost lease outranks a phone that waits for a hand
  const first = failures.find((failure) => failure instanceof LeaseLost) ?? failures[0]
  if (first) throw first
  await fitKinds(context, ticket)
  for (const { kind } of ticket.kinds) {
    await findSamePeople(context, ticket, kind)
    await measureConversion(context, ticket, kind)
  }
}

/** With both phones read, what is there already and what has no room is known before anything is chosen. */
async function fitKinds(context: RunContext, ticket: RunTicket): Promise<void> {
  for (const { kind } of ticket.kinds) {
    await context.fenced(async (client) => {
      const { first_reading: firstReading } = await oneKind(client, ticket.ticket.id, kind)
      await fitPlan(client, {
        ticketId: ticket.ticket.id,
        kind,
        firstReading: firstReading!,
        capacity: kindOf(kind).capacity?.(ticket.target),
      })
    })
  }
}

async function readSide(
  context: RunContext,
  ticket: RunTicket,
  { side, report }: { side: 'old' | 'new'; report: (kind: string) => NonNullable<Wanted['onProgress']> },
): Promise<void> {
  const { session, facts } = await attach(context, ticket[side])
  const ticketId = ticket.ticket.id
  for (const { kind, choice, old_reading, first_reading } of ticket.kinds) {
    // what was read whole by an earlier turn of this run stays
    if (side === 'old' ? old_reading : first_reading) continue
    const readingId = await takeReading(context, {
      session,
      keys: ticket.keys,
      ticketId,
      side,
      kind,
      purpose: 'first',
      tools: ticket.toolsFor(facts),
      target: side === 'old' ? ticket.target : null,
      lookUp: side === 'old' ? await createLookUp(context, ticket, kind) : undefined,
      onProgress: report(kind),
    })
    await context.fenced(async (client) => {
      const column = side === 'old' ? 'old_reading' : 'first_reading'
      await client.query(`update ticket_kind set ${column} = $3 where ticket_id = $1 and kind = $2`, [ticketId, kind, readingId])
      if (side === 'old')
        await insertEntries(client, { ticketId, kind, readingId, choice, leftByDefault: kindOf(kind).leftByDefault ?? [] })
      await tellTicket(client, ticketId, 'read')
    })
  }
}
