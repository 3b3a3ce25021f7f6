import ICAL from 'ical.js'
import { createInstantReader, type LocalTime } from '../../text/zone.ts'
import { isTellable } from './occurrences.ts'
import { componentText, type RawComponent } from './lines.ts'

/** Reads local times of a calendar as instants: by its own VTIMEZONE, else by the platform's rules for that name. */
export interface ZoneReader {
  /** Zones with an odd name and a VTIMEZONE of their own, as text. */
  readonly own: ReadonlyMap<string, string>
  instant(local: LocalTime, tzid: string): number
  /** Names asked for that nobody knows: their times were read by the phone's own zone. */
  readonly guessed: ReadonlySet<string>
}

/**
 * A calendar's zones. An odd name with its own VTIMEZONE is read by that; a known name (IANA) by the platform; what
 * nobody knows is taken as the phone's own zone. ical.js is only asked with the component at hand: without it, it
 * would search anew for every time.
 */
export function createZoneReader(zones: readonly RawComponent[], home: (local: LocalTime) => number): ZoneReader {
  const own = new Map<string, ICAL.Timezone>()
  const texts = new Map<string, string>()
  for (const component of zones) {
    try {
      const zone = new ICAL.Timezone(new ICAL.Component(ICAL.parse(componentText(component)) as never))
      if (!zone.tzid || !zone.component.getAllSubcomponents().every(canBeTold)) continue
      own.set(zone.tzid, zone)
      if (!isIana(zone.tzid)) texts.set(zone.tzid, componentText(component))
    } catch {
      // a damaged zone is as good as none
    }
  }
  const known = new Map<string, (local: LocalTime) => number>()
  const guessed = new Set<string>()
  const readerOf = (tzid: string) => {
    const found = known.get(tzid)
    if (found) return found
    if (!isIana(tzid)) guessed.add(tzid)
    const reader = isIana(tzid) ? platformReader(tzid) : home
    known.set(tzid, reader)
    return reader
  }
  return {
    own: texts,
    guessed,
    instant(local, tzid) {
      const zone = own.get(tzid)
      if (!zone || isIana(tzid)) return readerOf(tzid)(local)
      try {
        const offsetS = zone.utcOffset(new ICAL.Time({ ...local, isDate: false }, zone))
        return Date.UTC(local.year, local.month - 1, local.day, local.hour, local.minute, local.second) - offsetS * 1000
      } catch {
        // it is read only now, and can't be
        own.delete(tzid)
        return readerOf(tzid)(local)
      }
    },
  }
}

/** A change of the clock whose rule ical.js can walk. */
function canBeTold(change: ICAL.Component): boolean {
  const rule = change.getFirstPropertyValue('rrule')
  const start = change.getFirstPropertyValue('dtstart')
  if (!(rule instanceof ICAL.Recur)) return true
  if (!(start instanceof ICAL.Time)) return false
  const { year, month, day, hour, minute, second } = start
  return isTellable(rule, { year, month, day, hour, minute, second })
}

/** Made once for a name: what they remember are offsets of the platform's zones, nothing of a calendar. */
const platformReaders = new Map<string, (local: LocalTime) => number>()

function platformReader(tzid: string): (local: LocalTime) => number {
  const reader = platformReaders.get(tzid) ?? createInstantReader(tzid)
  platformReaders.set(tzid, reader)
  return reader
}

const ianaNames = new Map<string, boolean>()

function isIana(tzid: string): boolean {
  const known = ianaNames.get(tzid)
  if (known !== undefined) return known
  let is = true
  try {
    new Intl.DateTimeFormat('en', { timeZone: tzid })
  } catch {
    is = false
  }
  ianaNames.set(tzid, is)
  return is
}
