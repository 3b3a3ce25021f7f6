import { decodeCharset, utf8Text } from '../../text/bytes.ts'

/**
 * A calendar’s bytes as text: UTF-8, also where a fold cuts a character (RFC 5545 section 3.1 has it so, and some do);
 * UTF-16 by its mark or by the zero beside its first letter; else windows-1252.
 */
export function calendarText(bytes: Uint8Array): string {
  const [a, b] = bytes
  if ((a === 0xff && b === 0xfe) || (a === 0x42 && b === 0)) return decodeCharset(bytes, 'utf-16le')!
  if ((a === 0xfe && b === 0xff) || (a === 0 && b === 0x42)) return decodeCharset(bytes, 'utf-16be')!
  return utf8Calendar(bytes) ?? decodeCharset(bytes, 'windows-1252')!
}

/** As UTF-8; undefined where it is none, however it is folded. */
export function utf8Calendar(bytes: Uint8Array): string | undefined {
  return utf8Text(bytes) ?? utf8Text(unfolded(bytes))
}

function unfolded(bytes: Uint8Array): Uint8Array {
  const out = new Uint8Array(bytes.length)
  let length = 0
  for (let i = 0; i < bytes.length; i++) {
    if (bytes[i] === 10 && (bytes[i + 1] === 32 || bytes[i + 1] === 9)) {
      while (length > 0 && out[length - 1] === 13) length--
      i++
    } else out[length++] = bytes[i]!
  }
  return out.subarray(0, length)
}
