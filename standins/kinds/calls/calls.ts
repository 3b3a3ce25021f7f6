import { numbers } from '../../demo/draw.ts'

/** An entry of a call log as a practice phone keeps it. */
export interface StoredCall {
  number: string
  name: string
  atMs: number
  type: 'in' | 'out' | 'missed' | 'rejected' | 'blocked'
  durationS: number
  /** Further calls with the same number and of the same kind that the phone keeps in one record: when each was. */
  also?: number[]
}

/** Each of a record's calls. */
export function callsOf({ also = [], ...call }: StoredCall): StoredCall[] {
  return [call, ...also.map((atMs) => ({ ...call, atMs }))]
}

const words = { in: 'RECEIVED', out: 'DIALED', missed: 'MISSED', rejected: 'MISSED', blocked: 'MISSED' } as const
const zoneFormat = new Intl.DateTimeFormat('sv-SE', { timeZone: 'Europe/London', dateStyle: 'short', timeStyle: 'medium' })

/** The maker's habits in giving a call record. */
export interface CallWay {
  readonly version: '2.1' | '3.0'
  /** The kind of call as a bare word, or as TYPE=. */
  readonly bare: boolean
  readonly quoted: boolean
  readonly utc: boolean
  readonly durations: boolean
  readonly names: boolean
  readonly withheld: string
}

export const callWays: Readonly<Record<'orrin' | 'tamsel' | 'veyra' | 'holt', CallWay>> = {
  orrin: { version: '2.1', bare: true, quoted: false, utc: false, durations: true, names: true, withheld: '-2' },
  tamsel: { version: '2.1', bare: false, quoted: true, utc: false, durations: false, names: true, withheld: 'unknown' },
  veyra: { version: '3.0', bare: false, quoted: false, utc: true, durations: true, names: true, withheld: '' },
  holt: { version: '2.1', bare: true, quoted: false, utc: false, durations: false, names: false, withheld: 'Private' },
}

export function giveCall(call: StoredCall, way: CallWay): Buffer {
  const timeOf = (atMs: number) =>
    way.utc ? new Date(atMs).toISOString().replace(/[-:]|\.\d+/g, '') : zoneFormat.format(atMs).replace(/[-:]/g, '').replace(' ', 'T')
  const type = words[call.type]
  const q = way.quoted ? ';ENCODING=QUOTED-PRINTABLE' : ''
  const lines = ['BEGIN:VCARD', `VERSION:${way.version}`]
  const isPlain = /^[\x20-\x7e]*$/.test(call.name)
  const hex = (text: string) => [...Buffer.from(text, 'utf8')].map((b) => `=${b.toString(16).toUpperCase().padStart(2, '0')}`).join('')
  if (way.names && call.name) {
    lines.push(
      isPlain || way.version === '3.0'
        ? `N:;${call.name.replace(/([\\;,])/g, '\\$1')};;;`
        : `N;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:;${hex(call.name)};;;`,
    )
    lines.push(
      isPlain || way.version === '3.0'
        ? `FN:${call.name.replace(/([\\,])/g, way.version === '3.0' ? '\\$1' : '$1')}`
        : `FN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:${hex(call.name)}`,
    )
  } else lines.push('N:')
  lines.push(`TEL${way.bare ? ';CELL' : ';TYPE=CELL'}:${call.number || way.withheld}`)
  for (const { atMs, durationS } of callsOf(call)) {
    lines.push(`X-IRMC-CALL-DATETIME${way.bare ? `;${type}` : `;TYPE=${type}`}${q}:${timeOf(atMs)}`)
    if (call.type === 'rejected' || call.type === 'blocked') lines.push(`X-CALL-STATE:${call.type.toUpperCase()}`)
    if (way.durations) lines.push(`X-CALL-DURATION:${durationS}`)
  }
  lines.push('END:VCARD', '')
  return Buffer.from(lines.join('\r\n'), 'utf8')
}

