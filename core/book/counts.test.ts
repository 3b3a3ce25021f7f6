import { describe, expect, it } from 'vitest'
import { isLeftOut } from './counts.ts'
import { fates, type Counts, type Fate } from './terms.ts'

const row = (change: Partial<Record<Fate, number>>) => ({
  fates: { ...Object.fromEntries(fates.map((fate) => [fate, 0])), ...change } as Counts<Fate>,
})

describe('left out as a whole', () => {
  it.each<[string, Partial<Record<Fate, number>>, boolean]>([
    ['nothing is chosen', { notChosen: 5 }, true],
    ['nor could the rest come', { notChosen: 5, unreadable: 1, cannotCross: 2 }, true],
    ['nothing was there to choose', { cannotCross: 2 }, false],
    ['some of it waits', { notChosen: 5, pending: 1 }, false],
    ['some of it came, and its owner changed it there', { notChosen: 5, editedThere: 1 }, false],
    ['some of it came, and was pushed out', { notChosen: 5, pushedOut: 1 }, false],
  ])('%s', (_, change, expected) => {
    expect(isLeftOut(row(change))).toBe(expected)
  })
})
