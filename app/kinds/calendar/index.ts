import { CalendarDays } from '@lucide/vue'
import type { KindPack } from '../kind-pack.ts'

export const calendar: KindPack = {
  code: 'calendar',
  icon: CalendarDays,
  byMonth: true,
  bySpan: true,
  words: {
    title: 'Calendar',
    one: 'calendar item',
    many: 'calendar items',
    facets: {
      '': 'Any event',
      'event-series': 'Repeats',
      'event-single': 'Once',
      'event-allDay': 'All day',
      'event-overrides': 'With changed occurrences',
      'event-alarms': 'With an alarm',
      'event-occurs': 'Within two years either side',
    },
    shapes: {
      series: ['repeats', 'repeats'],
      single: ['once', 'once'],
      occurrences: ['occurrence', 'occurrences'],
      overrides: ['changed occurrence', 'changed occurrences'],
      allDay: ['all day', 'all day'],
      alarms: ['alarm', 'alarms'],
    },
    group: { one: 'calendar', many: 'calendars', title: 'Calendars', nameless: 'No name' },
    sums: { occurrences: 'Occurrences, two years either side' },
    files: { ics: 'iCalendar' },
    derived: {
      birthdays: { say: 'Birthdays of contacts', meaning: 'the calendar shows them of the contacts; nobody put them there' },
    },
  },
}
