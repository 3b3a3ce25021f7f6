/** A time as a phone keeps it: a day, a clock's reading, one in a zone, or one in UTC. */
export type When = { d: string } | { t: string; tz?: string } | { t: string; utc: true }

/** An event as a practice phone keeps it. */
export interface StoredEvent {
  uid: string
  calendar: string
  title: string
  place: string
  text: string
  url: string
  start: When | null
  /** Seconds. */
  lasts: number | null
  rule: string
  not: When[]
  also: When[]
  alarms: string[]
  people: string[]
  status: string
  changed: {
    of: When
    /** It holds for all later ones, too. */
    range?: boolean
    title: string
    start: When
    lasts: number | null
    status: string
    text: string
    place: string
    alarms: string[]
    url: string
  }[]
  /** VTIMEZONEs it came with. */
  zones: string[]
}

/** The maker's habits in giving a calendar. */
export interface CalendarWay {
  readonly ends: 'DTEND' | 'DURATION'
  readonly overridesFirst: boolean
  readonly names: boolean
  readonly alarms: number
  readonly url: boolean
  readonly newline: string
}

export const calendarWays: Readonly<Record<'orrin' | 'tamsel' | 'veyra' | 'holt', CalendarWay>> = {
  orrin: { ends: 'DTEND', overridesFirst: true, names: true, alarms: 5, url: true, newline: '\r\n' },
  tamsel: { ends: 'DURATION', overridesFirst: false, names: false, alarms: 1, url: false, newline: '\n' },
  veyra: { ends: 'DTEND', overridesFirst: false, names: true, alarms: 2, url: true, newline: '\r\n' },
  holt: { ends: 'DURATION', overridesFirst: false, names: false, alarms: 1, url: false, newline: '\r\n' },
}

const esc = (text: string) => text.replace(/([\\;,])/g, '\\$1').replace(/\n/g, '\\n')
const unesc = (text: string) => text.replace(/\\([\s\S])/g, (_, c: string) => (c === 'n' || c === 'N' ? '\n' : c))

function stamp(name: string, when: When): string {
  if ('d' in when) return `${name};VALUE=DATE:${when.d}`
  if ('utc' in when) return `${name}:${when.t}Z`
  return when.tz ? `${name};TZID=${/[;:,]/.test(when.tz) ? `"${when.tz}"` : when.tz}:${when.t}` : `${name}:${when.t}`
}

const wallMs = (when: When) => {
  const t = 'd' in when ? `${when.d}T000000` : when.t
  return Date.UTC(+t.slice(0, 4), +t.slice(4, 6) - 1, +t.slice(6, 8), +t.slice(9, 11), +t.slice(11, 13), +t.slice(13, 15))
}
const wallText = (ms: number) => new Date(ms).toISOString().replace(/[-:]|\.\d+Z/g, '')

/** The end as a wall time of the same zone: what a calendar shows. */
function endOf(start: When, lasts: number): When {
  const text = wallText(wallMs(start) + lasts * 1000)
  if ('d' in start) return { d: text.slice(0, 8) }
  return 'utc' in start ? { t: text, utc: true } : start.tz ? { t: text, tz: start.tz } : { t: text }
}

/** Gives an event with its overrides and zones as one VCALENDAR. */
export function giveEvent(event: StoredEvent, way: CalendarWay): Buffer {
  const one = (
    start: When,
    facts: Pick<StoredEvent, 'title' | 'place' | 'text' | 'url' | 'lasts' | 'alarms' | 'status'>,
    more: string[],
  ) => [
    'BEGIN:VEVENT',
    `UID:${event.uid}`,
    'DTSTAMP:20261120T120000Z',
    stamp('DTSTART', start),
    ...(facts.lasts === null
      ? []
      : way.ends === 'DTEND'
        ? [stamp('DTEND', endOf(start, facts.lasts))]
        : ['d' in start ? `DURATION:P${facts.lasts / 86_400}D` : `DURATION:PT${facts.lasts}S`]),
    ...(facts.title ? [`SUMMARY:${esc(facts.title)}`] : []),
    ...(facts.place ? [`LOCATION:${esc(facts.place)}`] : []),
    ...(facts.text ? [`DESCRIPTION:${esc(facts.text)}`] : []),
    ...(facts.url ? [`URL:${facts.url}`] : []),
    ...(facts.status ? [`STATUS:${facts.status}`] : []),
    ...more,
    ...facts.alarms.flatMap((minutes) => [
      'BEGIN:VALARM',
      'ACTION:DISPLAY',
      'DESCRIPTION:Reminder',
      `TRIGGER:${minutes.startsWith('-') ? '-' : ''}PT${minutes.replace('-', '')}M`,
      'END:VALARM',
    ]),
    'END:VEVENT',
  ]
  const people = event.people.map((name) => `ATTENDEE;CN=${name}:mailto:${name.toLowerCase().replace(/\W+/g, '.')}@example.org`)
  const master = event.start
    ? one(event.start, event, [
        ...(event.rule ? [`RRULE:${event.rule}`] : []),
        ...event.not.map((w) => stamp('EXDATE', w)),
        ...event.also.map((w) => stamp('RDATE', w)),
        ...people,
        'X-PHONE-COLOUR:3',
      ])
    : []
  const changed = event.changed.flatMap((c) =>
    one(c.start, c, [stamp(c.range ? 'RECURRENCE-ID;RANGE=THISANDFUTURE' : 'RECURRENCE-ID', c.of)]),
  )
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Practice//Phone//EN',
    ...(way.names && event.calendar ? [`X-WR-CALNAME:${esc(event.calendar)}`] : []),
    ...event.zones.flatMap((z) => z.split('\r\n')),
    ...(way.overridesFirst ? [...changed, ...master] : [...master, ...changed]),
    'END:VCALENDAR',
    '',
  ]
  return Buffer.from(lines.map((line) => foldLine(line, way.newline)).join(way.newline), 'utf8')
}

