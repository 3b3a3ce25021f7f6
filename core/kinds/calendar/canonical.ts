import { instantOf } from './from-icalendar.ts'
import type { CalendarItem, EventFacts, Moment } from './model.ts'

/** Raised whenever the same item would give other bytes. */
export const calendarCanonicalVersion = 1

/**
 * What an item says, as a sorted set of facts: each part of it, each override under its moment, and the instants of
 * its occurrences, so that a rule or a zone that means something else on the other phone is found.
 */
export function calendarAtoms(item: CalendarItem): string[] {
  const atoms: string[] = []
  const add = (...parts: (string | number)[]) =>
    atoms.push(parts.map((part) => (typeof part === 'string' ? normal(part) : part)).join('\u001f'))
  if (item.calendar) add('calendar', item.calendar)
  if (item.event) factAtoms(item.event, '', add)
  if (item.rule !== undefined) add('rule', item.rule)
  for (const moment of item.except) add('except', momentKey(moment))
  for (const moment of item.extra) add('extra', momentKey(moment))
  for (const { of, facts, rule, isRange } of item.overrides) {
    const prefix = `of ${momentKey(of)} `
    factAtoms(facts, prefix, add)
    if (rule !== undefined) add(`${prefix}rule`, rule)
    if (isRange) add(`${prefix}range`, 'this and future')
  }
  // a series is only the same when it happens at the same instants
  if (item.areTooMany) add('occurrences', 'too many to tell')
  else if (item.rule !== undefined || item.extra.length > 0)
    add('occurrences', item.occurrences.length, item.occurrences.map((at) => Math.floor(at / 60_000).toString(36)).join(','))
  return [...new Set(atoms)].sort()
}

function factAtoms(facts: EventFacts, prefix: string, add: (...parts: (string | number)[]) => void): void {
  for (const field of ['summary', 'location', 'description', 'url'] as const) if (facts[field].trim()) add(prefix + field, facts[field])
  add(`${prefix}start`, facts.start.kind, momentKey(facts.start))
  if (facts.durationS !== undefined) add(`${prefix}duration`, facts.durationS)
  if (facts.status === 'CANCELLED' || facts.status === 'TENTATIVE') add(`${prefix}status`, facts.status)
  for (const alarm of facts.alarms) add(`${prefix}alarm`, alarm)
  for (const name of facts.attendees) add(`${prefix}attendee`, name)
}

/** A zoned moment is its instant, whatever its zone is called. */
function momentKey(moment: Moment): string {
  return moment.kind === 'zoned' ? String(instantOf(moment)) : moment.text
}

function normal(text: string): string {
  return text
    .normalize('NFC')
    .replace(/\r\n|\r/g, '\n')
    .replace(/[\u001e\u001f]/g, ' ')
    .trim()
}
