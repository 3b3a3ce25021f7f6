import { lengthOf } from './read.ts'
import type { MessageType } from './grammar.ts'

export interface BmessageFacts {
  readonly isRead: boolean
  readonly type: MessageType
  readonly folder: string
  /** Numbers or names; empty for the owner. */
  readonly originator: string | undefined
  readonly recipients: readonly string[]
  readonly content: string
}

/** Writes a message object strictly: CRLF, vCard 2.1 parties, UTF-8, LENGTH in bytes. */
export function writeBmessage({ isRead, type, folder, originator, recipients, content }: BmessageFacts): string {
  const lines = ['BEGIN:BMSG', 'VERSION:1.0', `STATUS:${isRead ? 'READ' : 'UNREAD'}`, `TYPE:${type}`, `FOLDER:${folder}`]
  if (originator !== undefined) lines.push(...party(originator))
  lines.push('BEGIN:BENV')
  for (const recipient of recipients) lines.push(...party(recipient))
  lines.push(
    'BEGIN:BBODY',
    'CHARSET:UTF-8',
    `LENGTH:${lengthOf(content)}`,
    'BEGIN:MSG',
    content,
    'END:MSG',
    'END:BBODY',
    'END:BENV',
    'END:BMSG',
    '',
  )
  return lines.join('\r\n')
}

function party(number: string): string[] {
  // a mail address or a sender's word stands where a number would
  return ['BEGIN:VCARD', 'VERSION:2.1', 'N:', number.includes('@') ? `EMAIL:${number}` : `TEL:${number}`, 'END:VCARD']
}
