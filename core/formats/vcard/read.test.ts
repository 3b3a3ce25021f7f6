import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { utf8Bytes } from '../../text/bytes.ts'
import { createVcardReader, readVcards, splitValue, unescapeValue, writeVcard } from './index.ts'

const card = (...lines: string[]) => utf8Bytes(['BEGIN:VCARD', ...lines, 'END:VCARD', ''].join('\r\n'))
const only = (bytes: Uint8Array) => {
  const [read, ...more] = readVcards(bytes)
  expect(more).toEqual([])
  if (!read?.ok) throw new Error(`not read: ${read?.code}`)
  return read
}
const value = (bytes: Uint8Array, name: string) => only(bytes).card.properties.find((p) => p.name === name)?.value

describe('reading vCards', () => {
  it('unfolds a line by taking away one white space (RFC 6350 section 3.2)', () => {
    expect(value(card('VERSION:3.0', 'NOTE:one t', ' wo', '\t three'), 'NOTE')).toBe('one two three')
  })

  it('keeps the white space of a fold in 2.1, where it belongs to the value', () => {
    expect(value(card('VERSION:2.1', 'NOTE:one', ' two'), 'NOTE')).toBe('one two')
  })

  it.each([
    ['CRLF', '\r\n'],
    ['LF', '\n'],
    ['a stray CR', '\r'],
  ])('takes %s as the end of a line', (_, end) => {
    const bytes = utf8Bytes(['BEGIN:VCARD', 'VERSION:3.0', 'FN:Ann', 'END:VCARD', ''].join(end))
    expect(value(bytes, 'FN')).toBe('Ann')
  })

  it('joins quoted-printable at soft breaks wherever they fall, inside a character too', () => {
    const bytes = card('VERSION:2.1', 'FN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:Zo=C3=', '=AB =C3=85=', 'ngstr')
    expect(value(bytes, 'FN')).toBe('Zoë Ångstr')
  })

  it('does not swallow the end of a card after a soft break that leads nowhere', () => {
    const read = only(card('VERSION:2.1', 'FN;ENCODING=QUOTED-PRINTABLE:Ann='))
    expect(read.issues.map((i) => i.code)).toEqual(['damaged-quoted-printable'])
  })

  it('decodes the charset of each property', () => {
    const latin = Uint8Array.from([...utf8Bytes('BEGIN:VCARD\nVERSION:2.1\nFN;CHARSET=ISO-8859-1:Zo'), 0xeb, ...utf8Bytes('\nEND:VCARD\n')])
    expect(value(latin, 'FN')).toBe('Zoë')
    const quoted = card('VERSION:2.1', 'FN;CHARSET=SHIFT_JIS;ENCODING=QUOTED-PRINTABLE:=8E=52=96=7B')
    expect(value(quoted, 'FN')).toBe('山本')
  })

  it('guesses the charset of bytes that are not UTF-8, and says so', () => {
    const bytes = Uint8Array.from([...utf8Bytes('BEGIN:VCARD\nVERSION:3.0\nFN:Zo'), 0xeb, ...utf8Bytes('\nEND:VCARD\n')])
    const read = only(bytes)
    expect(read.card.properties[1]!.value).toBe('Zoë')
    expect(read.issues.map((i) => i.code)).toEqual(['charset-guessed'])
  })

  it.each(['utf-16le', 'utf-16be'])('reads %s with and without its mark', (label) => {
    const text = 'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Zoë 山\r\nEND:VCARD\r\n'
    for (const mark of ['\ufeff', '']) {
      const le = Buffer.from(mark + text, 'utf16le')
      expect(value(label === 'utf-16le' ? le : Buffer.from(le).swap16(), 'FN')).toBe('Zoë 山')
    }
  })

  it('takes bare parameters, quoted lists and groups', () => {
    const read = only(card('VERSION:2.1', 'item1.TEL;CELL;PREF:1', 'TEL;TYPE="home,work";X-A="b:c":2'))
    expect(read.card.properties[1]).toMatchObject({ group: 'item1', params: { TYPE: ['CELL', 'PREF'] } })
    expect(read.card.properties[2]).toMatchObject({ params: { TYPE: ['home', 'work'], 'X-A': ['b:c'] }, value: '2' })
  })

  it.each([
    ['folded with spaces (2.1)', ['PHOTO;ENCODING=BASE64;JPEG:', ' AQID', ' BA==', '']],
    ['not folded at all', ['PHOTO;ENCODING=b;TYPE=JPEG:AQIDBA==']],
    ['broken without a space', ['PHOTO;ENCODING=BASE64:AQID', 'BA==', '']],
    ['as a data URI (4.0)', ['PHOTO:data:image/jpeg;base64,AQIDBA==']],
  ])('reads inline bytes %s', (_, lines) => {
    const photo = only(card('VERSION:2.1', 'FN:x', ...lines)).card.properties.find((p) => p.name === 'PHOTO')
    expect([...photo!.bytes!]).toEqual([1, 2, 3, 4])
  })

  it.each([
    ['no END before the next BEGIN', 'BEGIN:VCARD\nVERSION:3.0\nFN:a\nBEGIN:VCARD\nVERSION:3.0\nFN:b\nEND:VCARD\n', ['no-end', 'ok']],
    ['no END at the end', 'BEGIN:VCARD\nVERSION:3.0\nFN:a\n', ['no-end']],
    ['nothing inside', 'BEGIN:VCARD\nEND:VCARD\nBEGIN:VCARD\nFN:b\nEND:VCARD', ['empty-card', 'ok']],
    ['text between cards', 'hello\nBEGIN:VCARD\nFN:a\nEND:VCARD\nbye\n', ['ok']],
  ])('counts each damaged card as one item: %s', (_, text, expected) => {
    expect(readVcards(utf8Bytes(text)).map((r) => (r.ok ? 'ok' : r.code))).toEqual(expected)
  })

  it('gives the same cards however the bytes are cut into chunks', () => {
    const bytes = Uint8Array.from([
      ...card('VERSION:2.1', 'FN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:Zo=C3=', '=AB', 'PHOTO;ENCODING=BASE64:', ' AQID', '', 'NOTE:ü'),
      ...card('VERSION:3.0', 'FN:山本', 'NOTE:long line', '  folded'),
    ])
    const whole = readVcards(bytes)
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 40 }), { maxLength: 60 }), (sizes) => {
        const reader = createVcardReader()
        const read = []
        let at = 0
        for (const size of sizes) {
          read.push(...reader.push(bytes.subarray(at, at + size)))
          at = Math.min(bytes.length, at + size)
        }
        read.push(...reader.push(bytes.subarray(at)), ...reader.end())
        expect(read).toEqual(whole)
      }),
      { seed: 11 },
    )
  })

  it('never throws, whatever bytes come', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        readVcards(Uint8Array.from([...utf8Bytes('BEGIN:VCARD\r\n'), ...bytes, ...utf8Bytes('\r\nEND:VCARD\r\n')]))
      }),
      { seed: 12 },
    )
  })

  it('stays flat on a 200 MB file', () => {
    const reader = createVcardReader()
    const chunk = utf8Bytes(('BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Ann Example\r\nNOTE:' + 'x'.repeat(3900) + '\r\nEND:VCARD\r\n').repeat(16))
    const before = process.memoryUsage().rss
    let cards = 0
    let most = 0
    for (let sent = 0; sent < 200_000_000; sent += chunk.length) {
      for (const read of reader.push(chunk)) if (read.ok) cards++
      most = Math.max(most, process.memoryUsage().rss)
    }
    for (const _ of reader.end()) cards++
    expect(cards).toBeGreaterThan(49_000)
    expect(most - before).toBeLessThan(120_000_000)
  })
})

