import { base64Bytes, binaryBytes, decodeCharset, utf8Bytes } from '../../text/bytes.ts'
import { countWork } from '../../text/work.ts'
import { quotedPrintableBytes } from '../../text/quoted-printable.ts'

export interface MimeHeader {
  readonly name: string
  readonly value: string
}

/** Headers of an entity, unfolded (RFC 5322 section 2.2.3), names in lower case. */
export function readHeaders(text: string): MimeHeader[] {
  const out: MimeHeader[] = []
  for (const line of text.replace(/\r?\n[ \t]+/g, ' ').split(/\r?\n/)) {
    const at = line.indexOf(':')
    if (at > 0) out.push({ name: line.slice(0, at).trim().toLowerCase(), value: line.slice(at + 1).trim() })
  }
  return out
}

export function headerOf(headers: readonly MimeHeader[], name: string): string | undefined {
  return headers.find((header) => header.name === name)?.value
}

/** A value with its parameters (RFC 2045 section 5.1), continued and encoded ones joined (RFC 2231). */
export function readParameters(text: string): { value: string; parameters: Readonly<Record<string, string>> } {
  const [value = '', ...rest] = cutAtSemicolons(text)
  const plain: Record<string, string> = {}
  const pieces = new Map<string, { at: number; text: string; isEncoded: boolean }[]>()
  for (const part of rest) {
    const match = /^\s*([^=\s*]+)(?:\*(\d+))?(\*)?\s*=\s*(?:"((?:[^"\\]|\\.)*)"|(\S*))/.exec(part)
    if (!match) continue
    const [, name, at, star, quoted, bare] = match
    const key = name!.toLowerCase()
    const piece = { at: Number(at ?? 0), text: quoted?.replace(/\\(.)/g, '$1') ?? bare ?? '', isEncoded: star !== undefined }
    if (at === undefined && star === undefined) plain[key] ??= piece.text
    else if (pieces.has(key)) pieces.get(key)!.push(piece)
    else pieces.set(key, [piece])
  }
  for (const [key, list] of pieces) plain[key] = joinPieces(list.sort((a, b) => a.at - b.at))
  return { value: value.trim().toLowerCase(), parameters: plain }
}

/** Cut at semicolons outside quotes; a quote that never ends is a sign like any other. */
function cutAtSemicolons(text: string): string[] {
  const parts: string[] = []
  // where the last quote stands: behind it none can be closed
  const last = text.lastIndexOf('"')
  let from = 0
  let isQuoted = false
  for (let i = 0; i < text.length; i++) {
    countWork(1)
    const c = text[i]
    if (isQuoted && c === '\\') i++
    else if (c === '"') isQuoted = !isQuoted && i < last
    else if (c === ';' && !isQuoted) {
      if (i > from) parts.push(text.slice(from, i))
      from = i + 1
    }
  }
  if (from < text.length) parts.push(text.slice(from))
  return parts
}

function joinPieces(pieces: readonly { text: string; isEncoded: boolean }[]): string {
  const head = /^([^']*)'[^']*'/.exec(pieces[0]!.text)
  const charset = pieces[0]!.isEncoded && head ? head[1]! : 'utf-8'
  const binary = pieces
    .map(({ text, isEncoded }, i) => {
      const own = i === 0 && isEncoded && head ? text.slice(head[0].length) : text
      return isEncoded ? own.replace(/%([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16))) : binaryOf(own)
    })
    .join('')
  return decodeCharset(binaryBytes(binary), charset || 'utf-8') ?? binary
}

function binaryOf(text: string): string {
  return [...utf8Bytes(text)].map((byte) => String.fromCharCode(byte)).join('')
}

/** Words of a header in another charset (RFC 2047 section 4); neighbours are joined before decoding, so that none cuts a character. */
export function readEncodedWords(text: string): string {
  if (!text.includes('=?')) return text
  const joined = text.replace(/(=\?[^?\s]+\?[bq]\?[^?]*\?=)\s+(?==\?)/gi, '$1')
  return joined.replace(/(?:=\?[^?\s]+\?[bq]\?[^?]*\?=)+/gi, (run) => {
    let out = ''
    let pending: { charset: string; bytes: number[] } | undefined
    const flush = () => {
      if (pending) out += decodeCharset(Uint8Array.from(pending.bytes), pending.charset) ?? ''
      pending = undefined
    }
    for (const [, charset, how, data] of run.matchAll(/=\?([^?*\s]+)(?:\*[^?]*)?\?([bq])\?([^?]*)\?=/gi)) {
      const bytes =
        how!.toLowerCase() === 'b' ? (base64Bytes(data!) ?? new Uint8Array()) : quotedPrintableBytes(data!.replaceAll('_', ' ')).bytes
      if (pending && pending.charset.toLowerCase() !== charset!.toLowerCase()) flush()
      pending ??= { charset: charset!, bytes: [] }
      for (const byte of bytes) pending.bytes.push(byte)
    }
    flush()
    return out
  })
}
