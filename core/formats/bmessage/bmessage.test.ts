import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { utf8Bytes } from '../../text/bytes.ts'
import { joinRecord, lengthOf, readBmessage, readListingEntry, writeBmessage } from './index.ts'

const lines = (...text: string[]) => utf8Bytes(text.join('\r\n'))
const card = (tel: string) => ['BEGIN:VCARD', 'VERSION:2.1', 'N:', `TEL:${tel}`, 'END:VCARD']
const object = (body: string[], { length, head = [] as string[] }: { length?: number; head?: string[] } = {}) =>
  lines(
    'BEGIN:BMSG',
    'VERSION:1.0',
    'STATUS:UNREAD',
    'TYPE:SMS_GSM',
    'FOLDER:telecom/msg/inbox',
    ...card('+447700900001'),
    'BEGIN:BENV',
    ...card(''),
    'BEGIN:BBODY',
    ...head,
    ...(length === undefined ? [] : [`LENGTH:${length}`]),
    'BEGIN:MSG',
    ...body,
    'END:MSG',
    'END:BBODY',
    'END:BENV',
    'END:BMSG',
    '',
  )
const textOf = (bytes: Uint8Array) => {
  const read = readBmessage(bytes)
  return read.ok ? new TextDecoder().decode(read.message.body) : read.code
}

