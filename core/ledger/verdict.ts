import { closes, linesOfSums } from './sums.ts'
import type { LedgerFigures, Verdict } from './terms.ts'

/** What the new phone should hold and does not, in items. Never netted against {@link overOf}. */
export function shortOf({ fates, new: now }: LedgerFigures): number {
  return fates.lost + now.missing
}

/** Records that are not ours and equal one that is there. */
export function overOf({ new: now }: LedgerFigures): number {
  return now.double
}

/**
 * The verdict of a kind. It agrees only on proof: checked afresh, recounted, nothing waiting, all lines closed and
 * both phones' own counts met. Acceptance never reads as agreement.
 */
export function verdictOf(figures: LedgerFigures): Verdict {
  if (figures.isRunning) return 'running'
  if (!figures.isChecked) return 'waiting'
  const isClosed = closes(linesOfSums(figures)) && figures.new.own !== null && figures.old.own !== null
  if (shortOf(figures) > 0 || overOf(figures) > 0 || !isClosed) return figures.acceptedBy ? 'accepted' : 'differs'
  if (!figures.isRecounted || figures.fates.pending > 0) return 'waiting'
  return hasNotes(figures) ? 'agrees-with-notes' : 'agrees'
}

function hasNotes({ fates, new: now, changedWithLoss }: LedgerFigures): boolean {
  return changedWithLoss > 0 || fates.cannotCross > 0 || fates.refused > 0 || fates.unreadable > 0 || fates.gone > 0 || now.altered > 0
}
