import { headerOf, readEncodedWords, readMime, type MimeHeader } from '../../formats/mime/index.ts'
import { binaryBytes, binaryText } from '../../text/bytes.ts'
import type { ReadTools } from '../kind.ts'
import { contentOfMime, type MessageRead } from './from-bmessage.ts'
import type { Message } from './model.ts'

/** Whether a record is one of an mbox (RFC 4155): it begins with `From `. */
export function isMboxEntry(bytes: Uint8Array): boolean {
  return bytes[0] === 0x46 && bytes[1] === 0x72 && bytes[2] === 0x6f && bytes[3] === 0x6d && bytes[4] === 0x20
}

const services = { sms: 'sms', mms: 'mms', chat: 'chat' } as const

/**
 * A message of an mbox as {@link mboxRecord} writes it: what a mail has no header for stands in headers of its own.
 * A mail of somebody's letter box is no text message, and said so.
 */
export function messageFromMbox(bytes: Uint8Array, tools: ReadTools): MessageRead {
  const text = binaryText(bytes)
  // the line `From ` goes, and so do the two line ends behind the message; quoted lines are as they were
  const mime = text
    .slice(text.indexOf('\n') + 1)
    .replace(/\n\n$/, '')
    .replace(/^>(>*From )/gm, '$1')
  const read = readMime(binaryBytes(mime))
  const { headers } = read
  const service = services[said(headers, 'x-message-service') as keyof typeof services]
  if (!service) return { code: 'no-message-type' }
  const atMs = Number(said(headers, 'x-message-time') || Date.parse(said(headers, 'date')) || Number.NaN)
  if (!Number.isFinite(atMs)) return { code: 'no-message-date' }
  const content = contentOfMime(read, tools)
  if ('code' in content) return content
  const course = said(headers, 'x-message-state')
  const direction = course === 'received' ? 'in' : 'out'
  const from = direction === 'in' ? said(headers, 'x-message-from') : ''
  if (direction === 'in' && from === '') return { code: 'no-sender' }
  const message: Message = {
    direction,
    state: course === 'draft' || course === 'failed' ? course : 'done',
    service,
    chatOf: said(headers, 'x-message-chat'),
    atMs,
    from,
    to: headers.filter(({ name }) => name === 'x-message-to').map(({ value }) => readEncodedWords(value).trim()),
    isRead: said(headers, 'status').startsWith('R'),
    line: Number(said(headers, 'x-message-line')) || 0,
    group: said(headers, 'x-message-group'),
    ...content.says,
    subject: said(headers, 'x-message-subject'),
  }
  return { message, issues: content.issues }
}

function said(headers: readonly MimeHeader[], name: string): string {
  return readEncodedWords(headerOf(headers, name) ?? '').trim()
}
