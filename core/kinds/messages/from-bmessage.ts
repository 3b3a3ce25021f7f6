import { readBmessage, readListingEntry, textOfPdus, type Bmessage, type ListingEntry } from '../../formats/bmessage/index.ts'
import { headerOf, readEncodedWords, readMime, textOfPart, type MimeMessage, type MimePart } from '../../formats/mime/index.ts'
import { asBase64Url, decodeCharset, utf8Text } from '../../text/bytes.ts'
import { quotedPrintableBytes } from '../../text/quoted-printable.ts'
import { binaryBytes, binaryText } from '../../text/bytes.ts'
import { readPhoneTime } from '../../text/zone.ts'
import type { ReadTools } from '../kind.ts'
import type { Attachment, Message } from './model.ts'

export type MessageRead = { readonly message: Message; readonly issues: readonly string[] } | { readonly code: string }

/**
 * The meaning of an entry of a message listing and its object (Bluetooth message access profile 1.4, sections 3.1.3
 * and 3.1.6): when, which way, with whom, and what it says.
 */
export function messageFromRecord(bytes: Uint8Array, tools: ReadTools): MessageRead {
  const record = readListingEntry(bytes)
  if (!record) return { code: 'no-listing-entry' }
  const read = readBmessage(record.object)
  if (!read.ok) return { code: read.code }
  const { entry } = record
  const { message: object } = read
  // a count is said to the millisecond by some; a local time never is
  const atMs =
    (/^\d+$/.test(entry.x_time ?? '') ? readPhoneTime(entry.x_time, tools.instant) : undefined) ??
    (entry.datetime?.includes('T') ? readPhoneTime(entry.datetime, tools.instant) : undefined)
  if (atMs === undefined) return { code: 'no-message-date' }
  const content = isText(object) ? textContent(object) : contentOfMime(readMime(object.body), tools)
  if ('code' in content) return content
  const { direction, state } = courseOf(entry, object)
  const others = object.recipients.filter((party) => party !== '')
  const from = direction === 'in' ? (object.originator ?? '') : ''
  // who sends a message to nobody but the owner is its only party
  if (direction === 'in' && from === '') return { code: 'no-sender' }
  return {
    issues: [...read.issues, ...content.issues],
    message: {
      direction,
      state,
      service: object.type === 'MMS' ? 'mms' : object.type === 'IM' ? 'chat' : 'sms',
      chatOf: object.type === 'IM' ? (entry.x_service ?? '') : '',
      atMs,
      from,
      to: others.length > 1 ? [...new Set(others)] : others,
      isRead: entry.read === undefined ? object.isRead : entry.read !== 'no',
      line: Number(entry.x_line ?? 0) || 0,
      group: entry.conversation_name ?? '',
      ...content.says,
    },
  }
}

const isText = ({ type }: Bmessage) => type === 'SMS_GSM' || type === 'SMS_CDMA'

/**
 * The bytes of an attachment that stands in its message instead of beside it, by the handle the reading gave it.
 * Undefined for any other handle.
 */
export function attachmentInside(bytes: Uint8Array, handle: string): Uint8Array | undefined {
  if (!handle.startsWith(insideHandle)) return undefined
  const record = readListingEntry(bytes)
  const read = record && readBmessage(record.object)
  if (!read?.ok || isText(read.message)) return undefined
  return readMime(read.message.body).parts[Number(handle.slice(insideHandle.length))]?.content
}

/** No phone's own: they name no file of their own with a colon. */
const insideHandle = 'inside:'

const standardFolders: ReadonlySet<string> = new Set(['inbox', 'sent', 'outbox', 'draft', 'deleted'])

/** Which way it went and how far, by the listing where it says so, else by its folder (section 3.1.1). */
function courseOf({ direction, sent }: ListingEntry, { folder }: Bmessage): Pick<Message, 'direction' | 'state'> {
  // a folder of one’s own may stand below a standard one: sent/Family
  const last =
    folder
      .toLowerCase()
      .split('/')
      .findLast((part) => standardFolders.has(part)) ?? ''
  if (direction === 'outgoingdraft' || last === 'draft') return { direction: 'out', state: 'draft' }
  if (direction === 'outgoingpending' || last === 'outbox') return { direction: 'out', state: 'failed' }
  if (direction !== undefined) return { direction: direction === 'incoming' ? 'in' : 'out', state: 'done' }
  return { direction: last === 'sent' || sent === 'yes' ? 'out' : 'in', state: 'done' }
}

