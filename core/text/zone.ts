/** A clock's reading without its zone. */
export interface LocalTime {
  readonly year: number
  /** 1 to 12. */
  readonly month: number
  readonly day: number
  readonly hour: number
  readonly minute: number
  readonly second: number
}

const quarterMs = 900_000
const dayMs = 86_400_000
const quartersOfDay = 96

/** How far a zone's clocks are from UTC at an instant, in milliseconds, by the zone rules of the platform. */
function createOffsetReader(zone: string): (at: number) => number {
  const format = formatOf(zone)
  const offsets = new Map<number, number>()
  const known = (slot: number) => {
    const found = offsets.get(slot)
    if (found !== undefined) return found
    const offset = readOffset(format, slot * quarterMs)
    if (offsets.size > 20_000) offsets.clear()
    offsets.set(slot, offset)
    return offset
  }
  // a day that begins and ends with one offset has it throughout; else it changes at whole quarters of an hour at most
  return (at: number) => {
    const day = Math.floor(at / dayMs) * quartersOfDay
    const offset = known(day)
    return offset === known(day + quartersOfDay) ? offset : known(Math.floor(at / quarterMs))
  }
}

/**
 * Reads local times of one zone as instants (milliseconds since 1970), by the zone rules of the platform. A time that
 * a clock change skips is read as if the clock had not been put forward yet; one that comes twice is the first of both.
 * @param zone IANA name; an unknown one is taken as UTC
 */
export function createInstantReader(zone: string): (local: LocalTime) => number {
  const offsetAt = createOffsetReader(zone)
  return ({ year, month, day, hour, minute, second }) => {
    const wall = Date.UTC(year, month - 1, day, hour, minute, second)
    const before = wall - offsetAt(wall - 86_400_000)
    const after = wall - offsetAt(before)
    // neither stands when the clock skipped it: then the offset before the gap rules (RFC 5545 section 3.3.5)
    return offsetAt(before) !== wall - before && offsetAt(after) === wall - after ? after : before
  }
}

const offsetReaders = new Map<string, (at: number) => number>()

/**
 * The instant a phone tells that gives local times alone: of the hour that comes twice, when clocks are put back, the
 * first. Any other instant is told as it is. Milliseconds since 1970.
 */
export function asToldLocally(atMs: number, zone: string): number {
  const offsetAt = offsetReaders.get(zone) ?? createOffsetReader(zone)
  offsetReaders.set(zone, offsetAt)
  const offset = offsetAt(atMs)
  // the same wall clock stood before, when clocks were put back by an hour, or by half of one
  for (const backMs of [3_600_000, 1_800_000]) if (offsetAt(atMs - backMs) === offset + backMs) return atMs - backMs
  return atMs
}

function formatOf(zone: string): Intl.DateTimeFormat {
  const options = {
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
  } as const
  try {
    return new Intl.DateTimeFormat('en-GB', { ...options, timeZone: zone })
  } catch {
    return new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' })
  }
}

function readOffset(format: Intl.DateTimeFormat, at: number): number {
  const parts = Object.fromEntries(format.formatToParts(at).map(({ type, value }) => [type, Number(value)]))
  return Date.UTC(parts.year!, parts.month! - 1, parts.day!, parts.hour!, parts.minute!, parts.second!) - at
}

/** A clock's reading as if it stood in UTC, milliseconds since 1970. Date.UTC takes the first hundred years for those of 1900. */
export function utcOf({ year, month, day, hour, minute, second }: LocalTime): number {
  return new Date(0).setUTCFullYear(year, month - 1, day) + ((hour * 60 + minute) * 60 + second) * 1000
}

function daysOf(year: number, month: number): number {
  return new Date(new Date(0).setUTCFullYear(year, month, 0)).getUTCDate()
}

/** `YYYYMMDDTHHMMSS` with `Z` when it is UTC (RFC 5545 section 3.3.5, as call records write it); undefined when it is none. */
export function readBasicTime(text: string): { local: LocalTime; isUtc: boolean } | undefined {
  const match = /^(\d{4})(\d{2})(\d{2})T(\d{2})(\d{2})(\d{2})(Z?)$/.exec(text.trim())
  if (!match) return undefined
  const [year, month, day, hour, minute, second] = match.slice(1, 7).map(Number) as [number, number, number, number, number, number]
  if (month < 1 || month > 12 || day < 1 || day > daysOf(year, month) || hour > 23 || minute > 59 || second > 60) return undefined
  return { local: { year, month, day, hour, minute, second }, isUtc: match[7] === 'Z' }
}

/** An instant as `YYYYMMDDTHHMMSSZ`. */
export function writeBasicTime(at: number): string {
  return new Date(at).toISOString().replace(/[-:]|\.\d{3}/g, '')
}

/**
 * When something was, as phones tell it: a count from 1970 in seconds or in milliseconds, told apart by size (seconds
 * reach 12 digits in the year 5138, milliseconds had them in 1973), or a time in basic form, in UTC, with its offset,
 * or local to the phone. Milliseconds since 1970; undefined when it is none of these.
 */
export function readPhoneTime(text: string | undefined, instant: (local: LocalTime) => number): number | undefined {
  const said = text?.trim() ?? ''
  if (/^-?\d{1,16}$/.test(said)) return Math.abs(Number(said)) >= 100_000_000_000 ? Number(said) : Number(said) * 1000
  const match = /^(\d{8}T\d{6})(Z|[+-]\d{4})?$/.exec(said)
  const basic = match && readBasicTime(match[1]!)
  if (!basic) return undefined
  if (!match[2]) return instant(basic.local)
  const { year, month, day, hour, minute, second } = basic.local
  const wall = Date.UTC(year, month - 1, day, hour, minute, second)
  if (match[2] === 'Z') return wall
  const offset = Number(match[2].slice(1, 3)) * 60 + Number(match[2].slice(3))
  return wall - (match[2].startsWith('-') ? -offset : offset) * 60_000
}
