import { utf8Text } from '../../text/bytes.ts'
import { mostEntries, type ListEntry, type TrackList } from './m3u8.ts'

const entities: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }
const plain = (text: string) =>
  text
    .replace(
      /&(?:#(\d{1,7})|#x([0-9a-f]{1,6})|([a-z]+));/gi,
      (whole, decimal: string | undefined, hex: string | undefined, name: string | undefined) => {
        const point = decimal ? Number(decimal) : hex ? Number.parseInt(hex, 16) : undefined
        if (point !== undefined) return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : ''
        return entities[name!.toLowerCase()] ?? whole
      },
    )
    .replace(/\s+/g, ' ')
    .trim()

/** What a track is known by: its SHA-256 as a named information address (RFC 6920, section 3). */
const named = 'ni:///sha-256;'

/** Reads a list in XSPF (version 1): its title, and of each track where it lies, what it is called, by whom and how long. @returns undefined where it is none, or longer than any */
export function readXspf(bytes: Uint8Array): TrackList | undefined {
  const text = utf8Text(bytes)
  if (text === undefined || !/<playlist[\s>]/.test(text.slice(0, 4096))) return undefined
  const pieces = text.split(/<track[\s>]/)
  if (pieces.length > mostEntries) return undefined
  const said = (piece: string, name: string) => plain(between(piece, `<${name}>`, `</${name}>`).slice(0, 4000))
  const entries = pieces.slice(1).map((piece): ListEntry => {
    const one = piece.slice(0, Math.max(0, piece.indexOf('</track>')))
    const digest = said(one, 'identifier').replace(named, '')
    return {
      path: decoded(said(one, 'location')),
      title: said(one, 'title'),
      artist: said(one, 'creator'),
      // milliseconds
      seconds: Math.round((Number(said(one, 'duration')) || 0) / 1000),
      digest: /^[\w-]{43}$/.test(digest) ? digest : '',
      isGone: false,
    }
  })
  return { name: said(pieces[0]!, 'title'), isSmart: false, entries }
}

// characters XML 1.0 has none for (section 2.2) are left out
const escaped = (text: string) =>
  text.replace(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '').replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

/** Writes a list in XSPF (version 1). A path is written as a relative address (RFC 3986); where a track has none, players look for it by what it is called. */
export function writeXspf({ name, entries }: TrackList): string {
  const element = (tag: string, text: string) => (text ? [`   <${tag}>${escaped(text)}</${tag}>`] : [])
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<playlist version="1" xmlns="http://xspf.org/ns/0/">',
    ...(name ? [` <title>${escaped(name)}</title>`] : []),
    ' <trackList>',
    ...entries.flatMap(({ path, title, artist, seconds, digest }) => [
      '  <track>',
      ...element('location', path.split('/').map(encodeURIComponent).join('/')),
      ...element('identifier', digest && named + digest),
      ...element('title', title),
      ...element('creator', artist),
      ...element('duration', seconds > 0 ? String(Math.round(seconds * 1000)) : ''),
      '  </track>',
    ]),
    ' </trackList>',
    '</playlist>',
    '',
  ].join('\r\n')
}

function between(text: string, from: string, to: string): string {
  const at = text.indexOf(from)
  const end = at < 0 ? -1 : text.indexOf(to, at)
  return end < 0 ? '' : text.slice(at + from.length, end)
}

/** A location is an address (RFC 3986): of a file, its path. */
function decoded(location: string): string {
  const path = location.replace(/^file:\/\/(localhost)?/, '')
  try {
    return decodeURIComponent(path)
  } catch {
    return path
  }
}
