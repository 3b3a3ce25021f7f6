import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { PhoneOnTicket, Stage } from '#contracts/http/ticket.ts'
import type { RunRow } from '../runs/runs.queries.ts'
import type { KindRow, TicketRow } from '../case/tickets.queries.ts'

export interface StageInput {
  readonly ticket: TicketRow
  readonly kinds: readonly KindRow[]
  readonly phones: readonly PhoneOnTicket[]
  readonly ledger: readonly LedgerRow[]
  readonly run: RunRow | null
}

/** Where a ticket stands; derived, never stored, so that it can't contradict what is there. */
export function stageOf({ ticket, kinds, phones, ledger, run }: StageInput): Stage {
  if (ticket.purpose === 'look') return 'count-in'
  if (ticket.handed_back_at || ticket.signed_at || ticket.called_off_at) return 'hand-back'
  if (run?.type === 'take-away') return 'check-off'
  if (run?.type === 'check-off') return 'check-off'
  if (run?.type === 'carry') return 'carry-over'
  if (run?.type === 'count-in') return 'count-in'
  const isRead = kinds.every((kind) => kind.old_reading && kind.first_reading)
  if (isRead && kinds.some((kind) => kind.checked_at)) return mayHandOver(ledger) ? 'hand-back' : 'check-off'
  if (isRead && kinds.some((kind) => kind.frozen_at)) return 'carry-over'
  if (isRead) return 'choose'
  if (phones.every((phone) => phone.isReady)) return 'count-in'
  return 'make-ready'
}

/** Every kind agrees, but for what the customer installs by hand, or the customer accepted by name what is short. */
export function mayHandOver(ledger: readonly LedgerRow[]): boolean {
  return (
    ledger.length > 0 && ledger.every((row) => ['agrees', 'agrees-with-notes', 'accepted'].includes(row.verdict) || row.agreesButInstall)
  )
}
