import { numbers } from '../../demo/draw.ts'
import type { StoredEvent } from './ics.ts'

export interface CalendarRequest {
  readonly seed: number
  readonly count: number
  readonly style?: 'traps' | 'plain'
}

export interface EventOnPhone {
  readonly stored: StoredEvent
  /** own, subscribed */
  readonly storage: string
  readonly damage?: string
}

const harbourZone = [
  'BEGIN:VTIMEZONE',
  'TZID:Saltmere Harbour Time',
  'BEGIN:STANDARD',
  'DTSTART:19701025T020000',
  'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
  'TZOFFSETFROM:+0130',
  'TZOFFSETTO:+0030',
  'TZNAME:SHT',
  'END:STANDARD',
  'BEGIN:DAYLIGHT',
  'DTSTART:19700329T010000',
  'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
  'TZOFFSETFROM:+0030',
  'TZOFFSETTO:+0130',
  'TZNAME:SHST',
  'END:DAYLIGHT',
  'END:VTIMEZONE',
].join('\r\n')

const titles = [
  'Choir',
  'Tide table',
  'Ferry watch',
  'Dentist',
  'Bee inspection',
  'Net mending',
  'Quiz night',
  'Light check',
  'Market stall',
  'Piano lesson',
]
const places = ['Harbour hall', 'Quay Street 4', 'North light', '', '', '']

/** Events from a seed: the same seed gives the same calendar. */
export function calendarOf({ seed, count, style = 'plain' }: CalendarRequest): EventOnPhone[] {
  const next = numbers(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const two = (n: number) => String(n).padStart(2, '0')
  const blank = (uid: string): StoredEvent => ({
    uid: `${uid}-${seed}@example.org`,
    calendar: 'Home',
    title: '',
    place: '',
    text: '',
    url: '',
    start: { t: '20260105T180000', tz: 'Europe/London' },
    lasts: 3600,
    rule: '',
    not: [],
    also: [],
    alarms: [],
    people: [],
    status: '',
    changed: [],
    zones: [],
  })
  const out: EventOnPhone[] = []
  for (let i = 0; i < count; i++) {
    const day = `${2024 + (i % 4)}${two(1 + Math.floor(next() * 12))}${two(1 + Math.floor(next() * 28))}`
    const clock = `${two(7 + Math.floor(next() * 13))}${pick(['00', '15', '30'])}00`
    const event = { ...blank(`e${i}`), title: `${pick(titles)} ${i + 1}`, place: pick(places), calendar: pick(['Home', 'Home', 'Choir']) }
    if (next() < 0.2) Object.assign(event, { start: { d: day }, lasts: 86_400 * (1 + Math.floor(next() * 3)) })
    else event.start = next() < 0.5 ? { t: `${day}T${clock}`, tz: 'Europe/London' } : { t: `${day}T${clock}`, utc: true }
    if (next() < 0.15) event.rule = pick(['FREQ=WEEKLY', 'FREQ=WEEKLY;COUNT=10', 'FREQ=MONTHLY;BYDAY=1MO', 'FREQ=YEARLY'])
    if (next() < 0.3) event.alarms = ['-15']
    out.push({ stored: event, storage: 'own' })
  }
  return style === 'traps' ? [...out, ...traps(blank)] : out
}

function traps(blank: (uid: string) => StoredEvent): EventOnPhone[] {
  const london = (t: string) => ({ t, tz: 'Europe/London' })
  const own = (uid: string, change: Partial<StoredEvent>, damage?: string): EventOnPhone => ({
    stored: { ...blank(uid), ...change },
    storage: 'own',
    ...(damage ? { damage } : {}),
  })
  const moved = { title: 'Choir, moved', place: '', text: '', url: '', status: '', alarms: [], lasts: 3600 }
  return [
    own('moved', {
      title: 'Choir with a moved evening',
      rule: 'FREQ=WEEKLY;BYDAY=MO',
      changed: [{ of: london('20260112T180000'), start: london('20260113T190000'), ...moved }],
    }),
    own('cancelled', {
      title: 'Choir with a cancelled evening',
      rule: 'FREQ=WEEKLY',
      changed: [{ of: london('20260119T180000'), start: london('20260119T180000'), ...moved, status: 'CANCELLED' }],
    }),
    own('later-from-then', {
      title: 'Choir, later from then on',
      rule: 'FREQ=WEEKLY;BYDAY=MO;COUNT=30',
      changed: [{ of: london('20260323T180000'), range: true, start: london('20260323T183000'), ...moved }],
    }),
    own('exdate', {
      title: 'Not on two Mondays',
      rule: 'FREQ=WEEKLY;COUNT=20',
      not: [london('20260112T180000'), london('20260202T180000')],
    }),
    own('rdate', { title: 'And once more', rule: 'FREQ=MONTHLY;COUNT=3', also: [london('20260610T200000')] }),
    own('until', { title: 'Until spring', rule: 'FREQ=DAILY;UNTIL=20260329T170000Z', start: london('20260320T180000') }),
    own('dst', { title: 'Over the clock change', rule: 'FREQ=DAILY;COUNT=10', start: london('20261020T013000') }),
    own('orphan', {
      start: null,
      lasts: null,
      title: '',
      changed: [{ of: london('20260210T180000'), start: london('20260211T180000'), ...moved, title: 'An evening whose series is gone' }],
    }),
    own('odd-zone', {
      title: 'Tide',
      start: { t: '20260701T063000', tz: 'Saltmere Harbour Time' },
      rule: 'FREQ=DAILY;COUNT=30',
      zones: [harbourZone],
    }),
    own('odd-zone-once', { title: 'High tide', start: { t: '20261101T063000', tz: 'Saltmere Harbour Time' }, zones: [harbourZone] }),
    own('floating', { title: 'Lamp at dusk', start: { t: '20260505T210000' } }),
    own('all-day', { title: 'Regatta', start: { d: '20260801' }, lasts: 2 * 86_400, rule: 'FREQ=YEARLY' }),
    own('alarms', { title: 'Ferry', alarms: ['-60', '-15', '-5'] }),
    own('people', { title: 'Meeting', people: ['Bram Oakes', 'Odile Sallow'], text: 'Bring the keys; and tea, please' }),
    own('long', {
      title: 'Größte Ebbe «Neap», 100%',
      text: 'Every buoy of the channel, in order.\n'.repeat(80).trim(),
      place: 'Pier; north, end',
      url: 'https://example.org/tides?a=1&b=2',
    }),
    own('twin', { title: 'Twin' }),
    own('twin', { title: 'Twin' }),
    own('no-end', { title: 'Without an end', lasts: null }),
    own('damaged', { title: 'Damaged' }, 'cut-card'),
    own('dead', { title: 'Dead sector' }, 'storage-error'),
    ...['New Year', 'Spring holiday', 'Summer holiday'].map((title, i): EventOnPhone => ({
      stored: { ...blank(`holiday${i}`), calendar: 'Holidays', title, start: { d: `2027010${i + 1}` }, lasts: 86_400, rule: 'FREQ=YEARLY' },
      storage: 'subscribed',
    })),
  ]
}
