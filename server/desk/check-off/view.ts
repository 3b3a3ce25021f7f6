import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import type { Client } from '../../base/db/sql.ts'
import { countLeftBehind } from '../../book/batches/batches.queries.ts'
import type { KindRow, TicketRow } from '../../case/tickets.queries.ts'
import { openText, type TicketKeys } from '../../vault/keys.ts'
import { mayHandOver } from '../stage.ts'

interface CheckOffInput {
  readonly ticket: TicketRow
  readonly kinds: readonly KindRow[]
  readonly ledger: readonly LedgerRow[]
  readonly keys: TicketKeys | null
}

/** What the stage Check off shows beside the ledger: what was left behind on the new phone, what the customer accepts. */
export async function checkOffView(
  client: Client,
  { ticket, kinds, ledger, keys }: CheckOffInput,
): Promise<Pick<TicketView, 'mayHandOver' | 'leftBehind' | 'accepted'>> {
  return {
    mayHandOver: mayHandOver(ledger),
    leftBehind: ticket.erased_at ? [] : await leftBehindOf(client, kinds),
    accepted: kinds.flatMap(({ kind, accepted_at: at, accepted_by: by, accepted_short: short, accepted_over: over }) =>
      at && by && keys ? [{ kind, by: openText(keys, 'accepted', by), short: short!, over: over!, at: at.toISOString() }] : [],
    ),
  }
}

async function leftBehindOf(client: Client, kinds: readonly KindRow[]): Promise<TicketView['leftBehind']> {
  const out: TicketView['leftBehind'] = []
  for (const { ticket_id: ticketId, kind, origins } of kinds) {
    if (!origins.leftBehind) continue
    const { as_written: asWritten, changed } = await countLeftBehind(client, { ticketId, kind })
    out.push({ kind, asWritten, changed })
  }
  return out
}
