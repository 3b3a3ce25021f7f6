import { describe, expect, it } from 'vitest'
import { forecastOf } from '../book/forecast.ts'
import { looksExchanged } from './guards.ts'

describe('the forecast', () => {
  it('expects the first count and what is carried or changed, and nothing else', () => {
    const counts = {
      carried: 5,
      changed: 2,
      merged: 0,
      changedWithLoss: 1,
      alreadyThere: 4,
      notChosen: 3,
      cannotCross: 1,
      unreadable: 1,
      parts: 2,
    }
    expect(forecastOf(31, counts).expected).toBe(38)
  })
})

describe('phones that look exchanged', () => {
  it.each([
    [5, 50, true],
    [5, 49, false],
    [0, 20, true],
    [0, 19, true],
    [0, 0, false],
    [1, 19, false],
    [400, 31, false],
  ])('old %i, new %i: %s', (old, now, asked) => {
    expect(looksExchanged(old, now)).toBe(asked)
  })
})
