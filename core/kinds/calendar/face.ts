import { capabilityOf, type PhoneModel } from '../../phones/capability.ts'
import { marks, type KindFace } from '../face.ts'

/** What a phone does with its calendars. */
export interface CalendarAbility {
  /** It keeps several calendars by their names. */
  readonly calendars: boolean
  /** Alarms an event may have. */
  readonly alarms: number
  readonly url: boolean
}

const android: CalendarAbility = { calendars: true, alarms: 5, url: true }
const tamsel: CalendarAbility = { calendars: false, alarms: 1, url: false }
const ios: CalendarAbility = { calendars: true, alarms: 2, url: true }

/** What that phone does with calendars. */
export const calendarOn = (phone: PhoneModel) => capabilityOf<CalendarAbility>(phone, 'calendar')

export const calendarFace: KindFace = {
  code: 'calendar',
  phones: {
    Orrin: { read: true, write: android },
    Tamsel: { read: true, write: tamsel },
    Veyra: { read: true, write: ios },
    Holt: { read: true, write: { cannot: 'phone-takes-no-calendar' } },
    File: { read: true, write: { cannot: 'file-is-read-only' } },
  },
  guides: {
    android: { read: true, write: true },
    ios: { read: true, write: true },
    keypad: { read: true, write: { cannot: 'phone-takes-no-calendar' }, limits: { items: 100 } },
  },
  facets: {
    'event-occurs': { figure: 'occurrences', moreThan: 0, isCommon: true },
    ...marks('event', ['series', 'single', 'allDay', 'overrides', 'alarms'], ['single']),
  },
  needs: ['accounts-still'],
  permission: 'the calendar',
  begins: 'VCALENDAR',
}
