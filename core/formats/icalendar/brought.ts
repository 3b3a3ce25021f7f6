import { joinBytes, utf8Bytes } from '../../text/bytes.ts'
import { TooLarge, type CountingSplitter } from '../files/records.ts'
import { calendarText } from './decode.ts'
import { splitCalendar } from './split.ts'

/** A calendar is cut by what shares a UID, so it is looked at whole. Bytes. */
const mostCalendarBytes = 64_000_000

/** Cuts a calendar of anybody's, when it is whole, into an object for each item (RFC 5545). @throws TooLarge */
export function createCalendarSplitter(): CountingSplitter {
  const chunks: Uint8Array[] = []
  let size = 0
  let left = 0
  return {
    *push(chunk) {
      if ((size += chunk.length) > mostCalendarBytes) throw new TooLarge('a calendar that is too long')
      chunks.push(chunk.slice())
    },
    *end() {
      const cut = splitCalendar(calendarText(joinBytes(chunks)))
      left = cut.others
      for (const item of cut.items()) yield utf8Bytes(item)
    },
    others: () => left,
  }
}
