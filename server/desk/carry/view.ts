import type { RunView, TicketView } from '#contracts/http/ticket.ts'
import type { MediaPlan } from '#contracts/http/media.ts'
import type { Client } from '../../base/db/sql.ts'
import type { KindRow, TicketRow } from '../../case/tickets.queries.ts'
import { readLineParts } from './line-parts.ts'

/** What the stage Carry over shows: the parts of the line while it runs, and which kind goes first. */
export async function carryView(
  client: Client,
  { ticket, kinds, run, plan }: { ticket: TicketRow; kinds: readonly KindRow[]; run: RunView | null; plan: MediaPlan | null },
): Promise<Pick<TicketView, 'parts' | 'firstKind'>> {
  const first = ticket.first_kind
  return { parts: run?.type === 'carry' ? await readLineParts(client, { kinds, first, run, plan }) : [], firstKind: first }
}
