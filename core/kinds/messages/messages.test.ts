import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { createNumberReader } from '../contacts/index.ts'
import { findModel } from '../../phones/models.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import { createInstantReader } from '../../text/zone.ts'
import type { ReadTools } from '../kind.ts'
import { conversationKey } from './canonical.ts'
import { messages, type Message } from './index.ts'

const tools: ReadTools = { number: createNumberReader('GB'), instant: createInstantReader('Europe/London'), hash: () => '', nowMs: 0 }
const phone = (model: string) =>
  findModel({
    maker: model.split(' ')[0]!,
    model,
    platform: model.startsWith('Veyra') ? 'ios' : model.startsWith('Holt') ? 'keypad' : 'android',
  })
const plain: Message = {
  direction: 'in',
  state: 'done',
  service: 'sms',
  chatOf: '',
  atMs: 1_767_636_000_123,
  from: '07700 900001',
  to: [],
  isRead: true,
  line: 1,
  subject: '',
  group: '',
  text: 'Hello',
  reactionTo: undefined,
  attachments: [],
}
const record = (
  entry: string,
  { type = 'SMS_GSM', folder = 'telecom/msg/inbox', from = '07700900001', to = [''], body = 'Hello' } = {},
) => {
  const card = (tel: string) => `BEGIN:VCARD\r\nVERSION:2.1\r\nN:\r\nTEL:${tel}\r\nEND:VCARD\r\n`
  return utf8Bytes(
    `<msg ${entry}/>\r\nBEGIN:BMSG\r\nVERSION:1.0\r\nSTATUS:READ\r\nTYPE:${type}\r\nFOLDER:${folder}\r\n${card(from)}BEGIN:BENV\r\n${to.map(card).join('')}BEGIN:BBODY\r\nCHARSET:UTF-8\r\nBEGIN:MSG\r\n${body}\r\nEND:MSG\r\nEND:BBODY\r\nEND:BENV\r\nEND:BMSG\r\n`,
  )
}
const read = (bytes: Uint8Array) => {
  const result = messages.read(bytes, tools)
  if (!result.ok) throw new Error(result.code)
  return result.item
}
const codes = (message: Message, model: string) => {
  const result = messages.change(message, phone(model))
  return 'cannot' in result ? result.cannot : result.changes.map((c) => c.code)
}
const form = (message: Message, model: string) => {
  const result = messages.change(message, phone(model))
  if ('cannot' in result) throw new Error(result.cannot)
  return result.item
}

describe('when a message was', () => {
  it.each([
    ['milliseconds', 'x_time="1767636000123" datetime="20200101T000000"', 1_767_636_000_123],
    ['seconds', 'x_time="1767636000"', 1_767_636_000_000],
    ['a local time of winter', 'datetime="20260105T180000"', Date.UTC(2026, 0, 5, 18)],
    ['a local time of summer', 'datetime="20260705T180000"', Date.UTC(2026, 6, 5, 17)],
    ['a local time with its offset', 'datetime="20260705T180000+0100"', Date.UTC(2026, 6, 5, 17)],
    ['west of Greenwich', 'datetime="20260705T180000-0330"', Date.UTC(2026, 6, 5, 21, 30)],
    ['UTC', 'datetime="20260705T180000Z"', Date.UTC(2026, 6, 5, 18)],
  ])('is told by %s', (_, entry, at) => {
    expect(read(record(entry)).atMs).toBe(at)
  })

  it('seconds and milliseconds of one instant are the same message', () => {
    const atoms = ['x_time="1767636000987"', 'x_time="1767636000"', 'datetime="20260105T180000"'].map((entry) =>
      messages.atoms(read(record(entry)), tools),
    )
    expect(new Set(atoms.map(String)).size).toBe(1)
  })

  it('a message that says no date, or none that is one, is unreadable', () => {
    for (const entry of ['handle="1"', 'datetime="20261305T180000"', 'x_time="soon"'])
      expect(messages.read(record(entry), tools)).toEqual({ ok: false, code: 'no-message-date' })
  })
})

describe('which way it went', () => {
  it.each([
    ['an incoming one', 'direction="incoming"', 'inbox', { direction: 'in', state: 'done' }],
    ['a sent one by its folder alone', '', 'telecom/msg/sent', { direction: 'out', state: 'done' }],
    ['a draft by its folder, in capitals', '', '/TELECOM/MSG/DRAFT', { direction: 'out', state: 'draft' }],
    ['a failed one', 'direction="outgoingpending"', 'telecom/msg/outbox', { direction: 'out', state: 'failed' }],
    ['the listing’s word before the folder’s', 'direction="outgoing"', 'telecom/msg/deleted', { direction: 'out', state: 'done' }],
  ])('%s', (_, entry, folder, course) => {
    expect(read(record(`x_time="1767636000" ${entry}`, { folder, to: ['07700 900002'] }))).toMatchObject(course)
  })

  it('an incoming one that names nobody is unreadable', () => {
    expect(messages.read(record('x_time="1767636000"', { from: '' }), tools)).toEqual({ ok: false, code: 'no-sender' })
  })
})

