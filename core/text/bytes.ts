const encoder = new TextEncoder()
const strict = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true })
const lenient = new TextDecoder('utf-8', { ignoreBOM: true })
const BASE64 = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'
const base64Codes = Uint8Array.from(BASE64, (sign) => sign.charCodeAt(0))
const base64Values = new Int8Array(128).fill(-1)
for (let i = 0; i < 64; i++) base64Values[BASE64.charCodeAt(i)] = i
base64Values['-'.charCodeAt(0)] = 62
base64Values['_'.charCodeAt(0)] = 63

export function utf8Bytes(text: string): Uint8Array {
  return encoder.encode(text)
}

/** Decodes UTF-8 strictly; `undefined` when the bytes are not UTF-8. */
export function utf8Text(bytes: Uint8Array): string | undefined {
  try {
    return strict.decode(bytes)
  } catch {
    return undefined
  }
}

/** One character (0 to 255) for each byte: text whose charset is not known yet. */
export function binaryText(bytes: Uint8Array): string {
  // most records are ASCII, where each byte is its own character in UTF-8 too, and an engine's decoder is far quicker
  const text = lenient.decode(bytes)
  if (text.length === bytes.length && !text.includes('\ufffd')) return text
  let made = ''
  for (let at = 0; at < bytes.length; at += 8192)
    made += String.fromCharCode.apply(null, bytes.subarray(at, at + 8192) as unknown as number[])
  return made
}

/** The inverse of {@link binaryText}. */
export function binaryBytes(text: string): Uint8Array {
  const bytes = new Uint8Array(text.length)
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i) & 0xff
  return bytes
}

/**
 * Decodes bytes by a charset's label (WHATWG Encoding).
 * `undefined` when the label is unknown.
 */
export function decodeCharset(bytes: Uint8Array, label: string): string | undefined {
  try {
    const decoder = new TextDecoder(label.trim())
    if (decoder.encoding === 'windows-1252') return windows1252Text(bytes)
    return decoder.decode(bytes)
  } catch {
    return undefined
  }
}

/** The 32 places in which windows-1252 is not ISO 8859-1 (WHATWG index); some engines decode them as controls. */
const windows1252 = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ'

function windows1252Text(bytes: Uint8Array): string {
  return binaryText(bytes).replace(/[\x80-\x9f]/g, (c) => windows1252[c.charCodeAt(0) - 0x80]!)
}

/**
 * Base64 (RFC 4648, either alphabet). White space, padding and whatever else is no sign of it are passed over, as
 * RFC 2045 section 6.8 has it; `undefined` when nothing is left of a text, or its last group is cut.
 */
export function base64Bytes(text: string): Uint8Array | undefined {
  const out = new Uint8Array(Math.ceil((text.length * 3) / 4))
  let length = 0
  let buffer = 0
  let bits = 0
  let signs = 0
  let strays = 0
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    if (code === 61 || code <= 32) continue
    const value = code < 128 ? base64Values[code]! : -1
    if (value < 0) {
      strays++
      continue
    }
    signs++
    buffer = ((buffer << 6) | value) & 0xffffff
    bits += 6
    if (bits >= 8) {
      bits -= 8
      out[length++] = (buffer >> bits) & 0xff
    }
  }
  if (signs % 4 === 1 || (strays > 0 && signs < strays)) return undefined
  return out.subarray(0, length)
}

/** Base64 with padding (RFC 4648 section 4). */
export function base64Text(bytes: Uint8Array): string {
  const out = new Uint8Array(Math.ceil(bytes.length / 3) * 4).fill(61)
  let to = 0
  for (let i = 0; i < bytes.length; i += 3) {
    const left = bytes.length - i
    const group = (bytes[i]! << 16) | ((bytes[i + 1] ?? 0) << 8) | (bytes[i + 2] ?? 0)
    out[to] = base64Codes[group >> 18]!
    out[to + 1] = base64Codes[(group >> 12) & 63]!
    if (left > 1) out[to + 2] = base64Codes[(group >> 6) & 63]!
    if (left > 2) out[to + 3] = base64Codes[group & 63]!
    to += 4
  }
  // signs one by one would make a text of as many pieces
  return lenient.decode(out)
}

/** Joins byte arrays; copies only when more than one holds something. */
export function joinBytes(pieces: readonly Uint8Array[]): Uint8Array {
  const some = pieces.filter((piece) => piece.length > 0)
  if (some.length <= 1) return some[0] ?? new Uint8Array(0)
  const all = new Uint8Array(some.reduce((sum, piece) => sum + piece.length, 0))
  let at = 0
  for (const piece of some) {
    all.set(piece, at)
    at += piece.length
  }
  return all
}

/** Base64 by the alphabet that stands in addresses (RFC 4648 section 5), without its padding. */
export function asBase64Url(base64: string): string {
  return base64.replace(/\+/g, '-').replace(/\//g, '_').replace(/=+$/, '')
}
