import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { findModel } from '../../phones/models.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import { createInstantReader } from '../../text/zone.ts'
import { createNumberReader } from '../contacts/index.ts'
import { calendar, type CalendarItem } from './index.ts'

const tools = {
  number: createNumberReader('GB'),
  hash: () => '',
  instant: createInstantReader('Europe/London'),
  nowMs: Date.UTC(2026, 10, 25),
}
const event = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:a', ...lines, 'END:VEVENT']
const read = (...lines: string[]) =>
  calendar.read(utf8Bytes(['BEGIN:VCALENDAR', 'VERSION:2.0', ...lines, 'END:VCALENDAR', ''].join('\r\n')), tools)
const item = (...lines: string[]): CalendarItem => {
  const record = read(...lines)
  if (!record.ok) throw new Error(record.code)
  return record.item
}
const at = (calendarItem: CalendarItem) => calendarItem.occurrences.map((ms) => new Date(ms).toISOString().slice(0, 16))
const orrin = findModel({ maker: 'Orrin', model: 'Orrin 9', platform: 'android' })
const tamsel = findModel({ maker: 'Tamsel', model: 'Tamsel M2', platform: 'android' })

describe('one item of a calendar (RFC 5545)', () => {
  it.each<[string, string[], string[]]>([
    ['a time in a zone', ['DTSTART;TZID=Europe/London:20260701T120000'], ['2026-07-01T11:00']],
    ['a time in UTC', ['DTSTART:20260701T120000Z'], ['2026-07-01T12:00']],
    [
      'a series over the clock change keeps its clock time',
      ['DTSTART;TZID=Europe/London:20261024T120000', 'RRULE:FREQ=DAILY;COUNT=3'],
      ['2026-10-24T11:00', '2026-10-25T12:00', '2026-10-26T12:00'],
    ],
    [
      'EXDATE leaves one out, in another zone too',
      ['DTSTART;TZID=Europe/London:20260701T120000', 'RRULE:FREQ=DAILY;COUNT=3', 'EXDATE:20260702T110000Z'],
      ['2026-07-01T11:00', '2026-07-03T11:00'],
    ],
    [
      'RDATE adds one',
      ['DTSTART:20260701T120000Z', 'RRULE:FREQ=DAILY;COUNT=1', 'RDATE:20260710T120000Z'],
      ['2026-07-01T12:00', '2026-07-10T12:00'],
    ],
    [
      'UNTIL in UTC ends a series in a zone',
      ['DTSTART;TZID=Europe/London:20260327T180000', 'RRULE:FREQ=DAILY;UNTIL=20260329T170000Z'],
      ['2026-03-27T18:00', '2026-03-28T18:00', '2026-03-29T17:00'],
    ],
    ['an all-day series', ['DTSTART;VALUE=DATE:20260801', 'RRULE:FREQ=YEARLY;COUNT=2'], ['2026-08-01T00:00', '2027-08-01T00:00']],
    [
      'what is older than two years is left to the rule',
      ['DTSTART:20200101T100000Z', 'RRULE:FREQ=YEARLY'],
      ['2025-01-01T10:00', '2026-01-01T10:00', '2027-01-01T10:00', '2028-01-01T10:00'],
    ],
  ])('%s', (_, lines, expected) => {
    expect(at(item(...event(...lines)))).toEqual(expected)
  })

  const series = event('DTSTART:20260105T180000Z', 'RRULE:FREQ=WEEKLY;COUNT=3')
  const override = (...lines: string[]) => event('RECURRENCE-ID:20260112T180000Z', ...lines)
  it.each([
    ['after its series', [...series, ...override('DTSTART:20260113T190000Z')]],
    ['before its series', [...override('DTSTART:20260113T190000Z'), ...series]],
  ])('a moved occurrence %s is part of one item', (_, lines) => {
    expect(at(item(...lines))).toEqual(['2026-01-05T18:00', '2026-01-13T19:00', '2026-01-19T18:00'])
    expect(item(...lines).overrides).toHaveLength(1)
  })
  it('a cancelled occurrence does not happen', () => {
    expect(at(item(...series, ...override('DTSTART:20260112T180000Z', 'STATUS:CANCELLED')))).toEqual([
      '2026-01-05T18:00',
      '2026-01-19T18:00',
    ])
  })
  it('an override without its series becomes an event of its own; several can’t cross', () => {
    const orphan = item(...override('DTSTART:20260113T190000Z', 'SUMMARY:Gone'))
    const changed = calendar.change(orphan, orrin)
    if ('cannot' in changed) throw new Error(changed.cannot)
    expect(changed.changes).toEqual([{ code: 'override-as-event', loss: false }])
    expect(changed.item.event).toMatchObject({ summary: 'Gone' })
    expect(
      calendar.change(
        item(...override('DTSTART:20260113T190000Z'), ...event('RECURRENCE-ID:20260119T180000Z', 'DTSTART:20260119T190000Z')),
        orrin,
      ),
    ).toEqual({ cannot: 'series-missing' })
  })

  it('a change for all later days, and a changed day with a rule of its own: named losses, and whole in a file', () => {
    const wide = event('RECURRENCE-ID;RANGE=THISANDFUTURE:20260112T180000Z', 'DTSTART:20260112T190000Z')
    const ruled = override('DTSTART:20260113T190000Z', 'RRULE:FREQ=DAILY;COUNT=2')
    for (const [lines, code, inFile] of [
      [wide, 'range-to-one', /RECURRENCE-ID;RANGE=THISANDFUTURE:20260112T180000Z/],
      [ruled, 'own-rule-dropped', /RRULE:COUNT=2;FREQ=DAILY/],
    ] as const) {
      const read = item(...series, ...lines)
      const changed = calendar.change(read, orrin)
      if ('cannot' in changed) throw new Error(changed.cannot)
      expect(changed.changes).toEqual([{ code, loss: true }])
      const back = calendar.read(calendar.write(changed.item, orrin), tools)
      expect(back.ok && calendar.atoms(back.item, tools)).toEqual(calendar.atoms(changed.item, tools))
      expect(calendar.atoms(read, tools)).not.toEqual(calendar.atoms(changed.item, tools))
      const file = calendar.openFiles![0]!.write(read, { position: 1, number: tools.number })
      expect(Buffer.from(file as Uint8Array).toString()).toMatch(inFile)
    }
  })
  it('a changed day whose series is gone keeps the rule it has', () => {
    const orphan = item(...override('DTSTART:20260113T190000Z', 'RRULE:FREQ=DAILY;COUNT=2'))
    const changed = calendar.change(orphan, orrin)
    if ('cannot' in changed) throw new Error(changed.cannot)
    expect(changed.changes).toEqual([{ code: 'override-as-event', loss: false }])
    const back = calendar.read(calendar.write(changed.item, orrin), tools)
    if (!back.ok) throw new Error(back.code)
    expect(at(back.item)).toEqual(['2026-01-13T19:00', '2026-01-14T19:00'])
    expect(calendar.atoms(back.item, tools)).toEqual(calendar.atoms(changed.item, tools))
  })

  const odd = [
    'BEGIN:VTIMEZONE',
    'TZID:Saltmere Harbour Time',
    'BEGIN:STANDARD',
    'DTSTART:19700101T000000',
    'TZOFFSETFROM:+0030',
    'TZOFFSETTO:+0030',
    'END:STANDARD',
    'END:VTIMEZONE',
  ]
  it('a zone of an odd name is read by its own VTIMEZONE, and travels with what is written in it', () => {
    const tide = item(...odd, ...event('DTSTART;TZID=Saltmere Harbour Time:20260701T063000', 'RRULE:FREQ=DAILY;COUNT=2'))
    expect(at(tide)).toEqual(['2026-07-01T06:00', '2026-07-02T06:00'])
    expect(Buffer.from(calendar.write(tide, orrin)).toString()).toContain('TZID:Saltmere Harbour Time')
  })
  it('a zone nobody knows is taken as the phone’s own', () => {
    expect(at(item(...event('DTSTART;TZID=Nowhere Town:20260701T120000')))).toEqual(['2026-07-01T11:00'])
    expect(read(...event('DTSTART;TZID=Nowhere Town:20260701T120000'))).toMatchObject({ issues: ['zone-guessed'] })
    expect(read(...event('DTSTART;TZID=Europe/Paris:20260701T120000'))).toMatchObject({ issues: [] })
  })
  it.each([
    'FREQ=SECONDLY',
    'FREQ=DAILY',
    'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31',
    'FREQ=YEARLY;BYMONTH=1,2,3,4,5,6,7,8,9,10,11,12;BYDAY=MO,TU,WE',
  ])('a zone whose clock changes by a rule nobody can walk is as good as none, at once: %s', (rule) => {
    const zone = [...odd.slice(0, 4), `RRULE:${rule}`, ...odd.slice(4)]
    const began = performance.now()
    const tide = read(...zone, ...event('DTSTART;TZID=Saltmere Harbour Time:20260701T063000', 'RRULE:FREQ=DAILY;COUNT=2'))
    expect(tide).toMatchObject({ ok: true, issues: ['zone-guessed'] })
    expect(performance.now() - began).toBeLessThan(5000)
  })
  it('a zone whose clock changes twice a year is walked', () => {
    const zone = [...odd.slice(0, 4), 'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU', ...odd.slice(4)]
    expect(read(...zone, ...event('DTSTART;TZID=Saltmere Harbour Time:20260701T063000'))).toMatchObject({ ok: true, issues: [] })
  })

  it.each([
    ['no-event', ['X-WR-CALNAME:Empty']],
    ['no-start', event('SUMMARY:When')],
    ['bad-date', event('DTSTART:someday')],
    ['bad-date', event('DTSTART;VALUE=DATE:2026')],
    ['bad-rule', event('DTSTART:20260101T100000Z', 'RRULE:FREQ=SOMETIMES')],
    ['more-than-one-event', [...event('DTSTART:20260101T100000Z'), 'BEGIN:VEVENT', 'UID:b', 'DTSTART:20260101T100000Z', 'END:VEVENT']],
    ['no-end', ['BEGIN:VEVENT', 'UID:a', 'DTSTART:20260101T100000Z']],
  ])('%s is one unreadable item', (code, lines) => {
    expect(read(...lines)).toEqual({ ok: false, code })
  })

  it('never throws, whatever is cut, doubled or turned round in it', () => {
    const whole = [
      'BEGIN:VCALENDAR',
      ...odd,
      ...event(
        'DTSTART;TZID=Saltmere Harbour Time:20260701T063000',
        'RRULE:FREQ=DAILY;COUNT=2;BYDAY=MO',
        'EXDATE:20260702T063000',
        'DURATION:PT1H',
        'SUMMARY:a\\, b',
        'BEGIN:VALARM',
        'TRIGGER:-PT5M',
        'END:VALARM',
      ),
      'END:VCALENDAR',
      '',
    ].join('\r\n')
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(whole.length), fc.nat(40), fc.constantFrom('', ':', ';', '\r\n', 'Z', '=', '\u0000', '99999999')), {
          minLength: 1,
          maxLength: 4,
        }),
        (cuts) => {
          const text = cuts.reduce((t, [from, length, put]) => t.slice(0, from) + put + t.slice(from + length), whole)
          const record = calendar.read(utf8Bytes(text), tools)
          if (record.ok) calendar.atoms(record.item, tools)
        },
      ),
      { seed: 7, numRuns: 800 },
    )
  })

  it('folded, with LF alone, a byte order mark and escapes, it is read all the same', () => {
    const text =
      '\ufeffBEGIN:VCALENDAR\nBEGIN:VEVENT\nUID:a\nDTSTART:20260101T100000Z\nSUMMARY:Bring the ke\n ys\\; and tea\\, please\\nNow\nEND:VEVENT\nEND:VCALENDAR\n'
    const record = calendar.read(utf8Bytes(text), tools)
    expect(record.ok && record.item.event!.summary).toBe('Bring the keys; and tea, please\nNow')
  })
})

