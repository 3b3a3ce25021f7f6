import { modelOf } from '../../phones/phone.ts'
import type { PhoneKind } from '../phone-kind.ts'
import { countBirthdays } from './calendar.queries.ts'
import { calendarOf } from './demo.ts'
import { calendarWays, giveEvent, takeEvent, type StoredEvent } from './ics.ts'

/** Calendars as each maker gives and takes them; each counts the birthdays of its contacts, too. */
export const calendar: PhoneKind<StoredEvent> = {
  code: 'calendar',
  isAsked: true,
  iosStorage: 'account',
  on({ platform, dialect, limits }) {
    const way = calendarWays[dialect]
    return {
      give: (stored) => giveEvent(stored, way),
      take: (bytes) => takeEvent(bytes, way),
      facts: (stored) => [JSON.stringify({ ...stored, uid: '' })],
      refuses: (stored) =>
        platform === 'keypad' ? 'storage-read-only' : stored.title.length > limits.nameChars * 4 ? 'name-too-long' : null,
    }
  },
  halve: (stored) => ({ ...stored, place: '', text: '', alarms: [] }),
  alter: (stored) => ({ ...stored, text: `${stored.text} edited` }),
  contents: (_, request) => calendarOf(request),
  /** A birthday of each contact that has one, though nobody put it there. */
  counted: async (pool, phone) => ({
    derived: { birthdays: modelOf(phone).platform === 'keypad' ? 0 : await countBirthdays(pool, phone.serial) },
  }),
}
