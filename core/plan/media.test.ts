import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { durationOf, type DurationInput } from './duration.ts'
import { stretchesOf } from './order.ts'
import { newestYearsThatFit, reserveOf, spaceFor } from './space.ts'

describe('space on the new phone', () => {
  it.each([
    [8e9, 500_000_000],
    [64e9, 1_920_000_000],
    [512e9, 4_000_000_000],
  ])('of %d bytes it keeps %d free', (total, reserve) => {
    expect(reserveOf(total)).toBe(reserve)
  })
  it('what is chosen, what conversion adds and the reserve must be free', () => {
    const base = { totalBytes: 64e9, chosenBytes: 6e9, growsBytes: 1e9 }
    expect(spaceFor({ ...base, freeBytes: 8_920_000_000 })).toMatchObject({ fits: true, shortBytes: 0, leftBytes: 1_920_000_000 })
    expect(spaceFor({ ...base, freeBytes: 8_919_999_999 })).toMatchObject({ fits: false, shortBytes: 1 })
    expect(spaceFor({ ...base, chosenBytes: 0, growsBytes: 0, freeBytes: 0 })).toMatchObject({ fits: true })
  })
  it('the newest whole years that fit, never one byte more', () => {
    const years = fc
      .array(fc.record({ year: fc.integer({ min: 2001, max: 2030 }), bytes: fc.integer({ min: 1, max: 1000 }) }), { maxLength: 20 })
      .map((all) => [...new Map(all.map((y) => [y.year, y])).values()])
    fc.assert(
      fc.property(years, fc.integer({ min: 0, max: 8000 }), (all, room) => {
        const since = newestYearsThatFit(all, room)
        const sum = (from: number) => all.filter((y) => y.year >= from).reduce((n, y) => n + y.bytes, 0)
        if (since === null) expect(all.length === 0 || sum(Math.max(...all.map((y) => y.year))) > room).toBe(true)
        else {
          expect(sum(since)).toBeLessThanOrEqual(room)
          const older = all.filter((y) => y.year < since).map((y) => y.year)
          if (older.length > 0) expect(sum(Math.max(...older))).toBeGreaterThan(room)
        }
      }),
      { seed: 11 },
    )
  })
})

describe('time', () => {
  const base: DurationInput = {
    items: 0,
    bytes: 3e9,
    files: 1000,
    measuredBytesPerSecond: 30e6,
    cableBytesPerSecond: 32e6,
    conversions: 0,
    conversionMs: 0,
    temperatureC: 25,
  }
  it('is a range around over and back at the measured rate, wider while nothing was measured', () => {
    const measured = durationOf(base)
    expect(measured.lowS).toBeLessThanOrEqual(210)
    expect(measured.highS).toBeGreaterThanOrEqual(210)
    const unknown = durationOf({ ...base, measuredBytesPerSecond: undefined })
    expect(unknown.highS - unknown.lowS).toBeGreaterThan(measured.highS - measured.lowS)
  })
  it('never faster than the slower cable; conversions and rests for heat come on top', () => {
    expect(durationOf({ ...base, cableBytesPerSecond: 3e6 }).lowS).toBeGreaterThan(durationOf(base).lowS * 5)
    expect(durationOf({ ...base, conversions: 100, conversionMs: 1300 }).lowS).toBeGreaterThan(durationOf(base).lowS + 90)
    expect(durationOf({ ...base, bytes: 40e9 }).restsS).toBe(240)
    expect(durationOf({ ...base, temperatureC: 38 }).restsS).toBe(120)
  })
  it('grows with every item, file and byte', () => {
    fc.assert(
      fc.property(fc.nat(1e6), fc.nat(1e9), fc.nat(50_000), (items, bytes, files) => {
        const one = durationOf({ ...base, items, bytes, files })
        const more = durationOf({ ...base, items: items + 1000, bytes: bytes + 1e9, files: files + 100 })
        expect(more.lowS).toBeGreaterThanOrEqual(one.lowS)
        expect(one.lowS).toBeLessThanOrEqual(one.highS)
      }),
      { seed: 5 },
    )
  })
})

describe('the order of the line', () => {
  const kinds = [
    { kind: 'contacts', isMedia: false },
    { kind: 'messages', isMedia: false },
    { kind: 'photos', isMedia: true },
    { kind: 'apps', isMedia: true },
  ]
  it('light kinds, then media', () => {
    expect(stretchesOf(kinds, null)).toEqual([
      { code: 'light', kinds: ['contacts', 'messages'] },
      { code: 'media', kinds: ['photos', 'apps'] },
    ])
  })
  it('a fragile phone’s dearest kind before all', () => {
    expect(stretchesOf(kinds, 'photos')).toEqual([
      { code: 'first', kinds: ['photos'] },
      { code: 'light', kinds: ['contacts', 'messages'] },
      { code: 'media', kinds: ['apps'] },
    ])
  })
  it('every kind is in exactly one part, whatever is first', () => {
    for (const first of [null, 'contacts', 'apps', 'nothing'])
      expect(
        stretchesOf(kinds, first)
          .flatMap((part) => part.kinds)
          .sort(),
      ).toEqual(['apps', 'contacts', 'messages', 'photos'])
  })
})
