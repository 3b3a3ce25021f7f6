import { invariant } from '../../invariant.ts'
import type { VcardVersion } from './grammar.ts'
import { base64Text, utf8Bytes } from '../../text/bytes.ts'
import { foldLine } from '../../text/fold.ts'
import { quotedPrintableText } from '../../text/quoted-printable.ts'
import { escapeOldPart, escapeOldText, escapeValue } from './value.ts'

/** A property in plain form: parts are cut, nothing is escaped yet. */
export interface PlainProperty {
  readonly group?: string
  readonly name: string
  /** Bare words in 2.1, TYPE= in 3.0 and 4.0. */
  readonly types?: readonly string[]
  readonly params?: Readonly<Record<string, string>>
  /** One text, the parts of a structured value, or inline bytes. */
  readonly value: string | readonly string[] | Uint8Array
  /** How parts are joined; `;` unless said. */
  readonly separator?: ';' | ','
  /** An address: nothing in it is escaped (RFC 6350 section 4.2). */
  readonly isRaw?: boolean
}

/**
 * Writes one card strictly: CRLF, escapes and folding of its version, quoted-printable with CHARSET where 2.1 needs it.
 * @throws Error when a name, group or parameter is not a token of the grammar: a mistake of ours, never of data
 */
export function writeVcard(properties: readonly PlainProperty[], version: VcardVersion): Uint8Array {
  const lines = ['BEGIN:VCARD', `VERSION:${version}`]
  for (const property of properties) lines.push(version === '2.1' ? writeOld(property) : writeNew(property))
  lines.push('END:VCARD')
  return utf8Bytes(lines.join('\r\n') + '\r\n')
}

function head({ group, name, types = [], params = {} }: PlainProperty, isOld: boolean): string {
  for (const token of [name, ...types, ...Object.keys(params), ...(group ? [group] : [])]) {
    invariant(/^[A-Za-z0-9-]+$/.test(token), 'names and types are tokens of the grammar')
  }
  let text = group ? `${group}.${name}` : name
  if (types.length > 0) text += isOld ? ';' + types.join(';') : `;TYPE=${types.join(',')}`
  for (const [key, value] of Object.entries(params)) {
    invariant(!/["\r\n]/.test(value), 'parameter values hold no quote or line break')
    text += `;${key}=${/[;:,]/.test(value) ? `"${value}"` : value}`
  }
  return text
}

function writeNew(property: PlainProperty): string {
  const { value } = property
  if (value instanceof Uint8Array) return foldLine(`${head(property, false)};ENCODING=b:${base64Text(value)}`)
  const text =
    typeof value === 'string' ? (property.isRaw ? value : escapeValue(value)) : value.map(escapeValue).join(property.separator ?? ';')
  return foldLine(`${head(property, false)}:${text}`)
}

function writeOld(property: PlainProperty): string {
  const { value } = property
  const start = head(property, true)
  if (value instanceof Uint8Array) {
    const body = base64Text(value).replace(/.{1,72}/g, '\r\n $&')
    // a blank line ends a base64 value in 2.1
    return `${start};ENCODING=BASE64:${body}\r\n`
  }
  const text =
    typeof value === 'string'
      ? escapeOldText(value)
      : value.map((part) => escapeOldPart(part, property.separator ?? ';')).join(property.separator ?? ';')
  if (/^[\x20-\x7e]*$/.test(text) && text.length < 200 && !text.startsWith(' ') && !text.endsWith(' ')) return `${start}:${text}`
  const quoted = `${start};CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:`
  return quoted + quotedPrintableText(utf8Bytes(text.replace(/\r\n|\r|\n/g, '\r\n')), quoted.length % 70)
}
