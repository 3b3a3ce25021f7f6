import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { Client } from '../base/db/sql.ts'
import type { TicketId } from '../base/ids.ts'
import type { CopyEnd } from '../vault/lockers/copies.queries.ts'
import { manyWhys } from './plan/plan.queries.ts'

/** What a copy is told of its phone's items when it ends: it outlives the ticket that knew them. */
export async function copyEndOf(client: Client, ticketId: TicketId, { kind, fates, notYetChecked }: LedgerRow): Promise<CopyEnd> {
  return { fates: { ...fates, notReadBack: notYetChecked }, whys: await manyWhys(client, ticketId, kind) }
}
