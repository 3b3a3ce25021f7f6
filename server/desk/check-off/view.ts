import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import type { Client } from '../../base/db/sql.ts'
import { countLeftBehind } from '../../book/batches/batches.queries.ts'
import type { KindRow, TicketRow } from '../../case/tickets.queries.ts'
import { openText, type TicketKeys } from '../../vault/keys.ts'
import { byKind } from '../by-kind.ts'
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
  const some = kinds.filter(({ origins }) => origins.leftBehind)
  if (some.length === 0) return []
  const counts = byKind(await countLeftBehind(client, some[0]!.ticket_id))
  return some.flatMap(({ kind }) => counts(kind).map(({ as_written: asWritten, changed }) => ({ kind, asWritten, changed })))
}
