import { binaryText, joinBytes } from '../../text/bytes.ts'
import { noFacts, type FileFacts, type FileTag, type Inspector } from '../file-facts.ts'
import { createInspector } from '../image/inspect.ts'
import { createLooker, numberAt } from '../looking.ts'
import { isFilm, isSound, sniffType } from '../sniff.ts'
import { createAmrCounter } from './amr.ts'
import { inMovie, type Movie } from './boxes.ts'
import { createEpubReader } from './epub.ts'

/** So much of a sound's beginning is kept for its tags: what stands behind is a cover nobody needs for a list. */
export const mostTagBytes = 2_097_152
const headBytes = 4096
const tailBytes = 65_536

/** One way of looking into a file, once its beginning has said what it is. */
interface Part {
  push(chunk: Uint8Array): void
  end(sizeBytes: number): Promise<FileFacts> | FileFacts
}

/** Looks into a film, a sound, a book, a document or a picture as it streams by; keeps little of it, however large it is. */
export function createMediaInspector(): Inspector {
  let head: Uint8Array = new Uint8Array()
  let part: Part | undefined
  let sizeBytes = 0
  const begin = () => {
    part = partFor(sniffType(head))
    part.push(head)
    head = new Uint8Array()
  }
  return {
    push(chunk) {
      sizeBytes += chunk.length
      if (part) return part.push(chunk)
      head = joinBytes([head, chunk])
      if (head.length >= headBytes) begin()
    },
    async end() {
      if (!part) begin()
      return part!.end(sizeBytes)
    },
  }
}

/** The facts of a whole file. */
export function inspectMedia(bytes: Uint8Array): Promise<FileFacts> {
  const inspector = createMediaInspector()
  inspector.push(bytes)
  return inspector.end()
}

function partFor(type: string | undefined): Part {
  if (type === undefined) return { push: () => undefined, end: () => noFacts }
  if (type.startsWith('image/')) {
    const pictures = createInspector()
    return { push: pictures.push, end: () => pictures.end() }
  }
  if (/^(video\/(mp4|quicktime|3gpp)|audio\/mp4)$/.test(type)) return movieFor(type)
  if (type === 'audio/amr') {
    const frames = createAmrCounter()
    return {
      push: frames.push,
      end() {
        const { durationMs, isCut } = frames.end()
        return { ...noFacts, type, durationMs, codecs: ['amr'], isDamaged: isCut }
      },
    }
  }
  if (isSound(type) || isFilm(type)) return soundFor(type)
  if (type === 'application/epub+zip') {
    const book = createEpubReader()
    return {
      push: book.push,
      end() {
        const { title, author, isProtected } = book.end()
        return { ...noFacts, type, isProtected, tags: tagsOf({ title, artist: author }) }
      },
    }
  }
  return type === 'application/pdf' ? pdfFor(type) : { push: () => undefined, end: () => ({ ...noFacts, type }) }
}

const tagsOf = (tags: Readonly<Partial<Record<FileTag, string | undefined>>>): FileFacts['tags'] =>
  Object.fromEntries(Object.entries(tags).filter(([, text]) => Boolean(text)))

function movieFor(type: string): Part {
  const looker = createLooker(inMovie())
  return { push: looker.push, end: (sizeBytes) => factsOf(type, looker.end(), sizeBytes) }
}

function factsOf(type: string, movie: Movie | undefined, sizeBytes: number): FileFacts {
  if (!movie) return { ...noFacts, type, isDamaged: true }
  const { tracks, durationMs, madeS, place, tags, issue } = movie
  const film = tracks.find(({ kind }) => kind === 'film')
  const sounds = tracks.filter(({ kind }) => kind === 'sound')
  const codecs = [...new Set([...tracks.filter((t) => t.kind === 'film'), ...sounds].flatMap(({ codec }) => (codec ? [codec] : [])))]
  const isOnlySound = !film && sounds.length > 0
  return {
    ...noFacts,
    type: isOnlySound ? 'audio/mp4' : type,
    ...(durationMs === undefined ? {} : { durationMs }),
    codecs,
    ...(film ? { width: film.width, height: film.height, orientation: film.turned > 0 ? 6 : 1 } : {}),
    isProtected: tracks.some((track) => track.isProtected),
    ...(madeS === undefined ? {} : { taken: clockOf(madeS), offsetMinutes: 0 }),
    place,
    tags: tagsOf(tags),
    // written half: no index, or an end that never came
    isDamaged: !movie.hasIndex || movie.endsAt > sizeBytes,
    canBeTitled: movie.hasIndex && movie.canBeTitled && movie.endsAt === sizeBytes && issue === undefined,
    ...(issue ? { issue } : {}),
  }
}

function clockOf(seconds: number): FileFacts['taken'] {
  const d = new Date(seconds * 1000)
  return {
    year: d.getUTCFullYear(),
    month: d.getUTCMonth() + 1,
    day: d.getUTCDate(),
    hour: d.getUTCHours(),
    minute: d.getUTCMinutes(),
    second: d.getUTCSeconds(),
  }
}

