import type { MessageWay, StoredMessage } from './stored.ts'

const zone = new Intl.DateTimeFormat('sv-SE', { timeZone: 'Europe/London', dateStyle: 'short', timeStyle: 'medium' })
const wallTimes = new Map<number, string>()

/** Local time of an instant; whole hours are asked for once, since the formatter is slow. */
function wall(ms: number): string {
  const hour = Math.floor(ms / 3_600_000)
  let head = wallTimes.get(hour)
  if (head === undefined) {
    head = zone
      .format(hour * 3_600_000)
      .replace(/-/g, '')
      .replace(' ', 'T')
      .slice(0, 11)
    if (wallTimes.size > 60_000) wallTimes.clear()
    wallTimes.set(hour, head)
  }
  const rest = Math.floor(ms / 1000) % 3600
  return head + String(Math.floor(rest / 60)).padStart(2, '0') + String(rest % 60).padStart(2, '0')
}

const xml = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)
const isSummer = (ms: number) => wall(ms).slice(9, 11) !== new Date(ms).toISOString().slice(11, 13)

/** Gives an entry of the listing and the message object, with the habits of its maker. */
export function giveMessage(m: StoredMessage, way: MessageWay): Buffer {
  const local = wall(m.atMs)
  const attributes = [
    `handle="${m.atMs.toString(16).toUpperCase()}"`,
    `datetime="${local}${way.time === 'offset' ? (isSummer(m.atMs) ? '+0100' : '+0000') : ''}"`,
    `read="${m.read ? 'yes' : 'no'}"`,
    `sent="${m.way === 'out' && m.state === 'done' ? 'yes' : 'no'}"`,
  ]
  if (way.counter === 'ms' || (way.counter === 'mixed' && m.type === 'sms')) attributes.push(`x_time="${m.atMs}"`)
  // one table of the phone counts in milliseconds, the other in seconds
  else if (way.counter === 'mixed') attributes.push(`x_time="${Math.floor(m.atMs / 1000)}"`)
  if (way.direction)
    attributes.push(
      `direction="${m.way === 'in' ? 'incoming' : m.state === 'draft' ? 'outgoingdraft' : m.state === 'failed' ? 'outgoingpending' : 'outgoing'}"`,
    )
  if (m.line > 0 && way.lines > 1) attributes.push(`x_line="${m.line}"`)
  if (m.type === 'im') attributes.push(`x_service="${m.service}"`)
  if (m.group) attributes.push(`conversation_name="${xml(m.group)}"`)
  const folder = m.way === 'in' ? 'inbox' : m.state === 'draft' ? 'draft' : m.state === 'failed' ? 'outbox' : 'sent'
  const n = way.newline
  const party = (who: string) => `BEGIN:VCARD${n}VERSION:2.1${n}N:${n}${who.includes('@') ? 'EMAIL' : 'TEL'}:${who}${n}END:VCARD${n}`
  const body = m.type === 'sms' ? smsBody(m, way) : { bytes: Buffer.from(mimeOf(m, way), 'utf8'), head: [`CHARSET:UTF-8`] }
  const wrapped = Buffer.concat([Buffer.from(`BEGIN:MSG${n}`), body.bytes, Buffer.from(`${n}END:MSG${n}`)])
  const length = way.countsCharacters ? wrapped.toString('utf8').length : wrapped.length
  const head =
    `BEGIN:BMSG${n}VERSION:1.0${n}STATUS:${m.read ? 'READ' : 'UNREAD'}${n}TYPE:${m.type === 'sms' ? 'SMS_GSM' : m.type === 'mms' ? 'MMS' : 'IM'}${n}FOLDER:${way.folder(folder)}${n}` +
    party(m.way === 'in' ? m.from : '') +
    `BEGIN:BENV${n}` +
    (m.way === 'in' ? party('') : '') +
    m.to.map(party).join('') +
    `BEGIN:BBODY${n}${body.head.map((line) => line + n).join('')}LENGTH:${length}${n}`
  return Buffer.concat([
    Buffer.from(`<msg ${attributes.join(' ')}/>\r\n${head}`, 'utf8'),
    wrapped,
    Buffer.from(`END:BBODY${n}END:BENV${n}END:BMSG${n}`),
  ])
}

