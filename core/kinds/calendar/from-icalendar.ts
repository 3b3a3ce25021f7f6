import { localOf, normalRule, type RawEvent, type RawTime } from '../../formats/icalendar/event.ts'
import { occurrencesOf, TooManyToTell } from '../../formats/icalendar/occurrences.ts'
import { readCalendar } from '../../formats/icalendar/read.ts'
import { createZoneReader, type ZoneReader } from '../../formats/icalendar/zones.ts'
import { utf8Calendar } from '../../formats/icalendar/decode.ts'
import { utcOf } from '../../text/zone.ts'
import type { ReadTools } from '../kind.ts'
import type { CalendarItem, EventFacts, Moment } from './model.ts'

const twoYearsMs = 2 * 366 * 86_400_000

/**
 * The meaning of one item as a phone gives it: a VCALENDAR with one event, or a series with its overrides, in any
 * order, with the zones they are written in. Never throws on data.
 */
export function itemFromIcalendar(bytes: Uint8Array, tools: ReadTools): { item: CalendarItem; issues: string[] } | { code: string } {
  const text = utf8Calendar(bytes)
  if (text === undefined) return { code: 'charset-unknown' }
  const { events: read, zones: ownZones, name, isCut, strayLines } = readCalendar(text)
  if (read.length === 0) return { code: 'no-event' }
  if (isCut) return { code: 'no-end' }
  const zones = createZoneReader(ownZones, tools.instant)
  const damaged = read.find((event): event is { readonly code: string } => 'code' in event)
  if (damaged) return damaged
  const events = read as readonly RawEvent[]
  const masters = events.filter((event) => !event.recurrenceId)
  if (masters.length > 1 || new Set(events.map((event) => event.uid)).size > 1) return { code: 'more-than-one-event' }
  const item = buildItem({
    master: masters[0],
    overrides: events.filter((event) => event.recurrenceId),
    zones,
    tools,
    calendar: name.replace(/\\([\\;,])/g, '$1').trim(),
  })
  if ('code' in item) return item
  const unknown = events.some((event) => event.unknown.some((name) => !name.startsWith('x-')))
  const issues = [
    strayLines > 0 ? 'stray-text' : '',
    unknown ? 'unknown-property' : '',
    // the times of a zone nobody knows are those of the phone’s own
    zones.guessed.size > 0 ? 'zone-guessed' : '',
  ]
  return { item, issues: issues.filter(Boolean) }
}

interface Parts {
  readonly master: RawEvent | undefined
  readonly overrides: readonly RawEvent[]
  readonly zones: ZoneReader
  readonly tools: ReadTools
  readonly calendar: string
}

function buildItem({ master, overrides, zones, tools, calendar }: Parts): CalendarItem | { code: string } {
  const moment = (time: RawTime) => momentOf(time, zones)
  const facts = (event: RawEvent) => factsOf(event, moment)
  const event = master && facts(master)
  if (master && !event) return { code: 'no-start' }
  const changed = overrides.map((override) => ({
    of: moment(override.recurrenceId!),
    facts: facts(override),
    ...(override.rule === undefined ? {} : { rule: ruleOf(override.rule, moment, override) }),
    ...(override.isRange ? { isRange: true } : {}),
  }))
  if (changed.some((override) => !override.facts)) return { code: 'no-start' }
  // whose series is gone is an event of its own, with the rule it has
  const ruled = master ?? (overrides.length === 1 ? overrides[0] : undefined)
  const rule = ruled?.rule === undefined ? undefined : ruleOf(ruled.rule, moment, ruled)
  if ((ruled?.rule !== undefined && rule === undefined) || changed.some((o) => 'rule' in o && o.rule === undefined))
    return { code: 'bad-rule' }
  const sorted = (times: readonly RawTime[]) => times.map(moment).sort((a, b) => instantOf(a) - instantOf(b))
  const item = {
    uid: (master ?? overrides[0])!.uid,
    calendar,
    event,
    rule,
    except: sorted(master?.except ?? []),
    extra: sorted(master?.extra ?? []),
    zones: Object.fromEntries(zones.own),
    overrides: (changed as CalendarItem['overrides'][number][]).sort((a, b) => instantOf(a.of) - instantOf(b.of)),
  }
  try {
    return { ...item, occurrences: expand(item, zones, tools) }
  } catch (error) {
    if (error instanceof TooManyToTell) return { ...item, occurrences: [], areTooMany: true }
    // a rule ical.js does not take
    return { code: 'bad-rule' }
  }
}

