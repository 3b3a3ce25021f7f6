import { binaryText, joinBytes, utf8Text } from '../../text/bytes.ts'
import type { FileTag } from '../file-facts.ts'
import { numberAt, type Looking, type Want } from '../looking.ts'
import { mostIndexBytes } from './titled.ts'

/** What the boxes of a film or a sound say (ISO/IEC 14496-12). */
export interface Movie {
  brand: string
  /** Milliseconds; undefined where no header says it. */
  durationMs: number | undefined
  /** When it was made, in seconds since 1970, UTC; undefined where nobody set it. */
  madeS: number | undefined
  tracks: Track[]
  place: { latitude: number; longitude: number } | undefined
  /** What it is called and by whom, by our names. */
  tags: Partial<Record<FileTag, string>>
  /** Its index is there: without one nothing of it can be played. */
  hasIndex: boolean
  /** It has one index, and nothing that could not stand behind one more: its tags may be written anew. */
  canBeTitled: boolean
  /** Where the last of its boxes says it ends; a file that is shorter was cut. */
  endsAt: number
  /** How it lies about itself, if it does. */
  issue: 'boxes-lie' | 'boxes-without-end' | undefined
}

export interface Track {
  kind: 'film' | 'sound' | 'other'
  codec: string | undefined
  isProtected: boolean
  width: number
  height: number
  /** Degrees it is turned by when shown. */
  turned: number
}

/** Boxes that hold others, and are looked into. */
const containers: ReadonlySet<string> = new Set(['moov', 'trak', 'mdia', 'minf', 'stbl', 'udta', 'meta', 'ilst'])
/** Boxes that are read, and how long they may be: what is longer says nothing a list shows. */
const leaves: Readonly<Record<string, number>> = {
  ftyp: 4096,
  mvhd: 256,
  tkhd: 256,
  hdlr: 4096,
  stsd: 65_536,
  '\u00a9xyz': 1024,
  loci: 4096,
}
/** Tags of iTunes' way of naming them, which every maker reads. */
const tagNames: Readonly<Record<string, FileTag>> = {
  '\u00a9nam': 'title',
  '\u00a9ART': 'artist',
  '\u00a9alb': 'album',
  '\u00a9day': 'year',
  '\u00a9gen': 'genre',
  trkn: 'track',
  pcst: 'podcast',
  stik: 'book',
}
const mostTagBytes = 16_384
/** A film has some hundreds; one that says it has more is there to keep us busy. */
const mostBoxes = 20_000
const mostDepth = 12
/** Seconds from 1904 to 1970. */
const epochS = 2_082_844_800

const codecs: Readonly<Record<string, string>> = {
  avc1: 'h264',
  avc3: 'h264',
  hvc1: 'hevc',
  hev1: 'hevc',
  dvh1: 'hevc',
  dvhe: 'hevc',
  av01: 'av1',
  vp09: 'vp9',
  vp08: 'vp8',
  mp4v: 'mpeg4',
  s263: 'h263',
  h263: 'h263',
  jpeg: 'mjpeg',
  mjpa: 'mjpeg',
  apcn: 'prores',
  apch: 'prores',
  mp4a: 'aac',
  alac: 'alac',
  samr: 'amr',
  sawb: 'amr',
  'ac-3': 'ac3',
  'ec-3': 'ac3',
  '.mp3': 'mp3',
  Opus: 'opus',
  fLaC: 'flac',
  sowt: 'pcm',
  twos: 'pcm',
  lpcm: 'pcm',
  ipcm: 'pcm',
}
/** Entries whose content opens with somebody's key alone (section 8.12, and what was there before it). */
const protectedEntries: ReadonlySet<string> = new Set(['encv', 'enca', 'drms', 'drmi', 'p608'])

interface Cursor {
  at: number
  boxes: number
  /** What was read and is read once more. */
  back: Uint8Array
}

/**
 * Reads what a film or a sound says of itself while it streams by, wherever its index stands; keeps a few boxes of it and
 * does bounded work, whatever they say. Never throws on data.
 */
