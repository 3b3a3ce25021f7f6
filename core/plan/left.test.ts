import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { timeLeft, usualSeconds } from './left.ts'

/** Parts of runs as they were, each looked at every 0.4 s: seconds since it began, usual seconds done and left; and when it ended. */
const courses = JSON.parse(readFileSync(new URL('left-courses.json', import.meta.url), 'utf8')) as {
  name: string
  endS: number
  points: [elapsedS: number, doneS: number, leftS: number][]
}[]

describe('time left', () => {
  it.each([
    ['nothing was measured', { doneS: 0, leftS: 10, elapsedS: 5 }],
    ['nothing is left', { doneS: 10, leftS: 0, elapsedS: 5 }],
    ['it has only begun', { doneS: 1, leftS: 10, elapsedS: 0.4 }],
  ])('is not said when %s', (_, measured) => {
    expect(timeLeft(measured)).toBeUndefined()
  })

  it.each(courses.map((course) => [course.name, course] as const))('of a course that was: %s', (_, { endS, points }) => {
    const said = points.flatMap(([elapsedS, doneS, leftS]) => {
      const left = timeLeft({ doneS, leftS, elapsedS })
      return left ? [{ ...left, trueS: endS - elapsedS }] : []
    })
    expect(said.length).toBeGreaterThan(points.length / 2)
    const held = said.filter(({ lowS, highS, trueS }) => lowS - 1 <= trueS && trueS <= highS + 1)
    expect(held.length / said.length).toBeGreaterThan(0.7)
    // and where it is wrong, it is not far off: minutes are never said of seconds
    for (const { lowS, highS, trueS } of said) {
      expect(lowS).toBeLessThan(trueS + 5)
      expect(highS).toBeLessThan(trueS * 3 + 12)
    }
  })

  it('is a range around the measured rate that narrows as the work goes on', () => {
    const at = (share: number, ratio: number) =>
      timeLeft({ doneS: 1000 * share, leftS: 1000 * (1 - share), elapsedS: 1000 * share * ratio })!
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 0.99, noNaN: true }), fc.double({ min: 0.2, max: 20, noNaN: true }), (share, ratio) => {
        const { lowS, highS } = at(share, ratio)
        const trueS = 1000 * (1 - share) * ratio
        expect(lowS).toBeLessThanOrEqual(trueS * 1.1 + 1)
        expect(highS).toBeGreaterThanOrEqual(trueS * 0.9 - 1)
      }),
      { seed: 61 },
    )
    const width = (share: number) => (at(share, 1).highS - at(share, 1).lowS) / (1 - share)
    expect(width(0.9)).toBeLessThan(width(0.1))
  })

  it('knows that a kind is slower than another, that media go by bytes, and that a phone is waited for', () => {
    const contacts = usualSeconds('carrying', { n: 900, isMedia: false, perSecond: { carrying: 400 } })
    const texts = usualSeconds('carrying', { n: 900, isMedia: false })
    expect(contacts.wholeS).toBeGreaterThan(texts.wholeS)
    expect(usualSeconds('reading', { n: 300_000_000, isMedia: true }).wholeS).toBeCloseTo(10.4)
    const still = usualSeconds('reading', { n: 0, isMedia: false, settleS: 2 })
    expect(still.wholeS).toBe(still.beforeS)
    expect(still.beforeS).toBeGreaterThan(2)
  })
})
