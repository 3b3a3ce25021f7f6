import { componentText, readComponents } from '../../formats/icalendar/lines.ts'
import { writeCalendarComponent, type CalendarComponent, type CalendarProperty } from '../../formats/icalendar/write.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import type { CalendarItem, EventFacts, Moment } from './model.ts'

/** Writes an item that already has the new phone's form: nobody in it is invited again. */
export function itemToIcalendar(item: CalendarItem): Uint8Array {
  const uid = item.uid || 'item'
  const used = new Set(momentsOf(item).flatMap((moment) => (moment.kind === 'zoned' ? [moment.tzid] : [])))
  const head = writeCalendarComponent({
    name: 'VCALENDAR',
    properties: [
      { name: 'VERSION', value: '2.0' },
      { name: 'PRODID', value: '-//Corvend//EN' },
      ...(item.calendar ? [{ name: 'X-WR-CALNAME', value: item.calendar }] : []),
    ],
  })
  const zones = Object.entries(item.zones).flatMap(([tzid, text]) =>
    used.has(tzid) ? readComponents(text).roots.map((root) => componentText(root) + '\r\n') : [],
  )
  const events = [
    ...(item.event
      ? [
          eventComponent(uid, item.event, [
            ...(item.rule === undefined ? [] : [{ name: 'RRULE', value: ruleText(item.rule), isRaw: true }]),
            ...item.except.map((moment) => momentProperty('EXDATE', moment)),
            ...item.extra.map((moment) => momentProperty('RDATE', moment)),
          ]),
        ]
      : []),
    ...item.overrides.map(({ of, facts, rule, isRange }) => {
      const id = momentProperty('RECURRENCE-ID', of)
      return eventComponent(uid, facts, [
        isRange ? { ...id, params: { ...id.params, RANGE: 'THISANDFUTURE' } } : id,
        ...(rule === undefined ? [] : [{ name: 'RRULE', value: ruleText(rule), isRaw: true }]),
      ])
    }),
  ].map(writeCalendarComponent)
  return utf8Bytes(head.replace(/END:VCALENDAR\r\n$/, '') + zones.join('') + events.join('') + 'END:VCALENDAR\r\n')
}

function momentsOf(item: CalendarItem): Moment[] {
  return [
    ...(item.event ? [item.event.start] : []),
    ...item.except,
    ...item.extra,
    ...item.overrides.flatMap(({ of, facts }) => [of, facts.start]),
  ]
}

function eventComponent(uid: string, facts: EventFacts, more: readonly CalendarProperty[]): CalendarComponent {
  const text = (name: string, value: string): CalendarProperty[] => (value ? [{ name, value }] : [])
  return {
    name: 'VEVENT',
    properties: [
      { name: 'UID', value: uid },
      momentProperty('DTSTART', facts.start),
      ...(facts.durationS === undefined
        ? []
        : [{ name: 'DURATION', value: durationText(facts.durationS, facts.start.kind === 'date'), isRaw: true }]),
      ...text('SUMMARY', facts.summary),
      ...text('LOCATION', facts.location),
      ...text('DESCRIPTION', facts.description),
      ...(facts.url ? [{ name: 'URL', value: facts.url, isRaw: true }] : []),
      ...text('STATUS', facts.status),
      ...more,
    ],
    components: facts.alarms.map((alarm) => ({
      name: 'VALARM',
      properties: [{ name: 'ACTION', value: 'DISPLAY' }, { name: 'DESCRIPTION', value: facts.summary || '-' }, alarmTrigger(alarm)],
    })),
  }
}

function momentProperty(name: string, moment: Moment): CalendarProperty {
  if (moment.kind === 'date') return { name, params: { VALUE: 'DATE' }, value: moment.text, isRaw: true }
  if (moment.kind === 'zoned' && moment.tzid !== 'UTC') return { name, params: { TZID: moment.tzid }, value: moment.text, isRaw: true }
  return { name, value: moment.text, isRaw: true }
}

/** RFC 5545 section 3.3.6: days for what is all day, else hours, minutes and seconds. */
function durationText(seconds: number, isDays: boolean): string {
  const size = Math.abs(seconds)
  const sign = seconds < 0 ? '-' : ''
  if (isDays && size % 86_400 === 0) return `${sign}P${size / 86_400}D`
  return `${sign}PT${Math.floor(size / 3600)}H${Math.floor((size % 3600) / 60)}M${size % 60}S`
}

function alarmTrigger(alarm: string): CalendarProperty {
  if (!/^-?[\d.]+$/.test(alarm)) return { name: 'TRIGGER', params: { VALUE: 'DATE-TIME' }, value: alarm, isRaw: true }
  const seconds = Math.round(Number(alarm) * 60)
  return {
    name: 'TRIGGER',
    value:
      seconds < 0
        ? `-PT${-seconds / 60}M`.replace(/PT([\d.]+)M/, (_, m: string) =>
            Number.isInteger(Number(m)) ? `PT${m}M` : `PT${Math.round(Number(m) * 60)}S`,
          )
        : `PT${Math.round(seconds / 60)}M`,
    isRaw: true,
  }
}

function ruleText(rule: string): string {
  return rule.replace(/UNTIL=(\d{4}-[^;]+)/, (_, iso: string) => `UNTIL=${iso.replace(/[-:]|\.\d{3}/g, '')}`)
}