export function* inMovie(): Looking<Movie> {
  const movie: Movie = {
    brand: '',
    durationMs: undefined,
    madeS: undefined,
    tracks: [],
    place: undefined,
    tags: {},
    hasIndex: false,
    canBeTitled: true,
    endsAt: 0,
    issue: undefined,
  }
  yield* walk(movie, { at: 0, boxes: 0, back: new Uint8Array() }, Number.POSITIVE_INFINITY, 0, '')
  return movie
}

function* walk(movie: Movie, cursor: Cursor, end: number, depth: number, inside: string): Generator<Want, void, Uint8Array> {
  while (cursor.at + 8 <= end && movie.issue === undefined) {
    if (++cursor.boxes > mostBoxes || depth > mostDepth) {
      movie.issue = 'boxes-without-end'
      return
    }
    const from = cursor.at
    let head = yield* take(cursor, 8)
    if (head.length < 8) return
    let size = numberAt(head, 0, 4)
    const type = binaryText(head.subarray(4, 8))
    if (size === 1) {
      head = yield* take(cursor, 8)
      if (head.length < 8) return
      size = numberAt(head, 0, 8)
    }
    // 0: it goes on to the end of the file, and only the last may
    if (size === 0 && depth === 0) {
      movie.canBeTitled = false
      return
    }
    if (size < cursor.at - from || from + size > end || !Number.isSafeInteger(from + size)) {
      movie.issue = 'boxes-lie'
      return
    }
    const to = from + size
    if (depth === 0) movie.endsAt = to
    if (depth === 0 && (type === 'moof' || type === 'sidx' || (type === 'moov' && (movie.hasIndex || size > mostIndexBytes))))
      movie.canBeTitled = false
    if (type === 'moov') movie.hasIndex = true
    if (type === 'trak') movie.tracks.push({ kind: 'other', codec: undefined, isProtected: false, width: 0, height: 0, turned: 0 })
    const length = to - cursor.at
    if (inside === 'ilst') {
      if (tagNames[type] && length <= mostTagBytes) readTag(movie, tagNames[type], yield* take(cursor, length))
    } else if (containers.has(type)) {
      // a full box; QuickTime's own has no version before its boxes
      if (type === 'meta') {
        const start = yield* take(cursor, 4)
        if (numberAt(start, 0, 4) !== 0) giveBack(cursor, start)
      }
      yield* walk(movie, cursor, to, depth + 1, type)
    } else if (length <= (leaves[type] ?? -1)) readLeaf(movie, type, yield* take(cursor, length))
    if (cursor.at < to) yield* skip(cursor, to - cursor.at)
  }
}

function* take(cursor: Cursor, n: number): Generator<Want, Uint8Array, Uint8Array> {
  const { back } = cursor
  cursor.back = back.subarray(n)
  const bytes = n <= back.length ? back.subarray(0, n) : joinBytes([back, yield { take: n - back.length }])
  cursor.at += bytes.length
  return bytes
}

function giveBack(cursor: Cursor, bytes: Uint8Array): void {
  cursor.back = bytes
  cursor.at -= bytes.length
}

function* skip(cursor: Cursor, n: number): Generator<Want, void, Uint8Array> {
  const { back } = cursor
  cursor.back = back.subarray(n)
  if (n > back.length) yield { skip: n - back.length }
  cursor.at += n
}

function readLeaf(movie: Movie, type: string, body: Uint8Array): void {
  const track = movie.tracks.at(-1)
  switch (type) {
    case 'ftyp':
      movie.brand = binaryText(body.subarray(0, 4))
      return
    case 'mvhd':
      return readHeader(movie, body)
    case 'tkhd':
      if (track) Object.assign(track, sizeOfTrack(body))
      return
    case 'hdlr':
      if (track && track.kind === 'other')
        track.kind = ({ vide: 'film', soun: 'sound' } as const)[binaryText(body.subarray(8, 12))] ?? 'other'
      return
    case 'stsd':
      if (track) readEntry(track, body)
      return
    case '\u00a9xyz':
      movie.place ??= placeIn(binaryText(body.subarray(4)))
      return
    default:
      movie.place ??= placeOfLoci(body)
  }
}