const nextPiece = /\r?\nEND:MSG\r?\nBEGIN:MSG\r?\n/i

function isInPieces(body: Uint8Array): boolean {
  for (let at = body.indexOf(10); at >= 0; at = body.indexOf(10, at + 1)) if ((body[at + 1]! | 32) === 98) return true
  return false
}

type Says = Pick<Message, 'subject' | 'text' | 'reactionTo' | 'attachments'>
type Content = { readonly says: Says; readonly issues: readonly string[] } | { readonly code: string }

function textContent({ body, charset, encoding, type }: Bmessage): Content {
  if (/^native$/i.test(charset)) {
    const text = type === 'SMS_GSM' ? textOfPdus(binaryText(body).split(nextPiece)) : undefined
    // what nobody can read is said, and its digits are nobody’s words
    return text === undefined
      ? { code: 'charset-unknown' }
      : { issues: [], says: { subject: '', text, reactionTo: undefined, attachments: [] } }
  }
  // a long text may come in several pieces, one behind the other
  let bytes = isInPieces(body) ? binaryBytes(binaryText(body).split(nextPiece).join('')) : body
  if (encoding === 'QUOTED-PRINTABLE') {
    const decoded = quotedPrintableBytes(binaryText(bytes).replace(/=\r?\n/g, ''))
    if (decoded.damaged > 0) return { code: 'damaged-quoted-printable' }
    bytes = decoded.bytes
  }
  const told = /^(utf-?8)?$/i.test(charset) ? utf8Text(bytes) : decodeCharset(bytes, charset)
  const text = told ?? (/^(utf-?8)?$/i.test(charset) ? decodeCharset(bytes, 'windows-1252') : undefined)
  if (text === undefined) return { code: 'charset-unknown' }
  const issues = [...(charset === '' ? ['charset-missing'] : []), ...(told === undefined ? ['charset-guessed'] : [])]
  return { issues, says: { subject: '', text: text.replace(/\r\n?/g, '\n'), reactionTo: undefined, attachments: [] } }
}

/** What a message of parts says: its text, and what it carries. */
export function contentOfMime({ headers, parts, issues }: MimeMessage, tools: Pick<ReadTools, 'hash'>): Content {
  const lossy = issues.find(
    (code) => code.startsWith('damaged-') || code === 'boundary-open' || code === 'boundary-missing' || code === 'too-many-parts',
  )
  if (lossy) return { code: lossy }
  const texts: string[] = []
  const guessed = new Set<string>()
  const attachments: Attachment[] = []
  let reactionTo: string | undefined
  for (const [n, part] of parts.entries()) {
    if (part.external) attachments.push(attachmentOf(part, part.external))
    // how the parts are laid out says nothing
    else if (part.type === 'application/smil') continue
    else if (part.type.startsWith('text/plain') && part.disposition !== 'attachment') {
      const { text, isGuessed } = textOfPart(part)
      if (text === undefined) return { code: 'charset-unknown' }
      if (isGuessed) guessed.add('charset-guessed')
      const isReaction = part.disposition === 'reaction'
      if (isReaction) reactionTo = readEncodedWords(headerOf(part.headers, 'content-description') ?? '')
      if (text.trim() !== '' || isReaction) texts.push(text.replace(/\r\n?/g, '\n').trimEnd())
    } else attachments.push(insideOf(part, n, tools))
  }
  return {
    issues: [...issues, ...guessed],
    says: { subject: readEncodedWords(headerOf(headers, 'subject') ?? ''), text: texts.join('\n'), reactionTo, attachments },
  }
}

function attachmentOf({ parameters }: MimePart, external: NonNullable<MimePart['external']>): Attachment {
  return {
    type: external.type,
    name: readEncodedWords(external.fileName),
    handle: parameters.handle ?? '',
    sizeBytes: Number(parameters.size ?? 0) || 0,
    digest: parameters['x-digest'] ?? '',
  }
}

/** An attachment that stands in the object, as MMS do on the network (OMA-TS-MMS-ENC). */
function insideOf({ type, fileName, content }: MimePart, n: number, { hash }: Pick<ReadTools, 'hash'>): Attachment {
  return {
    type,
    name: readEncodedWords(fileName),
    handle: `${insideHandle}${n}`,
    sizeBytes: content.length,
    digest: asBase64Url(hash(content)),
  }
}