function momentOf(time: RawTime, zones: ZoneReader): Moment {
  if (time.isDate) return { kind: 'date', text: time.text.slice(0, 8) }
  const local = localOf(time)!
  if (time.isUtc) return { kind: 'zoned', text: time.text, tzid: 'UTC', atMs: utcOf(local) }
  if (time.tzid === undefined) return { kind: 'floating', text: time.text }
  return { kind: 'zoned', text: time.text, tzid: time.tzid, atMs: zones.instant(local, time.tzid) }
}

/** A moment as an instant. A day and a floating time are read as if they stood in UTC: they are the same wherever a phone is. */
export function instantOf(moment: Moment): number {
  if (moment.kind === 'zoned') return moment.atMs
  return utcOf(localOf({ text: moment.text, isDate: moment.kind === 'date' })!)
}

function factsOf(event: RawEvent, moment: (time: RawTime) => Moment): EventFacts | undefined {
  if (!event.start) return undefined
  const start = moment(event.start)
  const end = event.end && moment(event.end)
  return {
    summary: event.texts.summary!,
    location: event.texts.location!,
    description: event.texts.description!,
    url: event.texts.url!,
    start,
    durationS: end ? secondsBetween(start, end) : event.durationS,
    status: event.texts.status!.toUpperCase(),
    alarms: [...new Set(event.alarms)].sort(),
    attendees: [...new Set(event.attendees)].sort(),
  }
}

function secondsBetween(start: Moment, end: Moment): number {
  if (start.kind === 'zoned' && end.kind === 'zoned') return (end.atMs - start.atMs) / 1000
  const wall = (moment: Moment) => utcOf(localOf({ text: moment.text, isDate: moment.kind === 'date' })!)
  return (wall(end) - wall(start)) / 1000
}

/** The rule in a fixed form; UNTIL as an instant, a day, or a floating time, whatever it was written as; undefined when that is no time. */
function ruleOf(rule: string, moment: (time: RawTime) => Moment, master: RawEvent): string | undefined {
  const { parts, until } = normalRule(rule)
  if (until === undefined) return parts
  const isDate = until.length === 8
  if (!localOf({ text: until, isDate })) return undefined
  const end = moment({
    text: until,
    isDate,
    isUtc: until.endsWith('Z'),
    tzid: isDate || until.endsWith('Z') ? undefined : master.start?.tzid,
  })
  return `${parts};UNTIL=${end.kind === 'zoned' ? new Date(end.atMs).toISOString() : end.text}`
}

/** Instants of the occurrences within two years either side of the ticket's day, moved and cancelled ones as they are. */
function expand(
  { event, rule, except, extra, overrides }: Omit<CalendarItem, 'occurrences'>,
  zones: ZoneReader,
  tools: ReadTools,
): number[] {
  const [from, to] = [tools.nowMs - twoYearsMs, tools.nowMs + twoYearsMs]
  const at = instantOf
  const found = new Set<number>()
  const alone = !event && rule !== undefined ? overrides[0] : undefined
  const series = event ?? alone?.facts
  if (series) {
    const { start } = series
    const [parts, until] = (rule ?? '').split(';UNTIL=') as [string, string | undefined]
    const lastMs =
      until === undefined
        ? Number.POSITIVE_INFINITY
        : /^\d{4}-/.test(until)
          ? Date.parse(until)
          : utcOf(localOf({ text: until, isDate: until.length === 8 })!) + (until.length === 8 ? 86_399_000 : 0)
    if (rule === undefined) found.add(at(start))
    else {
      const isDate = start.kind === 'date'
      // a day more on either side: the clock of a zone is not UTC’s
      const window = { from: from - 86_400_000, to: Math.min(to, lastMs) + 86_400_000 }
      for (const local of occurrencesOf(parts, localOf({ text: start.text, isDate })!, isDate, window)) {
        const instant = start.kind === 'zoned' && start.tzid !== 'UTC' ? zones.instant(local, start.tzid) : utcOf(local)
        if (instant > lastMs || instant > to) break
        found.add(instant)
      }
    }
    for (const moment of extra) found.add(at(moment))
    for (const moment of except) found.delete(at(moment))
  }
  for (const { of, facts } of alone ? [] : overrides) {
    found.delete(at(of))
    if (facts.status !== 'CANCELLED') found.add(at(facts.start))
  }
  return [...found].filter((instant) => instant >= from && instant <= to).sort((a, b) => a - b)
}
