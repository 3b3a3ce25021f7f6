import { kindOf } from '#core/kinds/registry.ts'
import { settleByHand } from '../plan/entries.queries.ts'
import { recountOld } from '../readings/recount.ts'
import { settleRecount } from '../readings/recount.queries.ts'
import { dropUnusedReadings } from '../readings/readings.queries.ts'
import { takeReading } from '../readings/take-reading.ts'
import { MustWait, type RunContext } from '../runs/context.ts'
import { attach, loadRunTicket, waitUntilStill } from '../runs/ticket-of-run.ts'
import { resolveUnknown } from '../carry/resolve.ts'
import { oneKind, tellTicket } from '../tickets/tickets.queries.ts'
import { pairKind } from './pair-kind.ts'

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
      const scope = { ticketId, kind, firstReading: row.first_reading!, lastReading }
      if (kindOf(kind).byHand) await settleByHand(client, scope)
      await pairKind(client, scope, {
        keys: ticket.keys,
        target: ticket.target,
        oldTools: ticket.toolsFor(ticket.old),
        newTools: ticket.toolsFor(now.facts),
      })
      // writes as they stood before the reading began: a write after it asks for another check
      await client.query(
        `update ticket_kind
            set last_reading = $3, recount_reading = coalesce($4, recount_reading), checked_writes = $5, checked_at = now(), recounted_at = now()
          where ticket_id = $1 and kind = $2`,
        [ticketId, kind, lastReading, recountReading, row.writes],
      )
      await dropUnusedReadings(client, ticketId)
      await tellTicket(client, ticketId, 'checked')
    })
  }
}
