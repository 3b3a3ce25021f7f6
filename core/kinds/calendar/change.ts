import type { PhoneModel } from '../../phones/capability.ts'
import type { Change } from '../kind.ts'
import type { CalendarItem, EventFacts } from './model.ts'
import { calendarOn } from './face.ts'

/** Every change a phone can force on an item of a calendar. */
export const calendarChanges = {
  'attendees-as-text': { loss: false },
  'calendars-joined': { loss: true },
  'alarms-cut': { loss: true },
  'url-to-note': { loss: false },
  'override-as-event': { loss: false },
  'own-rule-dropped': { loss: true },
  'range-to-one': { loss: true },
} as const

export type CalendarChangeCode = keyof typeof calendarChanges

/** Its description with who was asked to come: as text, so that nobody is invited again. */
function withAttendees({ description, attendees }: EventFacts): string {
  return [description, ...(attendees.length > 0 ? [`With: ${attendees.join(', ')}`] : [])].filter(Boolean).join('\n')
}

/** The form an item has in a file: whole, and inviting nobody. */
export function formInFile(item: CalendarItem): CalendarItem {
  const fit = (facts: EventFacts): EventFacts => ({ ...facts, attendees: [], description: withAttendees(facts) })
  return { ...item, event: item.event && fit(item.event), overrides: item.overrides.map((o) => ({ ...o, facts: fit(o.facts) })) }
}

/** The form an item takes on a phone, with every change named, or the rule by which it can't cross. */
export function changeCalendarItem(item: CalendarItem, to: PhoneModel): { item: CalendarItem; changes: Change[] } | { cannot: string } {
  const { write } = calendarOn(to)
  if ('cannot' in write) return write
  const codes = new Set<CalendarChangeCode>()
  // an override that came without its series is an event of its own; several of them belong to a series nobody has
  if (!item.event && item.overrides.length > 1) return { cannot: 'series-missing' }
  const isOrphan = !item.event
  if (isOrphan) codes.add('override-as-event')
  const fit = (facts: EventFacts): EventFacts => {
    const notes = [withAttendees(facts)]
    if (facts.attendees.length > 0) codes.add('attendees-as-text')
    if (facts.url && !write.url) {
      codes.add('url-to-note')
      notes.push(facts.url)
    }
    if (facts.alarms.length > write.alarms) codes.add('alarms-cut')
    return {
      ...facts,
      attendees: [],
      url: write.url ? facts.url : '',
      alarms: facts.alarms.slice(0, write.alarms),
      description: notes.filter(Boolean).join('\n'),
    }
  }
  // no phone has a place for either
  if (item.event && item.overrides.some(({ rule }) => rule !== undefined)) codes.add('own-rule-dropped')
  if (item.overrides.some(({ isRange }) => isRange)) codes.add('range-to-one')
  if (item.calendar && !write.calendars) codes.add('calendars-joined')
  const changed: CalendarItem = {
    ...item,
    calendar: write.calendars ? item.calendar : '',
    event: item.event ? fit(item.event) : fit(item.overrides[0]!.facts),
    overrides: isOrphan ? [] : item.overrides.map(({ of, facts }) => ({ of, facts: fit(facts) })),
  }
  return { item: changed, changes: [...codes].map((code) => ({ code, loss: calendarChanges[code].loss })) }
}
