import { numbers, picture } from '../../demo/draw.ts'
import type { Person, Tagged } from './dialect.ts'

export interface PeopleRequest {
  /** Printed and repeatable: the same seed gives the same people. */
  readonly seed: number
  readonly count: number
  /** traps: every oddity job-wise known for contacts; plain: names and numbers only */
  readonly style?: 'traps' | 'plain'
}

export interface PersonOnPhone {
  readonly person: Person
  readonly storage?: string
  readonly linkedTo?: number
  readonly damage?: string
}

const given =
  'Ines Bram Odile Perrin Maud Jory Sorrel Tamsin Wilf Edda Corin Hester Lowen Merryn Nessa Piran Rhoda Silas Thea Ursel Vesper Ansel Briony Clemmie Dorian Elowen Fenn Gwenna Hedley Isolde'.split(
    ' ',
  )
const family =
  'Harrow Oakes Sallow Leeming Tresco Penrose Marl Quillon Ferris Varley Brackwater Coombe Dunmore Ellery Fairlie Garrow Hythe Ibbot Jessel Kerrow Lantern Moorcock Nance Orme Pascoe Quick Rudder Saltash Trewin Underhay'.split(
    ' ',
  )
const companies = ['Saltmere Ferries', 'Gull & Anchor', 'Netloft Bakery', 'Harbour Office', 'Tidewater Dental']

/** People with numbers from ranges set aside for fiction. */
export function people({ seed, count, style = 'plain' }: PeopleRequest): PersonOnPhone[] {
  const next = numbers(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const out: PersonOnPhone[] = []
  for (let i = 0; i < count; i++) {
    const person: Person = { given: pick(given), family: pick(family) }
    const number = 900000 + ((seed * 7919 + i * 37) % 1000)
    person.phones = [{ v: pick([`07700 ${String(number)}`, `+447700${number}`, `(07700) ${number}`]), t: 'cell' }]
    person.middle = `${i + 1}`
    if (next() < 0.4) person.emails = [{ v: `${person.given!.toLowerCase()}.${i}@example.org`, t: pick(['home', 'work', '']) }]
    if (style === 'traps') adorn(person, i, next, pick)
    out.push({ person, storage: style === 'traps' ? pick(['phone', 'account', 'account', 'account']) : 'account' })
  }
  return style === 'traps' ? [...out, ...traps(seed)] : out
}

function adorn(person: Person, i: number, next: () => number, pick: <T>(list: readonly T[]) => T) {
  if (next() < 0.3) person.phones!.push({ v: `020 7946 0${String(100 + (i % 900))}`, t: pick(['home', 'work', 'fax work', 'main']) })
  if (next() < 0.15) person.company = pick(companies)
  if (next() < 0.12)
    person.addresses = [{ parts: ['', '', `${i + 1} Quay Street`, 'Saltmere', '', 'SM1 4QY', 'United Kingdom'], t: 'home' }]
  if (next() < 0.1) person.note = `Met at the regatta.\nLikes tea; no sugar, thanks.`
  if (next() < 0.1) person.birthday = next() < 0.5 ? `19${String(40 + (i % 60))}-0${1 + (i % 9)}-1${i % 10}` : `--1${i % 3}-2${i % 9}`
  if (next() < 0.08) person.photo = picture(i)
  if (next() < 0.06) person.nickname = [`${person.given!.slice(0, 3)}o`]
}

/** One of each oddity, so that a demo shows them all. */
function traps(seed: number): PersonOnPhone[] {
  const tel = (n: number, t = 'cell', own = false): Tagged => (own ? { v: `+447700900${n}`, t, own } : { v: `+447700900${n}`, t })
  return [
    {
      person: {
        given: 'Zoë',
        family: 'Ångström-Öztürk',
        phones: [tel(101)],
        note: 'Öffnet erst um 10 · größter Raum = «Salon»; 100% frei',
      },
    },
    { person: { given: '小雪', family: '山本', soundFamily: 'やまもと', soundGiven: 'こゆき', phones: [tel(102)] } },
    { person: { given: 'Mum 💛', phones: [tel(103), tel(103, 'home')] } },
    { person: { company: 'Netloft Bakery', phones: [{ v: '020 7946 0123', t: 'work' }] } },
    { person: { phones: [tel(104)] } },
    { person: { emails: [{ v: 'Only.Mail@Example.org', t: '' }] } },
    { person: { given: 'Boat', family: 'Shed', phones: [tel(105, 'Boat shed, back door', true), tel(106, 'Winter', true)] } },
    { person: { given: 'Pager', family: 'Duty', phones: [tel(107, 'pager'), tel(108, 'car')] } },
    { person: { given: 'Starred', family: 'Friend', phones: [tel(109)], starred: true, groups: ['Family', 'Choir, alto'] } },
    { person: { given: 'Large', family: 'Photo', phones: [tel(110)], photo: picture(seed, 300_000) } },
    { person: { given: 'Fine', family: 'Photo', phones: [tel(111)], photo: picture(seed + 1, 20_000) } },
    { person: { given: 'Lamp', family: 'Keeper', phones: [tel(112)], unknown: [{ name: 'X-LIGHT-CHARACTER', value: 'Fl(2) 10s' }] } },
    { person: { given: 'Long', family: 'Note', phones: [tel(113)], note: 'Every buoy of the channel, in order. '.repeat(120).trim() } },
    { person: { given: 'Twin', family: 'Same', phones: [tel(114)] } },
    { person: { given: 'Twin', family: 'Same', phones: [tel(114)] }, storage: 'sim' },
    { person: { given: 'Linked', family: 'Person', phones: [tel(115)] }, storage: 'account' },
    { person: { given: 'Linked', family: 'Person', emails: [{ v: 'linked@example.org', t: 'work' }] }, storage: 'phone', linkedTo: 0 },
    { person: { given: 'Sim', family: 'Only', phones: [tel(116, '')] }, storage: 'sim' },
    { person: { given: 'Many', family: 'Numbers', phones: Array.from({ length: 12 }, (_, i) => tel(120 + i, i % 2 ? 'home' : 'cell')) } },
    { person: { given: 'Leap', family: 'Day', birthday: '--02-29', dates: [{ v: '2010-06-05', t: 'anniversary' }], phones: [tel(140)] } },
    { person: { given: 'Semi;colon', family: 'Back\\slash, Comma', phones: [tel(141)], note: 'a=b; c,d \\ e' } },
    { person: { given: 'N'.repeat(300), family: 'Toolong', phones: [tel(142)] } },
    { person: { given: 'Damaged', family: 'Record', phones: [tel(143)] }, damage: 'cut-card' },
    { person: { given: 'Dead', family: 'Sector', phones: [tel(144)] }, damage: 'storage-error' },
    {
      person: {
        given: 'Related',
        family: 'Sister',
        phones: [tel(145)],
        relations: [{ v: 'Brother Same', t: 'brother', own: true }],
        urls: [{ v: 'https://example.org/sister', t: 'home' }],
      },
    },
  ]
}
