import type { TicketView } from '#contracts/http/ticket.ts'
import type { Client } from '../../base/db/sql.ts'
import { manyVoidSheets } from '../../book/sheets.queries.ts'
import { countTied } from '../../book/entries/apps.queries.ts'
import type { TicketRow } from '../../case/tickets.queries.ts'
import { openText, type TicketKeys } from '../../vault/keys.ts'
import { iso } from '../iso.ts'

/** What the stage Hand back shows: apps tied to the old phone, and the signature. */
export async function handBackView(
  client: Client,
  ticket: TicketRow,
  keys: TicketKeys | null,
): Promise<Pick<TicketView, 'tied' | 'printedAt' | 'signedAt' | 'voidedAt' | 'isSignedOpen' | 'signedBy'>> {
  return {
    tied: ticket.erased_at ? { all: 0, open: 0 } : await countTied(client, ticket.id),
    printedAt: iso(ticket.printed_at),
    signedAt: iso(ticket.signed_at),
    voidedAt: ticket.signed_at || ticket.erased_at ? null : iso((await manyVoidSheets(client, ticket.id))[0]?.voided_at ?? null),
    isSignedOpen: ticket.signed_open,
    signedBy: keys && ticket.signed_by ? openText(keys, 'signed', ticket.signed_by) : null,
  }
}