describe('what an item says', () => {
  const same = (a: CalendarItem, b: CalendarItem) => JSON.stringify(calendar.atoms(a, tools)) === JSON.stringify(calendar.atoms(b, tools))
  const base = event('DTSTART;TZID=Europe/London:20260701T120000', 'DTEND;TZID=Europe/London:20260701T130000', 'SUMMARY:Tea')
  it.each([
    ['UTC and its zone', event('DTSTART:20260701T110000Z', 'DURATION:PT1H', 'SUMMARY:Tea')],
    ['an end and a duration', event('DTSTART;TZID=Europe/London:20260701T120000', 'DURATION:PT60M', 'SUMMARY:Tea')],
    ['another UID', base.map((line) => (line === 'UID:a' ? 'UID:other' : line))],
  ])('is the same in %s', (_, lines) => {
    expect(same(item(...base), item(...lines))).toBe(true)
  })
  it.each([
    ['another hour', event('DTSTART:20260701T120000Z', 'DURATION:PT1H', 'SUMMARY:Tea')],
    ['a floating time', event('DTSTART:20260701T120000', 'DURATION:PT1H', 'SUMMARY:Tea')],
    ['another length', event('DTSTART:20260701T110000Z', 'DURATION:PT2H', 'SUMMARY:Tea')],
    ['an alarm', [...base.slice(0, -1), 'BEGIN:VALARM', 'TRIGGER:-PT15M', 'END:VALARM', 'END:VEVENT']],
    ['a rule', event('DTSTART:20260701T110000Z', 'DURATION:PT1H', 'SUMMARY:Tea', 'RRULE:FREQ=YEARLY')],
  ])('is another with %s', (_, lines) => {
    expect(same(item(...base), item(...lines))).toBe(false)
  })
  it('a rule is the same in another order of its parts, and another where its occurrences differ', () => {
    const weekly = (rule: string, start = 'DTSTART;TZID=Europe/London:20261020T120000') => item(...event(start, `RRULE:${rule}`))
    expect(same(weekly('FREQ=WEEKLY;BYDAY=TU,FR'), weekly('BYDAY=FR,TU;FREQ=WEEKLY;INTERVAL=1;WKST=MO'))).toBe(true)
    // the same start, but a zone without a clock change: every occurrence after it is another
    expect(same(weekly('FREQ=WEEKLY'), weekly('FREQ=WEEKLY', 'DTSTART:20261020T110000Z'))).toBe(false)
  })
})

