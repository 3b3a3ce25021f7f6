import { base64Bytes, binaryBytes, decodeCharset, utf8Bytes, utf8Text } from '../../text/bytes.ts'
import { quotedPrintableBytes } from '../../text/quoted-printable.ts'
import { bareEncodings, caps } from './grammar.ts'
import type { Property, VcardIssue } from './issue.ts'

interface Context {
  readonly binary: boolean
  readonly line: number
  readonly issues: VcardIssue[]
}

type Params = Record<string, string[]>

const noParams: Params = Object.freeze({})

/**
 * Reads one content line: group, name, parameters, value; undoes transfer encoding and charset.
 * What can't be read is put to `context.issues` and the line is left out.
 */
export function readProperty(text: string, context: Context): Property | undefined {
  const colon = valueColon(text)
  if (colon < 0) {
    context.issues.push({ code: 'line-without-colon', line: context.line, severity: 'lossy' })
    return undefined
  }
  let head = text.slice(0, colon)
  const raw = text.slice(colon + 1)
  let params = noParams
  const semicolon = head.indexOf(';')
  if (semicolon >= 0) {
    params = readParams(head.slice(semicolon + 1))
    head = head.slice(0, semicolon)
  }
  const dot = head.indexOf('.')
  const group = dot > 0 ? head.slice(0, dot) : undefined
  const name = upperName(dot < 0 ? head : head.slice(dot + 1))
  const isPlain = params === noParams && !context.binary && (raw.charCodeAt(0) | 32) !== 100
  const decoded = isPlain ? { value: raw } : decodeValue(raw, { name, params, context })
  return group === undefined ? { name, params, ...decoded } : { group, name, params, ...decoded }
}

const upperNames = new Map<string, string>()

/** Few names fill a file: each spelling is put in upper case once. */
function upperName(text: string): string {
  const known = upperNames.get(text)
  if (known !== undefined) return known
  const name = text.trim().toUpperCase()
  if (upperNames.size < 500) upperNames.set(text, name)
  return name
}

/** The colon that ends the head: the first one outside quotes. */
function valueColon(text: string): number {
  const colon = text.indexOf(':')
  const quote = text.indexOf('"')
  if (quote < 0 || quote > colon) return colon
  let quoted = false
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    if (c === 34) quoted = !quoted
    else if (c === 58 && !quoted) return i
  }
  return colon
}

function readParams(text: string): Params {
  const params: Params = {}
  for (const part of splitOutsideQuotes(text, ';').slice(0, caps.params)) {
    const equals = part.indexOf('=')
    // X-CUSTOM(CHARSET=…,ENCODING=…,label) is one bare word, whatever stands in its brackets
    const isBracketed = /^\s*X-CUSTOM\(/i.test(part)
    if (equals < 0 || isBracketed) {
      // some write a list where 2.1 has one word each: TEL;WORK,PREF
      for (const piece of isBracketed ? [part] : part.split(',')) {
        const bare = piece.trim()
        if (bare !== '') add(params, bareEncodings.has(bare.toUpperCase()) ? 'ENCODING' : 'TYPE', bare)
      }
      continue
    }
    const name = part.slice(0, equals).trim().toUpperCase()
    for (const value of splitOutsideQuotes(part.slice(equals + 1), ',')) {
      const plain = unquote(value)
      // TYPE="home,work" is written by many phones for a list (erratum to RFC 6350 section 5.6)
      if (name === 'TYPE') for (const piece of plain.split(',')) add(params, name, piece)
      else add(params, name, plain)
    }
  }
  return params
}

function add(params: Params, name: string, value: string) {
  ;(params[name] ??= []).push(value)
}

function splitOutsideQuotes(text: string, separator: string): string[] {
  if (!text.includes('"')) return text.split(separator)
  const parts: string[] = []
  let from = 0
  let quoted = false
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '"') quoted = !quoted
    else if (text[i] === separator && !quoted) {
      parts.push(text.slice(from, i))
      from = i + 1
    }
  }
  parts.push(text.slice(from))
  return parts
}

/** Takes off quotes and undoes the caret escapes of RFC 6868. */
function unquote(text: string): string {
  const trimmed = text.trim()
  const inner = trimmed.length > 1 && trimmed.startsWith('"') && trimmed.endsWith('"') ? trimmed.slice(1, -1) : trimmed
  if (!inner.includes('^')) return inner
  return inner.replace(/\^([n^'])/g, (_, c: string) => (c === 'n' ? '\n' : c === '^' ? '^' : '"'))
}

interface Encoded {
  readonly name: string
  readonly params: Params
  readonly context: Context
}

function decodeValue(raw: string, { name, params, context }: Encoded): { value: string; bytes?: Uint8Array } {
  const encoding = params.ENCODING?.[0]?.toUpperCase()
  const note = (code: VcardIssue['code'], severity: VcardIssue['severity']) =>
    context.issues.push({ code, property: name, line: context.line, severity })

  if (encoding === 'BASE64' || encoding === 'B') {
    const bytes = base64Bytes(raw)
    if (!bytes) note('damaged-base64', 'lossy')
    return bytes ? { value: '', bytes } : { value: '' }
  }
  if (/^data:/i.test(raw)) {
    const data = /^data:[^,]*;base64,(.*)$/is.exec(raw)
    const bytes = data ? base64Bytes(data[1]!) : undefined
    if (data && !bytes) note('damaged-base64', 'lossy')
    if (bytes) return { value: '', bytes }
  }
  const charset = params.CHARSET?.[0]
  if (encoding === 'QUOTED-PRINTABLE') {
    const { bytes, damaged } = quotedPrintableBytes(raw)
    if (damaged > 0) note('damaged-quoted-printable', 'lossy')
    return { value: toText(bytes, charset, note) }
  }
  if (context.binary) return { value: toText(binaryBytes(raw), charset, note) }
  if (charset && !/^utf-?8$/i.test(charset) && /[^\x00-\x7f]/.test(raw)) {
    return { value: toText(utf8Bytes(raw), charset, note) }
  }
  return { value: raw }
}

function toText(
  bytes: Uint8Array,
  charset: string | undefined,
  note: (code: VcardIssue['code'], severity: VcardIssue['severity']) => void,
): string {
  if (charset && !/^(utf-?8|us-ascii)$/i.test(charset)) {
    const text = decodeCharset(bytes, charset)
    if (text !== undefined) return text
    note('charset-unknown', 'lossy')
  }
  const text = utf8Text(bytes)
  if (text !== undefined) return text
  note('charset-guessed', 'harmless')
  return decodeCharset(bytes, 'windows-1252')!
}
