import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { utf8Bytes } from '../../text/bytes.ts'
import { headerOf, readEncodedWords, readMime, readParameters, textOfPart, writeMime } from './index.ts'

const mime = (...lines: string[]) => readMime(utf8Bytes(lines.join('\r\n')))

describe('MIME (RFC 2045 to 2047, 2231)', () => {
  it('a message of one part is read with its charset', () => {
    const { parts } = readMime(
      Uint8Array.from([...utf8Bytes('Content-Type: text/plain; charset=iso-8859-1\r\n\r\nGr'), 0xfc, 0xdf, ...utf8Bytes('e')]),
    )
    expect(textOfPart(parts[0]!)).toEqual({ text: 'Grüße', isGuessed: false })
  })

  it('parts stand between the lines of their boundary, nested ones in order (RFC 2046 section 5.1)', () => {
    const { parts, issues } = mime(
      'Content-Type: multipart/related; boundary="o=1"',
      '',
      'preamble',
      '--o=1',
      'Content-Type: application/smil',
      '',
      '<smil/>',
      '--o=1',
      'Content-Type: multipart/mixed; boundary=in',
      '',
      '--in',
      '',
      'no headers',
      '--in',
      'Content-Type: text/plain',
      'Content-Transfer-Encoding: base64',
      '',
      'w7w=',
      '--in--',
      '--o=1--',
      'epilogue',
    )
    expect(parts.map((part) => part.type)).toEqual(['application/smil', 'text/plain', 'text/plain'])
    expect(parts.slice(1).map((part) => textOfPart(part).text)).toEqual(['no headers', 'ü'])
    expect(issues).toEqual([])
  })

  it('a boundary within a line is none, and one that is a part of another is none', () => {
    const { parts } = mime('Content-Type: multipart/mixed; boundary=b', '', '--b', '', 'a --b c', '--bc', '--b--')
    expect(parts.map((part) => textOfPart(part).text)).toEqual(['a --b c\r\n--bc'])
  })

  it.each([
    ['boundary-open', ['Content-Type: multipart/mixed; boundary=b', '', '--b', '', 'half']],
    ['boundary-missing', ['Content-Type: multipart/mixed; boundary=b', '', 'nothing']],
    ['damaged-base64', ['Content-Transfer-Encoding: base64', '', '!!!!']],
    ['damaged-quoted-printable', ['Content-Transfer-Encoding: quoted-printable', '', '=ZZ']],
  ])('names %s', (code, lines) => {
    expect(mime(...lines).issues).toContain(code)
  })

  it('a part elsewhere is named by its handle (RFC 2046 section 5.2.3)', () => {
    const { parts } = mime(
      'Content-Type: message/external-body; access-type=x-link;',
      ' handle="p1"; size=12',
      '',
      'Content-Type: image/jpeg; name="a b.jpg"',
      '',
    )
    expect(parts[0]!.external).toEqual({
      type: 'image/jpeg',
      fileName: 'a b.jpg',
      parameters: { 'access-type': 'x-link', handle: 'p1', size: '12' },
    })
  })

  it('parameters are continued and encoded (RFC 2231)', () => {
    expect(readParameters(`attachment; filename*0*=utf-8'en'Gr%C3; filename*1*=%BC; filename*2="n.jpg"; x="a;\\"b"`)).toEqual({
      value: 'attachment',
      parameters: { filename: 'Grün.jpg', x: 'a;"b' },
    })
  })

  it('encoded words are joined before they are decoded, so that none cuts a character (RFC 2047)', () => {
    expect(readEncodedWords('=?utf-8?B?8J+S?= =?utf-8?B?mw==?= ok')).toBe('💛 ok')
    expect(readEncodedWords('=?ISO-8859-1?Q?Gr=FC=DFe_an?= alle')).toBe('Grüße an alle')
    expect(readEncodedWords('plain = ? text')).toBe('plain = ? text')
  })

  it('written and read again says the same, whatever it says', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', maxLength: 120 }),
        fc.string({ unit: 'grapheme', maxLength: 200 }),
        fc.string({ unit: 'grapheme', minLength: 1, maxLength: 30 }),
        (subject, text, name) => {
          const clean = {
            subject: subject.replace(/[\r\n]+/g, ' ').trim(),
            text: text.replace(/\r/g, '').trimEnd(),
            name: name.replace(/[\r\n]/g, ' ').trim() || 'a',
          }
          const { headers, parts, issues } = readMime(
            utf8Bytes(
              writeMime(
                [['Subject', clean.subject]],
                [
                  { kind: 'text', text: clean.text },
                  { kind: 'external', type: 'image/png', fileName: clean.name, handle: 'h', sizeBytes: 4 },
                ],
              ),
            ),
          )
          expect(issues).toEqual([])
          expect(readEncodedWords(headerOf(headers, 'subject') ?? '')).toBe(clean.subject)
          expect(textOfPart(parts[0]!).text!.replace(/\r\n/g, '\n').trimEnd()).toBe(clean.text)
          expect(parts[1]!.external).toMatchObject({ type: 'image/png', fileName: clean.name })
        },
      ),
      { numRuns: 300 },
    )
  })

  it('bytes come back as they were', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
        const { parts } = readMime(
          utf8Bytes(
            writeMime(
              [],
              [
                { kind: 'text', text: 'a' },
                { kind: 'bytes', type: 'application/octet-stream', fileName: 'x', bytes },
              ],
            ),
          ),
        )
        expect([...parts[1]!.content]).toEqual([...bytes])
      }),
    )
  })
})
