import { describe, expect, it } from 'vitest'
import { ZipError } from '#server/endpoints/archives/zip-reader.ts'
import { sortInMemory } from '../setup/uploads.ts'
import { splitCalendar } from '#core/formats/icalendar/split.ts'
import { embeddedPreview, inspectFile } from '#core/formats/image/inspect.ts'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import type { Kind } from '#core/kinds/kind.ts'
import { kindOf, kinds } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import { takeWork } from '#core/text/work.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { appsOf } from '#standins/kinds/apps/records.ts'
import { calendarOf } from '#standins/kinds/calendar/demo.ts'
import { callLog } from '#standins/kinds/calls/calls.ts'
import { numbers } from '#standins/demo/draw.ts'
import { people } from '#standins/kinds/contacts/people.ts'
import { dialects } from '#standins/kinds/contacts/dialects.ts'
import { messagesOf } from '#standins/kinds/messages/demo.ts'
import { standinModels } from '#standins/phones/models.ts'
import { recordsOf } from '#standins/phones/records.ts'
import { phoneKind } from '#standins/kinds/registry.ts'
import { photosOf } from '#standins/kinds/photos/demo.ts'
import { makeFile } from '#standins/files/files.ts'
import { photoWays } from '#standins/kinds/photos/listing.ts'
import { zipSync } from 'fflate'

/** Mutations of each format; the same every time. */
const most = 5000
const zone = 'Europe/London'
const tools = readTools({ region: 'GB', zone }, Date.UTC(2026, 10, 25))
const models = ['Orrin 5', 'Tamsel M2', 'Veyra 12', 'Holt 3'].map((name) => standinModels.find(({ model }) => model === name)!)
const targets = models.map((model) => ({ ...findModel(model), zone }))

/** What readers of text trip over. */
const scraps = [
  ...[
    '\r\n',
    '\n',
    '\r',
    '\r\r\n',
    ' ',
    '\t',
    '\0',
    ':',
    ';',
    ',',
    '=',
    '=\r\n',
    '"',
    "'",
    '\\',
    '\\n',
    '<',
    '>',
    '&',
    '&#0;',
    '%',
    '*',
    '--',
  ],
  ...[
    'BEGIN:VCARD\r\n',
    'END:VCARD\r\n',
    'BEGIN:VEVENT\r\n',
    'END:VEVENT\r\n',
    'BEGIN:VCALENDAR\r\n',
    'END:VCALENDAR\r\n',
    'BEGIN:MSG\r\n',
  ],
  ...[
    'END:MSG\r\n',
    'BEGIN:BENV\r\n',
    'END:BMSG\r\n',
    'ENCODING=QUOTED-PRINTABLE',
    'ENCODING=BASE64',
    'CHARSET=utf-7',
    'TZID=',
    'VALUE=DATE:',
  ],
  ...['20X41125', '00010101T000000Z', '99999999T999999Z', '20260230', '-2147483648', '1e999', 'NaN', '__proto__', 'constructor'],
  ...[
    'RRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31\r\n',
    'RRULE:FREQ=SECONDLY\r\n',
    'UNTIL=20j41202T045959Z',
    'COUNT=-1',
    'INTERVAL=0',
    'BYSETPOS=999',
  ],
  ...['=?utf-8?b?', '?=', '=?x?q?=FF?=', 'boundary=', 'é', '💥', '\ufeff', '\ud800', '\u202e', 'a'.repeat(300), ' '.repeat(300)],
].map((scrap) => Buffer.from(scrap))

/** One to four changes of a record: bytes turned, taken out, doubled, moved, cut off, scraps put in. */
function mutate(bytes: Uint8Array, next: () => number): Uint8Array {
  let out = Buffer.from(bytes)
  const below = (n: number) => Math.floor(next() * n)
  // a long record is a picture for the most part: half of what happens to it happens in front of that and behind it
  const place = () => {
    if (out.length < 3000 || next() < 0.5) return below(out.length + 1)
    const at = below(2000)
    return at < 1000 ? at : out.length - (at - 1000)
  }
  for (let i = 1 + below(4); i > 0; i--) {
    const [a, b] = [place(), place()].sort((x, y) => x - y) as [number, number]
    const some = out.subarray(a, Math.min(b, a + 60))
    switch (below(6)) {
      case 0:
        if (out.length > 0) out[below(out.length)] = below(256)
        break
      case 1:
        out = Buffer.concat([out.subarray(0, a), out.subarray(a + some.length)])
        break
      case 2:
        out = Buffer.concat([out.subarray(0, a), some, out.subarray(a)])
        break
      case 3:
        out = Buffer.concat([out.subarray(0, a), out.subarray(b), out.subarray(a, b)])
        break
      case 4:
        if (next() < 0.3) out = out.subarray(0, b)
        break
      default:
        out = Buffer.concat([out.subarray(0, a), scraps[below(scraps.length)]!, out.subarray(a)])
    }
  }
  return out
}

