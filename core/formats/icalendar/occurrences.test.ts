import fc from 'fast-check'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import type { LocalTime } from '../../text/zone.ts'
import { occurrencesOf, TooManyToTell } from './occurrences.ts'

const window = { from: Date.UTC(2024, 10, 26), to: Date.UTC(2028, 10, 26) }
const msOf = ({ year, month, day, hour, minute, second }: LocalTime) => Date.UTC(year, month - 1, day, hour, minute, second)
const local = (text: string): LocalTime => {
  const [year, month, day, hour, minute, second] = text.split(/\D/).map(Number) as [number, number, number, number, number, number]
  return { year, month, day, hour, minute, second }
}
const told = (rule: string, start: LocalTime) =>
  occurrencesOf(rule, start, false, window)
    .map(msOf)
    .filter((ms) => ms >= window.from && ms <= window.to)

/** The plain way: every occurrence from the start on, by the library alone. */
function walked(rule: string, start: LocalTime): number[] | undefined {
  const iterator = ICAL.Recur.fromString(rule).iterator(new ICAL.Time({ ...start, isDate: false }, ICAL.Timezone.localTimezone))
  const named = /BYMONTH=([\d,]+)/.exec(rule)?.[1]!.split(',')
  const out: number[] = []
  for (let n = 0; n < 60_000; n++) {
    const next = iterator.next()
    if (!next) return out
    const ms = msOf(next as unknown as LocalTime)
    if (ms > window.to) return out
    if (ms >= window.from && (!named || named.includes(String(next.month)))) out.push(ms)
  }
  return undefined
}

const start = fc
  .record({
    year: fc.integer({ min: 1990, max: 2029 }),
    month: fc.integer({ min: 1, max: 12 }),
    day: fc.integer({ min: 1, max: 31 }),
    hour: fc.integer({ min: 0, max: 23 }),
    minute: fc.constantFrom(0, 30),
    second: fc.constant(0),
  })
  .filter((time) => new Date(msOf(time)).getUTCDate() === time.day)
const some = (values: readonly string[], most: number) =>
  fc.uniqueArray(fc.constantFrom(...values), { minLength: 1, maxLength: most }).map((l) => l.join(','))
const days = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']
const part = (name: string, value: fc.Arbitrary<string>) =>
  fc.option(
    value.map((v) => `;${name}=${v}`),
    { nil: '' },
  )
const interval = part('INTERVAL', fc.integer({ min: 1, max: 7 }).map(String))
const count = part('COUNT', fc.integer({ min: 1, max: 60 }).map(String))
const months = part('BYMONTH', some(['1', '2', '6', '9', '12'], 3))
const monthDays = part('BYMONTHDAY', some(['1', '15', '28', '29', '30', '31', '-1'], 3))
const rules = fc.oneof(
  fc.tuple(fc.constant('FREQ=DAILY'), interval, count, months),
  fc.tuple(fc.constant('FREQ=WEEKLY'), interval, count, part('BYDAY', some(days, 4)), part('WKST', fc.constantFrom('MO', 'SU'))),
  fc.tuple(fc.constant('FREQ=MONTHLY'), interval, count, monthDays),
  fc.tuple(fc.constant('FREQ=MONTHLY'), interval, count, part('BYDAY', some(['1MO', '2TU', '-1FR', '3SU'], 2))),
  fc.tuple(fc.constant('FREQ=YEARLY'), interval, count, months),
  fc.tuple(fc.constant('FREQ=HOURLY;INTERVAL=6'), count, months),
)

describe('occurrences within a window (RFC 5545, 3.3.10)', () => {
  it('are those of a walk from the start, wherever it begins', () => {
    let compared = 0
    fc.assert(
      fc.property(rules, start, (parts, begins) => {
        const rule = parts.join('')
        const plain = walked(rule, begins)
        if (!plain) return
        compared++
        expect([rule, told(rule, begins)]).toEqual([rule, plain])
      }),
      { seed: 612, numRuns: 300 },
    )
    expect(compared).toBeGreaterThan(250)
  })

  it.each([
    ['a daily series since 1970 has all its days', 'FREQ=DAILY', '1970-01-01T09:00:00', 1461],
    ['an hourly one since 2020 has all its hours', 'FREQ=HOURLY', '2020-03-01T00:00:00', 35_065],
    ['a monthly one by position since 2005', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', '2005-01-31T17:00:00', 48],
    ['one that begins in the year 1', 'FREQ=YEARLY', '1-01-01T00:00:00', 4],
    ['a day that no month has', 'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31', '2020-01-01T00:00:00', 0],
    ['a month that no year has', 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', '2020-01-01T00:00:00', 0],
    ['an interval longer than time', 'FREQ=DAILY;INTERVAL=2147483647;COUNT=2147483647', '2026-01-01T00:00:00', 1],
    ['a weekly interval longer than time', 'FREQ=WEEKLY;INTERVAL=2147483647;BYDAY=MO,WE', '2026-01-05T00:00:00', 2],
  ])('%s: %s', (_, rule, begins, n) => {
    expect(told(rule, local(begins))).toHaveLength(n)
  })

  it.each([
    'FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=31',
    'FREQ=MINUTELY;BYHOUR=3;BYMONTH=1',
    'FREQ=SECONDLY',
    'FREQ=DAILY;COUNT=2147483647;BYMONTH=2;BYMONTHDAY=31;INTERVAL=1',
    'FREQ=MINUTELY;COUNT=1000000000',
  ])('%s ends after so many steps, the same wherever it is read', (rule) => {
    // it tells, or says that it is too much; it never goes on
    const tell = () => {
      try {
        return told(rule, local('1970-01-01T00:00:00')).length
      } catch (error) {
        if (error instanceof TooManyToTell) return 'too many'
        throw error
      }
    }
    expect(tell()).toBe(tell())
  })
})
