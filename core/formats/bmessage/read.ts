import { binaryBytes, binaryText, utf8Bytes } from '../../text/bytes.ts'
import { messageTypes, outerProperties, bodyProperties, type MessageType } from './grammar.ts'

/** A message object of the Bluetooth message access profile (version 1.4, section 3.1.3), its body as bytes. */
export interface Bmessage {
  readonly isRead: boolean
  readonly type: MessageType
  /** As written, without leading or trailing slashes: `telecom/msg/inbox`. */
  readonly folder: string
  /** Number, mail address or a sender's word as its vCard gives it; empty for a card that names nobody: the owner's own. */
  readonly originator: string | undefined
  /** Of all envelopes, the outermost first. */
  readonly recipients: readonly string[]
  readonly charset: string
  readonly encoding: string
  readonly body: Uint8Array
}

export type BmessageResult = { readonly ok: true; readonly message: Bmessage; readonly issues: readonly string[] } | { readonly ok: false; readonly code: string }

/** More envelopes than this are no message any phone writes (section 3.1.3: at most three). */
const mostEnvelopes = 3

/**
 * Reads one message object. LENGTH counts bytes from `BEGIN:MSG` to `END:MSG` with their line ends; where a phone
 * counts otherwise, the last `END:MSG` of the body is taken and it is noted. Never throws on data.
 */
export function readBmessage(bytes: Uint8Array): BmessageResult {
  // one character a byte: LENGTH counts bytes, and so do all places here
  const text = binaryText(bytes)
  const begin = /BEGIN:BMSG\r?\n/i.exec(text)
  if (!begin) return { ok: false, code: 'no-message' }
  const bodyAt = text.search(/BEGIN:BBODY\r?\n/i)
  if (bodyAt < 0) return { ok: false, code: 'no-message-body' }
  if (!/END:BMSG\s*$/i.test(text.slice(-40))) return { ok: false, code: 'no-end' }
  const head = text.slice(begin.index + begin[0].length, bodyAt)
  const issues: string[] = []
  if ((head.match(/BEGIN:BENV/gi)?.length ?? 0) > mostEnvelopes) return { ok: false, code: 'damaged-message' }
  const outer = propertiesOf(head.replace(/BEGIN:VCARD[\s\S]*?END:VCARD\r?\n?/gi, ''), outerProperties)
  const type = messageTypes.find((known) => known === outer.TYPE?.trim().toUpperCase())
  if (!type) return { ok: false, code: 'no-message-type' }
  const body = readBody(text.slice(bodyAt))
  if ('code' in body) return { ok: false, code: body.code }
  if (body.isLengthWrong) issues.push('length-wrong')
  const envelopeAt = head.search(/BEGIN:BENV/i)
  const before = partiesOf(envelopeAt < 0 ? head : head.slice(0, envelopeAt))
  const inside = partiesOf(envelopeAt < 0 ? '' : head.slice(envelopeAt))
  if (!before || !inside) return { ok: false, code: 'damaged-party' }
  return {
    ok: true,
    issues,
    message: {
      isRead: outer.STATUS?.trim().toUpperCase() !== 'UNREAD',
      type,
      folder: (outer.FOLDER ?? '').trim().replace(/^\/+|\/+$/g, ''),
      originator: before[0],
      recipients: inside,
      charset: body.charset,
      encoding: body.encoding,
      body: binaryBytes(body.content),
    },
  }
}

function propertiesOf(text: string, known: readonly string[]): Partial<Record<string, string>> {
  const out: Partial<Record<string, string>> = {}
  for (const line of text.split(/\r?\n/)) {
    const at = line.indexOf(':')
    const name = line.slice(0, at).toUpperCase()
    if (at > 0 && known.includes(name)) out[name] ??= line.slice(at + 1)
  }
  return out
}

/** What each vCard of a party is addressed by; undefined when one breaks off. Its name is the phone book's, and not read. */
function partiesOf(text: string): string[] | undefined {
  const out: string[] = []
  let at = 0
  for (;;) {
    const begin = text.indexOf('BEGIN:VCARD', at)
    if (begin < 0) return out
    const end = text.indexOf('END:VCARD', begin)
    if (end < 0) return undefined
    const value = /^(?:[\w-]+\.)?(?:TEL|EMAIL)(?:;[^:\r\n]*)?:(.*?)\r?$/im.exec(text.slice(begin, end))?.[1]?.trim() ?? ''
    out.push(value.replace(/^tel:/i, ''))
    at = end
  }
}

function readBody(text: string): { charset: string; encoding: string; content: string; isLengthWrong: boolean } | { code: string } {
  const start = /BEGIN:MSG\r?\n/i.exec(text)
  if (!start) return { code: 'no-message-body' }
  const { CHARSET = 'UTF-8', ENCODING = '8BIT', LENGTH } = propertiesOf(text.slice(0, start.index), bodyProperties)
  const how = { charset: CHARSET.trim(), encoding: ENCODING.trim().toUpperCase() }
  const contentAt = start.index + start[0].length
  const length = Number(LENGTH)
  if (LENGTH !== undefined && Number.isInteger(length)) {
    const measured = text.slice(start.index, start.index + length)
    // some leave the last line end out of the count
    const isFollowed = /^(?:\r?\n|\n)?(?:END:BBODY|BEGIN:MSG)/i.test(text.slice(start.index + length, start.index + length + 14))
    const end = isFollowed ? /\r?\nEND:MSG\r?\n?$/i.exec(measured) : null
    // a text may itself hold a line “END:MSG”: only the length tells where it ends
    if (end && end.index + start.index >= contentAt) return { ...how, content: measured.slice(contentAt - start.index, end.index), isLengthWrong: false }
    const isEmpty = /^BEGIN:MSG\r?\nEND:MSG\r?\n?$/i.test(measured)
    if (isEmpty) return { ...how, content: '', isLengthWrong: false }
  }
  const ends = [...text.matchAll(/(?:\r?\n)?END:MSG\r?\n/gi)]
  const last = ends.at(-1)
  if (!last) return { code: 'no-end' }
  return { ...how, content: text.slice(contentAt, Math.max(contentAt, last.index)), isLengthWrong: true }
}

/** Length of the bytes of a text, as LENGTH counts them: with the two lines around it. */
export function lengthOf(content: string): number {
  return utf8Bytes(content).length + 'BEGIN:MSG\r\n'.length + '\r\nEND:MSG\r\n'.length
}
