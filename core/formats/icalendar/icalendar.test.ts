import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { normalRule } from './event.ts'
import { componentText, readComponents } from './lines.ts'
import { writeCalendarComponent } from './write.ts'

const text = (...lines: string[]) => lines.join('\r\n')

describe('components (RFC 5545 section 3.4)', () => {
  it('nest, with their own lines', () => {
    const { roots } = readComponents(
      text('BEGIN:VCALENDAR', 'A:1', 'BEGIN:VEVENT', 'B:2', 'BEGIN:VALARM', 'C:3', 'END:VALARM', 'END:VEVENT', 'END:VCALENDAR'),
    )
    expect(roots).toEqual([
      {
        name: 'VCALENDAR',
        isCut: false,
        lines: ['A:1'],
        components: [
          { name: 'VEVENT', isCut: false, lines: ['B:2'], components: [{ name: 'VALARM', isCut: false, lines: ['C:3'], components: [] }] },
        ],
      },
    ])
  })
  it('that break off are marked, and the rest is read', () => {
    const { roots } = readComponents(
      text('BEGIN:VCALENDAR', 'BEGIN:VEVENT', 'A:1', 'BEGIN:VALARM', 'END:VCALENDAR', 'BEGIN:VCALENDAR', 'END:VCALENDAR'),
    )
    expect(roots.map((root) => [root.isCut, root.components.map((c) => c.isCut)])).toEqual([
      [false, [true]],
      [false, []],
    ])
  })
  it.each([
    ['an END of nothing', ['END:VEVENT', 'BEGIN:VCALENDAR', 'END:VCALENDAR'], 1],
    ['lines outside', ['hello', 'BEGIN:VCALENDAR', 'END:VCALENDAR', 'world'], 2],
    ['a nest too deep', [...Array.from({ length: 12 }, () => 'BEGIN:X')], 4],
  ])('%s is counted as stray', (_, lines, stray) => {
    expect(readComponents(text(...lines)).strayLines).toBe(stray)
  })
  it('folded lines are put together, whatever ends them (section 3.1)', () => {
    for (const end of ['\r\n', '\n', '\r'])
      expect(readComponents(['BEGIN:V', 'A:one', ' two', '\tthree', 'END:V'].join(end)).roots[0]!.lines).toEqual(['A:onetwothree'])
  })
  it('are text again, and read as before', () => {
    const whole = text('BEGIN:VCALENDAR', 'A:1', 'BEGIN:VEVENT', 'B:2', 'END:VEVENT', 'END:VCALENDAR')
    const [root] = readComponents(whole).roots
    expect(readComponents(componentText(root!)).roots).toEqual([root])
  })
})

describe('rules (section 3.3.10)', () => {
  it.each([
    ['FREQ=WEEKLY;BYDAY=TU,FR', 'BYDAY=FR,TU;FREQ=WEEKLY', undefined],
    ['freq=weekly;interval=1;wkst=mo', 'FREQ=WEEKLY', undefined],
    ['FREQ=DAILY;UNTIL=20260101T100000Z;INTERVAL=2', 'FREQ=DAILY;INTERVAL=2', '20260101T100000Z'],
    ['FREQ=MONTHLY;BYMONTHDAY=-1,15;COUNT=4', 'BYMONTHDAY=-1,15;COUNT=4;FREQ=MONTHLY', undefined],
  ])('%s has one form', (rule, parts, until) => {
    expect(normalRule(rule)).toEqual({ parts, until })
  })
})

describe('writing', () => {
  it('folds at 75 octets without cutting a character, and reads back as it was', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', maxLength: 300 }).map((s) => s.replace(/[\r\n\u0000-\u001f\u0085\u2028\u2029]/g, '')),
        (value) => {
          const written = writeCalendarComponent({ name: 'V', properties: [{ name: 'SUMMARY', value }] })
          for (const line of written.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
          const [line] = readComponents(written).roots[0]!.lines
          expect(line!.replace(/\\([\\;,])/g, '$1')).toBe(`SUMMARY:${value}`)
        },
      ),
      { seed: 3, numRuns: 300 },
    )
  })
  it('escapes text, quotes parameters, and leaves raw values alone', () => {
    expect(
      writeCalendarComponent({
        name: 'V',
        properties: [
          { name: 'A', value: 'a;b,c\\d\ne' },
          { name: 'B', params: { TZID: 'Pier; north' }, value: 'x;y', isRaw: true },
        ],
      }),
    ).toBe('BEGIN:V\r\nA:a\\;b\\,c\\\\d\\ne\r\nB;TZID="Pier; north":x;y\r\nEND:V\r\n')
  })
})
