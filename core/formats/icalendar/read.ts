import ICAL from 'ical.js'
import { placeEvent, readEvent, type RawEvent } from './event.ts'
import { readComponents, type RawComponent } from './lines.ts'

/** A calendar in plain form: its events each on its own, so that one damaged event is one code and the rest is read. */
export interface RawCalendar {
  readonly events: readonly (RawEvent | { readonly code: string })[]
  readonly zones: readonly RawComponent[]
  /** `X-WR-CALNAME` as written. */
  readonly name: string
  /** It broke off before its END. */
  readonly isCut: boolean
  readonly strayLines: number
}

type Jcal = [name: string, properties: [name: string, parameters: object, type: string, value: unknown][], components: Jcal[]]

/** Reads a calendar (RFC 5545 section 3.4), or events that stand alone. Never throws. */
export function readCalendar(text: string): RawCalendar {
  return readWhole(text) ?? readInPieces(text)
}

/** One that is as it should be, at one go: wrapped or not, it is ical.js that reads it. Undefined when anything is amiss. */
function readWhole(text: string): RawCalendar | undefined {
  // a zone of its own is read from its lines, and damage is told by them
  if (!/^BEGIN:VCALENDAR\r?\n/i.test(text) || /BEGIN:VTIMEZONE/i.test(text)) return undefined
  try {
    const jcal = ICAL.parse(text) as unknown as Jcal
    if (jcal[0] !== 'vcalendar') return undefined
    const events: RawEvent[] = []
    for (const component of jcal[2]) {
      if (component[0] !== 'vevent') continue
      const event = placeEvent(new ICAL.Component(component as never))
      if ('code' in event) return undefined
      events.push(event)
    }
    const name = jcal[1].find(([property]) => property === 'x-wr-calname')?.[3]
    return { events, zones: [], name: typeof name === 'string' ? name : '', isCut: false, strayLines: 0 }
  } catch {
    return undefined
  }
}

function readInPieces(text: string): RawCalendar {
  const { roots, strayLines } = readComponents(text)
  const calendar = roots.find((root) => root.name === 'VCALENDAR')
  const components = calendar?.components ?? roots
  const line = calendar?.lines.find((l) => /^X-WR-CALNAME[;:]/i.test(l))
  return {
    events: components.filter((component) => component.name === 'VEVENT').map(readEvent),
    zones: components.filter((component) => component.name === 'VTIMEZONE'),
    name: line ? line.slice(line.indexOf(':') + 1) : '',
    isCut: calendar?.isCut ?? false,
    strayLines,
  }
}