const seeds: Readonly<Record<string, () => Uint8Array[]>> = {
  contacts: () =>
    models.flatMap((model) =>
      people({ seed: 7, count: 12, style: 'traps' }).map(({ person }) =>
        recordsOf(model, 'contacts')!.give(dialects[model.dialect].store(person)),
      ),
    ),
  calls: () =>
    models.flatMap((model) => stored(callLog({ seed: 7, count: 12, style: 'traps' })).map((call) => recordsOf(model, 'calls')!.give(call))),
  messages: () =>
    models.flatMap((model) =>
      stored(messagesOf({ seed: 7, count: 30, style: 'traps' })).map((message) => recordsOf(model, 'messages')!.give(message)),
    ),
  calendar: () =>
    models.flatMap((model) =>
      stored(calendarOf({ seed: 7, count: 20, style: 'traps' })).map((event) => recordsOf(model, 'calendar')!.give(event)),
    ),
  photos: () =>
    models.flatMap((model) =>
      stored(photosOf({ seed: 7, count: 12, style: 'traps' }, photoWays[model.dialect])).map((photo) =>
        recordsOf(model, 'photos')!.give(photo),
      ),
    ),
  apps: () =>
    (['android', 'ios'] as const).flatMap((platform) =>
      stored(appsOf({ seed: 7, count: 12 }, platform)).map((app) =>
        recordsOf(
          models.find((model) => model.platform === platform)!,
          'apps',
        )!.give(app),
      ),
    ),
}
/** What phones hold of a kind, traps among it. */
const ownContents = (code: string) =>
  models.flatMap((model) => {
    const giver = recordsOf(model, code)
    return giver ? stored(phoneKind(code)!.contents(model, { seed: 7, count: 12, style: 'traps' })).map((one) => giver.give(one)) : []
  })
const stored = <Stored>(list: Iterable<{ readonly stored: Stored }>): Stored[] => [...list].map((one) => one.stored)

/** All that is done with a record on its way from one phone to another and onto the screen. */
function takeAllTheWay(kind: Kind, bytes: Uint8Array): string {
  const read = kind.read(bytes, tools)
  if (!read.ok) return read.code
  expect(read.issues.filter((issue) => !kind.issues.includes(issue))).toEqual([])
  const atoms = kind.atoms(read.item, tools)
  kind.canonicalBytes(atoms)
  kind.matchKeys(atoms)
  kind.describe(read.item)
  kind.shape(read.item)
  for (const file of kind.openFiles ?? []) file.write(read.item, { position: 1, number: tools.number })
  for (const target of targets) {
    const changed = kind.change(read.item, target)
    if ('cannot' in changed) continue
    kind.atoms(changed.item, tools)
    kind.split?.(changed.item, target)
    kind.write(changed.item, target, tools.number)
  }
  return ''
}

describe('no reader and no writer throws on data', () => {
  it.each(kinds.map((kind) => kind.code))('%s: thousands of records that something happened to', (code) => {
    const kind = kindOf(code)
    const whole = (seeds[code] ?? (() => ownContents(code)))()
    const next = numbers(2026)
    const failures = new Set<string>()
    // seven kinds of files have one reader
    const n = kind.group === 'files' ? most / 5 : most
    for (let i = 0; i < n; i++) {
      const bytes = mutate(whole[i % whole.length]!, next)
      const failure = takeAllTheWay(kind, bytes)
      if (failure) failures.add(failure)
    }
    // and each that can’t be read says why, by a code the product has words for
    expect([...failures].filter((failure) => !kind.failures.includes(failure))).toEqual([])
    expect(failures.size).toBeGreaterThan(0)
  })

  it('files: cards, calendars and ZIPs of such', async () => {
    const next = numbers(2027)
    const cards = Buffer.concat(seeds.contacts!().slice(0, 6))
    const calendar = Buffer.concat(seeds.calendar!().slice(0, 6))
    const wholes = [cards, calendar, zipSync({ 'a.vcf': cards, 'b.ics': calendar, 'd/': new Uint8Array(0) })]
    for (let i = 0; i < most; i++) {
      const sorted = await sortInMemory({ file: mutate(wholes[i % 3]!, next) }).catch((error: unknown) => {
        // a ZIP that is none says so
        if (error instanceof ZipError) return undefined
        throw error
      })
      for (const [kind, records] of Object.entries(sorted?.records ?? {})) expect(records).toHaveLength(sorted!.items[kind]!)
    }
  })

  it('pictures', async () => {
    const next = numbers(2028)
    const notes = { taken: '2026:07:09 12:00:00', place: [-33.925, 18.42] as const, orientation: 6 }
    const wholes = ['hive.jpg', 'screen.png', 'turned.heic', 'tide.webp', 'wave.gif'].map((from) =>
      makeFile({ from, salt: 1, notes }).subarray(0, 6000),
    )
    for (let i = 0; i < most; i++) {
      const bytes = mutate(wholes[i % wholes.length]!, next)
      await inspectFile(bytes)
      await embeddedPreview(bytes)
    }
  })
})

