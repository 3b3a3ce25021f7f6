import exifr from 'exifr'
import { binaryText, joinBytes } from '../../text/bytes.ts'
import type { LocalTime } from '../../text/zone.ts'
import { noFacts, type FileFacts, type Inspector } from '../file-facts.ts'
import { createFinder } from './find-in-file.ts'

/** Bytes of a file that the small picture in it is looked for in: cameras put it at the beginning. */
export const headBytes = 524_288

const tailBytes = 4096

/** Keeps little of a file, however large it is: its own notes, wherever they stand in it, and its last bytes. */
export function createInspector(): Inspector {
  const finder = createFinder()
  let tail: Uint8Array = new Uint8Array()
  return {
    push(chunk) {
      finder.push(chunk)
      tail = chunk.length >= tailBytes ? chunk.slice(-tailBytes) : joinBytes([tail, chunk]).slice(-tailBytes)
    },
    async end() {
      const { type, found } = finder.end()
      if (type === undefined) return noFacts
      const base = { ...noFacts, type, isDamaged: isCut(type, tail) }
      if (found?.as === 'movie') return { ...base, ...filmDate(found.bytes) }
      return found ? { ...base, ...(await readExif(found.bytes)) } : base
    },
  }
}

/** The facts of a whole file. */
export function inspectFile(bytes: Uint8Array): Promise<FileFacts> {
  const inspector = createInspector()
  inspector.push(bytes)
  return inspector.end()
}

/** An Exif block, which is a TIFF file of its own. */
async function readExif(block: Uint8Array): Promise<Partial<FileFacts>> {
  const found = (await exifr
    .parse(block, {
      tiff: true,
      exif: true,
      gps: true,
      ihdr: false,
      reviveValues: false,
      translateValues: false,
      pick: ['DateTimeOriginal', 'OffsetTimeOriginal', 'Orientation', 'GPSLatitude', 'GPSLongitude', 'GPSLatitudeRef', 'GPSLongitudeRef'],
    })
    .catch(() => undefined)) as Record<string, unknown> | undefined
  if (!found) return {}
  const { latitude, longitude, Orientation: orientation } = found
  const hasPlace = typeof latitude === 'number' && typeof longitude === 'number' && Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180
  const taken = readExifDate(found.DateTimeOriginal)
  return {
    taken,
    offsetMinutes: taken && readOffset(found.OffsetTimeOriginal),
    place: hasPlace ? { latitude, longitude } : undefined,
    orientation: typeof orientation === 'number' && orientation >= 1 && orientation <= 8 ? orientation : 1,
  }
}

/** The small picture cameras put into a file for lists; undefined when there is none. @param head its beginning */
export async function embeddedPreview(head: Uint8Array): Promise<Uint8Array | undefined> {
  const finder = createFinder()
  finder.push(head)
  const { found } = finder.end()
  if (found?.as !== 'exif') return undefined
  const preview = await exifr.thumbnail(found.bytes).catch(() => undefined)
  return preview && preview.length > 100 && preview[0] === 0xff && preview[1] === 0xd8 ? preview : undefined
}

function readExifDate(value: unknown): LocalTime | undefined {
  const match = typeof value === 'string' && /^(\d{4})[:-](\d\d)[:-](\d\d)[ T](\d\d):(\d\d):(\d\d)/.exec(value)
  if (!match) return undefined
  const [year, month, day, hour, minute, second] = match.slice(1).map(Number) as [number, number, number, number, number, number]
  return year > 0 && month >= 1 && month <= 12 && day >= 1 && day <= 31 && hour < 24 && minute < 60 && second <= 60
    ? { year, month, day, hour, minute, second }
    : undefined
}

function readOffset(value: unknown): number | undefined {
  const match = typeof value === 'string' && /^([+-])(\d\d):(\d\d)/.exec(value)
  if (!match) return value === 'Z' ? 0 : undefined
  return (match[1] === '-' ? -1 : 1) * (Number(match[2]) * 60 + Number(match[3]))
}

/** Seconds from 1904 to 1970. */
const filmEpoch = 2_082_844_800

/** When a film was made, in UTC, by its movie header (ISO/IEC 14496-12 section 8.2.2). */
function filmDate(header: Uint8Array): Partial<FileFacts> {
  if (header.length < 12) return {}
  const view = new DataView(header.buffer, header.byteOffset, header.byteLength)
  const seconds = (header[0] === 1 ? Number(view.getBigUint64(4)) : view.getUint32(4)) - filmEpoch
  if (seconds <= 0 || seconds > 10_000_000_000) return {}
  const d = new Date(seconds * 1000)
  return {
    taken: {
      year: d.getUTCFullYear(),
      month: d.getUTCMonth() + 1,
      day: d.getUTCDate(),
      hour: d.getUTCHours(),
      minute: d.getUTCMinutes(),
      second: d.getUTCSeconds(),
    },
    offsetMinutes: 0,
  }
}

/** Formats with an end of their own show that it is missing. */
function isCut(type: string, tail: Uint8Array): boolean {
  const end = binaryText(tail)
  if (type === 'image/jpeg') return !end.includes('\xff\xd9')
  if (type === 'image/png') return !end.includes('IEND')
  if (type === 'image/gif') return !end.endsWith(';')
  return false
}
