import type { RunContext } from '../runs/context.ts'
import type { Attached, RunTicket } from '../runs/ticket-of-run.ts'
import type { TicketId } from '../base/ids.ts'

/** What a step works on: one kind of a ticket, with the new phone in hand. A connection that broke is taken anew in place. */
export interface Work {
  readonly context: RunContext
  readonly ticket: RunTicket
  readonly kind: string
  now: Attached
}

/** The same before the new phone is in hand. */
export type WorkAlone = Omit<Work, 'now'>

/** Where the book keeps a kind of a ticket. */
export function scopeOf({ ticket, kind }: WorkAlone): { readonly ticketId: TicketId; readonly kind: string } {
  return { ticketId: ticket.ticket.id, kind }
}

/** One thing a line does with a kind. Safe to run twice: killed at any moment, it finds out by looking. @throws MustWait, LeaseLost */
export type Step = (work: Work) => Promise<void>
