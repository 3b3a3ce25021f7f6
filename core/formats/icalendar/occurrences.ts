import ICAL from 'ical.js'
import { utcOf, type LocalTime } from '../../text/zone.ts'

/** A rule whose occurrences cost more work to tell than a customer's calendar is worth; the same on every phone. */
export class TooManyToTell extends Error {}

/** The window is passed: nothing that comes now matters. */
class Passed extends Error {}

/** Steps of the iterator before a rule is too much: an hourly series has some 35,000 in a window of four years. */
const mostSteps = 50_000

/** What the iterator may still do; it works in one go, and its constructor does, too. */
let meter = { left: 0, lastYear: 0 }

function step(n = 1): void {
  meter.left -= n
  if (meter.left < 0) throw new TooManyToTell()
}

/** ical.js’s iterator, whose every inner step is counted: it looks for the next occurrence for as long as there is none. */
class Metered extends ICAL.RecurIterator {
  override check_contracting_rules(): boolean {
    step()
    if (this.last.year > meter.lastYear) throw new Passed()
    // the library works out weekday, week and day of the year of every candidate, asked for or not
    const { last, by_data: by } = this as unknown as { last: ICAL.Time; by_data: Readonly<Record<string, unknown>> }
    const holds = (part: string, value: () => number | string) => !(part in by) || this.check_contract_restriction(part, value() as never)
    return (
      holds('BYSECOND', () => last.second) &&
      holds('BYMINUTE', () => last.minute) &&
      holds('BYHOUR', () => last.hour) &&
      holds('BYMONTH', () => last.month) &&
      holds('BYMONTHDAY', () => last.day) &&
      holds('BYDAY', () => ICAL.Recur.numericDayToIcalDay(last.dayOfWeek() as never)) &&
      holds('BYWEEKNO', () => last.weekNumber(this.rule.wkst as never)) &&
      holds('BYYEARDAY', () => last.dayOfYear())
    )
  }
  override increment_monthday(days: number): void {
    step(Math.ceil(days / 20))
    super.increment_monthday(days)
  }
  override increment_month(): void {
    step()
    if (this.last.year > meter.lastYear) throw new Passed()
    super.increment_month()
  }
  override expand_year_days(year: number): number {
    step(5)
    if (year > meter.lastYear) throw new Passed()
    return super.expand_year_days(year)
  }
}

const secondMs = 1000
const dayMs = 86_400_000
/** How long a period is at the least. */
const periodMs: Readonly<Record<string, number>> = {
  SECONDLY: secondMs,
  MINUTELY: 60 * secondMs,
  HOURLY: 3600 * secondMs,
  DAILY: dayMs,
  WEEKLY: 7 * dayMs,
  MONTHLY: 28 * dayMs,
  YEARLY: 365 * dayMs,
}

export interface Window {
  /** Milliseconds since 1970, of the clock the rule is read by. */
  readonly from: number
  readonly to: number
}

/**
 * The clock readings of a rule (RFC 5545, 3.3.10) within a window, without UNTIL; some before it come, too. A rule
 * without COUNT is begun shortly before the window, at a start that keeps its periods, its weekday and its day, so that
 * nothing is walked from long ago; what is behind the window is not looked for.
 * @throws TooManyToTell after so many steps
 */
export function occurrencesOf(parts: string, start: LocalTime, isDate: boolean, window: Window): LocalTime[] {
  const rule = ICAL.Recur.fromString(parts)
  const each = periodMs[rule.freq] ?? dayMs
  const startMs = utcOf(start)
  // an interval that leaves the window at its first step is as long as any other that does
  rule.interval = Math.max(1, Math.min(rule.interval, Math.ceil(Math.max(0, window.to - startMs) / each) + 1))
  const begin = rule.count === null || rule.count === undefined ? nearer(start, startMs, { rule, each, window }) : start
  meter = { left: mostSteps, lastYear: new Date(window.to).getUTCFullYear() + 1 }
  const out: LocalTime[] = []
  try {
    const iterator = new Metered({ rule, dtstart: new ICAL.Time({ ...begin, isDate }, ICAL.Timezone.localTimezone) })
    for (;;) {
      const next = iterator.next()
      if (!next) return out
      const local = { year: next.year, month: next.month, day: next.day, hour: next.hour, minute: next.minute, second: next.second }
      if (utcOf(local) > window.to) return out
      // the 30th of February is no day, and never another one
      if (isOfRule(rule, local)) out.push(local)
    }
  } catch (error) {
    if (error instanceof Passed) return out
    throw error
  }
}

/**
 * Whether a rule of a time zone can be told: it fires, by the year at the shortest, and costs little. ical.js reads a
 * zone's rules by itself and without a bound.
 */
export function isTellable(rule: ICAL.Recur, start: LocalTime): boolean {
  if (rule.freq !== 'YEARLY') return false
  const endless = rule.clone()
  endless.until = null
  try {
    const found = occurrencesOf(endless.toString(), start, false, { from: utcOf(start), to: utcOf(start) + zoneYears * 366 * dayMs })
    return found.length > 0 && found.length <= mostZoneChanges
  } catch {
    return false
  }
}

/** How long a zone's rule is tried, and how often it may fire meanwhile: twice a month. */
const [zoneYears, mostZoneChanges] = [10, 240]

/** It stands in a month the rule names, where it names any. */
function isOfRule({ parts: { BYMONTH: months } }: ICAL.Recur, { month }: LocalTime): boolean {
  return !months || (months as (number | string)[]).some((named) => Number(named) === month)
}

/** A start not long before the window from which the rule says the same. */
function nearer(
  start: LocalTime,
  startMs: number,
  { rule, each, window }: { rule: { readonly freq: string; readonly interval: number }; each: number; window: Window },
): LocalTime {
  const { freq, interval } = rule
  if (freq === 'MONTHLY' || freq === 'YEARLY') {
    // four years keep the day, leap days among them
    const months = freq === 'MONTHLY' ? leastCommon(interval, 48) : leastCommon(interval, 4) * 12
    const away = (new Date(window.from).getUTCFullYear() - 1 - start.year) * 12
    const jumps = Math.floor(away / months)
    return jumps > 0 ? { ...start, year: start.year + (jumps * months) / 12 } : start
  }
  const jumps = Math.floor((window.from - startMs) / (each * interval)) - 1
  if (jumps <= 0) return start
  const at = new Date(startMs + jumps * each * interval)
  return {
    year: at.getUTCFullYear(),
    month: at.getUTCMonth() + 1,
    day: at.getUTCDate(),
    hour: at.getUTCHours(),
    minute: at.getUTCMinutes(),
    second: at.getUTCSeconds(),
  }
}

function leastCommon(a: number, b: number): number {
  let [x, y] = [a, b]
  while (y > 0) [x, y] = [y, x % y]
  return (a / x) * b
}
