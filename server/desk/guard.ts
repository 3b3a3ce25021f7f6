import { firstAgainst, type GuardedAct, type Standing } from '#core/plan/guards.ts'
import type { Client } from '../base/db/sql.ts'
import { Problem } from '../base/problem.ts'
import { manyKinds, type KindRow, type TicketRow } from '../case/tickets.queries.ts'
import { maybeActiveRun } from '../runs/runs.queries.ts'
import type { TicketId } from '../base/ids.ts'

/** How a ticket, or of it some kinds, stands for an act. */
export async function standingFor(client: Client, ticket: TicketRow, kinds: readonly KindRow[]): Promise<Standing> {
  const run = await maybeActiveRun(client, ticket.id)
  return {
    isLook: ticket.purpose === 'look',
    isCalledOff: ticket.called_off_at !== null,
    isSigned: ticket.signed_at !== null,
    isResting: ticket.resting_at !== null,
    hasRun: run !== undefined,
    isOnlyCountingOthers: run?.type === 'count-in' && kinds.every((kind) => kind.old_reading !== null && kind.first_reading !== null),
    isOldRead: kinds.every((kind) => kind.old_reading !== null),
    areBothRead: kinds.every((kind) => kind.old_reading !== null && kind.first_reading !== null),
    isAnyFrozen: kinds.some((kind) => kind.frozen_at !== null),
    areAllFrozen: kinds.every((kind) => kind.frozen_at !== null),
  }
}

/** @throws Problem with the code of the first guard that stands against the act */
export async function mayDo(
  client: Client,
  act: GuardedAct,
  { ticket, kinds }: { ticket: TicketRow; kinds: readonly KindRow[] },
): Promise<void> {
  const code = firstAgainst(act, await standingFor(client, ticket, kinds))
  if (code) throw new Problem(code)
}

/** A kind of a ticket, as it is kept now. @throws Problem `KindUnknown` */
export async function ticketKind(client: Client, ticketId: TicketId, kind: string): Promise<KindRow> {
  return kindRow(await manyKinds(client, [ticketId]), kind)
}

/** A kind of a ticket. @throws Problem `KindUnknown` */
export function kindRow(kinds: readonly KindRow[], kind: string): KindRow {
  const row = kinds.find((k) => k.kind === kind)
  if (!row) throw new Problem('KindUnknown')
  return row
}
