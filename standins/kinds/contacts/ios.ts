import ICAL from 'ical.js'
import type { Dialect, Person, Tagged } from './dialect.ts'

/** An iOS contact: one object, its lists with label words of its own. */
export interface IosStored {
  last: string
  first: string
  middle: string
  prefix: string
  suffix: string
  soundLast: string
  soundFirst: string
  nickname: string
  organization: string
  department: string
  jobTitle: string
  role: string
  birthday: string
  note: string
  image: string
  phones: Entry[]
  emails: Entry[]
  urls: Entry[]
  handles: Entry[]
  dates: Entry[]
  related: Entry[]
  addresses: (Omit<Entry, 'value'> & { parts: string[] })[]
}
interface Entry {
  label: string
  own: boolean
  value: string
}

const wordOf: Record<string, string> = { cell: 'Mobile', home: 'Home', work: 'Work', anniversary: 'Anniversary', '': 'Other' }

export const iosDialect: Dialect<IosStored> = {
  store(p: Person) {
    const entries = (list: Tagged[] = []) => list.map(({ v, t, own }) => ({ value: v, label: t, own: own ?? false }))
    return {
      last: p.family ?? '',
      first: p.given ?? '',
      middle: p.middle ?? '',
      prefix: p.prefix ?? '',
      suffix: p.suffix ?? '',
      soundLast: p.soundFamily ?? '',
      soundFirst: p.soundGiven ?? '',
      nickname: (p.nickname ?? []).join(','),
      organization: p.company ?? '',
      department: p.department ?? '',
      jobTitle: p.title ?? '',
      role: p.role ?? '',
      birthday: p.birthday ?? '',
      note: p.note ?? '',
      image: p.photo ?? '',
      phones: entries(p.phones),
      emails: entries(p.emails),
      urls: entries(p.urls),
      handles: entries(p.ims),
      dates: entries(p.dates),
      related: entries(p.relations),
      addresses: (p.addresses ?? []).map(({ parts, t, own }) => ({ parts, label: t, own: own ?? false })),
    }
  },
  give: giveCard,
  take: takeCard,
  facts(s) {
    const { phones, emails, urls, handles, dates, related, addresses, ...single } = s
    const lists = { phones, emails, urls, handles, dates, related, addresses }
    return [
      ...Object.entries(single).flatMap(([k, v]) => (v ? [`${k}=${v}`] : [])),
      ...Object.entries(lists).flatMap(([k, list]) => list.map((entry) => `${k}=${JSON.stringify(entry)}`)),
    ]
  },
  join(into, other) {
    const union = <T>(a: T[], b: T[]) => [...a, ...b.filter((x) => !a.some((y) => JSON.stringify(x) === JSON.stringify(y)))]
    return {
      ...other,
      ...Object.fromEntries(Object.entries(into).filter(([, v]) => v !== '' && !Array.isArray(v))),
      phones: union(into.phones, other.phones),
      emails: union(into.emails, other.emails),
      urls: union(into.urls, other.urls),
      handles: union(into.handles, other.handles),
      dates: union(into.dates, other.dates),
      related: union(into.related, other.related),
      addresses: union(into.addresses, other.addresses),
    } as IosStored
  },
  name: (s) => [s.prefix, s.first, s.middle, s.last, s.suffix].filter(Boolean).join(' '),
  figures: (s) => ({ phones: s.phones.length, photoBytes: Math.floor((s.image.length * 3) / 4), noteChars: s.note.length }),
}

function giveCard(s: IosStored): Buffer {
  const out = ['BEGIN:VCARD', 'VERSION:3.0', 'PRODID:-//Veyra//Contacts//EN']
  const esc = (text: string) => text.replace(/([\\;,])/g, '\\$1').replace(/\n/g, '\\n')
  out.push(`N:${[s.last, s.first, s.middle, s.prefix, s.suffix].map(esc).join(';')}`)
  out.push(`FN:${esc(iosDialect.name(s) || s.organization || s.phones[0]?.value || s.emails[0]?.value || '')}`)
  const text = (property: string, value: string) => value && out.push(`${property}:${esc(value)}`)
  text('X-PHONETIC-FIRST-NAME', s.soundFirst)
  text('X-PHONETIC-LAST-NAME', s.soundLast)
  if (s.nickname) out.push(`NICKNAME:${s.nickname.split(',').map(esc).join(',')}`)
  if (s.organization || s.department) out.push(`ORG:${esc(s.organization)};${esc(s.department)}`)
  text('TITLE', s.jobTitle)
  text('ROLE', s.role)
  let item = 0
  const entry = (property: string, e: { label: string; own: boolean }, value: string, first: boolean) => {
    const pref = first ? ';type=pref' : ''
    if (e.own) {
      const g = `item${++item}`
      out.push(`${g}.${property}${pref}:${value}`, `${g}.X-ABLabel:${esc(e.label)}`)
    } else if (property.startsWith('X-AB')) {
      const g = `item${++item}`
      out.push(`${g}.${property}${pref}:${value}`, `${g}.X-ABLabel:_$!<${wordOf[e.label] ?? e.label}>!$_`)
    } else
      out.push(
        `${property}${e.label
          .split(' ')
          .filter(Boolean)
          .map((t) => `;type=${t.toUpperCase()}`)
          .join('')}${property === 'TEL' ? ';type=VOICE' : ''}${pref}:${value}`,
      )
  }
  s.phones.forEach((e, i) => entry('TEL', e, esc(e.value), i === 0))
  s.emails.forEach((e, i) => entry('EMAIL;type=INTERNET', e, esc(e.value), i === 0))
  s.urls.forEach((e) => entry('URL', e, esc(e.value), false))
  s.handles.forEach((e) => entry('IMPP;X-SERVICE-TYPE=Chat', e, esc(e.value), false))
  s.addresses.forEach((e) => entry('ADR', e, e.parts.map(esc).join(';'), false))
  s.dates.forEach((e) => entry('X-ABDATE', e, e.value.replace(/^--/, '1604-'), false))
  s.related.forEach((e) => entry('X-ABRELATEDNAMES', e, esc(e.value), false))
  if (s.birthday.startsWith('--')) out.push(`BDAY;X-OMIT-YEAR=1604:1604-${s.birthday.slice(2)}`)
  else text('BDAY', s.birthday)
  text('NOTE', s.note)
  if (s.image) out.push(`PHOTO;ENCODING=b;TYPE=JPEG:${s.image}`)
  out.push('END:VCARD')
  return Buffer.from(out.map(fold).join('\r\n') + '\r\n', 'utf8')
}

