import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readCalendar } from './read.ts'

const lines = [
  'UID:a',
  'DTSTART:20260101T100000Z',
  'DTSTART;VALUE=DATE:20260101',
  'DTSTART:2026',
  'SUMMARY:Tea\\, and cake',
  'RRULE:FREQ=WEEKLY;COUNT=3',
  'RRULE:FREQ=SOMETIMES',
  'EXDATE:20260108T100000Z',
  'DURATION:PT1H',
  'ATTENDEE;CN=Zoe:mailto:zoe@example.org',
  'X-OWN:1',
  'LOCATION:Quay',
]
const calendar = (body: readonly string[], extra = '') =>
  `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nX-WR-CALNAME:Choir\\, alto\r\n${extra}BEGIN:VEVENT\r\n${body.map((line) => line + '\r\n').join('')}END:VEVENT\r\nEND:VCALENDAR\r\n`

describe('a calendar', () => {
  it('read at one go says what it says read component by component', () => {
    let whole = 0
    fc.assert(
      fc.property(fc.uniqueArray(fc.constantFrom(...lines), { minLength: 1, maxLength: 8 }), (body) => {
        // a task beside the event, folded, asks for nothing more; a zone has it read in pieces
        const zone =
          'BEGIN:VTIMEZONE\r\nTZID:Quay\r\nBEGIN:STANDARD\r\nDTSTART:19700101T000000\r\nTZOFFSETFROM:+0000\r\nTZOFFSETTO:+0000\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\n'
        const one = readCalendar(calendar(body))
        const { zones, ...pieces } = readCalendar(calendar(body, zone))
        expect(zones).toHaveLength(1)
        expect({ ...one, zones: undefined }).toEqual({ ...pieces, zones: undefined })
        if (!('code' in one.events[0]!)) whole++
      }),
      { seed: 81, numRuns: 300 },
    )
    expect(whole).toBeGreaterThan(50)
  })

  it('of which one event is damaged gives the others', () => {
    const text = calendar(['UID:a', 'DTSTART:20260101T100000Z']).replace(
      'END:VCALENDAR',
      'BEGIN:VEVENT\r\nUID:b\r\nDTSTART:2026\r\nEND:VEVENT\r\nEND:VCALENDAR',
    )
    expect(readCalendar(text).events.map((event) => ('code' in event ? event.code : event.uid))).toEqual(['a', 'bad-date'])
  })
})
