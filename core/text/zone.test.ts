import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asToldLocally, createInstantReader, readBasicTime, writeBasicTime } from './zone.ts'

const local = (text: string) => readBasicTime(text)!.local

describe('local times as instants', () => {
  it.each([
    ['Europe/London', '20260115T120000', '2026-01-15T12:00:00Z'],
    ['Europe/London', '20260715T120000', '2026-07-15T11:00:00Z'],
    ['Europe/London', '20260329T005959', '2026-03-29T00:59:59Z'],
    ['Europe/London', '20260329T020000', '2026-03-29T01:00:00Z'],
    // skipped by the clock: by the offset before the gap
    ['Europe/London', '20260329T013000', '2026-03-29T01:30:00Z'],
    ['America/New_York', '20260308T023000', '2026-03-08T07:30:00Z'],
    ['Europe/London', '20261025T010000', '2026-10-25T00:00:00Z'],
    ['Europe/London', '20261025T020000', '2026-10-25T02:00:00Z'],
    ['Asia/Kathmandu', '20260101T054500', '2026-01-01T00:00:00Z'],
    ['America/New_York', '20260704T000000', '2026-07-04T04:00:00Z'],
    ['Nowhere/Town', '20260704T000000', '2026-07-04T00:00:00Z'],
  ])('%s %s is %s', (zone, text, expected) => {
    expect(new Date(createInstantReader(zone)(local(text))).toISOString().replace('.000', '')).toBe(expected)
  })

  it('every half hour of two years is read back, but for the hour that comes twice', () => {
    const instant = createInstantReader('Europe/London')
    const wall = new Intl.DateTimeFormat('sv-SE', { timeZone: 'Europe/London', dateStyle: 'short', timeStyle: 'medium' })
    let differ = 0
    for (let at = Date.UTC(2025, 0, 1); at < Date.UTC(2027, 0, 1); at += 1_800_000) {
      const text = wall.format(at).replace(/[-:]/g, '').replace(' ', 'T')
      if (instant(local(text)) !== at) differ++
    }
    expect(differ).toBe(4)
  })
})

describe('basic times (RFC 5545 section 3.3.5)', () => {
  it.each(['', '2026-11-02T10:15:00', '20261102', '20261302T101500', '20261102T251500', '20261102T101500+01'])('“%s” is none', (text) => {
    expect(readBasicTime(text)).toBeUndefined()
  })
  it('are written in UTC and read back', () => {
    expect(writeBasicTime(Date.UTC(2026, 10, 2, 10, 15, 7))).toBe('20261102T101507Z')
    expect(readBasicTime('20261102T101507Z')).toEqual({
      isUtc: true,
      local: { year: 2026, month: 11, day: 2, hour: 10, minute: 15, second: 7 },
    })
  })
})

describe('what a phone tells that gives local times alone', () => {
  it.each([
    [
      'the second of the hour that comes twice in London is told as the first',
      'Europe/London',
      '2026-10-25T01:30:00Z',
      '2026-10-25T00:30:00Z',
    ],
    ['the first is told as it is', 'Europe/London', '2026-10-25T00:30:00Z', '2026-10-25T00:30:00Z'],
    ['its last second', 'Europe/London', '2026-10-25T01:59:59Z', '2026-10-25T00:59:59Z'],
    ['after it', 'Europe/London', '2026-10-25T02:00:00Z', '2026-10-25T02:00:00Z'],
    ['in spring nothing comes twice', 'Europe/London', '2026-03-29T01:30:00Z', '2026-03-29T01:30:00Z'],
    ['clocks put back by half an hour', 'Australia/Lord_Howe', '2026-04-04T15:10:00Z', '2026-04-04T14:40:00Z'],
    ['a zone without summer time', 'Asia/Tokyo', '2026-10-25T01:30:00Z', '2026-10-25T01:30:00Z'],
  ])('%s', (_, zone, at, told) => {
    expect(new Date(asToldLocally(Date.parse(at), zone)).toISOString()).toBe(new Date(told).toISOString())
  })

  it('is what reading that local time gives, whatever the instant', () => {
    const format = new Intl.DateTimeFormat('en-GB', {
      timeZone: 'Europe/London',
      hourCycle: 'h23',
      dateStyle: 'short',
      timeStyle: 'medium',
    })
    const read = createInstantReader('Europe/London')
    fc.assert(
      fc.property(fc.integer({ min: Date.UTC(2026, 9, 24) / 1000, max: Date.UTC(2026, 9, 27) / 1000 }), (second) => {
        const [day, month, year, hour, minute, s] = format
          .format(second * 1000)
          .match(/\d+/g)!
          .map(Number) as [number, number, number, number, number, number]
        expect(asToldLocally(second * 1000, 'Europe/London')).toBe(read({ year, month, day, hour, minute, second: s }))
      }),
    )
  })
})
