import { createHash } from 'node:crypto'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { Client } from '../base/db/sql.ts'
import { manyKinds, oneTicketById } from '../case/tickets.queries.ts'
import { readLedgers } from './ledger.ts'
import { maybeSheet, voidSheet } from './sheets.queries.ts'
import type { TicketId } from '../base/ids.ts'

/** Digest of the figures a sheet is signed for; what a phone counts by itself meanwhile is none of them. */
export function figuresOf(ledger: readonly LedgerRow[]): Buffer {
  const figures = ledger.map(({ kind, old, fates, new: now, verdict }) => [
    kind,
    old.read,
    old.late,
    fates,
    now.first,
    now.last,
    now.expected,
    verdict,
  ])
  return createHash('sha256').update(JSON.stringify(figures)).digest()
}

/** After a run, or where one was stopped: a sheet that was signed for other figures is void, and the ticket open again. */
export async function voidIfMoved(client: Client, ticketId: TicketId): Promise<void> {
  const ticket = await oneTicketById(client, ticketId)
  if (!ticket.signed_at || ticket.erased_at) return
  const kinds = await manyKinds(client, [ticketId])
  const ledger = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticketId)!
  const sheet = await maybeSheet(client, ticketId)
  if (sheet && !sheet.figures.equals(figuresOf(ledger))) await voidSheet(client, ticketId)
}