describe('what a phone makes of an item', () => {
  it('nobody is invited again: who takes part stands in the note', () => {
    const meeting = item(...event('DTSTART:20260701T110000Z', 'ATTENDEE;CN=Bram Oakes:mailto:bram@example.org', 'DESCRIPTION:Keys'))
    const changed = calendar.change(meeting, orrin)
    if ('cannot' in changed) throw new Error(changed.cannot)
    expect(changed.changes.map((c) => c.code)).toEqual(['attendees-as-text'])
    expect(changed.item.event!.description).toBe('Keys\nWith: Bram Oakes')
    expect(Buffer.from(calendar.write(changed.item, orrin)).toString()).not.toContain('ATTENDEE')
  })
  it('one calendar, one alarm, no web address: each is named', () => {
    const full = item(
      'X-WR-CALNAME:Choir',
      ...event(
        'DTSTART:20260701T110000Z',
        'URL:https://example.org',
        'BEGIN:VALARM',
        'TRIGGER:-PT15M',
        'END:VALARM',
        'BEGIN:VALARM',
        'TRIGGER:-PT5M',
        'END:VALARM',
      ),
    )
    const changed = calendar.change(full, tamsel)
    expect('cannot' in changed ? [] : changed.changes.map((c) => `${c.code} ${c.loss}`).sort()).toEqual([
      'alarms-cut true',
      'calendars-joined true',
      'url-to-note false',
    ])
  })
})