describe('a conversation', () => {
  it('is one over every spelling of its parties, their order, and both directions', () => {
    const keys = [
      { from: '07700 900001', to: ['+447700900002'] },
      { from: '(07700) 900-002', to: ['00447700900001'] },
      { from: '', direction: 'out' as const, to: ['07700900002', '+44 7700 900001'] },
    ].map((change) => conversationKey({ ...plain, ...change }, tools))
    expect(new Set(keys).size).toBe(1)
    expect(conversationKey(plain, tools)).toBe(conversationKey({ ...plain, direction: 'out', from: '', to: ['+447700900001'] }, tools))
  })

  it('a sender’s word is no number, and its case says nothing', () => {
    expect(conversationKey({ ...plain, from: 'SALTMERE' }, tools)).toBe('saltmere')
    expect(conversationKey({ ...plain, from: '60777' }, tools)).toBe('60777')
  })
})

describe('what a message says', () => {
  it('read or unread is no content, a line and a service are', () => {
    const same = (change: Partial<Message>) =>
      String(messages.atoms({ ...plain, ...change }, tools)) === String(messages.atoms(plain, tools))
    expect(same({ isRead: false })).toBe(true)
    expect(same({ atMs: plain.atMs + 800 })).toBe(true)
    for (const change of [
      { line: 2 },
      { service: 'mms' as const },
      { text: 'hello' },
      { from: '07700 900009' },
      { atMs: plain.atMs + 1000 },
      { state: 'draft' as const },
    ])
      expect(same(change)).toBe(false)
  })

  it('text is compared in normal form, decomposed accents and line ends alike', () => {
    expect(messages.atoms({ ...plain, text: 'cafe\u0301\r\nnow' }, tools)).toEqual(messages.atoms({ ...plain, text: 'café\nnow' }, tools))
  })

  it('two equal attachments are two', () => {
    const part = { type: 'image/png', name: 'a', handle: '1', sizeBytes: 1, digest: 'd' }
    expect(messages.atoms({ ...plain, attachments: [part, part] }, tools)).not.toEqual(
      messages.atoms({ ...plain, attachments: [part] }, tools),
    )
  })

  it('parts are noted by what they were found to be, and nothing else of the record changes', () => {
    const body =
      'MIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary="b"\r\n\r\n--b\r\n\r\nhandle="p1"; size=9 in a text\r\n--b\r\nContent-Type: message/external-body; access-type=x-link; handle="p1"; size=9\r\n\r\nContent-Type: image/jpeg\r\n\r\n--b--'
    const noted = messages.noteFiles!(
      record('x_time="1767636000"', { type: 'MMS', body }),
      new Map([['p1', { digest: 'abc', sizeBytes: 12 }]]),
    )
    expect(read(noted)).toMatchObject({
      text: 'handle="p1"; size=9 in a text',
      attachments: [{ handle: 'p1', sizeBytes: 12, digest: 'abc', type: 'image/jpeg' }],
    })
  })

  it('a reaction (RFC 9078) says to what', () => {
    const body =
      'Content-Type: text/plain; charset=utf-8\r\nContent-Disposition: reaction\r\nContent-Description: =?utf-8?Q?Gr=C3=BC=C3=9Fe?=\r\n\r\n💛'
    expect(read(record('x_time="1767636000" x_service="ios"', { type: 'IM', body }))).toMatchObject({
      service: 'chat',
      chatOf: 'ios',
      text: '💛',
      reactionTo: 'Grüße',
    })
  })
})