/** Reads what the phone is given, line by line, by its own rules. @throws Error when it is no call record */
export function takeCall(bytes: Buffer, way: CallWay): StoredCall {
  const text = bytes
    .toString('utf8')
    .replace(/\r\n[ \t]/g, '')
    .replace(/=\r\n/g, '')
  if (!text.startsWith(`BEGIN:VCARD\r\nVERSION:${way.version}\r\n`) || !text.endsWith('END:VCARD\r\n')) throw new Error('not a call record')
  const line = (name: string) => text.split('\r\n').find((l) => l.toUpperCase().startsWith(name))
  const value = (name: string) => {
    const found = line(name)
    if (!found) return ''
    const raw = found.slice(found.indexOf(':') + 1)
    if (!/QUOTED-PRINTABLE/i.test(found.slice(0, found.indexOf(':')))) return raw.replace(/\\([\\;,])/g, '$1')
    return Buffer.from(
      raw.replace(/=([0-9A-F]{2})/g, (_, h: string) => String.fromCharCode(Number.parseInt(h, 16))),
      'latin1',
    ).toString('utf8')
  }
  const stamp = /^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/.exec(value('X-IRMC-CALL-DATETIME'))
  const kind = /RECEIVED|DIALED|MISSED/.exec(line('X-IRMC-CALL-DATETIME') ?? '')?.[0]
  if (!stamp || !kind) throw new Error('no time')
  const [y, mo, d, h, mi, s] = stamp.slice(1).map(Number) as [number, number, number, number, number, number]
  const state = value('X-CALL-STATE').toLowerCase()
  const number = value('TEL')
  return {
    number: number === 'withheld' ? '' : number,
    name: value('FN'),
    atMs: Date.UTC(y, mo - 1, d, h, mi, s),
    type: state === 'rejected' || state === 'blocked' ? state : kind === 'RECEIVED' ? 'in' : kind === 'DIALED' ? 'out' : 'missed',
    durationS: Number(value('X-CALL-DURATION') || 0),
  }
}

export interface CallsRequest {
  readonly seed: number
  readonly count: number
  readonly style?: 'traps' | 'plain'
}

const oneDayMs = 86_400_000
/** The demo's calls end on this day, so that the same seed gives the same calls whenever it is asked. */
const lastDay = Date.UTC(2026, 10, 20, 12)

/** Calls from a seed: the same seed gives the same calls. Numbers from ranges set aside for fiction. */
export function callLog({ seed, count, style = 'plain' }: CallsRequest): { stored: StoredCall; damage?: string }[] {
  const next = numbers(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const out: { stored: StoredCall; damage?: string }[] = []
  for (let i = 0; i < count; i++) {
    const type = pick(['in', 'in', 'out', 'out', 'out', 'missed'] as const)
    const number = 900000 + Math.floor(next() * 300)
    const spelling = pick([`07700 ${number}`, `+447700${number}`, `07700${number}`])
    out.push({
      stored: {
        number: spelling,
        name: next() < 0.5 ? `Caller ${number % 100}` : '',
        atMs: lastDay - Math.floor(i * oneDayMs * 0.7 + next() * oneDayMs * 0.6) + 1000 * (i % 60),
        type,
        durationS: type === 'missed' ? 0 : Math.floor(next() * 900),
      },
    })
  }
  if (style !== 'traps') return out.map((c) => ({ ...c, stored: { ...c.stored, atMs: Math.floor(c.stored.atMs / 1000) * 1000 } }))
  const at = lastDay - 3 * oneDayMs
  const trap = (change: Partial<StoredCall>, damage?: string) => ({
    stored: { number: '07700 900321', name: '', atMs: at, type: 'in' as const, durationS: 61, ...change },
    ...(damage ? { damage } : {}),
  })
  out.push(
    // three equal calls in one second are three calls
    trap({ number: '07700 900322', type: 'missed', durationS: 0 }),
    trap({ number: '07700 900322', type: 'missed', durationS: 0 }),
    trap({ number: '07700 900322', type: 'missed', durationS: 0 }),
    trap({ number: '' }),
    trap({ number: '', type: 'missed', durationS: 0, atMs: at + 5000 }),
    trap({ type: 'rejected', durationS: 0, atMs: at + 60_000 }),
    trap({ type: 'blocked', durationS: 0, atMs: at + 61_000 }),
    trap({ number: '+44 7700 900323', atMs: at + 62_000 }),
    trap({ number: '*#06#', type: 'out', durationS: 0, atMs: at + 63_000 }),
    trap({ name: 'Zoë; Ångström, Öztürk', atMs: at + 64_000 }),
    trap({ number: '112', type: 'out', atMs: at + 65_000 }),
    // the hour in which clocks go forward, and the one that comes twice
    trap({ atMs: Date.UTC(2026, 2, 29, 1, 30) }),
    trap({ atMs: Date.UTC(2026, 9, 25, 0, 30) }),
    trap({ atMs: Date.UTC(2019, 0, 1, 0, 0, 0) }),
    // two calls kept in one record, and one of a day when the clock was not set
    trap({ number: '07700 900324', type: 'missed', durationS: 0, atMs: at + 70_000, also: [at + 71_000] }),
    trap({ atMs: at + 72_000 }, 'no-time'),
    trap({ atMs: at + 66_000 }, 'no-date'),
    trap({ atMs: at + 67_000 }, 'storage-error'),
    trap({ atMs: at + 68_000 }, 'cut-card'),
  )
  return out.map((c) => ({ ...c, stored: { ...c.stored, atMs: Math.floor(c.stored.atMs / 1000) * 1000 } }))
}
