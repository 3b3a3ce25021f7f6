import { closes, linesOfSums } from './sums.ts'
import type { LedgerFigures, Verdict } from './terms.ts'

/** What the new phone should hold and does not, in items. Never netted against {@link overOf}. */
export function shortOf({ fates, new: now }: Pick<LedgerFigures, 'fates' | 'new'>): number {
  return fates.lost + now.missing
}

/** Records that are not ours and equal one that is there, and what this ticket wrote that is no item's any more. */
export function overOf({ new: now }: Pick<LedgerFigures, 'new'>): number {
  return now.double + now.leftBehind
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

function hasNotes({ fates, new: now, changedWithLoss, twins }: LedgerFigures): boolean {
  const noted = [
    changedWithLoss,
    twins,
    fates.cannotCross,
    fates.refused,
    fates.unreadable,
    fates.gone,
    fates.undone,
    fates.editedThere,
    fates.pushedOut,
    now.altered,
    now.cleared,
    now.pushedOut,
  ]
  return noted.some((n) => n > 0)
}
