import { numbers, picture } from '../../demo/draw.ts'
import { blankMessage, type StoredMessage } from './stored.ts'

export interface MessagesRequest {
  readonly seed: number
  readonly count: number
  readonly style?: 'traps' | 'plain'
  /** With how many parties; a third of count and 40 at most unless said. */
  readonly conversations?: number
  /** Whose chat service the phone has; none for SMS and MMS alone. */
  readonly service?: string
}

export interface MessageOnPhone {
  readonly stored: StoredMessage
  readonly damage?: string
  readonly attached?: readonly { readonly handle: string; readonly bytes: Buffer }[]
}

/** The demo's messages end on this day, so that the same seed gives the same ones whenever it is asked. */
const lastDay = Date.UTC(2026, 10, 20, 18)
const oneDayMs = 86_400_000
const openings = [
  'See you at the quay',
  'Running late',
  'Rehearsal is at',
  'The bees are calm today',
  'Fog until noon',
  'Can you bring the',
  'Tide turns at',
  'Thanks for the',
  'Ferry is full until',
  'Found your',
]
const endings = [
  'at seven',
  'tomorrow',
  'keys',
  'on Saturday',
  'before lunch',
  'if it stays dry',
  'half past two',
  'with Maud',
  'lamp oil',
  '💛',
  'again :)',
  'as always',
]

