import { invariant } from '../../invariant.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import type { Kind } from '../kind.ts'
import { conversationKey, messageAtoms, messageCanonicalVersion } from './canonical.ts'
import { changeMessage, messageChanges, splitMessage } from './change.ts'
import { attachmentInside, messageFromRecord } from './from-bmessage.ts'
import { isGroup, type Message } from './model.ts'
import { messageArchive, messageFiles } from './files.ts'
import { isMboxEntry, messageFromMbox } from './from-mbox.ts'
import { noteFiles, recordOfMessage } from './to-bmessage.ts'
import { messagesOn, messagesFace } from './face.ts'

export type { Message } from './model.ts'

const head = `messages ${messageCanonicalVersion}\n`

/** SMS, MMS and the platforms' chat messages: one history. */
export const messages: Kind<Message> = {
  ...messagesFace,
  canonicalVersion: messageCanonicalVersion,
  joins: false,
  read(bytes, tools) {
    const result = isMboxEntry(bytes) ? messageFromMbox(bytes, tools) : messageFromRecord(bytes, tools)
    return 'code' in result ? { ok: false, code: result.code } : { ok: true, item: result.message, issues: result.issues }
  },
  atoms: messageAtoms,
  canonicalBytes: (atoms) => utf8Bytes(atoms.length === 1 ? head + atoms[0] : head + atoms.join('\n')),
  matchKeys: () => [],
  change: changeMessage,
  changes: messageChanges,
  rules: ['phone-takes-no-messages', 'file-is-read-only', 'not-known'],
  issues: ['length-wrong', 'charset-missing', 'charset-guessed'],
  failures: [
    'no-message',
    'no-message-body',
    'no-message-type',
    'no-message-date',
    'no-sender',
    'no-end',
    'no-listing-entry',
    'damaged-message',
    'damaged-party',
    'damaged-base64',
    'damaged-quoted-printable',
    'boundary-open',
    'boundary-missing',
    'too-many-parts',
    'attachment-inside',
    'attachment-missing',
    'charset-unknown',
    'stalls',
    'reads-differently',
    'storage-error',
  ],
  sample: (from) => {
    const { write } = messagesOn(from)
    const can = 'cannot' in write ? { chat: '', lines: 1, groupNames: false, textMaxChars: 400 } : write
    return {
      direction: 'in',
      state: 'done',
      service: can.chat ? 'chat' : 'sms',
      chatOf: can.chat,
      atMs: 0,
      from: '1',
      to: can.groupNames ? ['2'] : [],
      isRead: true,
      line: can.lines,
      subject: '',
      group: can.groupNames ? 'a' : '',
      text: 'a'.repeat(Math.min(can.textMaxChars, 4000)),
      reactionTo: can.chat ? 'a' : undefined,
      attachments: [],
    }
  },
  write(message, to, number) {
    invariant(!('cannot' in messagesOn(to).write), 'only a phone that takes messages is written to')
    return recordOfMessage(message, number)
  },
  split(message, to) {
    const { write } = messagesOn(to)
    return 'cannot' in write ? [message] : splitMessage(message, write)
  },
  filesOf: (message) => message.attachments,
  fileInside: attachmentInside,
  noteFiles,
  withHandles: (message, handles) => ({
    ...message,
    attachments: message.attachments.map((file) => ({ ...file, handle: handles.get(file.handle) ?? file.handle })),
  }),
  describe(message) {
    const { from, to, text, subject, group, attachments, reactionTo } = message
    const parties = [...(from ? [from] : []), ...to].join(', ')
    const lines = [
      ['with', parties],
      ['group', group],
      ['subject', subject],
      ['text', text],
      ['reaction', reactionTo ?? ''],
      ...attachments.map(({ name, type }) => ['attachment', name || type] as const),
    ] as const
    return {
      title: text.length > 90 ? `${text.slice(0, 90)}…` : text || subject || attachments[0]?.name || '',
      group: group || parties,
      lines: lines.filter(([, value]) => value).map(([field, value]) => ({ field, text: value })),
    }
  },
  shape(message) {
    const shape: Record<string, number> = {
      [message.state === 'done' ? (message.direction === 'in' ? 'received' : 'sent') : message.state]: 1,
      [message.service]: 1,
      chars: message.text.length,
    }
    if (message.attachments.length > 0) shape.attachments = message.attachments.length
    if (isGroup(message)) shape.group = 1
    if (message.line > 1) shape[`line${Math.min(message.line, 4)}`] = 1
    if (!message.isRead) shape.unread = 1
    return shape
  },
  openFiles: messageFiles,
  archive: messageArchive,
  at: (message) => message.atMs,
  slice: conversationKey,
  figures: ['attachments'],
}
