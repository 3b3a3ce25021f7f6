import ICAL from 'ical.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readMime } from '#core/formats/mime/index.ts'
import { splitCalendar } from '#core/formats/icalendar/split.ts'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { csvLine } from '#core/formats/csv/write.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { contactAtoms } from '#core/kinds/contacts/canonical.ts'
import { emptyContact, type Contact } from '#core/kinds/contacts/model.ts'
import { formInFile } from '#core/kinds/calendar/change.ts'
import type { CalendarItem } from '#core/kinds/calendar/model.ts'
import type { Message } from '#core/kinds/messages/model.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { calendarOf } from '#standins/kinds/calendar/demo.ts'
import { calendarWays, giveEvent } from '#standins/kinds/calendar/ics.ts'
import { people } from '#standins/kinds/contacts/people.ts'
import { dialects } from '#standins/kinds/contacts/dialects.ts'
import { callLog, callWays, giveCall } from '#standins/kinds/calls/calls.ts'

const tools = readTools({ region: 'GB', zone: 'Europe/London' }, Date.UTC(2026, 10, 20))
const fileOf = (kind: string, format: string) => kindOf(kind).openFiles!.find(({ code }) => code === format)!
const written = (kind: string, format: string, items: readonly unknown[]) => {
  const file = fileOf(kind, format)
  const decode = (piece: Uint8Array | string) => (typeof piece === 'string' ? piece : Buffer.from(piece).toString('utf8'))
  return (
    (file.head ?? '') +
    items.map((item, i) => decode(file.write(item, { position: i + 1, number: tools.number }))).join('') +
    (file.tail ?? '')
  )
}
const itemsOf = (kind: string, bodies: readonly Buffer[]) =>
  bodies.flatMap((body) => {
    const read = kindOf(kind).read(body, tools)
    return read.ok ? [read.item] : []
  })

describe('contacts as files', () => {
  const all = itemsOf(
    'contacts',
    people({ seed: 3, count: 80, style: 'traps' })
      .filter(({ damage }) => !damage)
      .map(({ person }) => dialects.orrin.give(dialects.orrin.store(person))),
  ) as Contact[]

  it.each(['2.1', '3.0', '4.0'] as const)('vCard %s holds every contact, and read again each says the same', (version) => {
    const text = written('contacts', `vcf-${version}`, all)
    const splitter = createCardSplitter()
    const cards = [...splitter.push(Buffer.from(text)), ...splitter.end()]
    expect(cards).toHaveLength(all.length)
    cards.forEach((card, i) => {
      expect(Buffer.from(card).toString()).toContain(`VERSION:${version}`)
      const again = kindOf('contacts').read(card, tools)
      expect(again.ok && contactAtoms(again.item as Contact, tools)).toEqual(contactAtoms(all[i]!, tools))
    })
  })

  it('vCard 3.0 and 4.0 are read by another reader, too (RFC 6350)', () => {
    for (const version of ['3.0', '4.0']) {
      const cards = ICAL.parse(written('contacts', `vcf-${version}`, all)) as unknown as unknown[]
      expect(cards).toHaveLength(all.length)
    }
  })

  it('4.0 says a birthday without its year as the standard does (section 4.3.1), and pictures as data (section 6.2.4)', () => {
    const text = written('contacts', 'vcf-4.0', [
      {
        ...emptyContact,
        name: { ...emptyContact.name, given: 'Ines' },
        birthday: '--04-15',
        photo: { bytes: Uint8Array.of(0xff, 0xd8, 1) },
      },
    ])
    expect(text).toContain('BDAY:--0415')
    expect(text).toContain('PHOTO:data:image/jpeg;base64,/9gB')
  })
})

