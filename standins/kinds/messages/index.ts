import type { PhoneKind } from '../phone-kind.ts'
import { messagesOf, type MessagesRequest } from './demo.ts'
import { giveMessage } from './give.ts'
import { countThreads, deleteOlderThanAYear } from './messages.queries.ts'
import { blankMessage, messageWays, type StoredMessage } from './stored.ts'
import { cutMessage, takeMessage } from './take.ts'

const threadOf = ({ from, to }: StoredMessage) => {
  const parties = [from, ...to].filter(Boolean)
  const names = parties.map((party) => (/[A-Za-z]/.test(party) ? party.toLowerCase() : party.replace(/\D/g, '').slice(-9)))
  return [...new Set(names)].sort().join(' ')
}

const figuresKnown = new Map<string, { revision: string; figures: Record<string, number> }>()

/** Texts and MMS as each maker gives and takes them. */
export const messages: PhoneKind<StoredMessage> = {
  code: 'messages',
  isAsked: true,
  asksFor: [{ platform: 'android', writes: true, unless: 'message-app', question: 'message-app-helper' }],
  on({ platform, dialect }) {
    const way = messageWays[dialect]
    return {
      give: (stored) => giveMessage(stored, way),
      take: (bytes) => takeMessage(bytes, way),
      facts: (stored) => [
        JSON.stringify({
          ...stored,
          atMs: Math.floor(stored.atMs / 1000),
          parts: stored.parts.map(({ type, name, size }) => ({ type, name, size })),
        }),
      ],
      refuses: ({ parts }) =>
        platform === 'keypad' ? 'storage-read-only' : parts.some((part) => part.size > 5_000_000) ? 'attachment-too-large' : null,
      at: (stored) => stored.atMs,
      filesOf: (stored) => stored.parts.filter(({ inside }) => inside === undefined),
      cut: (stored) => cutMessage(stored, way),
      thread: threadOf,
      writesOnly: platform === 'android' ? ['message-app'] : ['anti-theft-off', 'passcode-off'],
    }
  },
  halve: (stored) => ({ ...stored, text: stored.parts.length > 0 ? stored.text : '', parts: [] }),
  alter: (stored) => ({ ...stored, text: `${stored.text} edited` }),
  ofDemo: (count) => (count > 5000 ? { conversations: 180 } : {}),
  contents: ({ dialect }, request) => messagesOf({ ...(request as MessagesRequest), service: messageWays[dialect].service }),
  given(_, body) {
    const { messages: written = [], attached = [] } = body as {
      messages?: Partial<StoredMessage>[]
      attached?: { handle: string; text: string }[]
    }
    return written.map((message) => ({
      stored: { ...blankMessage, ...message },
      attached: attached
        .filter(({ handle }) => message.parts?.some((part) => part.handle === handle))
        .map(({ handle, text }) => ({ handle, bytes: Buffer.from(text) })),
    }))
  },
  /** Conversations and attachments, as its own list shows them; looked at again when something changed. */
  async counted(pool, { serial }, { revision }) {
    const known = figuresKnown.get(serial)
    if (known?.revision === revision) return { also: known.figures }
    const figures = { ...(await countThreads(pool, serial)) }
    figuresKnown.set(serial, { revision, figures })
    return { also: figures }
  },
  /** A keep-time of a year removes what is older as soon as it arrives. */
  async forget(pool, phone) {
    if (!phone.switches['message-keep-time']) await deleteOlderThanAYear(pool, phone.serial)
  },
}
