import ICAL from 'ical.js'
import { readBasicTime, type LocalTime } from '../../text/zone.ts'
import { componentText, type RawComponent } from './lines.ts'

/** A date or time as written: `20260102`, `20260102T101500`, `20260102T101500Z`, with its zone's name. */
export interface RawTime {
  readonly text: string
  readonly tzid: string | undefined
  readonly isDate: boolean
  readonly isUtc: boolean
}

/** A VEVENT in plain form (RFC 5545 section 3.6.1); values unescaped. */
export interface RawEvent {
  readonly uid: string
  readonly texts: Readonly<Record<string, string>>
  readonly start: RawTime | undefined
  readonly end: RawTime | undefined
  /** Seconds. */
  readonly durationS: number | undefined
  readonly rule: string | undefined
  readonly except: readonly RawTime[]
  readonly extra: readonly RawTime[]
  readonly recurrenceId: RawTime | undefined
  /** It holds for all later occurrences, too: RANGE=THISANDFUTURE (section 3.2.13). */
  readonly isRange: boolean
  readonly alarms: readonly string[]
  readonly attendees: readonly string[]
  /** Properties nobody here has a place for, by name. */
  readonly unknown: readonly string[]
}

type Property = ICAL.Property

const placed = new Set(
  'uid dtstamp dtstart dtend duration rrule exdate rdate recurrence-id summary location description url status sequence created last-modified class transp priority attendee organizer categories'.split(
    ' ',
  ),
)

/** Reads one VEVENT through ical.js. @returns the code of what is wrong when it can't be read */
export function readEvent(component: RawComponent): RawEvent | { readonly code: string } {
  if (component.isCut) return { code: 'no-end' }
  try {
    return placeEvent(new ICAL.Component(ICAL.parse(componentText(component)) as never))
  } catch {
    // ical.js reads values only when they are asked for, and throws then; what it stumbled over is looked for here
    return { code: component.lines.some(isBadDate) ? 'bad-date' : component.lines.some(isBadRule) ? 'bad-rule' : 'damaged-event' }
  }
}

function isBadDate(line: string): boolean {
  const value = /^(?:DTSTART|DTEND|RECURRENCE-ID|EXDATE|RDATE)[;:].*?([^:]*)$/i.exec(line)?.[1]
  return value !== undefined && !value.split(',').every((time) => /^\d{8}(T\d{6}Z?)?(\/.*)?$/.test(time.trim()))
}

function isBadRule(line: string): boolean {
  const rule = /^RRULE[^:]*:(.*)$/i.exec(line)?.[1]
  if (rule === undefined) return false
  try {
    ICAL.Recur.fromString(rule)
    return false
  } catch {
    return true
  }
}

/** The parts of a VEVENT that ical.js has parsed. @throws whatever ical.js throws on a value it can't read */
export function placeEvent(parsed: ICAL.Component): RawEvent | { readonly code: string } {
  const all = (name: string): Property[] => parsed.getAllProperties(name)
  const text = (name: string) => String(parsed.getFirstPropertyValue(name) ?? '').trim()
  const start = all('dtstart').flatMap(timesOf)[0]
  if (!start && all('dtstart').length > 0) return { code: 'bad-date' }
  // 20X41125, the 30th of February: no clock reads that, and the library would make another day of it
  if (['dtstart', 'dtend', 'recurrence-id', 'exdate', 'rdate'].some((name) => all(name).some(isNoTime))) return { code: 'bad-date' }
  const rule = all('rrule')[0]
  const duration = all('duration')[0]?.getFirstValue()
  return {
    uid: text('uid'),
    texts: Object.fromEntries(['summary', 'location', 'description', 'url', 'status'].map((name) => [name, text(name)])),
    start,
    end: all('dtend').flatMap(timesOf)[0],
    durationS: duration instanceof ICAL.Duration ? duration.toSeconds() : undefined,
    rule: rule ? String(rule.getFirstValue()) : undefined,
    except: all('exdate').flatMap(timesOf),
    extra: all('rdate').flatMap(timesOf),
    recurrenceId: all('recurrence-id').flatMap(timesOf)[0],
    isRange: all('recurrence-id').some((p) => String(p.getParameter('range') ?? '').toUpperCase() === 'THISANDFUTURE'),
    alarms: parsed
      .getAllSubcomponents('valarm')
      .map((alarm) => triggerOf(alarm.getFirstProperty('trigger')))
      .filter((trigger) => trigger !== ''),
    attendees: all('attendee').map((p) => String(p.getParameter('cn') ?? p.getFirstValue() ?? '').replace(/^mailto:/i, '')),
    unknown: parsed
      .getAllProperties()
      .map((p) => p.name)
      .filter((name) => !placed.has(name)),
  }
}

/** The times of a property as they were written, periods by their start: the library would make another day of the 30th of February. */
function writtenTimes(property: Property): string[] {
  const [, , , ...values] = property.toJSON() as unknown as [string, object, string, ...unknown[]]
  return values.map((value) =>
    String(Array.isArray(value) ? value[0] : value)
      .split('/')[0]!
      .replace(/[-:]/g, ''),
  )
}

function isNoTime(property: Property): boolean {
  return writtenTimes(property).some((text) => !localOf({ text, isDate: text.length === 8 }))
}

function timesOf(property: Property): RawTime[] {
  const tzid = property.getParameter('tzid')
  return writtenTimes(property).flatMap((text): RawTime[] => {
    const [isDate, isUtc] = [text.length === 8, text.endsWith('Z')]
    if (!localOf({ text, isDate })) return []
    return [{ text, isDate, isUtc, tzid: isUtc || isDate || typeof tzid !== 'string' ? undefined : tzid }]
  })
}

/** `-15` minutes, or an absolute time. */
function triggerOf(property: Property | null): string {
  const value = property?.getFirstValue()
  if (value instanceof ICAL.Duration) return String(value.toSeconds() / 60)
  return value instanceof ICAL.Time ? value.toICALString() : ''
}

/** A written time as a clock's reading; midnight for a day. */
export function localOf({ text, isDate }: Pick<RawTime, 'text' | 'isDate'>): LocalTime | undefined {
  return readBasicTime(isDate ? `${text}T000000` : text)?.local
}

/** The parts of a rule in a fixed order, without what is the default; UNTIL is left to the caller, who knows its zone. */
export function normalRule(rule: string): { readonly parts: string; readonly until: string | undefined } {
  const pairs = rule
    .split(';')
    .map((part) => part.split('=') as [string, string])
    .filter(([name, value]) => name && value)
  const until = pairs.find(([name]) => name.toUpperCase() === 'UNTIL')?.[1]
  const parts = pairs
    .map(([name, value]): [string, string] => [name.toUpperCase(), value.toUpperCase().split(',').sort().join(',')])
    .filter(([name, value]) => name !== 'UNTIL' && !(name === 'INTERVAL' && value === '1') && !(name === 'WKST' && value === 'MO'))
    .sort(([a], [b]) => (a < b ? -1 : 1))
  return { parts: parts.map((part) => part.join('=')).join(';'), until }
}
