import { joinRecord, writeBmessage, type MessageType } from '../../formats/bmessage/index.ts'
import { writeMime, type MimePiece } from '../../formats/mime/index.ts'
import { writeBasicTime } from '../../text/zone.ts'
import type { Message } from './model.ts'

const types: Readonly<Record<Message['service'], MessageType>> = { sms: 'SMS_GSM', mms: 'MMS', chat: 'IM' }
const folders = { in: 'telecom/msg/inbox', done: 'telecom/msg/sent', draft: 'telecom/msg/draft', failed: 'telecom/msg/outbox' } as const

/** One record as a phone takes it: the listing's entry and the message object; attachments by their handles there. */
export function recordOfMessage(message: Message, number: (party: string) => string = (party) => party): Uint8Array {
  const { direction, state, service, chatOf, atMs, isRead, line, group } = message
  const party = (text: string) => (/[A-Za-z@]/.test(text) ? text : number(text))
  const folder = direction === 'in' ? folders.in : folders[state]
  const object = writeBmessage({
    isRead,
    type: types[service],
    folder,
    originator: direction === 'in' ? party(message.from) : '',
    recipients: direction === 'in' ? ['', ...message.to.map(party)] : message.to.map(party),
    content: service === 'sms' ? message.text.replace(/\n/g, '\r\n') : mimeOf(message),
  })
  return joinRecord(
    {
      datetime: writeBasicTime(atMs),
      x_time: String(atMs),
      read: isRead ? 'yes' : 'no',
      sent: direction === 'out' && state === 'done' ? 'yes' : 'no',
      direction:
        direction === 'in' ? 'incoming' : state === 'draft' ? 'outgoingdraft' : state === 'failed' ? 'outgoingpending' : 'outgoing',
      x_line: line > 0 ? String(line) : '',
      x_service: chatOf,
      conversation_name: group,
    },
    object,
  )
}

function mimeOf(message: Message): string {
  return writeMime([['Subject', message.subject]], mimePieces(message))
}

/** Its text or reaction, and its attachments as what stands elsewhere under a handle. */
export function mimePieces({ text, reactionTo, attachments }: Message): MimePiece[] {
  const pieces: MimePiece[] = attachments.map(({ type, name, handle, sizeBytes }) => ({
    kind: 'external',
    type,
    fileName: name,
    handle,
    sizeBytes,
  }))
  if (reactionTo !== undefined) pieces.unshift({ kind: 'text', text, disposition: 'reaction', description: reactionTo })
  else if (text !== '' || pieces.length === 0) pieces.unshift({ kind: 'text', text })
  return pieces
}

/** What the files of a record were found to be, noted in it: read again, it says what they are. */
export function noteFiles(
  bytes: Uint8Array,
  found: ReadonlyMap<string, { readonly digest: string; readonly sizeBytes: number }>,
): Uint8Array {
  // handles are the phone's own words and stand only in the heads of files; the record is changed nowhere else
  const text = new TextDecoder('latin1').decode(bytes)
  const noted = text.replace(
    /(access-type=[^\r\n;]+;\s*handle="?)([^"\r\n;]+)("?;\s*size=)(\d+)/gi,
    (whole, before: string, handle: string, between: string) => {
      const file = found.get(handle)
      return file ? `${before}${handle}${between}${file.sizeBytes}; x-digest="${file.digest}"` : whole
    },
  )
  // LENGTH no longer holds; without it the last end of the body counts
  const out = noted.replace(/^LENGTH:\d+\r?\n/m, '')
  return Uint8Array.from(out, (c) => c.charCodeAt(0))
}
