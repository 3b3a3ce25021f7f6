import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { base64Bytes, base64Text, binaryBytes, binaryText, decodeCharset, joinBytes, utf8Bytes, utf8Text } from './bytes.ts'
import { quotedPrintableBytes, quotedPrintableText } from './quoted-printable.ts'

describe('bytes', () => {
  it('base64 is undone by its inverse, and is what everybody else writes (RFC 4648 section 4)', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        expect(base64Text(bytes)).toBe(Buffer.from(bytes).toString('base64'))
        expect([...base64Bytes(base64Text(bytes))!]).toEqual([...bytes])
      }),
      { seed: 31 },
    )
  })

  it.each([
    ['AQID', [1, 2, 3]],
    ['AQ ID\r\n BA==', [1, 2, 3, 4]],
    ['-_-_', [251, 255, 191]],
    ['', []],
    ['AQ', [1]],
  ])('%j is read', (text, bytes) => {
    expect([...base64Bytes(text)!]).toEqual(bytes)
  })

  it('what is no sign of it is passed over (RFC 2045 section 6.8)', () => {
    expect([...base64Bytes('AQ!I')!]).toEqual([1, 2])
  })
  it.each(['AQIDB', 'ü', '!!!A'])('%j is no base64', (text) => {
    expect(base64Bytes(text)).toBeUndefined()
  })

  it('binary text holds a byte in each character, whatever the bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 20_000 }), (bytes) => {
        expect(binaryText(bytes)).toHaveLength(bytes.length)
        expect(Buffer.from(binaryBytes(binaryText(bytes))).equals(Buffer.from(bytes))).toBe(true)
      }),
      { seed: 32, numRuns: 30 },
    )
  })

  it('UTF-8 is strict: a cut or overlong character is none', () => {
    expect(utf8Text(utf8Bytes('Zoë 山 💛'))).toBe('Zoë 山 💛')
    expect(utf8Text(Uint8Array.from([0xc3]))).toBeUndefined()
    expect(utf8Text(Uint8Array.from([0xc0, 0x80]))).toBeUndefined()
    expect(utf8Text(Uint8Array.from([0xed, 0xa0, 0x80]))).toBeUndefined()
  })

  it.each([
    ['iso-8859-1', [0xe9], 'é'],
    ['windows-1252', [0x80], '€'],
    ['shift_jis', [0x8e, 0x52], '山'],
    [' UTF-16LE ', [0x41, 0], 'A'],
  ])('the charset %s is known by its label', (label, bytes, text) => {
    expect(decodeCharset(Uint8Array.from(bytes), label)).toBe(text)
  })

  it('a charset nobody knows is said, not thrown', () => {
    expect(decodeCharset(Uint8Array.from([1]), 'x-harbour')).toBeUndefined()
  })

  it('joining copies only when both hold something', () => {
    const left = Uint8Array.from([1])
    expect(joinBytes([left, new Uint8Array(0)])).toBe(left)
    expect(joinBytes([new Uint8Array(0), left])).toBe(left)
    expect([...joinBytes([left, Uint8Array.from([2, 3])])]).toEqual([1, 2, 3])
  })
})

describe('quoted-printable (RFC 2045 section 6.7)', () => {
  it('is undone by its inverse, and no line is longer than 76', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), fc.integer({ min: 0, max: 60 }), (bytes, used) => {
        const text = quotedPrintableText(bytes, used)
        for (const [i, line] of text.split('\r\n').entries()) expect(line.length + (i === 0 ? used : 0)).toBeLessThanOrEqual(76)
        expect([...quotedPrintableBytes(text.replace(/=\r\n/g, '')).bytes]).toEqual([...bytes])
      }),
      { seed: 33 },
    )
  })

  it.each([
    ['=C3=AB', 'ë', 0],
    ['=c3=ab', 'ë', 0],
    ['a=', 'a', 1],
    ['a=ZZb', 'a=ZZb', 1],
    ['100=25', '100%', 0],
    ['plain ü', 'plain ü', 0],
  ])('%j', (text, read, damaged) => {
    const result = quotedPrintableBytes(text)
    expect([utf8Text(result.bytes), result.damaged]).toEqual([read, damaged])
  })
})
