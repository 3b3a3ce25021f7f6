import vCard from 'vcf'
import type { Dialect, Person } from './dialect.ts'

/** One row of an Android contact: a kind of value, its columns, its type and own label. */
interface Row {
  k: string
  v: string[]
  t?: string
  own?: boolean
}
export interface AndroidStored {
  rows: Row[]
}

const lists = ['phones', 'emails', 'urls', 'ims', 'dates', 'relations'] as const
const singles = ['company', 'department', 'title', 'role', 'birthday', 'note', 'photo', 'soundFamily', 'soundGiven'] as const

/** @param way the maker's habits in writing vCard 2.1 */
export function androidDialect(way: { latin: boolean; ownLabel: 'brackets' | 'group' }): Dialect<AndroidStored> {
  return {
    store(person: Person) {
      const rows: Row[] = []
      const name = [person.family, person.given, person.middle, person.prefix, person.suffix].map((part) => part ?? '')
      if (name.some(Boolean)) rows.push({ k: 'name', v: name })
      for (const k of lists) for (const { v, t, own } of person[k] ?? []) rows.push(own ? { k, v: [v], t, own } : { k, v: [v], t })
      for (const { parts, t, own } of person.addresses ?? [])
        rows.push(own ? { k: 'addresses', v: parts, t, own } : { k: 'addresses', v: parts, t })
      for (const k of singles) if (person[k]) rows.push({ k, v: [person[k]!] })
      for (const nickname of person.nickname ?? []) rows.push({ k: 'nickname', v: [nickname] })
      for (const group of person.groups ?? []) rows.push({ k: 'group', v: [group] })
      if (person.starred) rows.push({ k: 'starred', v: ['1'] })
      for (const { name: field, value } of person.unknown ?? []) rows.push({ k: 'unknown', v: [field, value] })
      return { rows }
    },
    give: (stored) => giveCard(stored, way),
    take: takeCard,
    facts: ({ rows }) =>
      rows.map((row) => JSON.stringify([row.k, row.k === 'phones' ? [row.v[0]!.replace(/[^0-9+]/g, '')] : row.v, row.t ?? ''])),
    join(into, other) {
      const known = new Set(into.rows.map((row) => JSON.stringify(row)))
      return { rows: [...into.rows, ...other.rows.filter((row) => !known.has(JSON.stringify(row)) && row.k !== 'name')] }
    },
    name: ({ rows }) => rows.find((row) => row.k === 'name')?.v.join(' ') ?? '',
    figures({ rows }) {
      return {
        phones: rows.filter((row) => row.k === 'phones').length,
        photoBytes: Math.floor(((rows.find((row) => row.k === 'photo')?.v[0] ?? '').length * 3) / 4),
        noteChars: (rows.find((row) => row.k === 'note')?.v[0] ?? '').length,
      }
    },
  }
}