describe('writing vCards', () => {
  const text = fc
    .string({ unit: 'grapheme', maxLength: 60 })
    .map((s) => s.replace(/[\r\u0000-\u0009\u000b-\u001f\u007f\ufeff\u2028\u2029]/g, '').trim())

  it.each(['2.1', '3.0'] as const)('%s is read back as it was written', (version) => {
    fc.assert(
      fc.property(
        fc.array(text, { minLength: 5, maxLength: 5 }),
        text,
        fc.uint8Array({ minLength: 1, maxLength: 200 }),
        (parts, note, bytes) => {
          const written = writeVcard(
            [
              { name: 'N', value: parts },
              { name: 'NOTE', value: note },
              { name: 'PHOTO', types: ['JPEG'], value: bytes },
            ],
            version,
          )
          expect(
            Buffer.from(written)
              .toString('utf8')
              .split('\r\n')
              .every((line) => Buffer.byteLength(line) <= 300),
          ).toBe(true)
          const { card: read, issues } = only(written)
          expect(issues).toEqual([])
          const [n, noteRead, photo] = read.properties.filter((p) => p.name !== 'VERSION')
          expect(splitBack(n!.value, version)).toEqual(parts)
          expect(unescapeBack(noteRead!.value, version)).toBe(note)
          expect([...photo!.bytes!]).toEqual([...bytes])
        },
      ),
      { seed: 13 },
    )
  })

  it('refuses a name that is not a token: that is our own mistake', () => {
    expect(() => writeVcard([{ name: 'X\r\nFN', value: 'a' }], '3.0')).toThrow('tokens')
  })
})

const splitBack = (value: string, version: string) => splitValue(value, ';', version === '2.1').map((s) => s.replace(/\r\n/g, '\n'))
const unescapeBack = (value: string, version: string) => unescapeValue(value, version === '2.1').replace(/\r\n/g, '\n')
