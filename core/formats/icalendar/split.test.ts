import { describe, expect, it } from 'vitest'
import { utf8Bytes } from '../../text/bytes.ts'
import { itemFromIcalendar } from '../../kinds/calendar/from-icalendar.ts'
import { splitCalendar } from './split.ts'

const event = (uid: string, ...more: string[]) => [
  'BEGIN:VEVENT',
  ...(uid ? [`UID:${uid}`] : []),
  'DTSTART;TZID=Quay:20260105T090000',
  'SUMMARY:Rehearsal',
  ...more,
  'END:VEVENT',
]
const zone = (name: string) => [
  'BEGIN:VTIMEZONE',
  `TZID:${name}`,
  'BEGIN:STANDARD',
  'DTSTART:19700101T000000',
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0100',
  'END:STANDARD',
  'END:VTIMEZONE',
]
const file = (...parts: string[][]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'X-WR-CALNAME:Choir', ...parts.flat(), 'END:VCALENDAR', ''].join('\r\n')
const tools = { number: (t: string) => t, hash: () => '', instant: () => 0, nowMs: Date.UTC(2026, 0, 1) }

describe('a calendar file', () => {
  it('is cut by UID: a series and its overrides are one item, wherever they stand; without a UID each is its own', () => {
    const { items: each } = splitCalendar(
      file(
        zone('Quay'),
        event('a', 'RRULE:FREQ=WEEKLY;COUNT=3'),
        event('b'),
        event('a', 'RECURRENCE-ID;TZID=Quay:20260112T090000'),
        event(''),
        event(''),
      ),
    )
    const items = [...each()]
    expect(items).toHaveLength(4)
    expect(items[0]!.match(/BEGIN:VEVENT/g)).toHaveLength(2)
    const read = itemFromIcalendar(utf8Bytes(items[0]!), tools)
    expect('item' in read && [read.item.calendar, read.item.overrides.length]).toEqual(['Choir', 1])
  })

  it('gives each item only the zones it names', () => {
    const items = [...splitCalendar(file(zone('Quay'), zone('Pier'), event('a'))).items()]
    expect(items[0]).toContain('TZID:Quay')
    expect(items[0]).not.toContain('TZID:Pier')
  })

  it('tasks and journals are no items, and counted; several calendars in one file are each read', () => {
    const { count, others } = splitCalendar(
      file(event('a'), ['BEGIN:VTODO', 'END:VTODO'], ['BEGIN:VJOURNAL', 'END:VJOURNAL']) + file(event('b')),
    )
    expect([count, others]).toEqual([2, 2])
  })

  it('an event that breaks off is one unreadable item, and the rest is read', () => {
    const items = [...splitCalendar(file(event('a')).replace('END:VCALENDAR\r\n', '') + 'BEGIN:VEVENT\r\nUID:b\r\nDTSTART:2026').items()]
    const read = items.map((item) => itemFromIcalendar(utf8Bytes(item), tools))
    expect(read.map((result) => ('code' in result ? result.code : 'read'))).toEqual(['read', 'no-end'])
  })

  it('a file that is none has no items', () => {
    expect(splitCalendar('Dear customer')).toMatchObject({ count: 0, others: 0 })
  })
})
