import { kindOf } from '#core/kinds/registry.ts'
import { settleByHand } from '../../book/entries/carry.queries.ts'
import { pairKind } from '../../book/pairing/pair-kind.ts'
import { settleRecount } from '../../book/recount/recount.queries.ts'
import { oneKind, setChecked, tellTicket } from '../../case/tickets.queries.ts'
import { MustWait } from '../../runs/context.ts'
import { waitUntilStill } from '../../runs/ticket-of-run.ts'
import { dropUnusedReadings } from '../../vault/readings.queries.ts'
import { recountOld } from '../reading/recount.ts'
import { readNew } from '../reading/take-reading.ts'
import { scopeOf, type Work } from '../step.ts'

/**
 * Check off: waits until the new phone's count stands still, reads it afresh, counts the old phone again, and pairs
 * one to one. Nothing the transfer said is taken as proof. @throws MustWait, LeaseLost
 */
export async function checkOff(work: Work): Promise<void> {
  const { context, ticket, kind, now } = work
  const { ticketId } = scopeOf(work)
  const row = await oneKind(context.services.pool, ticketId, kind)
  if (!row.first_reading) throw new MustWait('StageNotReached', null)
  await waitUntilStill(context, now, kind)
  const lastReading = await readNew(work, { purpose: 'last', step: 'reading' })
  const recountReading = await recountOld(work)
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
      newTools: ticket.toolsFor(now.place),
    })
    await setChecked(client, { ticketId, kind, lastReading, recountReading, writes: row.writes })
    await dropUnusedReadings(client, ticketId)
    await tellTicket(client, ticketId, 'checked')
  })
}
