import { firstLine } from '../../text/lines.ts'
import { createCalendarSplitter } from '../../formats/icalendar/brought.ts'
import { createRecordSplitter } from '../../formats/files/records.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import type { Kind } from '../kind.ts'
import { calendarAtoms, calendarCanonicalVersion } from './canonical.ts'
import { calendarChanges, changeCalendarItem, formInFile } from './change.ts'
import { instantOf, itemFromIcalendar } from './from-icalendar.ts'
import type { CalendarItem, EventFacts } from './model.ts'
import { itemToIcalendar } from './to-icalendar.ts'
import { calendarOn, calendarFace } from './face.ts'

export type { CalendarItem } from './model.ts'

const factsOf = (item: CalendarItem): EventFacts => item.event ?? item.overrides[0]!.facts

/** Events and series of calendars: an item is a series with its overrides; occurrences are a second figure. */
export const calendar: Kind<CalendarItem> = {
  ...calendarFace,
  canonicalVersion: calendarCanonicalVersion,
  joins: false,
  perSecond: { carrying: 700, reading: 650 },
  // holidays somebody else keeps are not the customer's; they come by themselves where they are subscribed again
  leftByDefault: ['subscribed'],
  read(bytes, tools) {
    const result = itemFromIcalendar(bytes, tools)
    return 'code' in result ? { ok: false, code: result.code } : { ok: true, item: result.item, issues: result.issues }
  },
  // one object after the other: each keeps its zones and the name of its calendar (RFC 5545 section 3.4)
  openFiles: [
    {
      code: 'ics',
      extension: 'ics',
      mediaType: 'text/calendar',
      write: (item, { position }) => itemToIcalendar(formInFile(item.uid ? item : { ...item, uid: `item-${position}` })),
    },
  ],
  archive: {
    file: 'Calendar.ics',
    page: { title: 'Calendar', by: 'time' },
    form: (item) => {
      const isAsked = [...(item.event ? [item.event] : []), ...item.overrides.map(({ facts }) => facts)].some((f) => f.attendees.length > 0)
      return { item: formInFile(item), changes: isAsked ? [{ code: 'attendees-as-text', loss: false }] : [] }
    },
    write: (item, { position }) => itemToIcalendar(item.uid ? item : { ...item, uid: `item-${position}` }),
    brought: { begins: (head) => /^BEGIN:(VCALENDAR|VEVENT)\s*$/im.test(firstLine(head)), splitter: createCalendarSplitter },
    splitter: () =>
      createRecordSplitter((line) => (/^BEGIN:VCALENDAR/i.test(line) ? 'begins' : /^END:VCALENDAR/i.test(line) ? 'ends' : 'goes-on')),
  },
  atoms: calendarAtoms,
  canonicalBytes: (atoms) => utf8Bytes(`calendar ${calendarCanonicalVersion}\n${atoms.join('\n')}`),
  matchKeys: () => [],
  change: changeCalendarItem,
  changes: calendarChanges,
  rules: ['phone-takes-no-calendar', 'series-missing', 'file-is-read-only', 'not-known'],
  issues: ['stray-text', 'unknown-property', 'zone-guessed'],
  failures: [
    'no-event',
    'no-start',
    'no-end',
    'bad-date',
    'bad-rule',
    'damaged-event',
    'more-than-one-event',
    'charset-unknown',
    'storage-error',
  ],
  sample: (from) => {
    const { write } = calendarOn(from)
    const can = 'cannot' in write ? { calendars: false, alarms: 1, url: false } : write
    return {
      uid: 'a',
      calendar: can.calendars ? 'a' : '',
      rule: undefined,
      except: [],
      extra: [],
      overrides: [],
      zones: {},
      occurrences: [],
      event: {
        summary: 'a',
        location: '',
        description: '',
        url: can.url ? 'a' : '',
        start: { kind: 'date', text: '20260101' },
        durationS: 86_400,
        status: '',
        alarms: Array.from({ length: can.alarms }, (_, i) => String(-i)),
        attendees: ['a'],
      },
    }
  },
  write: itemToIcalendar,
  describe(item) {
    const facts = factsOf(item)
    const lines = [
      ['place', facts.location],
      ['calendar', item.calendar],
      ['repeats', item.rule ?? ''],
      ['note', facts.description],
      ['url', facts.url],
    ] as const
    return { title: facts.summary, group: item.calendar, lines: lines.filter(([, text]) => text).map(([field, text]) => ({ field, text })) }
  },
  shape: (item) => ({
    ...(item.rule === undefined ? { single: 1 } : { series: 1 }),
    occurrences: item.occurrences.length,
    ...(item.overrides.length > 0 ? { overrides: item.overrides.length } : {}),
    ...(factsOf(item).start.kind === 'date' ? { allDay: 1 } : {}),
    ...(factsOf(item).alarms.length > 0 ? { alarms: factsOf(item).alarms.length } : {}),
  }),
  at: (item) => instantOf(factsOf(item).start),
  slice: (item) => item.calendar,
  figures: ['occurrences'],
}
