import { asToldLocally } from '../../text/zone.ts'
import type { PhoneModel } from '../../phones/capability.ts'
import type { Change } from '../kind.ts'
import { isGroup, type Message } from './model.ts'
import { messagesOn, type MessagesAbility } from './face.ts'

/** Every change a phone can force on a message. */
export const messageChanges = {
  'chat-to-mms': { loss: false },
  'reactions-as-text': { loss: false },
  'group-subject-dropped': { loss: true },
  'subject-to-text': { loss: false },
  'line-dropped': { loss: true },
  'failed-as-draft': { loss: false },
  'attachment-not-playable': { loss: true },
  'long-text-split': { loss: false },
  'repeated-hour': { loss: true },
} as const

export type MessageChangeCode = keyof typeof messageChanges

/** The form a message takes on a phone, with every change named, or the rule by which it can't cross. */
export function changeMessage(message: Message, to: PhoneModel): { item: Message; changes: Change[] } | { cannot: string } {
  const { write } = messagesOn(to)
  if ('cannot' in write) return write
  if (message.state !== 'done' && !write.unsent)
    return { cannot: message.state === 'draft' ? 'no-place-for-drafts' : 'no-place-for-unsent' }
  // a phone that knows the message as it is: most of them, and nothing to do
  const codes = new Set<MessageChangeCode>()
  const item = inItsTime(fit(message, write, codes), write, to, codes)
  return { item, changes: [...codes].map((code) => ({ code, loss: messageChanges[code].loss })) }
}

/** A phone that gives local times alone can't tell the hour that comes twice apart: what it is given is what it will say. */
function inItsTime(message: Message, { localTimes }: MessagesAbility, { zone }: PhoneModel, codes: Set<MessageChangeCode>): Message {
  const atMs = localTimes && zone ? asToldLocally(message.atMs, zone) : message.atMs
  if (atMs === message.atMs) return message
  codes.add('repeated-hour')
  return { ...message, atMs }
}

function fit(message: Message, can: MessagesAbility, codes: Set<MessageChangeCode>): Message {
  let { service, chatOf, text, reactionTo, state, line, group, subject } = message
  if (service === 'chat' && chatOf !== can.chat) {
    codes.add('chat-to-mms')
    service = message.attachments.length > 0 || isGroup(message) ? 'mms' : 'sms'
    chatOf = ''
  }
  if (reactionTo !== undefined && service !== 'chat') {
    codes.add('reactions-as-text')
    text = reactionTo === '' ? text : `${text} to “${reactionTo}”`
    reactionTo = undefined
  }
  if (group !== '' && !can.groupNames) {
    codes.add('group-subject-dropped')
    group = ''
  }
  // only MIME has a place for a subject
  if (subject !== '' && service === 'sms') {
    codes.add('subject-to-text')
    text = [subject, text].filter(Boolean).join('\n')
    subject = ''
  }
  if (line > 1 && line > can.lines) {
    codes.add('line-dropped')
    line = 1
  }
  if (state === 'failed' && !can.failed) {
    codes.add('failed-as-draft')
    state = 'draft'
  }
  if (message.attachments.some(({ type }) => !canPlay(type, can))) codes.add('attachment-not-playable')
  if (text.length > can.textMaxChars && message.attachments.length === 0) codes.add('long-text-split')
  return { ...message, service, chatOf, text, reactionTo, state, line, group, subject }
}

function canPlay(type: string, { unplayable }: MessagesAbility): boolean {
  return !unplayable.includes(type)
}

/**
 * The records a phone makes of an over-long message: each holds a piece of the text, none cuts a character. One
 * record when it fits.
 */
export function splitMessage(message: Message, { textMaxChars: most }: MessagesAbility): readonly Message[] {
  if (message.text.length <= most || message.attachments.length > 0) return [message]
  const pieces: Message[] = []
  let at = 0
  while (at < message.text.length) {
    let end = Math.min(at + most, message.text.length)
    // a pair of surrogates is one character
    if (end < message.text.length && /[\ud800-\udbff]/.test(message.text[end - 1]!)) end--
    pieces.push({ ...message, text: message.text.slice(at, end) })
    at = end
  }
  return pieces
}
