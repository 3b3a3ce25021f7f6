import { describe, expect, it } from 'vitest'
import { isLeftOut, whatWaits } from './counts.ts'
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

describe('what waits, and what of it comes over', () => {
  const waiting = (kind: string, pending: number, toInstall = 0) => ({ kind, toInstall, ...row({ pending }) })
  const foretold = (kind: string, carried: number, changed = 0, merged = 0) => ({ kind, counts: { carried, changed, merged } })
  it('all that waits is either to come, there already, or a hand’s to install', () => {
    const ledger = [waiting('contacts', 40), waiting('apps', 30, 18)]
    expect(whatWaits(ledger, [foretold('contacts', 20, 5, 3), foretold('apps', 25, 5)])).toEqual({
      waits: 70,
      comes: 40,
      there: 12,
      byHand: 18,
    })
  })
  it('a kind that is not read yet is not reckoned in', () => {
    expect(whatWaits([waiting('contacts', 3), waiting('photos', 9)], [foretold('contacts', 3)])).toEqual({
      waits: 3,
      comes: 3,
      there: 0,
      byHand: 0,
    })
  })
})
