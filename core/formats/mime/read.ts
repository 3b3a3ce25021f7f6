import { base64Bytes, binaryBytes, binaryText, decodeCharset, utf8Text } from '../../text/bytes.ts'
import { countWork } from '../../text/work.ts'
import { quotedPrintableBytes } from '../../text/quoted-printable.ts'
import { headerOf, readHeaders, readParameters, type MimeHeader } from './header.ts'

/** One entity that is no multipart (RFC 2045). */
export interface MimePart {
  readonly headers: readonly MimeHeader[]
  readonly type: string
  readonly parameters: Readonly<Record<string, string>>
  /** Empty, `inline`, `attachment`, `reaction` (RFC 9078). */
  readonly disposition: string
  readonly fileName: string
  /** Decoded; of a `message/external-body` the headers of what it stands for. */
  readonly content: Uint8Array
  /** It came by its own handle: `message/external-body` (RFC 2046 section 5.2.3). */
  readonly external: { readonly parameters: Readonly<Record<string, string>>; readonly type: string; readonly fileName: string } | undefined
}

export interface MimeMessage {
  readonly headers: readonly MimeHeader[]
  readonly parts: readonly MimePart[]
  readonly issues: readonly string[]
}

const mostDepth = 8
const mostParts = 500

/** Reads a message (RFC 5322) with its parts (RFC 2046), nested ones flattened in order. Never throws on data. */
export function readMime(bytes: Uint8Array): MimeMessage {
  const issues: string[] = []
  const parts: MimePart[] = []
  const text = binaryText(bytes)
  const top = cutEntity(text)
  readEntity(top, { parts, issues, depth: 0 })
  return { headers: top.headers, parts, issues }
}

interface Entity {
  readonly headers: readonly MimeHeader[]
  readonly body: string
}

/** What makes a beginning one of headers (RFC 5322 section 3.6, RFC 2045 section 3). */
const knownHeader =
  /^(content-|mime-|x-|resent-|(date|from|sender|reply-to|to|cc|bcc|message-id|in-reply-to|references|subject|comments|keywords)$)/

/** Headers end at the first empty line; an entity may have none (RFC 2046 section 5.1). */
function cutEntity(text: string): Entity {
  if (/^\r?\n/.test(text)) return { headers: [], body: text.replace(/^\r?\n/, '') }
  const end = /\r?\n\r?\n/.exec(text)
  const head = end ? text.slice(0, end.index) : text
  // some write the text alone: “see you at 8”, and it may hold a colon
  if (!/^[!-9;-~]+[ \t]*:/.test(head) || !readHeaders(head).some(({ name }) => knownHeader.test(name))) return { headers: [], body: text }
  const headers = readHeaders(head).map(({ name, value }) => ({ name, value: utf8Text(binaryBytes(value)) ?? value }))
  return { headers, body: end ? text.slice(end.index + end[0].length) : '' }
}

function readEntity({ headers, body }: Entity, into: { parts: MimePart[]; issues: string[]; depth: number }): void {
  const { value: type, parameters } = readParameters(headerOf(headers, 'content-type') ?? 'text/plain')
  if (into.parts.length >= mostParts) {
    into.issues.push('too-many-parts')
    return
  }
  if (type.startsWith('multipart/') && parameters.boundary && into.depth < mostDepth) {
    for (const piece of cutParts(body, parameters.boundary, into.issues)) readEntity(cutEntity(piece), { ...into, depth: into.depth + 1 })
    return
  }
  const { value: disposition, parameters: more } = readParameters(headerOf(headers, 'content-disposition') ?? '')
  const decoded = decode(body, headerOf(headers, 'content-transfer-encoding') ?? '7bit', into.issues)
  const inner = type === 'message/external-body' ? readHeaders(body) : undefined
  const innerType = inner && readParameters(headerOf(inner, 'content-type') ?? 'application/octet-stream')
  into.parts.push({
    headers,
    type,
    parameters,
    disposition,
    fileName: more.filename ?? parameters.name ?? '',
    content: decoded,
    external: innerType && { parameters, type: innerType.value, fileName: innerType.parameters.name ?? more.filename ?? '' },
  })
}

/** Parts between the lines of a boundary (RFC 2046 section 5.1.1). */
function cutParts(body: string, boundary: string, issues: string[]): string[] {
  const line = boundary.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
  const found = [...body.matchAll(new RegExp(`(^|\\r?\\n)--${line}(--)?[ \\t]*(?=\\r?\\n|$)`, 'g'))]
  const parts: string[] = []
  found.forEach((match, i) => {
    if (match[2]) return
    const from = match.index + match[0].length
    const to = found[i + 1]?.index
    // what breaks off is read as far as it goes, and said
    if (to === undefined) issues.push('boundary-open')
    parts.push(body.slice(from, to ?? body.length).replace(/^\r?\n/, ''))
  })
  if (found.length === 0) issues.push('boundary-missing')
  return parts
}

function decode(body: string, how: string, issues: string[]): Uint8Array {
  switch (how.trim().toLowerCase()) {
    case 'base64': {
      const bytes = base64Bytes(body)
      if (!bytes) issues.push('damaged-base64')
      return bytes ?? new Uint8Array()
    }
    case 'quoted-printable': {
      const { bytes, damaged } = quotedPrintableBytes(withoutSoftBreaks(body))
      if (damaged > 0) issues.push('damaged-quoted-printable')
      return bytes
    }
    default:
      return binaryBytes(body)
  }
}

/** Blanks at the end of a line were added on the way, and a line that ends with `=` goes on (RFC 2045 section 6.7). */
function withoutSoftBreaks(body: string): string {
  const lines = body.split('\n')
  let out = ''
  lines.forEach((line, i) => {
    const isLast = i === lines.length - 1
    // what stands before no line end is content
    let end = line.length
    const hasCr = !isLast && line.endsWith('\r')
    if (hasCr) end--
    if (!isLast) while (end > 0 && (line[end - 1] === ' ' || line[end - 1] === '\t')) end--
    countWork(line.length - end + 1)
    const isSoft = !isLast && line[end - 1] === '='
    out += isSoft ? line.slice(0, end - 1) : line.slice(0, end) + (isLast ? '' : hasCr ? '\r\n' : '\n')
  })
  return out
}

/** The text of a part by its charset; undefined when nobody knows it. */
export function textOfPart({ content, parameters }: MimePart): { text: string | undefined; isGuessed: boolean } {
  const charset = parameters.charset ?? 'utf-8'
  if (!/^(utf-?8|us-ascii|ascii)$/i.test(charset)) return { text: decodeCharset(content, charset), isGuessed: false }
  const text = utf8Text(content)
  return { text: text ?? decodeCharset(content, 'windows-1252'), isGuessed: text === undefined }
}
