import { capabilityOf, type PhoneModel } from '../../phones/capability.ts'
import { marks, type KindFace } from '../face.ts'

/** What a phone does with messages. */
export interface MessagesAbility {
  /** The chat service of its platform; messages of another become SMS or MMS. */
  readonly chat: string
  /** It has a place for drafts and for what was never sent. */
  readonly unsent: boolean
  /** It tells a failed message from a draft. */
  readonly failed: boolean
  /** Lines it tells apart. */
  readonly lines: number
  readonly groupNames: boolean
  /** Types of attachments it keeps and can't play. */
  readonly unplayable: readonly string[]
  /** A longer text becomes several records. */
  readonly textMaxChars: number
  /** It gives local times alone: of the hour that comes twice it tells the first. */
  readonly localTimes: boolean
}

const android: MessagesAbility = {
  chat: 'android',
  unsent: true,
  failed: true,
  lines: 2,
  groupNames: true,
  unplayable: ['image/heic', 'video/quicktime'],
  textMaxChars: 20_000,
  localTimes: false,
}
const tamsel: MessagesAbility = { ...android, failed: false, lines: 1, groupNames: false, textMaxChars: 1_000, localTimes: true }
const ios: MessagesAbility = {
  chat: 'ios',
  unsent: false,
  failed: false,
  lines: 2,
  groupNames: true,
  unplayable: ['video/3gpp', 'audio/amr'],
  textMaxChars: 20_000,
  localTimes: false,
}

/** What that phone does with messages. */
export const messagesOn = (phone: PhoneModel) => capabilityOf<MessagesAbility>(phone, 'messages')

const chatToMms = { code: 'chat-to-mms', loss: false }
const reactionsAsText = { code: 'reactions-as-text', loss: false }

export const messagesFace: KindFace = {
  code: 'messages',
  phones: {
    Orrin: { read: true, write: android },
    Tamsel: { read: true, write: tamsel },
    Veyra: { read: true, write: ios },
    Holt: { read: true, write: { cannot: 'phone-takes-no-messages' } },
    File: { read: true, write: { cannot: 'file-is-read-only' } },
  },
  guides: {
    android: { read: true, write: true, changes: [chatToMms, reactionsAsText] },
    'tamsel-to-11': { read: true, write: true, changes: [chatToMms, reactionsAsText, { code: 'group-subject-dropped', loss: true }] },
    ios: { read: true, write: true, changes: [chatToMms, { code: 'drafts-dropped', loss: true }] },
    keypad: { read: true, write: { cannot: 'phone-takes-no-messages' }, limits: { items: 250 } },
  },
  facets: marks(
    'message',
    ['received', 'sent', 'draft', 'failed', 'sms', 'mms', 'chat', 'group', 'attachments', 'unread', 'line2'],
    ['received', 'sent', 'sms'],
  ),
  needs: ['accounts-still', 'message-keep-time', 'flight-mode', 'message-app', 'anti-theft-off', 'passcode-off', 'chat-off', 'second-step'],
  permission: 'messages',
}
