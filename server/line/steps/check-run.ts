import { mostRetries } from '#core/book/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { settleByHand } from '../../book/entries/carry.queries.ts'
import { recountOld } from '../reading/recount.ts'
import { settleRecount } from '../../book/recount/recount.queries.ts'
import { dropUnusedReadings } from '../../vault/readings.queries.ts'
import { takeReading } from '../reading/take-reading.ts'
import { MustWait, type RunContext } from '../../runs/context.ts'
import { attach, loadRunTicket, waitUntilStill } from '../../runs/ticket-of-run.ts'
import { tryAgain } from './carry-run.ts'
import { resolveUnknown } from './resolve.ts'
import { oneKind, setChecked, tellTicket } from '../../case/tickets.queries.ts'
import { pairKind } from '../../book/pairing/pair-kind.ts'

/**
 * Check off: waits until the new phone's count stands still, reads it afresh, counts the old phone again, and pairs
 * one to one. Nothing the transfer said is taken as proof. @throws MustWait, LeaseLost
 */
export async function checkRun(context: RunContext): Promise<void> {
  const ticket = await loadRunTicket(context)
  const now = await attach(context, ticket.new)
  for (const { kind } of ticket.kinds) {
    await resolveUnknown(context, ticket, now, kind)
    const { pool } = context.services
    const ticketId = ticket.ticket.id
    await tryAgain(context, ticket, { kind, now }, mostRetries.checkOff)
    const row = await oneKind(pool, ticketId, kind)
    if (!row.first_reading) throw new MustWait('StageNotReached', null)
    await waitUntilStill(context, now, kind)
    const lastReading = await takeReading(context, {
      session: now.session,
      keys: ticket.keys,
      ticketId,
      side: 'new',
      kind,
      purpose: 'last',
      target: null,
      tools: ticket.toolsFor(now.facts),
      onProgress: (got, total, unit) => context.progress('reading', got, total, { kind, unit }),
    })
    const recountReading = await recountOld(context, ticket, kind)
    await context.progress('pairing', 0, 1)
    await context.checkpoint('before-pairing')
    await context.fenced(async (client) => {
      if (recountReading !== null) await settleRecount(client, { ticketId, kind, readingId: recountReading, choice: row.choice })
      const scope = { ticketId, kind, firstReading: row.first_reading!, lastReading, previousReading: row.last_reading }
      if (kindOf(kind).byHand) await settleByHand(client, scope)
      await pairKind(client, scope, {
        keys: ticket.keys,
        target: ticket.target,
        oldTools: ticket.toolsFor(ticket.old),
        newTools: ticket.toolsFor(now.facts),
      })
      await setChecked(client, { ticketId, kind, lastReading, recountReading, writes: row.writes })
      await dropUnusedReadings(client, ticketId)
      await tellTicket(client, ticketId, 'checked')
    })
  }
}
