import { binaryText, utf8Bytes } from '../../text/bytes.ts'
import { countWork } from '../../text/work.ts'
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
  /** Empty where it does not say. */
  readonly charset: string
  readonly encoding: string
  readonly body: Uint8Array
}

export type BmessageResult =
  { readonly ok: true; readonly message: Bmessage; readonly issues: readonly string[] } | { readonly ok: false; readonly code: string }

/** More envelopes than this are no message any phone writes (section 3.1.3: at most three). */
const mostEnvelopes = 3

/**
 * Reads one message object. LENGTH counts bytes from `BEGIN:MSG` to `END:MSG` with their line ends; where a phone
 * counts otherwise, the last `END:MSG` of the body is taken and it is noted. Never throws on data.
 */
export function readBmessage(bytes: Uint8Array): BmessageResult {
  // one character a byte: LENGTH counts bytes, and so do all places here
  const text = binaryText(bytes)
  const head = readHead(text)
  if ('code' in head) return { ok: false, code: head.code }
  const { outer, inner } = head
  if (!endsWhole(text)) return { ok: false, code: 'no-end' }
  const type = messageTypes.find((known) => known === outer.TYPE?.trim().toUpperCase())
  if (!type) return { ok: false, code: 'no-message-type' }
  if (head.messageAt < 0) return { ok: false, code: 'no-message-body' }
  const body = readBody(text, head.messageAt, inner.LENGTH)
  if ('code' in body) return { ok: false, code: body.code }
  return {
    ok: true,
    issues: body.isLengthWrong ? ['length-wrong'] : [],
    message: {
      isRead: outer.STATUS?.trim().toUpperCase() !== 'UNREAD',
      type,
      folder: (outer.FOLDER ?? '').trim().split('/').filter(Boolean).join('/'),
      originator: head.originator,
      recipients: head.recipients,
      charset: (inner.CHARSET ?? '').trim(),
      encoding: (inner.ENCODING ?? '8BIT').trim().toUpperCase(),
      body: bytes.subarray(body.from, body.to),
    },
  }
}

interface Head {
  readonly outer: Partial<Record<string, string>>
  readonly inner: Partial<Record<string, string>>
  readonly originator: string | undefined
  readonly recipients: readonly string[]
  /** Where the line `BEGIN:MSG` of the body begins; -1 when there is none. */
  readonly messageAt: number
}

/** Everything in front of the text, line by line: properties, parties outside and inside the envelopes, and those of the body. */
function readHead(text: string): Head | { readonly code: string } {
  const outer: Partial<Record<string, string>> = {}
  const inner: Partial<Record<string, string>> = {}
  const recipients: string[] = []
  let originator: string | undefined
  let place: 'before' | 'object' | 'card' | 'body' = 'before'
  let envelopes = 0
  /** What the card that is open is addressed by. */
  let party: string | undefined
  let messageAt = -1
  let colon = text.indexOf(':')
  for (let at = 0; at < text.length;) {
    const newline = text.indexOf('\n', at)
    const next = newline < 0 ? text.length : newline + 1
    let end = newline < 0 ? text.length : newline
    if (text.charCodeAt(end - 1) === 13) end--
    // looked for once, however many lines have none
    if (colon >= 0 && colon < at) {
      colon = text.indexOf(':', at)
      countWork((colon < 0 ? text.length : colon) - at)
    }
    const line = at
    at = next
    if (colon < 0 || colon >= end) continue
    const name = text.slice(line, colon)
    const isBegin = name === 'BEGIN' || (name.length === 5 && name.toUpperCase() === 'BEGIN')
    if (place === 'before') {
      if (isBegin && text.slice(colon + 1, end).toUpperCase() === 'BMSG' && newline >= 0) place = 'object'
      continue
    }
    if (place === 'card') {
      if (isBegin) return { code: 'damaged-party' }
      const key = nameOf(name)
      if (key === 'END') {
        if (envelopes > 0) recipients.push(party ?? '')
        else originator ??= party ?? ''
        place = 'object'
      } else if (key === 'TEL' || key === 'EMAIL')
        party ??= text
          .slice(colon + 1, end)
          .trim()
          .replace(/^tel:/i, '')
      continue
    }
    if (isBegin) {
      const what = text.slice(colon + 1, end).toUpperCase()
      if (place === 'body') {
        if (what !== 'MSG' || newline < 0) continue
        messageAt = line
        break
      }
      if (what === 'VCARD') [place, party] = ['card', undefined]
      else if (what === 'BENV') envelopes++
      else if (what === 'BBODY' && newline >= 0) place = 'body'
      continue
    }
    const [known, into] = place === 'body' ? [bodyProperties, inner] : [outerProperties, outer]
    const key = name.toUpperCase()
    if ((known as readonly string[]).includes(key)) into[key] ??= text.slice(colon + 1, end)
  }
  if (place === 'before') return { code: 'no-message' }
  if (place !== 'body') return { code: place === 'card' ? 'damaged-party' : 'no-message-body' }
  if (envelopes > mostEnvelopes) return { code: 'damaged-message' }
  return { outer, inner, originator, recipients, messageAt }
}

/** A vCard line's name without its group and parameters. */
function nameOf(text: string): string {
  const semicolon = text.indexOf(';')
  const bare = semicolon < 0 ? text : text.slice(0, semicolon)
  return bare.slice(bare.lastIndexOf('.') + 1).toUpperCase()
}

function endsWhole(text: string): boolean {
  return text.endsWith('END:BMSG\r\n') || /END:BMSG\s*$/i.test(text.slice(-40))
}

const closing = '\r\nEND:MSG\r\n'

/** Where the body's content stands, from the place of its line `BEGIN:MSG` on. */
function readBody(
  text: string,
  at: number,
  said: string | undefined,
): { from: number; to: number; isLengthWrong: boolean } | { code: string } {
  const from = text.indexOf('\n', at) + 1
  const length = said === undefined ? NaN : Number(said)
  if (Number.isInteger(length) && length > 0) {
    const stop = at + length
    // as it should be: the length ends with the line that ends the text
    if (text.endsWith(closing, stop) && text.startsWith('END:BBODY', stop) && stop - closing.length >= from)
      return { from, to: stop - closing.length, isLengthWrong: false }
    // some leave the last line end out of the count
    if (/^(?:\r?\n|\n)?(?:END:BBODY|BEGIN:MSG)/i.test(text.slice(stop, stop + 14))) {
      const measured = text.slice(at, stop)
      const end = /\r?\nEND:MSG\r?\n?$/i.exec(measured.slice(-14))
      const to = end ? stop - (measured.slice(-14).length - end.index) : -1
      // a text may itself hold a line “END:MSG”: only the length tells where it ends
      if (to >= from) return { from, to, isLengthWrong: false }
    }
    if (/^BEGIN:MSG\r?\nEND:MSG\r?\n?$/i.test(text.slice(at, stop))) return { from, to: from, isLengthWrong: false }
  }
  const last = [...text.slice(at).matchAll(/(?:\r?\n)?END:MSG\r?\n/gi)].at(-1)
  if (!last) return { code: 'no-end' }
  return { from, to: Math.max(from, at + last.index), isLengthWrong: true }
}

/** Length of the bytes of a text, as LENGTH counts them: with the two lines around it. */
export function lengthOf(content: string): number {
  return utf8Bytes(content).length + 'BEGIN:MSG\r\n'.length + '\r\nEND:MSG\r\n'.length
}