describe('values that are none', () => {
  it.each([
    ['a day that is none', ['DTSTART;VALUE=DATE:20241124', 'DTEND;VALUE=DATE:20X41125'], 'bad-date'],
    ['an UNTIL that is none', ['DTSTART:20241124T100000Z', 'RRULE:FREQ=DAILY;UNTIL=20j41202T045959Z'], 'bad-rule'],
    ['the 30th of February', ['DTSTART:20260230T100000Z'], 'bad-date'],
    ['an exception at hour 24', ['DTSTART:20241124T100000Z', 'RRULE:FREQ=DAILY', 'EXDATE:20241125T240000Z'], 'bad-date'],
  ])('%s makes its event unreadable, and nothing throws', (_, lines, code) => {
    expect(read(...event(...lines))).toEqual({ ok: false, code })
  })

  it('a series that begins in the year 1 is told within the window', () => {
    expect(item(...event('DTSTART:00010101T000000Z', 'RRULE:FREQ=YEARLY')).occurrences).toHaveLength(4)
  })

  it('a rule that costs too much is too many to tell, never an empty proof', () => {
    const costly = item(...event('DTSTART:20200101T000000Z', 'RRULE:FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=31'))
    expect(costly).toMatchObject({ areTooMany: true, occurrences: [] })
    expect(calendar.atoms(costly, tools).filter((atom) => atom.startsWith('occurrences'))).toEqual(['occurrences\u001ftoo many to tell'])
  })
})