describe('a message object (message access profile 1.4, section 3.1.3)', () => {
  it('is read with its type, folder, state and parties; an empty card is the owner', () => {
    const read = readBmessage(object(['Hello']))
    expect(read).toMatchObject({
      ok: true,
      message: {
        type: 'SMS_GSM',
        folder: 'telecom/msg/inbox',
        isRead: false,
        originator: '+447700900001',
        recipients: [''],
        charset: '',
        encoding: '8BIT',
      },
    })
  })

  it('LENGTH counts bytes, from BEGIN:MSG to END:MSG with their line ends', () => {
    expect(lengthOf('aé💛')).toBe(11 + 7 + 11)
    expect(textOf(object(['Zoë 💛'], { length: lengthOf('Zoë 💛') }))).toBe('Zoë 💛')
  })

  it('a text that holds a line END:MSG ends where its LENGTH says', () => {
    const text = 'one\r\nEND:MSG\r\nthree'
    expect(textOf(object([text], { length: lengthOf(text) }))).toBe(text)
  })

  it('a LENGTH in characters, or none, is noted and the last END:MSG taken', () => {
    const wrong = readBmessage(object(['Größe 💛'], { length: 11 + 8 + 11 }))
    expect(wrong).toMatchObject({ ok: true, issues: ['length-wrong'] })
    expect(textOf(object(['Größe 💛'], { length: 30 }))).toBe('Größe 💛')
    // short by exactly what its last line end counts, it still ends where it ends
    expect(textOf(object(['Größe'], { length: 27 }))).toBe('Größe')
    expect(textOf(object(['one', 'END:MSG', 'three']))).toBe('one\r\nEND:MSG\r\nthree')
  })

  it('an empty text is a text', () => {
    expect(textOf(object([''], { length: lengthOf('') }))).toBe('')
    expect(
      textOf(
        lines(
          'BEGIN:BMSG',
          'TYPE:SMS_GSM',
          'FOLDER:x',
          'BEGIN:BENV',
          'BEGIN:BBODY',
          'LENGTH:20',
          'BEGIN:MSG',
          'END:MSG',
          'END:BBODY',
          'END:BENV',
          'END:BMSG',
        ),
      ),
    ).toBe('')
  })

  it('parties of nested envelopes are all recipients', () => {
    const read = readBmessage(
      lines(
        'BEGIN:BMSG',
        'TYPE:MMS',
        'FOLDER:sent',
        ...card(''),
        'BEGIN:BENV',
        ...card('1'),
        'BEGIN:BENV',
        ...card('2'),
        'BEGIN:BBODY',
        'BEGIN:MSG',
        'a',
        'END:MSG',
        'END:BBODY',
        'END:BENV',
        'END:BENV',
        'END:BMSG',
      ),
    )
    expect(read).toMatchObject({ ok: true, message: { recipients: ['1', '2'] } })
  })

  it.each([
    ['no-message', 'BEGIN:VCARD\r\nEND:VCARD\r\n'],
    ['no-message-body', 'BEGIN:BMSG\r\nTYPE:IM\r\nEND:BMSG\r\n'],
    ['no-end', 'BEGIN:BMSG\r\nTYPE:IM\r\nBEGIN:BBODY\r\nBEGIN:MSG\r\nhalf'],
    ['no-message-type', 'BEGIN:BMSG\r\nTYPE:PIGEON\r\nBEGIN:BBODY\r\nBEGIN:MSG\r\na\r\nEND:MSG\r\nEND:BBODY\r\nEND:BMSG\r\n'],
    [
      'damaged-party',
      'BEGIN:BMSG\r\nTYPE:IM\r\nBEGIN:VCARD\r\nTEL:1\r\nBEGIN:BBODY\r\nBEGIN:MSG\r\na\r\nEND:MSG\r\nEND:BBODY\r\nEND:BMSG\r\n',
    ],
    [
      'damaged-message',
      `BEGIN:BMSG\r\nTYPE:IM\r\n${'BEGIN:BENV\r\n'.repeat(4)}BEGIN:BBODY\r\nBEGIN:MSG\r\na\r\nEND:MSG\r\nEND:BBODY\r\nEND:BMSG\r\n`,
    ],
  ])('is refused as %s', (code, text) => {
    expect(readBmessage(utf8Bytes(text))).toEqual({ ok: false, code })
  })

  it('written and read again says the same, whatever it says', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', maxLength: 200 }),
        fc.boolean(),
        fc.array(fc.stringMatching(/^\+\d{5,12}$/), { maxLength: 4 }),
        (text, isRead, recipients) => {
          const content = text.replace(/\r\n?|\n/g, '\r\n')
          const read = readBmessage(
            utf8Bytes(writeBmessage({ isRead, type: 'SMS_GSM', folder: 'telecom/msg/sent', originator: '', recipients, content })),
          )
          expect(read).toMatchObject({ ok: true, issues: [], message: { isRead, originator: '', recipients } })
          expect(read.ok && new TextDecoder('utf-8', { ignoreBOM: true }).decode(read.message.body)).toBe(content)
        },
      ),
      { numRuns: 300 },
    )
  })

  it('never throws, whatever a phone gives', () => {
    const whole = object(['Hello'], { length: lengthOf('Hello') })
    fc.assert(
      fc.property(fc.nat(whole.length), fc.nat(255), fc.nat(whole.length), (cut, byte, at) => {
        const hurt = whole.slice(0, cut)
        if (at < hurt.length) hurt[at] = byte
        expect(typeof readBmessage(hurt).ok).toBe('boolean')
      }),
      { numRuns: 500 },
    )
  })
})

describe('an entry of a message listing (section 3.1.6)', () => {
  it('is one line in front of its object, entities read', () => {
    const record = readListingEntry(
      utf8Bytes(
        '<msg handle="A1" datetime="20260105T180000" conversation_name="Choir, alto &amp; &#60;tenor&#x3e;" unknown="x"/>\r\nBEGIN:BMSG',
      ),
    )
    expect(record?.entry).toEqual({ handle: 'A1', datetime: '20260105T180000', conversation_name: 'Choir, alto & <tenor>' })
    expect(new TextDecoder().decode(record!.object)).toBe('BEGIN:BMSG')
    expect(readListingEntry(utf8Bytes('BEGIN:BMSG\r\n'))).toBeUndefined()
  })

  it('written and read again says the same', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 60 }), (name) => {
        expect(readListingEntry(joinRecord({ conversation_name: name }, 'x'))?.entry.conversation_name).toBe(name)
      }),
    )
  })
})
