import { utf8Bytes, utf8Text } from '../../text/bytes.ts'

/** A track as a list names it. */
export interface ListEntry {
  /** Where it lies; an address, or nothing, where the list does not say. */
  readonly path: string
  readonly title: string
  readonly artist: string
  /** Seconds; 0 where nobody says. */
  readonly seconds: number
  /** SHA-256 of the track's bytes, base64url; empty where nobody knows which it is. */
  readonly digest: string
  /** Noted by us: it does not come over. */
  readonly isGone: boolean
}
export interface TrackList {
  readonly name: string
  /** Its phone makes it anew by a rule each time it is opened. */
  readonly isSmart: boolean
  readonly entries: readonly ListEntry[]
}

/** A list has some hundreds; one that is longer is nobody's. */
export const mostEntries = 20_000
const mostLine = 4000

/** Lines of ours beside those every player knows: what is no comment to them is one. */
const ours = { digest: '#X-TRACK-SHA256:', gone: '#X-TRACK-GONE', smart: '#X-SMART' } as const

/**
 * Reads an extended M3U list in UTF-8 (RFC 8216, section 4 has its grammar of lines; `#PLAYLIST` and `#EXTINF` as every
 * player writes them).
 * @returns undefined where it is none, or longer than any
 */
export function readM3u8(bytes: Uint8Array): TrackList | undefined {
  const text = utf8Text(bytes)
  if (text === undefined || !/^\ufeff?#EXTM3U/.test(text)) return undefined
  let name = ''
  let isSmart = false
  const entries: ListEntry[] = []
  let next: Partial<Record<keyof ListEntry, string>> = {}
  for (const line of text.split(/\r?\n/).slice(1)) {
    const said = line.slice(0, mostLine).trim()
    if (said === '') continue
    if (said.startsWith('#PLAYLIST:')) name = said.slice(10).trim()
    else if (said === ours.smart) isSmart = true
    else if (said.startsWith(ours.digest)) next.digest = said.slice(ours.digest.length)
    else if (said === ours.gone) next.isGone = 'yes'
    else if (said.startsWith('#EXTINF:')) Object.assign(next, readInf(said.slice(8)))
    else if (!said.startsWith('#')) {
      if (entries.length >= mostEntries) return undefined
      entries.push({
        path: said,
        title: next.title ?? '',
        artist: next.artist ?? '',
        seconds: Number(next.seconds ?? 0) || 0,
        digest: /^[\w-]{43}$/.test(next.digest ?? '') ? next.digest! : '',
        isGone: next.isGone === 'yes',
      })
      next = {}
    }
  }
  return { name, isSmart, entries }
}

/** `183,Artist - Title`; the seconds may have attributes behind them. */
function readInf(text: string): Partial<Record<keyof ListEntry, string>> {
  const comma = text.indexOf(',')
  const seconds = /^-?\d{1,6}/.exec(text)?.[0] ?? '0'
  const called = comma < 0 ? '' : text.slice(comma + 1).trim()
  const dash = called.indexOf(' - ')
  return {
    seconds: String(Math.max(0, Number(seconds))),
    ...(dash > 0 ? { artist: called.slice(0, dash), title: called.slice(dash + 3) } : { title: called }),
  }
}

const oneLine = (text: string) => text.replace(/[\r\n]+/g, ' ').trim()

export function writeM3u8({ name, isSmart, entries }: TrackList): Uint8Array {
  const lines = [
    '#EXTM3U',
    ...(name ? [`#PLAYLIST:${oneLine(name)}`] : []),
    ...(isSmart ? [ours.smart] : []),
    ...entries.flatMap(({ path, title, artist, seconds, digest, isGone }) => [
      `#EXTINF:${Math.round(seconds)},${oneLine(artist ? `${artist} - ${title}` : title)}`,
      ...(digest ? [ours.digest + digest] : []),
      ...(isGone ? [ours.gone] : []),
      oneLine(path).replace(/^#/, '%23') || '-',
    ]),
  ]
  return utf8Bytes(lines.join('\r\n') + '\r\n')
}
