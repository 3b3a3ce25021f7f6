import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { Client } from '../base/db/sql.ts'
import type { TicketId } from '../base/ids.ts'
import type { CopyEnd } from '../vault/lockers/copies.queries.ts'
import { leftByDefault } from './left-by-default.ts'
import { manyWhys } from './plan/plan.queries.ts'

/** What a copy is told of its phone's items when it ends: it outlives the ticket that knew them. */
export async function copyEndOf(client: Client, ticketId: TicketId, { kind, fates, notYetChecked }: LedgerRow): Promise<CopyEnd> {
  const left = await leftByDefault(client, ticketId, [kind])
  const byDefault = left.reduce((sum, { items }) => sum + items, 0)
  const whys = await manyWhys(client, ticketId, kind)
  return {
    fates: { ...fates, notReadBack: notYetChecked },
    whys: [
      ...whys
        // those nobody chose to leave have a line of their own
        .map((why) => (why.fate === 'notChosen' && why.codes.length === 0 ? { ...why, items: why.items - byDefault } : why))
        .filter(({ items }) => items > 0),
      ...left.map(({ code, items }) => ({ fate: 'notChosen', codes: [code], items })),
    ],
  }
}