describe('twice as much costs twice the work, and no more', () => {
  const card = (inner: string) => Buffer.from(`BEGIN:VCARD\r\nVERSION:3.0\r\nFN:x\r\n${inner}END:VCARD\r\n`)
  const event = (inner: string) => `BEGIN:VEVENT\r\nUID:u\r\nDTSTART:20260101T080000Z\r\n${inner}END:VEVENT\r\n`
  const message = (body: string, { head = '', folder = 'telecom/msg/inbox' } = {}) =>
    Buffer.from(
      `<msg handle="1" datetime="20260101T080000"/>\r\nBEGIN:BMSG\r\nVERSION:1.0\r\nSTATUS:READ\r\nTYPE:MMS\r\nFOLDER:${folder}\r\n${head}` +
        `BEGIN:VCARD\r\nVERSION:2.1\r\nN:\r\nTEL:1\r\nEND:VCARD\r\nBEGIN:BENV\r\nBEGIN:BBODY\r\nBEGIN:MSG\r\n${body}\r\nEND:MSG\r\nEND:BBODY\r\nEND:BENV\r\nEND:BMSG\r\n`,
    )
  const zones = (n: number) =>
    `BEGIN:VCALENDAR\r\n${Array.from({ length: n }, (_, i) => `BEGIN:VTIMEZONE\r\nTZID:z${i}\r\nEND:VTIMEZONE\r\n`).join('')}${Array.from({ length: n }, (_, i) => event('').replace('UID:u', `UID:${i}`).replace('DTSTART:', `DTSTART;TZID=z${i}:`)).join('')}END:VCALENDAR\r\n`
  const read = (kind: string) => (bytes: Uint8Array) => void takeAllTheWay(kindOf(kind), bytes)
  const asBytes = (text: string | Buffer) => (typeof text === 'string' ? Buffer.from(text) : text)
  const cases: readonly (readonly [name: string, make: (n: number) => string | Buffer, run: (made: Buffer) => void])[] = [
    ['NOTE lines in one card', (n) => card('NOTE:x\r\n'.repeat(n)), read('contacts')],
    ['a line that never ends, in small pieces', (n) => Buffer.alloc(n * 100, 'x'), pieces],
    ['lines without a colon before a message', (n) => message('hi', { head: 'abc\r\n'.repeat(n) }), read('messages')],
    ['slashes in a folder', (n) => message('hi', { folder: `a${'/'.repeat(n)}x` }), read('messages')],
    [
      'blanks in quoted-printable',
      (n) => message(`Content-Transfer-Encoding: quoted-printable\r\n\r\n${' '.repeat(n)}x`),
      read('messages'),
    ],
    ['an open quote in a MIME header', (n) => message(`Content-Type: text/plain; name=${'";'.repeat(n)}"\r\n\r\nhi`), read('messages')],
    ['pieces of a MIME parameter', (n) => message(`Content-Type: text/plain${';name*1=a'.repeat(n)}\r\n\r\nhi`), read('messages')],
    ['zones of a calendar', (n) => zones(n), (bytes) => void [...splitCalendar(bytes.toString()).items()]],
  ]
  function pieces(bytes: Buffer): void {
    const splitter = createCardSplitter()
    for (let at = 0; at < bytes.length; at += 64) for (const _ of splitter.push(bytes.subarray(at, at + 64))) continue
  }
  it.each(cases)('%s', (_, make, run) => {
    const workOf = (n: number) => {
      const made = asBytes(make(n))
      takeWork()
      run(made)
      return takeWork()
    }
    const [once, twice, eightTimes] = [workOf(1000), workOf(2000), workOf(8000)]
    expect(once).toBeGreaterThan(0)
    expect(twice / once).toBeLessThan(2.2)
    expect(eightTimes / once).toBeLessThan(9)
  })
})
