import { writeMime, type MimePiece } from '../../formats/mime/index.ts'
import { asciiName } from '../../formats/files/names.ts'
import { createRecordSplitter } from '../../formats/files/records.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import type { ArchiveFace, OpenFile } from '../kind.ts'
import type { Message } from './model.ts'
import { mimePieces } from './to-bmessage.ts'

/** Messages as files people and programs can read: an mbox of MIME messages, and JSON Lines. */
export const messageFiles: readonly OpenFile<Message>[] = [
  {
    code: 'mbox',
    extension: 'mbox',
    mediaType: 'application/mbox',
    write: (message, { position, number }) => mboxEntry(message, { position, number }),
  },
  { code: 'jsonl', extension: 'jsonl', mediaType: 'application/jsonl', write: (message) => JSON.stringify(lineOf(message)) + '\n' },
]

/** All messages in one letter box, their attachments in a folder beside it, each named by its path. */
export const messageArchive: ArchiveFace<Message> = {
  file: 'Messages.mbox',
  page: {
    title: 'Messages',
    by: 'group',
    says: ({ direction, state, from }) =>
      state !== 'done' ? (state === 'draft' ? 'draft' : 'not sent') : direction === 'out' ? 'sent' : from,
  },
  write: (message, { position, paths }) =>
    mboxEntry(
      { ...message, attachments: message.attachments.map((one) => ({ ...one, handle: paths.get(one.handle) ?? '' })) },
      { position, number: (text) => text },
    ),
  brought: { begins: (head) => head.startsWith('From ') && /^X-Message-Service:/im.test(head) },
  splitter() {
    // a line `From ` begins a message where an empty line, or nothing, stands before it
    let isAfterEmpty = true
    return createRecordSplitter((line) => {
      const begins = isAfterEmpty && line.startsWith('From ')
      isAfterEmpty = line === ''
      return begins ? 'begins' : 'goes-on'
    })
  },
  placeOf({ atMs, attachments }, { handle }, position) {
    const { name, type } = attachments.find((one) => one.handle === handle)!
    return { folder: 'Messages', name: `${position} ${asciiName(name, asciiName(type.replace('/', '.')))}`, atMs }
  },
}

/** A party as an address no mail ever goes to (RFC 2606): a number, or a sender's word. */
function addressOf(party: string, number: (text: string) => string): string {
  if (party.includes('@')) return party.replace(/[^\x21-\x7e]|[<>,;:"()]/g, '')
  const local = (/[A-Za-z]/.test(party) ? party : number(party)).replace(/[^A-Za-z0-9+]/g, '') || 'unknown'
  return `${local}@phone.invalid`
}

/**
 * One message of an mbox (RFC 4155): a line `From `, the message (RFC 5322) with lines of bare LF and every line
 * that looks like `From ` quoted, and an empty line. Attachments stand as references with type, size and digest.
 */
function mboxEntry(message: Message, { position, number }: { position: number; number: (text: string) => string }): Uint8Array {
  const { direction, state, service, chatOf, atMs, line, group, subject, isRead } = message
  const owner = 'owner@phone.invalid'
  const from = direction === 'in' ? addressOf(message.from, number) : owner
  const others = message.to.map((party) => addressOf(party, number))
  const to = direction === 'in' ? [owner, ...others] : others
  const at = new Date(atMs)
  const pieces: MimePiece[] = mimePieces(message)
  const mime = writeMime(
    [
      ['From', from],
      ['To', to.join(', ') || 'undisclosed-recipients:;'],
      ['Date', at.toUTCString().replace('GMT', '+0000')],
      ['Message-ID', `<${position}.${atMs}@phone.invalid>`],
      ['Subject', subject || group],
      // what a mail has no header for: read again, it says the same
      ['X-Message-Time', String(atMs)],
      ['X-Message-Service', service],
      ['X-Message-Chat', chatOf],
      ['X-Message-State', state === 'done' ? (direction === 'in' ? 'received' : 'sent') : state],
      ['X-Message-Line', line > 0 ? String(line) : ''],
      ['X-Message-From', message.from],
      ...message.to.map((party) => ['X-Message-To', party] as const),
      ['X-Message-Subject', subject],
      ['X-Message-Group', group],
      ['Status', isRead ? 'RO' : 'O'],
    ],
    pieces,
  )
  const day = at.toUTCString()
  // asctime, as the format wants it: Thu Jan  1 00:00:00 1970
  const stamp = `${day.slice(0, 3)} ${day.slice(8, 11)} ${String(at.getUTCDate()).padStart(2, ' ')} ${day.slice(17, 25)} ${at.getUTCFullYear()}`
  return utf8Bytes(`From ${from} ${stamp}\n${mime.replace(/\r\n/g, '\n').replace(/^(>*From )/gm, '>$1')}\n\n`)
}

function lineOf({ direction, state, service, atMs, from, to, isRead, line, subject, group, text, reactionTo, attachments }: Message) {
  return {
    at: new Date(atMs).toISOString(),
    direction,
    state,
    service,
    from,
    to,
    read: isRead,
    line: line || null,
    subject: subject || null,
    group: group || null,
    text,
    reactionTo: reactionTo ?? null,
    attachments: attachments.map(({ type, name, sizeBytes, digest }) => ({ type, name, sizeBytes, sha256: digest })),
  }
}