describe('what a new phone forces on a message', () => {
  const chat: Message = { ...plain, service: 'chat', chatOf: 'ios' }
  it.each([
    ['chat becomes SMS on another platform', chat, 'Orrin 5', ['chat-to-mms']],
    ['chat stays chat on its own', chat, 'Veyra 12', []],
    ['a reaction becomes a line of text', { ...chat, text: '💛', reactionTo: 'Tea?' }, 'Orrin 5', ['chat-to-mms', 'reactions-as-text']],
    [
      'a group’s name is lost where there is none',
      { ...plain, service: 'mms' as const, to: ['07700 900002'], group: 'Choir' },
      'Tamsel M2',
      ['group-subject-dropped'],
    ],
    ['the second line is lost where there is one', { ...plain, line: 2 }, 'Tamsel M2', ['line-dropped']],
    ['a failed one becomes a draft', { ...plain, direction: 'out' as const, state: 'failed' as const }, 'Tamsel M2', ['failed-as-draft']],
    [
      'a clip the other can’t play is named',
      { ...plain, service: 'mms' as const, attachments: [{ type: 'video/3gpp', name: '', handle: '1', sizeBytes: 1, digest: 'd' }] },
      'Veyra 12',
      ['attachment-not-playable'],
    ],
    ['a long text becomes several records', { ...plain, text: 'x'.repeat(1001) }, 'Tamsel M2', ['long-text-split']],
    ['a subject that SMS has no place for stands in the text', { ...chat, subject: 'Tea' }, 'Orrin 5', ['chat-to-mms', 'subject-to-text']],
    ['drafts have no place on iOS', { ...plain, direction: 'out' as const, state: 'draft' as const }, 'Veyra 12', 'no-place-for-drafts'],
    [
      'what was never sent has none, either',
      { ...plain, direction: 'out' as const, state: 'failed' as const },
      'Veyra 12',
      'no-place-for-unsent',
    ],
    ['a keypad phone takes no messages', plain, 'Holt 3', 'phone-takes-no-messages'],
  ])('%s', (_, message, model, expected) => {
    expect(codes(message as Message, model)).toEqual(expected)
  })

  it('a chat message of a group or with a picture becomes MMS, any other SMS', () => {
    expect(form(chat, 'Orrin 5').service).toBe('sms')
    expect(form({ ...chat, to: ['07700 900002'] }, 'Orrin 5').service).toBe('mms')
    expect(form({ ...chat, text: '💛', reactionTo: 'Tea?' }, 'Orrin 5')).toMatchObject({ text: '💛 to “Tea?”', reactionTo: undefined })
  })

  it('pieces of a long text together say all of it, none longer than the phone keeps, no character cut', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 4000 }), (text) => {
        const pieces = messages.split!(form({ ...plain, text }, 'Tamsel M2'), phone('Tamsel M2'))
        expect(pieces.map((piece) => piece.text).join('')).toBe(text)
        expect(pieces.every((piece) => piece.text.length <= 1000)).toBe(true)
        expect(pieces.every((piece) => !/^[\udc00-\udfff]|[\ud800-\udbff]$/.test(piece.text))).toBe(true)
      }),
      { numRuns: 60 },
    )
  })

  it('written for any phone and read again is what the forecast said', () => {
    fc.assert(
      fc.property(
        fc.record({
          direction: fc.constantFrom('in' as const, 'out' as const),
          service: fc.constantFrom('sms' as const, 'mms' as const, 'chat' as const),
          chatOf: fc.constantFrom('ios', 'android'),
          text: fc.string({ unit: 'grapheme', maxLength: 80 }).map((t) => t.replace(/\r/g, '')),
          subject: fc.string({ unit: 'grapheme', maxLength: 20 }).map((t) => t.replace(/[\r\n]+/g, ' ').trim()),
          line: fc.constantFrom(1, 2),
          to: fc.uniqueArray(fc.constantFrom('+447700900001', '+447700900002', '+447700900003'), { minLength: 1, maxLength: 3 }),
          isRead: fc.boolean(),
        }),
        fc.constantFrom('Orrin 5', 'Tamsel M2', 'Veyra 12'),
        (change, model) => {
          const message: Message = {
            ...plain,
            ...change,
            from: change.direction === 'in' ? '+447700900009' : '',
            subject: change.service === 'sms' ? '' : change.subject,
          }
          const there = form(message, model)
          const again = read(messages.write(there, phone(model)))
          expect(messages.atoms(again, tools)).toEqual(messages.atoms(there, tools))
          expect(again.isRead).toBe(message.isRead)
        },
      ),
      { numRuns: 400 },
    )
  })

  it('never throws, whatever a phone gives', () => {
    const whole = record('x_time="1767636000" direction="incoming"', {
      type: 'MMS',
      body: 'Content-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\n\r\na\r\n--b--',
    })
    fc.assert(
      fc.property(fc.nat(whole.length), fc.nat(255), fc.nat(whole.length), (cut, byte, at) => {
        const hurt = whole.slice(0, cut)
        if (at < hurt.length) hurt[at] = byte
        const result = messages.read(hurt, tools)
        if (result.ok) messages.atoms(result.item, tools)
      }),
      { numRuns: 500 },
    )
  })
})