/** The movie header (section 8.2.2). */
function readHeader(movie: Movie, body: Uint8Array): void {
  const isLong = body[0] === 1
  const made = numberAt(body, 4, isLong ? 8 : 4) - epochS
  const scale = numberAt(body, isLong ? 20 : 12, 4)
  const duration = numberAt(body, isLong ? 24 : 16, isLong ? 8 : 4)
  if (made > 0 && made < 10_000_000_000) movie.madeS = made
  // all bits set: nobody knows
  const isKnown = scale > 0 && duration > 0 && duration !== (isLong ? 2 ** 64 : 0xffffffff)
  if (isKnown && duration / scale < 10_000_000) movie.durationMs = Math.round((duration / scale) * 1000)
}

/** Width, height and how it is turned (section 8.3.2): its matrix is one of four for what cameras make. */
function sizeOfTrack(body: Uint8Array): Pick<Track, 'width' | 'height' | 'turned'> {
  const at = body[0] === 1 ? 52 : 40
  const fixed = (place: number) => (numberAt(body, place, 4) | 0) / 65_536
  const [a, b] = [fixed(at), fixed(at + 4)]
  const turned = a === 1 ? 0 : b === 1 ? 90 : a === -1 ? 180 : b === -1 ? 270 : 0
  return { width: numberAt(body, at + 36, 2), height: numberAt(body, at + 40, 2), turned }
}

/** The first of a track's sample entries (section 8.5.2): what its samples are coded with, and whether anybody may open them. */
function readEntry(track: Track, body: Uint8Array): void {
  const size = numberAt(body, 8, 4)
  const type = binaryText(body.subarray(12, 16))
  const entry = body.subarray(8, Math.min(body.length, 8 + size))
  track.isProtected = protectedEntries.has(type)
  // what it was before somebody locked it (section 8.12.2)
  const original = /frma(....)/s.exec(binaryText(entry))?.[1]
  if (binaryText(entry).includes('sinf')) track.isProtected = true
  const of = protectedEntries.has(type) ? (original ?? type) : type
  track.codec = codecs[of] ?? of.trim().replace(/[^\w.-]/g, '')
}

function readTag(movie: Movie, name: FileTag, body: Uint8Array): void {
  if (binaryText(body.subarray(4, 8)) !== 'data') return
  const value = body.subarray(16, Math.max(16, numberAt(body, 0, 4)))
  if (name === 'track') {
    const n = numberAt(value, 2, 2)
    if (n > 0) movie.tags.track = String(n)
    return
  }
  if (name === 'podcast' || name === 'book') {
    // a kind of its own: 2 is a book that is heard
    const n = numberAt(value, 0, value.length > 0 ? 1 : 0)
    if (name === 'podcast' ? n === 1 : n === 2) movie.tags[name] = 'yes'
    return
  }
  const text = utf8Text(value)?.replaceAll('\0', '').trim()
  if (text) movie.tags[name] ??= text.slice(0, 500)
}

/** A place as cameras write it (ISO 6709): `+50.1000-005.2000/`. */
function placeIn(text: string): Movie['place'] {
  const match = /([+-]\d{2}(?:\.\d+)?)([+-]\d{3}(?:\.\d+)?)/.exec(text)
  return match ? placeOf(Number(match[1]), Number(match[2])) : undefined
}

/** 3GPP TS 26.244, section 8.5: a name, a role, and the place as fixed numbers. */
function placeOfLoci(body: Uint8Array): Movie['place'] {
  const end = body.indexOf(0, 6)
  if (end < 0 || end + 13 > body.length) return undefined
  const fixed = (at: number) => (numberAt(body, at, 4) | 0) / 65_536
  return placeOf(fixed(end + 6), fixed(end + 2))
}

const placeOf = (latitude: number, longitude: number): Movie['place'] =>
  Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 && (latitude !== 0 || longitude !== 0) ? { latitude, longitude } : undefined
