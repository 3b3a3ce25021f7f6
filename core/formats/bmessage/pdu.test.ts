import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { textOfPdus } from './pdu.ts'

const alphabet =
  '@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞ\u001bÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà'
const hex = (bytes: readonly number[]) => bytes.map((byte) => byte.toString(16).padStart(2, '0')).join('')

/** Packs as the network does, by bits and not by the reader’s arithmetic. */
function packed(septets: readonly number[], fill: number): number[] {
  const bits = '0'.repeat(fill).split('').map(Number)
  for (const septet of septets) for (let bit = 0; bit < 7; bit++) bits.push((septet >> bit) & 1)
  const octets: number[] = []
  for (let i = 0; i < bits.length; i += 8) octets.push(bits.slice(i, i + 8).reduce((sum, bit, at) => sum + (bit << at), 0))
  return octets
}
const septetsOf = (text: string) =>
  [...text].flatMap((c) => (c === '€' ? [0x1b, 0x65] : c === '{' ? [0x1b, 0x28] : c === '\\' ? [0x1b, 0x2f] : [alphabet.indexOf(c)]))

function deliver(text: string, { header = [] as number[], centre = '', submit = false } = {}): string {
  const isSeven = [...text].every((c) => '€{\\'.includes(c) || alphabet.includes(c))
  const udh = header.length > 0 ? [header.length, ...header] : []
  const septets = isSeven ? septetsOf(text) : []
  const fill = isSeven ? (7 - ((udh.length * 8) % 7)) % 7 : 0
  const body = isSeven ? [...udh, ...packed(septets, fill)] : [...udh, ...[...Buffer.from(text, 'utf16le').swap16()]]
  const length = isSeven ? Math.ceil((udh.length * 8) / 7) + septets.length : body.length
  const address = [0x0b, 0x91, 0x44, 0x77, 0x00, 0x09, 0x10, 0xf0]
  const head = submit
    ? [0x11 | (udh.length > 0 ? 0x40 : 0), 0x00, ...address, 0x00, isSeven ? 0 : 8, 0xaa]
    : [0x04 | (udh.length > 0 ? 0x40 : 0), ...address, 0x00, isSeven ? 0 : 8, 0x62, 0x11, 0x62, 0x80, 0x00, 0x00, 0x00]
  return centre + hex([...head, length, ...body])
}

describe('short messages as the network carries them (3GPP TS 23.040)', () => {
  it('one that is known from outside, with the service centre before it', () => {
    expect(textOfPdus(['07917283010010F5040BC87238880900F10000993092516195800AE8329BFD4697D9EC37'])).toBe('hellohello')
  })
  it.each([
    ['a text', 'see you at 8'],
    ['the extension table', 'it costs 5 € {or less} \\'],
    ['what seven bits have no place for', 'Käse, 山 and 🧡'],
    ['nothing', ''],
    ['a hundred and sixty', 'x'.repeat(160)],
  ])('%s, received and sent, with a centre and without', (_, text) => {
    for (const wish of [{}, { submit: true }, { centre: '07917283010010F5' }]) expect(textOfPdus([deliver(text, wish)])).toBe(text)
  })
  it('one in several parts, in any order; one that lacks a part is none', () => {
    const part = (at: number, text: string, of = 7) => deliver(text, { header: [0, 3, of, 3, at] })
    const parts = [part(2, 'the second, '), part(3, 'the third'), part(1, 'the first, ')]
    expect(textOfPdus(parts)).toBe('the first, the second, the third')
    expect(textOfPdus(parts.slice(1))).toBeUndefined()
    expect(textOfPdus([...parts.slice(0, 2), part(1, 'of another', 8)])).toBeUndefined()
    expect(textOfPdus([deliver('wide', { header: [8, 4, 1, 2, 1, 1] })])).toBe('wide')
  })
  it.each([
    ['a text', 'see you at 8'],
    ['an odd number of digits', deliver('hi').slice(1)],
    ['one that is cut', deliver('hello there').slice(0, -4)],
    ['data', deliver('hi').replace('0000621162', '0004621162')],
    ['a national shift table', deliver('hi', { header: [0x25, 1, 1] })],
    ['a status report', '06' + deliver('hi').slice(2)],
  ])('%s is none, and never shown as digits', (_, text) => expect(textOfPdus([text])).toBeUndefined())

  it('any text of its alphabet comes back as it was; no bytes throw', () => {
    const sign = fc.constantFrom(...[...alphabet].filter((c) => c !== '\u001b'), '€', '{', '\\')
    fc.assert(
      fc.property(fc.string({ unit: sign, maxLength: 70 }), fc.boolean(), (text, submit) => {
        expect(textOfPdus([deliver(text, { submit })])).toBe(text)
      }),
      { seed: 12, numRuns: 500 },
    )
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (bytes) => void textOfPdus([hex([...bytes])])),
      { seed: 13, numRuns: 2000 },
    )
  })
})
