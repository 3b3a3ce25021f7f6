import { decodeCharset } from '../../text/bytes.ts'

/** GSM 7-bit default alphabet (3GPP TS 23.038 section 6.2.1); the sign at 0x1B opens the extension table. */
const alphabet =
  '@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞ\u001bÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà'
/** Its extension table (section 6.2.1.1). */
const extension: Readonly<Record<number, string>> = {
  0x0a: '\f',
  0x14: '^',
  0x28: '{',
  0x29: '}',
  0x2f: '\\',
  0x3c: '[',
  0x3d: '~',
  0x3e: ']',
  0x40: '|',
  0x65: '€',
}

/** The user data of one short message as the network carries it. */
interface Piece {
  readonly text: string
  /** Which of how many it is, where it is one of several. */
  readonly part: { readonly of: string; readonly total: number; readonly at: number } | undefined
}

/**
 * The text of a message given as the network’s own units: SMS-DELIVER or SMS-SUBMIT in hexadecimal (3GPP TS 23.040
 * section 9.2.2), with or without the service centre’s address before it; one that came in several is joined in order.
 * @returns undefined where it is no such unit, holds data or an alphabet we have no table of, or lacks a part
 */
export function textOfPdus(pieces: readonly string[]): string | undefined {
  const read = pieces.map((hex) => readPdu(hex.replace(/\s+/g, '')))
  if (read.length === 0 || read.some((piece) => piece === undefined)) return undefined
  const all = read as Piece[]
  const [first] = all
  if (all.length === 1 && !first!.part) return first!.text
  // each must be a part of the same message, and none may lack
  if (all.some(({ part }) => !part || part.of !== first!.part?.of || part.total !== first!.part.total)) return undefined
  const byPlace = new Map(all.map((piece) => [piece.part!.at, piece.text]))
  const { total } = first!.part!
  if (byPlace.size !== total) return undefined
  const texts = Array.from({ length: total }, (_, i) => byPlace.get(i + 1))
  return texts.includes(undefined) ? undefined : texts.join('')
}

function readPdu(hex: string): Piece | undefined {
  if (hex.length % 2 !== 0 || hex.length > 800 || !/^[0-9a-f]+$/i.test(hex)) return undefined
  const bytes = Uint8Array.from({ length: hex.length / 2 }, (_, i) => Number.parseInt(hex.slice(2 * i, 2 * i + 2), 16))
  return readUnit(bytes, 0) ?? readUnit(bytes, 1 + bytes[0]!)
}

/** @returns undefined unless the unit ends where its bytes do */
function readUnit(bytes: Uint8Array, from: number): Piece | undefined {
  let at = from
  const first = bytes[at++]
  if (first === undefined) return undefined
  const type = first & 3
  if (type > 1) return undefined
  const isSubmit = type === 1
  if (isSubmit) at++
  const digits = bytes[at]
  if (digits === undefined || digits > 20) return undefined
  // the address: its length in digits, its type, two digits an octet
  at += 2 + Math.ceil(digits / 2)
  const coding = bytes[at + 1]
  at += 2
  const validity = (first >> 3) & 3
  at += isSubmit ? (validity === 0 ? 0 : validity === 2 ? 1 : 7) : 7
  const length = bytes[at++]
  if (coding === undefined || length === undefined) return undefined
  return readData(bytes.subarray(at), { length, alphabet: alphabetOf(coding), hasHeader: (first & 0x40) !== 0 })
}

type Alphabet = 'seven' | 'ucs2' | undefined

/** By the data coding scheme (TS 23.038 section 4); data and compressed text have none. */
function alphabetOf(coding: number): Alphabet {
  const group = coding >> 4
  if (group < 8) return coding & 0x20 ? undefined : (['seven', undefined, 'ucs2', undefined] as const)[(coding >> 2) & 3]
  if (group === 0xc || group === 0xd) return 'seven'
  if (group === 0xe) return 'ucs2'
  return group === 0xf && (coding & 4) === 0 ? 'seven' : undefined
}

interface UserData {
  /** In septets or octets. */
  readonly length: number
  readonly alphabet: Alphabet
  readonly hasHeader: boolean
}

function readData(data: Uint8Array, { length, alphabet, hasHeader }: UserData): Piece | undefined {
  if (alphabet === undefined) return undefined
  const octets = alphabet === 'seven' ? Math.ceil((length * 7) / 8) : length
  if (data.length !== octets) return undefined
  const headerLength = hasHeader ? 1 + (data[0] ?? 0) : 0
  if (headerLength > octets) return undefined
  const header = hasHeader ? readHeader(data.subarray(1, headerLength)) : { part: undefined }
  if (!header) return undefined
  const text =
    alphabet === 'ucs2'
      ? decodeCharset(data.subarray(headerLength), 'utf-16be')
      : sevenBitText(data, { from: Math.ceil((headerLength * 8) / 7), to: length })
  return text === undefined ? undefined : { text, part: header.part }
}

/** @returns undefined where it names an alphabet of its own (national shift tables, TS 23.040 section 9.2.3.24.15) */
function readHeader(header: Uint8Array): { part: Piece['part'] } | undefined {
  let part: Piece['part']
  for (let at = 0; at + 1 < header.length;) {
    const [what, size] = [header[at]!, header[at + 1]!]
    const value = header.subarray(at + 2, at + 2 + size)
    if (value.length !== size) return undefined
    if (what === 0x24 || what === 0x25) return undefined
    if (what === 0x00 && size === 3) part = { of: String(value[0]), total: value[1]!, at: value[2]! }
    if (what === 0x08 && size === 4) part = { of: `${value[0]} ${value[1]}`, total: value[2]!, at: value[3]! }
    at += 2 + size
  }
  return { part }
}

/** Septets packed into octets, the lowest bit first (TS 23.038 section 6.1.2.1). */
function sevenBitText(data: Uint8Array, { from, to }: { from: number; to: number }): string | undefined {
  let out = ''
  let isExtended = false
  for (let n = from; n < to; n++) {
    const bit = n * 7
    const octet = bit >> 3
    const septet = (((data[octet]! | ((data[octet + 1] ?? 0) << 8)) >> (bit & 7)) & 0x7f) as number
    if (isExtended) {
      // what the table does not have is shown as what it would be without it
      out += extension[septet] ?? alphabet[septet]!
      isExtended = false
    } else if (septet === 0x1b) isExtended = true
    else out += alphabet[septet]!
  }
  return out
}
