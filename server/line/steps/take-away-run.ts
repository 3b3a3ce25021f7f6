import type { RunContext } from '../../runs/context.ts'
import { attach, loadRunTicket } from '../../runs/ticket-of-run.ts'
import { clearLeft } from './clear.ts'
import { undoAsked } from './join-run.ts'
import { resolveUnknown } from './resolve.ts'

/** Takes away from the new phone what was asked for, and carries nothing. @throws MustWait, LeaseLost */
export async function takeAwayRun(context: RunContext): Promise<void> {
  const ticket = await loadRunTicket(context)
  for (const { kind } of ticket.kinds) {
    const now = await attach(context, ticket.new)
    await resolveUnknown(context, ticket, now, kind)
    await undoAsked({ context, ticket, kind, now })
    await clearLeft(context, ticket, kind)
  }
}
