import type { RunView, TicketView } from '#contracts/http/ticket.ts'
import type { MediaPlan } from '#contracts/http/media.ts'
import type { Client } from '../../base/db/sql.ts'
import type { KindRow, TicketRow } from '../../case/tickets.queries.ts'
import { readStretches } from './stretches.ts'

/** What the stage Carry over shows: the stretches of the line while it runs, and which kind goes first. */
export async function carryView(
  client: Client,
  { ticket, kinds, run, plan }: { ticket: TicketRow; kinds: readonly KindRow[]; run: RunView | null; plan: MediaPlan | null },
): Promise<Pick<TicketView, 'stretches' | 'firstKind'>> {
  const first = ticket.first_kind
  return { stretches: run?.type === 'carry' ? await readStretches(client, { kinds, first, run, plan }) : [], firstKind: first }
}
