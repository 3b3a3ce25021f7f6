import { base64Text, utf8Bytes } from '../../text/bytes.ts'

export interface MimeText {
  readonly kind: 'text'
  readonly text: string
  readonly disposition?: string
  /** What it is about (RFC 2045 section 8). */
  readonly description?: string
}

/** Something that stands elsewhere under a handle. */
export interface MimeExternal {
  readonly kind: 'external'
  readonly type: string
  readonly fileName: string
  readonly handle: string
  readonly sizeBytes: number
}

export interface MimeBytes {
  readonly kind: 'bytes'
  readonly type: string
  readonly fileName: string
  readonly bytes: Uint8Array
}

export type MimePiece = MimeText | MimeExternal | MimeBytes

/** Writes a message with its parts: CRLF, UTF-8 in base64 where it is not plain, parameters as RFC 2231 where needed. */
export function writeMime(headers: readonly (readonly [name: string, value: string])[], pieces: readonly MimePiece[]): string {
  const written = pieces.map(writePiece)
  const boundary = boundaryFor(written)
  const head = headers.filter(([, value]) => value !== '').map(([name, value]) => `${name}: ${writeWords(value)}`)
  if (written.length === 1) return [...head, 'MIME-Version: 1.0', written[0]!].join('\r\n')
  return [
    ...head,
    'MIME-Version: 1.0',
    `Content-Type: multipart/mixed; boundary="${boundary}"`,
    '',
    ...written.flatMap((piece) => [`--${boundary}`, piece]),
    `--${boundary}--`,
    '',
  ].join('\r\n')
}

/** A boundary that stands in none of the parts; the same message always has the same. */
function boundaryFor(pieces: readonly string[]): string {
  let boundary = 'part'
  while (pieces.some((piece) => piece.includes(`--${boundary}`))) boundary += '-x'
  return boundary
}

function writePiece(piece: MimePiece): string {
  if (piece.kind === 'text') {
    // a line that looks like a boundary, or a long one, must not be read as anything else
    const isPlain =
      /^[\x20-\x7e\n]*$/.test(piece.text) && piece.text.split('\n').every((line) => line.length < 900) && !/\r/.test(piece.text)
    return [
      'Content-Type: text/plain; charset=utf-8',
      ...(piece.disposition ? [`Content-Disposition: ${piece.disposition}`] : []),
      ...(piece.description ? [`Content-Description: ${writeWords(piece.description)}`] : []),
      `Content-Transfer-Encoding: ${isPlain ? '7bit' : 'base64'}`,
      '',
      isPlain ? piece.text.replace(/\n/g, '\r\n') : wrap(base64Text(utf8Bytes(piece.text))),
    ].join('\r\n')
  }
  if (piece.kind === 'external') {
    return [
      `Content-Type: message/external-body; access-type=x-link; handle="${piece.handle}"; size=${piece.sizeBytes}`,
      '',
      `Content-Type: ${piece.type}${parameter('name', piece.fileName)}`,
      '',
    ].join('\r\n')
  }
  return [
    `Content-Type: ${piece.type}${parameter('name', piece.fileName)}`,
    `Content-Disposition: attachment${parameter('filename', piece.fileName)}`,
    'Content-Transfer-Encoding: base64',
    '',
    wrap(base64Text(piece.bytes)),
  ].join('\r\n')
}

function parameter(name: string, value: string): string {
  if (value === '') return ''
  if (/^[\x20-\x7e]*$/.test(value)) return `; ${name}="${value.replace(/(["\\])/g, '\\$1')}"`
  return `; ${name}*=utf-8''${[...utf8Bytes(value)].map((byte) => (/[A-Za-z0-9._-]/.test(String.fromCharCode(byte)) ? String.fromCharCode(byte) : `%${byte.toString(16).toUpperCase().padStart(2, '0')}`)).join('')}`
}

/** A header's text; words of other than ASCII as RFC 2047 says, no longer than 75 characters, no character cut. */
function writeWords(text: string): string {
  const clean = text.replace(/[\r\n]+/g, ' ')
  if (/^[\x20-\x7e]*$/.test(clean) && !clean.includes('=?')) return clean
  const words: string[] = []
  let piece = ''
  for (const character of clean) {
    if (utf8Bytes(piece + character).length > 42) {
      words.push(piece)
      piece = ''
    }
    piece += character
  }
  return [...words, piece].map((word) => `=?utf-8?B?${base64Text(utf8Bytes(word))}?=`).join('\r\n ')
}

function wrap(base64: string): string {
  return base64.replace(/.{76}(?=.)/g, '$&\r\n')
}