/** Messages from a seed, one after the other: the same seed gives the same messages. Numbers from ranges set aside for fiction. */
export function* messagesOf({
  seed,
  count,
  style = 'plain',
  conversations = Math.max(1, Math.min(40, Math.ceil(count / 3))),
  service = '',
}: MessagesRequest): Generator<MessageOnPhone> {
  const next = numbers(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  // one number, one conversation; beyond a thousand they are told apart by a land line's
  const numberOf = (i: number) =>
    i < 1000 ? { n: `7700${900000 + ((seed * 131 + i) % 1000)}` } : { n: `2079460${String(i % 1000).padStart(3, '0')}` }
  const spell = (n: string) => pick([`+44${n}`, `0${n}`, `0${n.slice(0, 4)} ${n.slice(4)}`])
  const everyMs = Math.min(2.2 * 3_600_000, (6 * 365 * oneDayMs) / Math.max(1, count))
  for (let i = 0; i < count; i++) {
    const conversation = i % 3 === 0 ? i % conversations : Math.floor(next() * conversations)
    const { n } = numberOf(conversation)
    const isIn = next() < 0.55
    const message: StoredMessage = {
      ...blankMessage,
      way: isIn ? 'in' : 'out',
      atMs: lastDay - Math.floor(i * everyMs) - Math.floor(next() * 999),
      text: `${pick(openings)} ${pick(endings)} ${i + 1}`,
    }
    if (conversation % 11 === 10) {
      // a group of three
      message.type = service && conversation % 2 === 0 ? 'im' : 'mms'
      const others = [
        numberOf((conversation + 1) % Math.max(conversations, 4)).n,
        numberOf((conversation + 2) % Math.max(conversations, 4)).n,
      ]
      if (isIn) Object.assign(message, { from: spell(n), to: others.map(spell) })
      else message.to = [n, ...others].map(spell)
    } else if (isIn) message.from = spell(n)
    else message.to = [spell(n)]
    if (service && message.type === 'sms' && conversation % 4 === 1) message.type = 'im'
    if (message.type === 'im') message.service = service
    if (next() < 0.02) message.read = false
    const hasPicture = next() < (count > 20_000 ? 0.002 : 0.03)
    if (!hasPicture) {
      yield { stored: message }
      continue
    }
    const bytes = Buffer.from(picture(seed * 1000 + i, 200 + (i % 50) * 40), 'base64')
    const handle = `p${seed}-${i}`
    if (message.type === 'sms') message.type = 'mms'
    yield {
      stored: { ...message, parts: [{ type: 'image/jpeg', name: `photo ${i}.jpg`, handle, size: bytes.length }] },
      attached: [{ handle, bytes }],
    }
  }
  if (style === 'traps') yield* traps({ seed, service })
}

function* traps({ seed, service }: { seed: number; service: string }): Generator<MessageOnPhone> {
  const at = lastDay - 40 * oneDayMs
  let n = 0
  const part = (type: string, name: string, size = 900) => {
    const handle = `t${seed}-${++n}`
    return { about: { type, name, handle, size }, held: { handle, bytes: Buffer.alloc(size, `${seed} ${n} `) } }
  }
  const sms = (change: Partial<StoredMessage>): StoredMessage => ({
    ...blankMessage,
    from: '07700 900411',
    atMs: at,
    text: 'A text',
    ...change,
  })
  const withParts = (change: Partial<StoredMessage>, ...parts: ReturnType<typeof part>[]): MessageOnPhone => ({
    stored: sms({ type: 'mms', ...change, parts: parts.map((p) => p.about) }),
    attached: parts.map((p) => p.held),
  })
  // three equal messages in one second are three
  for (let i = 0; i < 3; i++) yield { stored: sms({ text: 'On my way', atMs: at + 1000 }) }
  // one person under several spellings is one conversation
  for (const from of ['07700 900412', '+447700900412', '(07700) 900-412', '00447700900412'])
    yield { stored: sms({ from, atMs: at + 60_000 + from.length * 1000, text: `Spelling ${from.length}` }) }
  // milliseconds and seconds
  yield { stored: sms({ atMs: at + 120_123, text: 'With milliseconds' }) }
  yield { stored: sms({ type: 'mms', atMs: at + 121_987, text: 'An MMS says seconds' }) }
  // the hour that clocks skip, and the one that comes twice
  yield { stored: sms({ atMs: Date.UTC(2026, 2, 29, 1, 30), text: 'Spring' }) }
  yield { stored: sms({ atMs: Date.UTC(2026, 9, 25, 0, 30), text: 'Autumn' }) }
  yield { stored: sms({ atMs: Date.UTC(2009, 5, 1, 12), text: 'Very old' }) }
  // text of every kind
  yield { stored: sms({ text: 'Größe, Ångström, naïve — 👩‍👩‍👧 山本さん', atMs: at + 200_000 }) }
  yield { stored: sms({ text: 'cafe\u0301 and café', atMs: at + 201_000 }) }
  yield { stored: sms({ text: 'Line one\nEND:MSG\nLine three', atMs: at + 202_000 }) }
  yield { stored: sms({ text: 'BEGIN:VCARD\nEND:VCARD', atMs: at + 203_000 }) }
  yield { stored: sms({ text: '', atMs: at + 204_000 }) }
  yield { stored: sms({ text: `${'Every buoy of the channel, in order. '.repeat(80)}💛`, atMs: at + 205_000 }) }
  yield { stored: sms({ text: `${'x'.repeat(999)}💛${'y'.repeat(500)}`, way: 'out', from: '', to: ['07700 900413'], atMs: at + 206_000 }) }
  yield { stored: sms({ text: 'a=b; <c> "d" & e', from: 'SALTMERE', atMs: at + 207_000 }) }
  yield { stored: sms({ text: 'Your code is 1234', from: '60777', atMs: at + 208_000 }) }
  // two lines
  yield { stored: sms({ line: 2, text: 'On the second line', atMs: at + 300_000 }) }
  yield { stored: sms({ line: 2, way: 'out', from: '', to: ['07700 900414'], text: 'From the second line', atMs: at + 301_000 }) }
  // drafts and failed ones
  yield { stored: sms({ way: 'out', from: '', to: ['07700 900415'], state: 'draft', text: 'Not sent yet', atMs: at + 400_000 }) }
  yield { stored: sms({ way: 'out', from: '', to: [], state: 'draft', text: 'To nobody yet', atMs: at + 401_000 }) }
  yield { stored: sms({ way: 'out', from: '', to: ['07700 900416'], state: 'failed', text: 'No signal', atMs: at + 402_000 }) }
  yield { stored: sms({ read: false, text: 'Not read yet', atMs: at + 403_000 }) }
  // a group with a name
  yield {
    stored: sms({
      type: 'mms',
      from: '07700 900421',
      to: ['07700 900422', '07700 900423'],
      group: 'Choir, alto & <tenor>',
      text: 'Who has the music?',
      atMs: at + 500_000,
    }),
  }
  yield {
    stored: sms({
      type: 'mms',
      way: 'out',
      from: '',
      to: ['+447700900423', '07700 900421', '07700900422'],
      group: 'Choir, alto & <tenor>',
      subject: 'Größe des Chors',
      text: 'I do',
      atMs: at + 501_000,
    }),
  }
  if (service) {
    yield { stored: sms({ type: 'im', service, from: '07700 900424', text: 'By chat', atMs: at + 502_000 }) }
    yield { stored: sms({ type: 'im', service, from: '07700 900424', text: '💛', reaction: 'I do, “all” of it', atMs: at + 503_000 }) }
    yield {
      stored: sms({
        type: 'im',
        service,
        from: '07700 900424',
        to: ['07700 900425'],
        group: 'Boat',
        text: 'Launch at nine',
        atMs: at + 504_000,
      }),
    }
  }
  // attachments: several, equal twice, none beside, of types not everybody plays, of odd names, and large
  yield withParts({ atMs: at + 600_000, text: 'Two pictures' }, part('image/jpeg', 'quay.jpg'), part('image/jpeg', 'quay.jpg', 1500))
  const twin = part('image/png', 'twin.png')
  yield {
    stored: sms({
      type: 'mms',
      atMs: at + 601_000,
      text: 'The same twice',
      parts: [twin.about, { ...twin.about, handle: `${twin.about.handle}b` }],
    }),
    attached: [twin.held, { ...twin.held, handle: `${twin.about.handle}b` }],
  }
  yield withParts({ atMs: at + 602_000, text: '' }, part('image/gif', 'wave.gif'))
  yield withParts({ atMs: at + 603_000, text: 'A clip' }, part('video/3gpp', 'tide.3gp', 40_000))
  yield withParts({ atMs: at + 604_000, text: 'A voice' }, part('audio/amr', 'voice.amr', 6_000))
  yield withParts({ atMs: at + 605_000, text: 'High efficiency' }, part('image/heic', 'IMG_0001.HEIC', 12_000))
  yield withParts({ atMs: at + 606_000, text: 'Odd name' }, part('text/x-vcard', 'Zoe.vcf'), part('application/pdf', 'tides 2026.pdf'))
  yield withParts({ atMs: at + 607_000, text: 'Large' }, part('image/jpeg', 'large.jpg', 900_000))
  // the network's own message, kept with its picture in it
  const within = part('image/jpeg', 'in the message.jpg', 1_300)
  yield {
    stored: sms({
      type: 'mms',
      atMs: at + 607_500,
      text: 'Kept whole',
      parts: [{ ...within.about, inside: within.held.bytes.toString('base64') }],
    }),
  }
  const lost = part('image/jpeg', 'never loaded.jpg')
  // its picture was never fetched from the network
  yield { stored: sms({ type: 'mms', atMs: at + 608_000, text: 'Tap to load', parts: [lost.about] }) }
  yield { stored: sms({ atMs: at + 700_000, text: 'Damaged' }), damage: 'cut-card' }
  yield { stored: sms({ atMs: at + 701_000, text: 'Dead sector' }), damage: 'storage-error' }
}