function foldLine(line: string, newline: string): string {
  const pieces: string[] = []
  let piece = ''
  for (const character of line) {
    if (Buffer.byteLength(piece + character) > 72) {
      pieces.push(piece)
      piece = ''
    }
    piece += character
  }
  return [...pieces, piece].join(`${newline} `)
}

interface Prop {
  name: string
  params: Record<string, string>
  value: string
}

function parseLine(line: string): Prop {
  const match = /^([A-Za-z0-9-]+)((?:;[A-Za-z0-9-]+=(?:"[^"]*"|[^;:"]*))*):([\s\S]*)$/.exec(line)
  if (!match) throw new Error('a line that is none')
  const params = Object.fromEntries(
    [...match[2]!.matchAll(/;([A-Za-z0-9-]+)=("[^"]*"|[^;:"]*)/g)].map((m) => [m[1]!.toUpperCase(), m[2]!.replace(/"/g, '')]),
  )
  return { name: match[1]!.toUpperCase(), params, value: match[3]! }
}

function whenOf({ params, value }: Prop): When {
  if (params.VALUE === 'DATE' || /^\d{8}$/.test(value)) return { d: value }
  if (!/^\d{8}T\d{6}Z?$/.test(value)) throw new Error('no time')
  if (value.endsWith('Z')) return { t: value.slice(0, -1), utc: true }
  return params.TZID ? { t: value, tz: params.TZID } : { t: value }
}

function secondsOf(text: string): number {
  const m = /^(-?)P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$/.exec(text)
  if (!m) throw new Error('no duration')
  const [w = 0, d = 0, h = 0, mi = 0, s = 0] = m.slice(2).map((x) => Number(x ?? 0))
  return (m[1] ? -1 : 1) * (w * 604_800 + d * 86_400 + h * 3600 + mi * 60 + s)
}

/** Reads what the phone is given, line by line, by its own rules. @throws Error when it is no calendar it takes */
export function takeEvent(bytes: Buffer, way: CalendarWay): StoredEvent {
  const lines = bytes
    .toString('utf8')
    .replace(/\r\n[ \t]/g, '')
    .split('\r\n')
    .filter(Boolean)
  if (lines[0] !== 'BEGIN:VCALENDAR' || lines.at(-1) !== 'END:VCALENDAR') throw new Error('not a calendar')
  const zones: string[] = []
  const events: { props: Prop[]; alarms: string[] }[] = []
  let calendar = ''
  for (let i = 1; i < lines.length - 1; i++) {
    const line = lines[i]!
    if (line === 'BEGIN:VTIMEZONE') {
      const end = lines.indexOf('END:VTIMEZONE', i)
      zones.push(lines.slice(i, end + 1).join('\r\n'))
      i = end
    } else if (line === 'BEGIN:VEVENT') {
      const end = lines.indexOf('END:VEVENT', i)
      const inside = lines.slice(i + 1, end)
      const alarms = inside.filter((l) => l.startsWith('TRIGGER')).map((l) => String(secondsOf(parseLine(l).value) / 60))
      const alarmAt = inside.indexOf('BEGIN:VALARM')
      events.push({ props: (alarmAt < 0 ? inside : inside.slice(0, alarmAt)).map(parseLine), alarms })
      i = end
    } else if (line.startsWith('X-WR-CALNAME')) calendar = unesc(parseLine(line).value)
  }
  const get = (e: { props: Prop[] }, name: string) => e.props.find((p) => p.name === name)
  const text = (e: { props: Prop[] }, name: string) => unesc(get(e, name)?.value ?? '')
  const facts = (e: (typeof events)[number]) => {
    const startProp = get(e, 'DTSTART')
    if (!startProp) throw new Error('no start')
    const [endProp, duration] = [get(e, 'DTEND'), get(e, 'DURATION')]
    const start = whenOf(startProp)
    return {
      start,
      lasts: duration ? secondsOf(duration.value) : endProp ? (wallMs(whenOf(endProp)) - wallMs(start)) / 1000 : null,
      title: text(e, 'SUMMARY'),
      place: text(e, 'LOCATION'),
      text: text(e, 'DESCRIPTION'),
      url: way.url ? (get(e, 'URL')?.value ?? '') : '',
      status: text(e, 'STATUS'),
      alarms: e.alarms.slice(0, way.alarms),
    }
  }
  const master = events.find((e) => !get(e, 'RECURRENCE-ID'))
  // an override without its series is nothing this phone can show
  if (!master) throw new Error('no series')
  if (events.some((e) => get(e, 'RECURRENCE-ID')?.params?.RANGE)) throw new Error('a range')
  // who is named would be invited again by the phone's own account: it takes no people from outside
  if (events.some((e) => get(e, 'ATTENDEE'))) throw new Error('people')
  return {
    uid: text(master, 'UID'),
    calendar: way.names ? calendar : '',
    ...facts(master),
    rule: get(master, 'RRULE')?.value ?? '',
    people: [],
    zones,
    not: master.props.filter((p) => p.name === 'EXDATE').map(whenOf),
    also: master.props.filter((p) => p.name === 'RDATE').map(whenOf),
    changed: events.filter((e) => get(e, 'RECURRENCE-ID')).map((e) => ({ of: whenOf(get(e, 'RECURRENCE-ID')!), ...facts(e) })),
  }
}
