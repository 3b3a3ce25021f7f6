import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { forecastOf, timeLeft } from '../book/forecast.ts'
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

describe('time left', () => {
  it.each([
    [0, 100, 5],
    [100, 100, 5],
    [10, 100, 0],
  ])('is not said at %i of %i after %i s', (done, total, elapsed) => {
    expect(timeLeft(done, total, elapsed)).toBeUndefined()
  })

  it('is a range around the measured rate that narrows as the work goes on', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 900 }), (done) => {
        const elapsed = done * 0.1
        const { lowS, highS } = timeLeft(done, 1000, elapsed)!
        const true_ = (1000 - done) * 0.1
        expect(lowS).toBeLessThanOrEqual(Math.ceil(true_))
        expect(highS).toBeGreaterThanOrEqual(Math.floor(true_))
      }),
      { seed: 61 },
    )
    const width = (done: number) => {
      const { lowS, highS } = timeLeft(done, 10_000, done)!
      return (highS - lowS) / (10_000 - done)
    }
    expect(width(9000)).toBeLessThan(width(100))
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