function giveCard({ rows }: AndroidStored, way: { latin: boolean; ownLabel: 'brackets' | 'group' }): Buffer {
  const out: string[] = ['BEGIN:VCARD', 'VERSION:2.1']
  const first = (k: string) => rows.find((row) => row.k === k)?.v[0] ?? ''
  const name = rows.find((row) => row.k === 'name')?.v ?? ['', '', '', '', '']
  const esc = (part: string) => part.replace(/\\/g, '\\\\').replace(/;/g, '\\;')
  const put = (head: string, text: string) => out.push(/^[\x20-\x7e]*$/.test(text) ? `${head}:${text}` : quoted(head, text, way.latin))
  put('N', name.map(esc).join(';'))
  const shown = [name[3], name[1], name[2], name[0], name[4]].filter(Boolean).join(' ') || first('company') || first('phones')
  put('FN', shown)
  let group = 0
  const labelled = (property: string, row: Row, value: string, extra = '') => {
    if (row.own && way.ownLabel === 'group') {
      const g = `item${++group}`
      put(`${g}.${property}${extra}`, value)
      put(`${g}.X-ABLabel`, row.t ?? '')
    } else if (row.own && /^[A-Za-z0-9-]+$/.test(row.t ?? '')) put(`${property}${extra};X-${row.t}`, value)
    else if (row.own) put(`${property}${extra};X-CUSTOM(CHARSET=UTF-8,ENCODING=QUOTED-PRINTABLE,${hex(row.t ?? '')})`, value)
    else put(`${property}${extra}${row.t ? ';' + row.t.toUpperCase().split(' ').join(';') : ''}`, value)
  }
  for (const row of rows) {
    const [v = ''] = row.v
    if (row.k === 'phones') labelled('TEL', row, v)
    if (row.k === 'emails') labelled('EMAIL', row, v)
    if (row.k === 'urls') labelled('URL', row, v)
    if (row.k === 'ims') labelled('IMPP', row, v)
    if (row.k === 'relations') labelled('X-RELATION', row, v)
    if (row.k === 'addresses') labelled('ADR', row, row.v.map(esc).join(';'))
    if (row.k === 'dates' && row.t === 'anniversary' && !row.own) put('X-ANNIVERSARY', v)
    else if (row.k === 'dates') {
      put(`date${++group}.X-ABDATE`, v)
      put(`date${group}.X-ABLabel`, row.t || 'other')
    }
    if (row.k === 'nickname') put('X-NICKNAME', v)
    if (row.k === 'group') put('CATEGORIES', v.replace(/,/g, '\\,'))
    if (row.k === 'unknown') put(v, row.v[1] ?? '')
  }
  if (first('company') || first('department')) put('ORG', [first('company'), first('department')].map(esc).join(';'))
  if (first('title')) put('TITLE', first('title'))
  if (first('role')) put('ROLE', first('role'))
  if (first('birthday')) put('BDAY', first('birthday'))
  if (first('soundFamily')) put('X-PHONETIC-LAST-NAME', first('soundFamily'))
  if (first('soundGiven')) put('X-PHONETIC-FIRST-NAME', first('soundGiven'))
  if (first('starred')) put('X-STARRED', '1')
  if (first('note')) put('NOTE', first('note'))
  if (first('photo')) out.push('PHOTO;ENCODING=BASE64;JPEG:' + first('photo').replace(/.{1,74}/g, '\r\n $&'), '')
  out.push('END:VCARD', '')
  return Buffer.from(out.join('\r\n'), 'latin1')
}

/** Quoted-printable with soft breaks at 72, in ISO 8859-1 where the maker prefers it and the text allows it. */
function quoted(head: string, text: string, latin: boolean): string {
  const isLatin = latin && /^[\x00-\xff]*$/.test(text)
  const bytes = Buffer.from(text.replace(/\n/g, '\r\n'), isLatin ? 'latin1' : 'utf8')
  let line = `${head};CHARSET=${isLatin ? 'ISO-8859-1' : 'UTF-8'};ENCODING=QUOTED-PRINTABLE:`
  let out = ''
  for (const byte of bytes) {
    const piece =
      byte > 32 && byte < 127 && byte !== 61 ? String.fromCharCode(byte) : `=${byte.toString(16).toUpperCase().padStart(2, '0')}`
    if (line.length + piece.length > 72) {
      out += line + '=\r\n'
      line = ''
    }
    line += piece
  }
  return out + line
}

function hex(text: string): string {
  return [...Buffer.from(text, 'utf8')].map((byte) => `=${byte.toString(16).toUpperCase().padStart(2, '0')}`).join('')
}

type Property = { _data?: string; group?: string; type?: string | string[]; encoding?: string; charset?: string; valueOf(): string }

