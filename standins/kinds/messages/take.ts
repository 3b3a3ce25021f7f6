import type { MessageWay, StoredMessage } from './stored.ts'

/**
 * Reads what the phone is given by its own rules: LENGTH must hold to the byte, types must be known, every party must
 * have an address. @throws Error when it is no message this phone takes
 */
export function takeMessage(bytes: Buffer, way: MessageWay): StoredMessage {
  const lineEnd = bytes.indexOf('\r\n')
  const entry = bytes.subarray(0, lineEnd).toString('utf8')
  if (lineEnd < 0 || !/^<msg [^>]*\/>$/.test(entry)) throw new Error('no entry')
  const attribute = (name: string) =>
    new RegExp(` ${name}="([^"]*)"`)
      .exec(entry)?.[1]
      ?.replace(/&(quot|lt|gt|amp|#(\d+));/g, (_, n: string, code: string | undefined) =>
        code ? String.fromCodePoint(Number(code)) : { quot: '"', lt: '<', gt: '>', amp: '&' }[n]!,
      ) ?? ''
  const object = bytes.subarray(lineEnd + 2)
  const at = object.indexOf('BEGIN:MSG\r\n')
  const head = object.subarray(0, at).toString('utf8')
  const length = Number(/^LENGTH:(\d+)\r$/m.exec(head)?.[1])
  const body = object.subarray(at, at + length)
  if (
    at < 0 ||
    !(length > 0) ||
    !body.toString('latin1').endsWith('\r\nEND:MSG\r\n') ||
    object.subarray(at + length).toString() !== 'END:BBODY\r\nEND:BENV\r\nEND:BMSG\r\n'
  )
    throw new Error('length does not hold')
  const type = { SMS_GSM: 'sms', MMS: 'mms', IM: 'im' }[/^TYPE:(\w+)\r$/m.exec(head)?.[1] ?? ''] as StoredMessage['type'] | undefined
  if (!type) throw new Error('type unknown')
  if (type === 'im' && attribute('x_service') !== way.service) throw new Error('another chat service')
  const envelope = head.indexOf('BEGIN:BENV')
  const parties = (text: string) =>
    [...text.matchAll(/BEGIN:VCARD\r\nVERSION:2.1\r\nN:\r\n(?:TEL|EMAIL):(.*)\r\nEND:VCARD/g)].map((m) => m[1]!)
  const direction = attribute('direction')
  const state = direction === 'outgoingdraft' ? 'draft' : direction === 'outgoingpending' ? 'failed' : 'done'
  if (state !== 'done' && (!way.unsent || (state === 'failed' && !way.failed))) throw new Error('no place for what was not sent')
  const time = Number(attribute('x_time'))
  if (!(time > 0)) throw new Error('no time')
  const content = body.subarray('BEGIN:MSG\r\n'.length, body.length - '\r\nEND:MSG\r\n'.length).toString('utf8')
  const from = direction === 'incoming' ? (parties(head.slice(0, envelope))[0] ?? '') : ''
  if (direction === 'incoming' && from === '') throw new Error('nobody sent it')
  const line = Number(attribute('x_line') || 0)
  const group = attribute('conversation_name')
  if (line > way.lines || (group && !way.groups)) throw new Error('more than it tells apart')
  return {
    way: direction === 'incoming' ? 'in' : 'out',
    state,
    type,
    service: attribute('x_service'),
    atMs: way.seconds ? Math.floor(time / 1000) * 1000 : time,
    from,
    to: parties(head.slice(envelope)).filter(Boolean),
    read: attribute('read') === 'yes',
    line,
    group,
    ...(type === 'sms' ? { subject: '', text: content.replace(/\r\n/g, '\n'), reaction: null, parts: [] } : takeMime(content)),
  }
}

function decodeWords(text: string): string {
  return text.replace(/\r\n /g, '').replace(/=\?utf-8\?B\?([^?]*)\?=/gi, (_, data: string) => Buffer.from(data, 'base64').toString('utf8'))
}

function takeMime(content: string): Pick<StoredMessage, 'subject' | 'text' | 'reaction' | 'parts'> {
  const [head, ...rest] = content.split('\r\n\r\n')
  const subject = decodeWords(/^Subject: ((?:.|\r\n )*)$/m.exec(head!)?.[1] ?? '').trim()
  const boundary = /boundary="([^"]+)"/.exec(head!)?.[1]
  const pieces = boundary
    ? content
        .split(`\r\n--${boundary}`)
        .slice(1, -1)
        .map((p) => p.slice(2))
    : [content.slice(content.indexOf('Content-Type:'))]
  const out = { subject, text: '', reaction: null as string | null, parts: [] as StoredMessage['parts'] }
  if (!boundary && rest.length === 0) throw new Error('no body')
  for (const piece of pieces) {
    const [mine, ...more] = piece.split('\r\n\r\n')
    const value = more.join('\r\n\r\n')
    if (mine!.startsWith('Content-Type: text/plain')) {
      const text = /Encoding: base64/.test(mine!) ? Buffer.from(value, 'base64').toString('utf8') : value.replace(/\r\n/g, '\n')
      if (/Disposition: reaction/.test(mine!))
        out.reaction = decodeWords(/Content-Description: ((?:.|\r\n )*)/.exec(mine!)?.[1]?.split('\r\nContent-')[0] ?? '')
      out.text = text
      continue
    }
    const external = /^Content-Type: message\/external-body; access-type=x-link; handle="([^"]+)"; size=(\d+)/.exec(mine!)
    const inner = /^Content-Type: ([\w/.+-]+)(?:; name(?:\*=utf-8''([^\r]*)|="((?:[^"\\]|\\.)*)"))?/.exec(value)
    if (!external || !inner) throw new Error('a part that is none')
    out.parts.push({
      handle: external[1]!,
      size: Number(external[2]),
      type: inner[1]!,
      name: inner[2] ? decodeURIComponent(inner[2]) : (inner[3] ?? '').replace(/\\(.)/g, '$1'),
    })
  }
  return out
}

/** What becomes of a message that is longer than the phone keeps in one: several, each a piece of it. */
export function cutMessage(m: StoredMessage, { most }: MessageWay): StoredMessage[] {
  if (m.text.length <= most || m.parts.length > 0) return [m]
  const out: StoredMessage[] = []
  let rest = m.text
  while (rest.length > 0) {
    let take = Math.min(most, rest.length)
    if (take < rest.length && rest.charCodeAt(take - 1) >= 0xd800 && rest.charCodeAt(take - 1) <= 0xdbff) take--
    out.push({ ...m, text: rest.slice(0, take) })
    rest = rest.slice(take)
  }
  return out
}
