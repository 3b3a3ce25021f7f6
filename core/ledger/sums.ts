import { fates, type LedgerFigures } from './terms.ts'

export interface LineOfSums {
  readonly line: 'old' | 'first' | 'last' | 'across' | 'oldPhone' | 'newPhone'
  readonly left: number
  readonly right: number
}

/**
 * The lines of sums that must close. Lines that need a check are left out before it.
 * `oldPhone` and `newPhone` are the proof: our items against the phone's own count.
 */
export function linesOfSums(figures: LedgerFigures): LineOfSums[] {
  const { old, new: now } = figures
  const lines: LineOfSums[] = [{ line: 'old', left: old.read + old.late, right: fates.reduce((sum, fate) => sum + figures.fates[fate], 0) }]
  if (old.own !== null) lines.push({ line: 'oldPhone', left: old.own, right: old.read + old.derived })
  if (!figures.isChecked || now.first === null || now.last === null) return lines
  lines.push(
    {
      line: 'first',
      left: now.first,
      right: now.kept + now.addedTo + now.altered + now.cleared + now.absorbed + now.missing,
    },
    {
      line: 'last',
      left: now.last,
      right: now.kept + now.addedTo + now.altered + now.arrived + now.cameOtherwise + now.double,
    },
    { line: 'across', left: now.arrived, right: figures.fates.carried + figures.fates.changed },
  )
  if (now.own !== null) lines.push({ line: 'newPhone', left: now.own, right: now.last + now.parts + now.derived })
  return lines
}

export function closes(lines: readonly LineOfSums[]): boolean {
  return lines.every(({ left, right }) => left === right)
}