function smsBody({ text }: StoredMessage, way: MessageWay): { bytes: Buffer; head: string[] } {
  const lines = text.replace(/\n/g, way.newline)
  if (way.quoted && !/^[\x20-\x3c\x3e-\x7e]*$/.test(lines)) {
    const coded = [...Buffer.from(lines, 'utf8')]
      .map(
        (b, i) =>
          ((b >= 33 && b <= 126 && b !== 61) || b === 32 ? String.fromCharCode(b) : `=${b.toString(16).toUpperCase().padStart(2, '0')}`) +
          (i % 20 === 19 ? '=\r\n' : ''),
      )
      .join('')
    return { bytes: Buffer.from(coded, 'latin1'), head: ['ENCODING:QUOTED-PRINTABLE', 'CHARSET:UTF-8'] }
  }
  if (way.latin && /^[\x00-\x7f\xa0-\xff]*$/.test(lines) && !/^[\x20-\x7e]*$/.test(lines))
    return { bytes: Buffer.from(lines, 'latin1'), head: ['CHARSET:ISO-8859-1'] }
  return { bytes: Buffer.from(lines, 'utf8'), head: ['CHARSET:UTF-8', 'LANGUAGE:EN'] }
}

function word(text: string): string {
  return /^[\x20-\x7e]*$/.test(text)
    ? text
    : `=?UTF-8?Q?${[...Buffer.from(text, 'utf8')].map((b) => (b === 32 ? '_' : /[A-Za-z0-9]/.test(String.fromCharCode(b)) ? String.fromCharCode(b) : `=${b.toString(16).toUpperCase().padStart(2, '0')}`)).join('')}?=`
}

function mimeOf(m: StoredMessage, way: MessageWay): string {
  const disposition = m.reaction === null ? '' : `Content-Disposition: reaction\r\nContent-Description: ${word(m.reaction)}\r\n`
  const text = way.nested
    ? `Content-Type: text/plain; charset="utf-8"\r\n${disposition}Content-Transfer-Encoding: base64\r\n\r\n${Buffer.from(m.text, 'utf8').toString('base64').replace(/.{60}/g, '$&\r\n')}`
    : `Content-Type: text/plain;charset=utf-8\r\n${disposition}\r\n${m.text.replace(/\n/g, '\r\n')}`
  const parts = m.parts.map((p) =>
    p.inside !== undefined
      ? `Content-Type: ${p.type}; name="${p.name}"\r\nContent-Transfer-Encoding: base64\r\nContent-Disposition: attachment\r\n\r\n${p.inside.replace(/.{76}/g, '$&\r\n')}`
      : `Content-Type: message/external-body; access-type=x-link;\r\n handle="${p.handle}"; size=${p.size}\r\n\r\nContent-Type: ${p.type}; name="${p.name}"\r\n`,
  )
  const pieces = m.text === '' && parts.length > 0 ? parts : [text, ...parts]
  const head = `Date: ${new Date(m.atMs).toUTCString()}\r\n${m.subject ? `Subject: ${word(m.subject)}\r\n` : ''}`
  if (pieces.length === 1 && m.reaction === null && !way.nested) return `${head}MIME-Version: 1.0\r\n${pieces[0]}`
  const many = (kind: string, boundary: string, list: string[]) =>
    `Content-Type: multipart/${kind}; boundary="${boundary}"\r\n\r\n${list.map((p) => `--${boundary}\r\n${p}\r\n`).join('')}--${boundary}--`
  const layout = 'Content-Type: application/smil\r\n\r\n<smil><body><par/></body></smil>'
  return `${head}MIME-Version: 1.0\r\n${way.nested ? many('related', 'outer=1', [layout, many('mixed', 'inner', pieces)]) : many('mixed', 'b0', pieces)}\r\n`
}