function fold(line: string): string {
  const pieces: string[] = []
  let piece = Buffer.alloc(0)
  for (const character of line) {
    const bytes = Buffer.from(character)
    if (piece.length + bytes.length > 74) {
      pieces.push(piece.toString('utf8'))
      piece = Buffer.alloc(0)
    }
    piece = Buffer.concat([piece, bytes])
  }
  return [...pieces, piece.toString('utf8')].join('\r\n ')
}

/** ical.js leaves `\\;` of a vCard's text as it stands, and every escape of a property it does not know. */
function unescapeLeft(value: unknown, isUnknown: boolean): unknown {
  if (Array.isArray(value)) return value.map((v) => unescapeLeft(v, isUnknown))
  if (typeof value !== 'string') return value
  if (!isUnknown) return value.replace(/\\;/g, ';')
  return value.replace(/\\([\s\S])/g, (_, c: string) => (c === 'n' || c === 'N' ? '\n' : c))
}

type Jcard = [string, Record<string, unknown>, string, ...unknown[]]

function takeCard(bytes: Buffer): IosStored {
  const text = bytes.toString('utf8')
  if (!/^BEGIN:VCARD\r\nVERSION:3\.0\r\n/.test(text)) throw new Error('not a vCard 3.0')
  const parsed = ICAL.parse(text) as unknown as [string, Jcard[], unknown[]]
  const raw = parsed[0] === 'vcard' ? parsed[1] : (parsed[0] as unknown as [string, Jcard[]])[1]
  const properties = raw.map((p) => p.map((v, i) => (i < 3 ? v : unescapeLeft(v, p[2] === 'unknown'))) as Jcard)
  const of = (name: string) => properties.filter((p) => p[0] === name)
  const one = (name: string) => String(of(name)[0]?.[3] ?? '')
  const labels = new Map(of('x-ablabel').map((p) => [String(p[1].group), String(p[3])]))
  const entries = (name: string): Entry[] =>
    of(name).map((p) => {
      const own = p[1].group ? labels.get(String(p[1].group)) : undefined
      const types = [p[1].type ?? []].flat().map((t) => String(t).toLowerCase())
      const label =
        own ??
        types
          .filter((t) => !['voice', 'internet', 'pref', 'other'].includes(t))
          .sort()
          .join(' ')
      return { label, own: own !== undefined, value: Array.isArray(p[3]) ? p[3].join('\u001f') : String(p[3]) }
    })
  const name = [of('n')[0]?.[3] ?? []].flat().map(String)
  const org = [of('org')[0]?.[3] ?? []].flat().map(String)
  const birthday = of('bday')[0]
  const omitted = birthday?.[1]['x-omit-year'] !== undefined
  const date = (value: string) => value.replace(/T.*$/, '')
  const dates = [
    ...of('x-anniversary').map((p) => ({ p, label: 'anniversary', own: false })),
    ...of('x-abdate').map((p) => ({ p, label: labels.get(String(p[1].group)) ?? '', own: true })),
  ].map(({ p, label, own }) => ({
    label,
    own,
    value: p[1]['x-omit-year'] ? date(String(p[3])).replace(/^1604-/, '--') : date(String(p[3])),
  }))
  return {
    last: name[0] ?? '',
    first: name[1] ?? '',
    middle: name[2] ?? '',
    prefix: name[3] ?? '',
    suffix: name[4] ?? '',
    soundLast: one('x-phonetic-last-name'),
    soundFirst: one('x-phonetic-first-name'),
    nickname: (of('nickname')[0]?.slice(3) ?? []).flat().join(','),
    organization: org[0] ?? '',
    department: org[1] ?? '',
    jobTitle: one('title'),
    role: one('role'),
    birthday: birthday ? (omitted ? date(String(birthday[3])).replace(/^1604-/, '--') : date(String(birthday[3]))) : '',
    note: one('note'),
    image: one('photo').replace(/^data:[^,]*,/, ''),
    phones: entries('tel'),
    emails: entries('email'),
    urls: entries('url'),
    handles: entries('impp'),
    dates,
    related: [...entries('x-relation'), ...entries('x-abrelatednames')],
    addresses: entries('adr').map(({ label, own, value }) => ({ label, own, parts: value.split('\u001f') })),
  }
}
