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

/** Reads a list in XSPF (version 1): its title, and of each track where it lies, what it is called, by whom and how long. @returns undefined where it is none, or longer than any */
export function readXspf(bytes: Uint8Array): TrackList | undefined {
  const text = utf8Text(bytes)
  if (text === undefined || !/<playlist[\s>]/.test(text.slice(0, 4096))) return undefined
  const pieces = text.split(/<track[\s>]/)
  if (pieces.length > mostEntries) return undefined
  const said = (piece: string, name: string) => plain(between(piece, `<${name}>`, `</${name}>`).slice(0, 4000))
  const entries = pieces.slice(1).map((piece): ListEntry => {
    const one = piece.slice(0, Math.max(0, piece.indexOf('</track>')))
    return {
      path: decoded(said(one, 'location')),
      title: said(one, 'title'),
      artist: said(one, 'creator'),
      // milliseconds
      seconds: Math.round((Number(said(one, 'duration')) || 0) / 1000),
      digest: '',
      isGone: false,
    }
  })
  return { name: said(pieces[0]!, 'title'), isSmart: false, entries }
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