function takeCard(bytes: Buffer): AndroidStored {
  const text = bytes.toString('latin1')
  if (!/^BEGIN:VCARD\r\nVERSION:2\.1\r\n/.test(text) || !/END:VCARD\r\n$/.test(text)) throw new Error('not a vCard 2.1')
  const lines = unfold(text.split('\r\n')).filter(Boolean)
  const data = vCard.parseLines(lines) as Record<string, Property | Property[]>
  const rows: Row[] = []
  const labels = new Map<string, string>()
  for (const p of all(data.xAbLabel)) if (p.group) labels.set(p.group, plain(p))
  const tagged = (k: string, field: string, cut = false) => {
    for (const p of all(data[field])) {
      const own = p.group ? labels.get(p.group) : undefined
      const types = [p.type ?? []].flat().filter((t) => !['voice', 'internet', 'pref'].includes(t))
      const v = cut ? parts(p) : [k === 'phones' ? plain(p) : unescape(plain(p))]
      rows.push(own === undefined ? { k, v, t: types.sort().join(' ') } : { k, v, t: own, own: true })
    }
  }
  const name = all(data.n)[0]
  if (name && parts(name).some(Boolean)) rows.push({ k: 'name', v: [...parts(name), '', '', '', ''].slice(0, 5) })
  tagged('phones', 'tel')
  tagged('emails', 'email')
  tagged('urls', 'url')
  tagged('ims', 'impp')
  tagged('relations', 'xRelation')
  tagged('addresses', 'adr', true)
  for (const p of all(data.xAnniversary)) rows.push({ k: 'dates', v: [plain(p)], t: 'anniversary' })
  tagged('dates', 'xAbdate')
  for (const p of all(data.xNickname)) rows.push({ k: 'nickname', v: [unescape(plain(p))] })
  for (const p of all(data.categories)) for (const group of cut(plain(p), ',')) rows.push({ k: 'group', v: [group] })
  const org = all(data.org)[0]
  const [company, department] = org ? parts(org) : []
  const single = (k: string, v: string | undefined) => v && rows.push({ k, v: [v] })
  single('company', company)
  single('department', department)
  const simple = {
    title: 'title',
    role: 'role',
    bday: 'birthday',
    note: 'note',
    xPhoneticLastName: 'soundFamily',
    xPhoneticFirstName: 'soundGiven',
  }
  for (const [field, k] of Object.entries(simple)) single(k, all(data[field]).map((p) => unescape(plain(p)))[0])
  single('photo', all(data.photo)[0]?.valueOf())
  if (all(data.xStarred)[0]) rows.push({ k: 'starred', v: ['1'] })
  return { rows }
}

/** Puts folded lines and quoted-printable lines with a soft break together again. */
function unfold(lines: readonly string[]): string[] {
  const out: string[][] = []
  for (const line of lines) {
    const held = out.at(-1)
    const last = held?.at(-1) ?? ''
    if (held && last.endsWith('=') && /^[^:]*QUOTED-PRINTABLE:/.test(held[0]!)) held.splice(-1, 1, last.slice(0, -1), line)
    else if (held && line.startsWith(' ')) held.push(line.slice(1))
    else out.push([line])
  }
  return out.map((parts) => parts.join(''))
}

function all(value: Property | Property[] | undefined): Property[] {
  return value === undefined ? [] : [value].flat()
}

function plain(p: Property): string {
  const raw = p.valueOf() ?? ''
  if (!/quoted-printable/i.test(p.encoding ?? '')) return raw
  const bytes = Buffer.from(
    raw.replace(/=([0-9A-F]{2})/g, (_, h: string) => String.fromCharCode(Number.parseInt(h, 16))),
    'latin1',
  )
  return bytes.toString('utf8').replace(/\r\n/g, '\n')
}

function parts(p: Property): string[] {
  return cut(plain(p), ';')
}

function cut(text: string, separator: string): string[] {
  return (text.match(separator === ';' ? /(?:\\[\s\S]|[^;\\])*(?:;|$)/g : /(?:\\[\s\S]|[^,\\])*(?:,|$)/g) ?? [])
    .slice(0, text === '' || text.endsWith(separator) ? undefined : -1)
    .map((part) => unescape(part.endsWith(separator) ? part.slice(0, -1) : part))
}

function unescape(text: string): string {
  return text.replace(/\\([\\;,:])/g, '$1')
}