describe('calendar and calls as files', () => {
  it('a calendar file holds every item with its zones and its calendar’s name, and is cut into the same again', () => {
    const items = itemsOf(
      'calendar',
      [...calendarOf({ seed: 5, count: 30, style: 'traps' })]
        .filter(({ damage }) => !damage)
        .map(({ stored }) => giveEvent(stored, calendarWays.orrin)),
    )
    const cut = [...splitCalendar(written('calendar', 'ics', items)).items()]
    expect(cut).toHaveLength(items.length)
    const atoms = (item: unknown) => kindOf('calendar').atoms(item, tools).join('\n')
    const again = itemsOf(
      'calendar',
      cut.map((text) => Buffer.from(text)),
    )
    // who was asked to come stands in the text: nobody is invited again
    expect(again.map(atoms)).toEqual(items.map((item) => atoms(formInFile(item as CalendarItem))))
  })

  it('calls as cards are read again the same, as CSV they have a line each', () => {
    const items = itemsOf(
      'calls',
      [...callLog({ seed: 6, count: 40, style: 'traps' })]
        .filter(({ damage }) => !damage)
        .map(({ stored }) => giveCall(stored as never, callWays.orrin)),
    )
    const splitter = createCardSplitter()
    const cards = [...splitter.push(Buffer.from(written('calls', 'calls-vcf', items))), ...splitter.end()]
    const atoms = (item: unknown) => kindOf('calls').atoms(item, tools)
    expect(
      itemsOf(
        'calls',
        cards.map((card) => Buffer.from(card)),
      ).map(atoms),
    ).toEqual(items.map(atoms))
    const csv = written('calls', 'calls-csv', items)
    expect(csv.split('\r\n')).toHaveLength(items.length + 2)
    expect(csv.startsWith('when,type,number,name,seconds\r\n')).toBe(true)
  })

  it.each([
    ['=1+1', "'=1+1"],
    ['@SUM(A1)', "'@SUM(A1)"],
    ['+447700900001', "'+447700900001"],
    ['-2', "'-2"],
  ])('a cell of CSV that begins as a formula does is guarded: %s', (cell, guarded) => {
    expect(csvLine([cell, 'a'])).toBe(`"${guarded}",a\r\n`)
  })

  it('cells with commas, quotes and line breaks are one cell each (RFC 4180 section 2)', () => {
    expect(csvLine(['a,b', 'say "no"', 'x\ny'])).toBe('"a,b","say ""no""","x\ny"\r\n')
  })
})

describe('messages as files', () => {
  const message = (change: Partial<Message>): Message => ({
    direction: 'in',
    state: 'done',
    service: 'sms',
    chatOf: '',
    atMs: Date.UTC(2026, 0, 5, 18),
    from: '07700 900001',
    to: [],
    isRead: true,
    line: 1,
    subject: '',
    group: '',
    text: 'Hello',
    reactionTo: undefined,
    attachments: [],
    ...change,
  })
  /** Entries of an mbox (RFC 4155 appendix A), unquoted. */
  const entries = (mbox: string) =>
    mbox
      .split(/^(?=From \S+ [A-Z][a-z]{2} [A-Z][a-z]{2} [ \d]\d \d\d:\d\d:\d\d \d{4}$)/m)
      .map((entry) => entry.slice(entry.indexOf('\n') + 1).replace(/^>(>*From )/gm, '$1'))

  it('an mbox has an entry each, dated, from and to addresses no mail goes to', () => {
    const [one] = entries(written('messages', 'mbox', [message({})]))
    expect(one).toMatch(/^From: \+447700900001@phone\.invalid\nTo: owner@phone\.invalid\nDate: Mon, 05 Jan 2026 18:00:00 \+0000\n/)
    expect(written('messages', 'mbox', [message({ from: 'SALTMERE' })])).toContain('From: SALTMERE@phone.invalid')
  })

  it('whatever a text says, it stays one entry, and reads back the same', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.string({ unit: 'grapheme', maxLength: 120 }),
            fc.constantFrom('From here on\nFrom me', '>From x', 'From a Mon Jan  5 18:00:00 2026', '\n\nFrom b'),
          ),
          { minLength: 1, maxLength: 5 },
        ),
        (texts) => {
          const clean = texts.map((text) => text.replace(/\r\n?/g, '\n'))
          const found = entries(
            written(
              'messages',
              'mbox',
              clean.map((text) => message({ text })),
            ),
          )
          expect(found).toHaveLength(clean.length)
          found.forEach((entry, i) => {
            const [part] = readMime(Buffer.from(entry.replace(/\n\n$/, '').replace(/\n/g, '\r\n'))).parts
            expect(Buffer.from(part!.content).toString().replace(/\r\n/g, '\n').trimEnd()).toBe(clean[i]!.trimEnd())
          })
        },
      ),
      { seed: 71, numRuns: 200 },
    )
  })

  it('JSON Lines has one object a line with all a message says, attachments by their digests', () => {
    const lines = written('messages', 'jsonl', [
      message({ text: 'two\nlines "quoted"' }),
      message({ attachments: [{ type: 'image/png', name: 'a', handle: 'p', sizeBytes: 3, digest: 'd' }] }),
    ])
      .trimEnd()
      .split('\n')
    expect(lines).toHaveLength(2)
    expect(JSON.parse(lines[0]!)).toMatchObject({ at: '2026-01-05T18:00:00.000Z', direction: 'in', text: 'two\nlines "quoted"' })
    expect(JSON.parse(lines[1]!).attachments).toEqual([{ type: 'image/png', name: 'a', sizeBytes: 3, sha256: 'd' }])
  })
})
