import vCard from 'vcf'
import type { Dialect, Person } from './dialect.ts'

/** A keypad phone's contact: a short name and up to three numbers. */
export interface HoltStored {
  name: string
  numbers: string[]
}

const shownName = (p: Person) =>
  [p.prefix, p.given, p.middle, p.family, p.suffix].filter(Boolean).join(' ') ||
  p.company ||
  p.nickname?.[0] ||
  p.phones?.[0]?.v ||
  p.emails?.[0]?.v ||
  ''

export const holtDialect: Dialect<HoltStored> = {
  store: (person) => ({
    name: shownName(person).slice(0, 22),
    numbers: (person.phones ?? []).slice(0, 3).map(({ v }) => v.replace(/[^0-9+]/g, '')),
  }),
  give({ name, numbers }) {
    const isPlain = /^[\x20-\x7e]*$/.test(name)
    const escaped = name.replace(/\\/g, '\\\\').replace(/;/g, '\\;')
    const bytes = [...Buffer.from(`;${escaped};;;`, 'utf8')].map((b) => `=${b.toString(16).toUpperCase().padStart(2, '0')}`).join('')
    const n = isPlain ? `N:;${escaped};;;` : `N;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:${bytes}`
    return Buffer.from(['BEGIN:VCARD', 'VERSION:2.1', n, ...numbers.map((v) => `TEL:${v}`), 'END:VCARD', ''].join('\r\n'), 'latin1')
  },
  take(bytes) {
    const text = bytes.toString('latin1')
    if (!/^BEGIN:VCARD\r\nVERSION:2\.1\r\n/.test(text)) throw new Error('not a vCard 2.1')
    const lines = text.replace(/=\r\n/g, '').split('\r\n').filter(Boolean)
    const data = vCard.parseLines(lines) as Record<string, { valueOf(): string; encoding?: string } | { valueOf(): string }[]>
    const all = (name: string) => [data[name] ?? []].flat() as { valueOf(): string; encoding?: string }[]
    const raw = all('n')[0]
    const plain = raw?.encoding
      ? Buffer.from(
          raw.valueOf().replace(/=([0-9A-F]{2})/g, (_, h: string) => String.fromCharCode(Number.parseInt(h, 16))),
          'latin1',
        ).toString('utf8')
      : (raw?.valueOf() ?? '')
    const parts = plain.split(/(?<!\\);/).map((part) => part.replace(/\\([\\;,:])/g, '$1'))
    const name = [parts[1], parts[2], parts[0]].filter(Boolean).join(' ')
    // it has no place for anything else, and says so rather than dropping it
    if (Object.keys(data).some((key) => !['begin', 'version', 'n', 'fn', 'tel', 'end'].includes(key)))
      throw new Error('a field this phone has no place for')
    return { name, numbers: all('tel').map((p) => p.valueOf()) }
  },
  facts: ({ name, numbers }) => [`name=${name}`, ...numbers.map((v) => `number=${v}`)],
  join: (into, other) => ({ name: into.name, numbers: [...new Set([...into.numbers, ...other.numbers])] }),
  name: ({ name }) => name,
  figures: ({ numbers }) => ({ phones: numbers.length, photoBytes: 0, noteChars: 0 }),
}