/** Names of the library, by ours. */
const codecNames: readonly (readonly [RegExp, string])[] = [
  [/MPEG.*Layer 3|MP3/i, 'mp3'],
  [/AAC/i, 'aac'],
  [/ALAC/i, 'alac'],
  [/FLAC/i, 'flac'],
  [/Vorbis/i, 'vorbis'],
  [/Opus/i, 'opus'],
  [/AVC|H264/i, 'h264'],
  [/HEVC/i, 'hevc'],
  [/AV1/i, 'av1'],
  [/VP9/i, 'vp9'],
  [/VP8/i, 'vp8'],
  [/PCM/i, 'pcm'],
]

/** What the well-known library reads of a sound's tags, or of a film in a container that is none of ISO's. */
function soundFor(type: string): Part {
  let pieces: Uint8Array[] = []
  let size = 0
  return {
    push(chunk) {
      if (size >= mostTagBytes) return
      pieces.push(chunk.subarray(0, mostTagBytes - size))
      size += Math.min(chunk.length, mostTagBytes - size)
    },
    async end(sizeBytes) {
      const head = joinBytes(pieces)
      pieces = []
      const found = { ...noFacts, type, canBeTitled: hasRoomForTitle(type, head, sizeBytes) }
      // a tag says in seven bits a byte how long it is (ID3v2.4, section 3.1)
      const tagBytes = type === 'audio/mpeg' && binaryText(head.subarray(0, 3)) === 'ID3' ? sevenBits(head.subarray(6, 10)) : 0
      if (tagBytes > mostTagBytes - 4096) return { ...found, codecs: ['mp3'], issue: 'tags-too-large' }
      const { parseBuffer } = await import('music-metadata')
      const isFilmToo = isFilm(type)
      try {
        const { format, common } = await parseBuffer(
          head,
          { mimeType: type === 'video/x-matroska' ? 'video/matroska' : type, size: sizeBytes },
          { duration: false, skipCovers: true, skipPostHeaders: true },
        )
        const codecs = [...new Set([format.codec, ...(format.trackInfo ?? []).map(({ codecName }) => codecName)])].flatMap((name) => {
          const known = name && codecNames.find(([is]) => is.test(name))
          return known ? [known[1]] : []
        })
        const seconds = format.duration
        const { track, year, podcast } = common
        return {
          ...found,
          codecs: [...new Set(codecs)],
          ...(seconds !== undefined && Number.isFinite(seconds) && seconds > 0 && seconds < 10_000_000
            ? { durationMs: Math.round(seconds * 1000) }
            : {}),
          ...(isFilmToo && format.trackInfo?.[0]?.video
            ? { width: format.trackInfo[0].video.pixelWidth ?? 0, height: format.trackInfo[0].video.pixelHeight ?? 0 }
            : {}),
          tags: tagsOf({
            title: clean(common.title),
            artist: clean(common.albumartist ?? common.artist),
            album: clean(common.album),
            genre: clean(common.genre?.[0]),
            year: year ? String(year) : undefined,
            track: track.no ? String(track.no) : undefined,
            podcast: podcast ? 'yes' : undefined,
          }),
        }
      } catch {
        return { ...found, issue: 'tags-unreadable' }
      }
    },
  }
}

/** Of a file that is no MP4: nobody's tag stands in front of it, and its length is what it says. */
function hasRoomForTitle(type: string, head: Uint8Array, sizeBytes: number): boolean {
  if (type === 'audio/mpeg') return binaryText(head.subarray(0, 3)) !== 'ID3'
  return type === 'audio/wav' && numberAt(Uint8Array.from(head.subarray(4, 8)).reverse(), 0, 4) === sizeBytes - 8
}

const sevenBits = (bytes: Uint8Array) => bytes.reduce((sum, byte) => sum * 128 + (byte & 127), 0)
const clean = (text: string | undefined) =>
  text
    ?.replace(/[\u0000-\u001f]/g, ' ')
    .trim()
    .slice(0, 500)

/** A document that is locked says so in its trailer (ISO 32000-2, section 7.6); what it is called stands in its information. */
function pdfFor(type: string): Part {
  let tail: Uint8Array = new Uint8Array()
  let isLocked = false
  let isBegun = false
  const look = (bytes: Uint8Array) => {
    if (/\/Encrypt[\s<]/.test(binaryText(bytes))) isLocked = true
  }
  return {
    push(chunk) {
      if (!isBegun) look(chunk.subarray(0, tailBytes))
      isBegun = true
      tail = chunk.length >= tailBytes ? chunk.slice(-tailBytes) : joinBytes([tail, chunk]).slice(-tailBytes)
    },
    end() {
      look(tail)
      const text = binaryText(tail)
      const title = /\/Title\s*\(((?:[^()\\]|\\.){1,300})\)/.exec(text)?.[1]
      return {
        ...noFacts,
        type,
        isProtected: isLocked,
        isDamaged: !text.includes('%%EOF'),
        tags: tagsOf({ title: clean(title?.replace(/\\(.)/g, '$1')) }),
      }
    },
  }
}
