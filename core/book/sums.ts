import { departures, fates, origins, type LedgerFigures } from './terms.ts'

export interface LineOfSums {
  readonly line: 'old' | 'first' | 'last' | 'across' | 'acrossEdited' | 'oldPhone' | 'newPhone'
  readonly left: number
  readonly right: number
}

/** Origins of the first count that are still listed. */
const stillThere = ['kept', 'addedTo', 'altered', 'putBack'] as const

/**
 * The lines of sums that must close. Lines that need a check are left out before it; that of the first count, where
 * there is none. `oldPhone` and `newPhone` are the proof: our items against the phone's own count.
 */
export function linesOfSums(figures: LedgerFigures): LineOfSums[] {
  const { old, new: now } = figures
  const lines: LineOfSums[] = [{ line: 'old', left: old.read + old.late, right: sum(fates.map((fate) => figures.fates[fate])) }]
  if (old.own !== null) lines.push({ line: 'oldPhone', left: old.own, right: old.read + old.derived })
  if (!figures.isChecked || now.last === null) return lines
  if (now.first !== null) {
    const right = sum(stillThere.map((origin) => now[origin])) + sum(departures.map((departure) => now[departure]))
    lines.push({ line: 'first', left: now.first, right })
  }
  lines.push(
    { line: 'last', left: now.last, right: sum(origins.map((origin) => now[origin])) },
    { line: 'across', left: now.arrived, right: figures.fates.carried + figures.fates.changed },
    { line: 'acrossEdited', left: now.editedThere, right: figures.fates.editedThere },
  )
  if (now.own !== null) lines.push({ line: 'newPhone', left: now.own, right: now.last + now.parts + now.derived })
  return lines
}

export function closes(lines: readonly LineOfSums[]): boolean {
  return lines.every(({ left, right }) => left === right)
}

function sum(numbers: readonly number[]): number {
  return numbers.reduce((all, n) => all + n, 0)
}
