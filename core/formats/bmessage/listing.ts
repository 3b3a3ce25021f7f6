import { utf8Bytes, utf8Text } from '../../text/bytes.ts'
import { listingAttributes, type ListingAttribute } from './grammar.ts'

export type ListingEntry = Partial<Record<ListingAttribute, string>>

const known: ReadonlySet<string> = new Set(listingAttributes)
const entities: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }

/**
 * Cuts a record of the link into its entry of the message listing (message access profile 1.4, section 3.1.6: one
 * `msg` element) and the message object behind it. Undefined when there is no entry.
 */
export function readListingEntry(bytes: Uint8Array): { entry: ListingEntry; object: Uint8Array } | undefined {
  // the entry is one line; what stands behind it is bytes
  const end = bytes.indexOf(10)
  const line = end < 0 ? undefined : utf8Text(bytes.subarray(0, end))
  if (!line?.startsWith('<msg ')) return undefined
  const entry: ListingEntry = {}
  // by hand: a phone lists hundreds of thousands of these, and a pattern costs three times as much
  for (let at = 4; ; ) {
    const equals = line.indexOf('=', at)
    const open = line.indexOf('"', equals)
    const close = line.indexOf('"', open + 1)
    if (equals < 0 || open < 0 || close < 0) break
    const isNext = open === equals + 1 || line.slice(equals + 1, open).trim() === ''
    const before = line.slice(at, equals).trimEnd()
    const name = before.slice(before.lastIndexOf(' ') + 1)
    if (isNext && known.has(name)) {
      const value = line.slice(open + 1, close)
      entry[name as ListingAttribute] = value.includes('&') ? unescape(value) : value
    }
    at = isNext ? close + 1 : equals + 1
  }
  return { entry, object: bytes.subarray(end + 1) }
}

/** The entry as one line, in front of a message object. */
export function writeListingEntry(entry: ListingEntry): string {
  const attributes = Object.entries(entry).flatMap(([name, value]) => (value === undefined || value === '' ? [] : [`${name}="${escape(value)}"`]))
  return `<msg ${attributes.join(' ')}/>\r\n`
}

function unescape(text: string): string {
  return text.replace(/&(?:#(\d+)|#x([0-9a-f]+)|([a-z]+));/gi, (whole, decimal: string | undefined, hex: string | undefined, name: string | undefined) => {
    const point = decimal !== undefined ? Number(decimal) : hex !== undefined ? Number.parseInt(hex, 16) : undefined
    if (point !== undefined) return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : '\ufffd'
    return entities[name!.toLowerCase()] ?? whole
  })
}

function escape(text: string): string {
  return text.replace(/[&<>"\r\n\t]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? `&#${c.charCodeAt(0)};`)
}

/** Bytes of a whole record: entry and object. */
export function joinRecord(entry: ListingEntry, object: string): Uint8Array {
  return utf8Bytes(writeListingEntry(entry) + object)
}
