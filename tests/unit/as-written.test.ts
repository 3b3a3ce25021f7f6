import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { calendarText } from '#core/formats/icalendar/decode.ts'
import { splitCalendar } from '#core/formats/icalendar/split.ts'
import { sortInMemory } from '../setup/uploads.ts'
import { createVcardReader } from '#core/formats/vcard/index.ts'
import type { Message } from '#core/kinds/messages/model.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { base64Bytes } from '#core/text/bytes.ts'
import { readTools } from '#server/vault/read-tools.ts'

const tools = readTools({ region: 'GB', zone: 'Europe/London' }, Date.UTC(2026, 10, 25))

interface Written {
  readonly type?: string
  readonly folder?: string
  readonly entry?: string
  readonly body?: string
}
function recordOf({ type = 'SMS_GSM', folder = 'telecom/msg/inbox', entry = 'handle="1" datetime="20260101T080000"', body = '' }: Written) {
  return Buffer.from(
    `<msg ${entry}/>\r\nBEGIN:BMSG\r\nVERSION:1.0\r\nSTATUS:READ\r\nTYPE:${type}\r\nFOLDER:${folder}\r\nBEGIN:VCARD\r\nVERSION:2.1\r\nN:\r\nTEL:1\r\nEND:VCARD\r\n` +
      `BEGIN:BENV\r\nBEGIN:BBODY\r\n${body}END:BBODY\r\nEND:BENV\r\nEND:BMSG\r\n`,
    'latin1',
  )
}
function message(written: Written) {
  const read = kindOf('messages').read(recordOf(written), tools)
  if (!read.ok) throw new Error(read.code)
  return { ...(read.item as Message), issues: read.issues }
}
const said = (text: string, head = '') => `${head}BEGIN:MSG\r\n${text}\r\nEND:MSG\r\n`

describe('messages, as phones write them', () => {
  it('a body without header lines is its text, whatever it holds', () => {
    for (const text of ['see you at 8', 'Note: see you at 8', 'a\nb: c\n\nd', 'http://quay.example'])
      expect(message({ type: 'MMS', body: said(text) }).text).toBe(text)
    expect(message({ type: 'MMS', body: said('Content-Type: text/plain\r\n\r\nwith a head') }).text).toBe('with a head')
  })
  it('a long text in several pieces is one', () => {
    expect(message({ body: said('the first half, ') + said('and the second') }).text).toBe('the first half, and the second')
    expect(message({ body: said('a line\r\nBEGIN: not a piece') }).text).toBe('a line\nBEGIN: not a piece')
  })
  it('an attachment that stands in the message is read with it, and its bytes are found by its handle', () => {
    const bytes = Buffer.from('\xff\xd8 a picture', 'latin1')
    const mime =
      'Content-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nlook\r\n' +
      `--b\r\nContent-Type: image/jpeg; name="quay.jpg"\r\nContent-Transfer-Encoding: base64\r\n\r\n${bytes.toString('base64')}\r\n--b--`
    const record = recordOf({ type: 'MMS', body: said(mime) })
    const { text, attachments } = message({ type: 'MMS', body: said(mime) })
    const digest = createHash('sha256').update(bytes).digest('base64url')
    expect([text, attachments]).toEqual([
      'look',
      [{ type: 'image/jpeg', name: 'quay.jpg', handle: 'inside:1', sizeBytes: bytes.length, digest }],
    ])
    const { fileInside } = kindOf('messages')
    expect(Buffer.from(fileInside!(record, 'inside:1')!)).toEqual(bytes)
    expect([fileInside!(record, 'inside:7'), fileInside!(record, 'p1'), fileInside!(Buffer.from('x'), 'inside:1')]).toEqual([
      undefined,
      undefined,
      undefined,
    ])
  })
  it('a folder below a standard one keeps its direction', () => {
    for (const [folder, direction, state] of [
      ['telecom/msg/sent/Family', 'out', 'done'],
      ['sent', 'out', 'done'],
      ['telecom/msg/Inbox/Bees/2026', 'in', 'done'],
      ['telecom/msg/draft/later', 'out', 'draft'],
      ['Family', 'in', 'done'],
    ] as const) {
      const read = message({ folder, body: said('x') })
      expect([folder, read.direction, read.state]).toEqual([folder, direction, state])
    }
  })
  it('attributes of the listing stand in either quote', () => {
    const { atMs, group, isRead } = message({
      entry: `handle='1' datetime='20260101T080000' conversation_name='Bees "n" honey' read="no"`,
      body: said('x'),
    })
    expect([atMs, group, isRead]).toEqual([Date.UTC(2026, 0, 1, 8), 'Bees "n" honey', false])
  })
  it('a charset that is not said, and bytes that are none of theirs, are said to be guessed', () => {
    expect(message({ body: said('x', 'CHARSET:UTF-8\r\n') }).issues).not.toContain('charset-missing')
    expect(message({ body: said('x') }).issues).toContain('charset-missing')
    const guessed = message({ body: said('Caf\xe9', 'CHARSET:UTF-8\r\n') })
    expect([guessed.text, guessed.issues.includes('charset-guessed')]).toEqual(['Café', true])
    const part = message({ type: 'MMS', body: said('Content-Type: text/plain\r\n\r\nCaf\xe9', 'CHARSET:UTF-8\r\n') })
    expect([part.text, part.issues.includes('charset-guessed')]).toEqual(['Café', true])
  })
  it('the network’s own units are read as what they say, or not at all', () => {
    const unit = '040BC87238880900F10000993092516195800AE8329BFD4697D9EC37'
    expect(message({ body: said(unit, 'CHARSET:native\r\nENCODING:G-7BIT\r\n') }).text).toBe('hellohello')
    expect(() => message({ body: said('00FF12', 'CHARSET:native\r\n') })).toThrow('charset-unknown')
    expect(() => message({ type: 'SMS_CDMA', body: said(unit, 'CHARSET:native\r\n') })).toThrow('charset-unknown')
  })
  it('base64 is read past what is no sign of it (RFC 2045 section 6.8); what is cut is damaged', () => {
    const bytes = (text: string) => base64Bytes(text) && Buffer.from(base64Bytes(text)!).toString()
    expect([bytes('aGVs!bG8='), bytes('aGVs bG8\r\n='), bytes('aGVsbG8=*')]).toEqual(['hello', 'hello', 'hello'])
    expect([bytes('aGVsb'), bytes('!!!!')]).toEqual([undefined, undefined])
    const body = said('Content-Type: text/plain\r\nContent-Transfer-Encoding: base64\r\n\r\naGVs\u00a7bG8=')
    expect(message({ type: 'MMS', body }).text).toBe('hello')
  })
})

