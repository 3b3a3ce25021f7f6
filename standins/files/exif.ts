/** What a practice camera notes in a picture (Exif 2.32, JEITA CP-3451); written here on its own, read elsewhere by another's parser. */
export interface CameraNotes {
  /** `2026:01:05 18:00:00`, the camera's own clock. */
  readonly taken?: string
  /** `+01:00` */
  readonly offset?: string
  /** 1 to 8. */
  readonly orientation?: number
  /** Degrees, north and east positive. */
  readonly place?: readonly [number, number]
  /** A small JPEG for lists. */
  readonly thumbnail?: Buffer
}

type Value = readonly [tag: number, type: number, count: number, bytes: Buffer]

const ascii = (tag: number, text: string): Value => [tag, 2, text.length + 1, Buffer.from(`${text}\0`, 'latin1')]
const short = (tag: number, n: number): Value => [tag, 3, 1, Buffer.from([n & 255, n >> 8, 0, 0])]
const long = (tag: number, n: number): Value => {
  const bytes = Buffer.alloc(4)
  bytes.writeUInt32LE(n)
  return [tag, 4, 1, bytes]
}
function rationals(tag: number, pairs: readonly (readonly [number, number])[]): Value {
  const bytes = Buffer.alloc(pairs.length * 8)
  pairs.forEach(([n, d], i) => {
    bytes.writeUInt32LE(n, i * 8)
    bytes.writeUInt32LE(d, i * 8 + 4)
  })
  return [tag, 5, pairs.length, bytes]
}
function degrees(angle: number): readonly (readonly [number, number])[] {
  const whole = Math.abs(angle)
  const minutes = (whole % 1) * 60
  return [
    [Math.floor(whole), 1],
    [Math.floor(minutes), 1],
    [Math.round((minutes % 1) * 60 * 10_000), 10_000],
  ]
}

/** One directory: its entries, and the values that don't fit into four bytes behind it. */
function directory(values: readonly Value[], at: number, next: number): Buffer {
  const sorted = [...values].sort((a, b) => a[0] - b[0])
  const head = Buffer.alloc(2 + sorted.length * 12 + 4)
  const tail: Buffer[] = []
  let free = at + head.length
  head.writeUInt16LE(sorted.length, 0)
  sorted.forEach(([tag, type, count, bytes], i) => {
    const place = 2 + i * 12
    head.writeUInt16LE(tag, place)
    head.writeUInt16LE(type, place + 2)
    head.writeUInt32LE(count, place + 4)
    if (bytes.length <= 4) return void bytes.copy(head, place + 8)
    head.writeUInt32LE(free, place + 8)
    const even = bytes.length % 2 ? Buffer.concat([bytes, Buffer.alloc(1)]) : bytes
    tail.push(even)
    free += even.length
  })
  head.writeUInt32LE(next, head.length - 4)
  return Buffer.concat([head, ...tail])
}

/** A TIFF block, little-endian, as it stands behind `Exif\0\0`. */
export function writeExif({ taken, offset, orientation, place, thumbnail }: CameraNotes): Buffer {
  const head = Buffer.from([0x49, 0x49, 42, 0, 8, 0, 0, 0])
  const exif: Value[] = [...(taken ? [ascii(0x9003, taken), ascii(0x9004, taken)] : []), ...(offset ? [ascii(0x9011, offset)] : [])]
  const gps: Value[] = place
    ? [
        [0, 1, 4, Buffer.from([2, 3, 0, 0])],
        ascii(1, place[0] < 0 ? 'S' : 'N'),
        rationals(2, degrees(place[0])),
        ascii(3, place[1] < 0 ? 'W' : 'E'),
        rationals(4, degrees(place[1])),
      ]
    : []
  // sizes don't depend on the places noted in a directory, so it is laid out once to measure and once to write
  const first = (exifAt: number, gpsAt: number, next: number) =>
    directory(
      [
        ascii(0x010f, 'Practice'),
        short(0x0112, orientation ?? 1),
        ...(exif.length ? [long(0x8769, exifAt)] : []),
        ...(gps.length ? [long(0x8825, gpsAt)] : []),
      ],
      8,
      next,
    )
  const exifAt = 8 + first(0, 0, 0).length
  const exifPart = exif.length ? directory(exif, exifAt, 0) : Buffer.alloc(0)
  const gpsAt = exifAt + exifPart.length
  const gpsPart = gps.length ? directory(gps, gpsAt, 0) : Buffer.alloc(0)
  const thumbAt = gpsAt + gpsPart.length
  if (!thumbnail) return Buffer.concat([head, first(exifAt, gpsAt, 0), exifPart, gpsPart])
  const second = (at: number) => directory([short(0x0103, 6), long(0x0201, at), long(0x0202, thumbnail.length)], thumbAt, 0)
  return Buffer.concat([head, first(exifAt, gpsAt, thumbAt), exifPart, gpsPart, second(thumbAt + second(0).length), thumbnail])
}