describe('files, as they went through hands', () => {
  const calendar = (summary: string, end = '\r\n') =>
    ['BEGIN:VCALENDAR', 'BEGIN:VEVENT', 'UID:1', 'DTSTART:20260101T080000Z', `SUMMARY:${summary}`, 'END:VEVENT', 'END:VCALENDAR', ''].join(
      end,
    )
  const titleOf = (text: string) => {
    const [item] = splitCalendar(text).items()
    const read = kindOf('calendar').read(Buffer.from(item!), tools)
    return read.ok ? kindOf('calendar').describe(read.item).title : read.code
  }
  it('lines that end CR CR LF, folded ones too', () => {
    expect(titleOf(calendar('Choir and\r\r\n  bees', '\r\r\n'))).toBe('Choir and bees')
    const reader = createVcardReader()
    const cards = [
      ...reader.push(Buffer.from(['BEGIN:VCARD', 'VERSION:3.0', 'FN:Ada\r\r\n  Quill', 'END:VCARD', ''].join('\r\r\n'))),
      ...reader.end(),
    ]
    expect(cards.map((card) => card.ok && card.card.properties.find(({ name }) => name === 'FN')?.value)).toEqual(['Ada Quill'])
  })
  it('a fold inside a character (RFC 5545 section 3.1)', () => {
    const whole = Buffer.from(calendar('Käse und Brot'))
    const at = whole.indexOf(0xc3) + 1
    const folded = Buffer.concat([whole.subarray(0, at), Buffer.from('\r\n '), whole.subarray(at)])
    expect(titleOf(calendarText(folded))).toBe('Käse und Brot')
    const read = kindOf('calendar').read(folded, tools)
    expect(read.ok && kindOf('calendar').describe(read.item).title).toBe('Käse und Brot')
  })
  it('UTF-16, with its mark or without', async () => {
    for (const mark of ['\ufeff', '']) {
      const bytes = Buffer.from(mark + calendar('Käse'), 'utf16le')
      expect(titleOf(calendarText(bytes))).toBe('Käse')
      expect(titleOf(calendarText(Buffer.from(bytes).swap16()))).toBe('Käse')
      const cards = Buffer.from(`${mark}BEGIN:VCARD\r\nFN:ä\r\nEND:VCARD\r\n`, 'utf16le').swap16()
      const { items } = await sortInMemory({ calendar: bytes, cards })
      expect(items).toEqual({ calendar: 1, contacts: 1 })
    }
  })
})
