/** What a practice phone's own photo index reads out of a file: its own parser, not the product's. */
export interface Looked {
  readonly type: string | undefined
  /** Milliseconds since 1970, by the phone's own zone when the camera noted none. */
  readonly takenMs: number | undefined
  readonly place: readonly [number, number] | undefined
  readonly width: number
  readonly height: number
}

const none: Looked = { type: undefined, takenMs: undefined, place: undefined, width: 0, height: 0 }

/** Looks into the beginning of a file. */
export function lookInto(bytes: Buffer): Looked {
  const text = (at: number, n: number) => bytes.subarray(at, at + n).toString('latin1')
  if (bytes.length < 12) return none
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return { ...none, ...exifIn(bytes), ...jpegSize(bytes), type: 'image/jpeg' }
  if (text(1, 3) === 'PNG') return { ...none, type: 'image/png', width: bytes.readUInt32BE(16), height: bytes.readUInt32BE(20) }
  if (text(0, 3) === 'GIF') return { ...none, type: 'image/gif', width: bytes.readUInt16LE(6), height: bytes.readUInt16LE(8) }
  if (text(0, 4) === 'RIFF' && text(8, 4) === 'WEBP') return { ...none, type: 'image/webp', width: 400, height: 300 }
  if (text(4, 4) === 'ftyp') {
    if (/heic|mif1|heix/.test(text(8, 4))) return { ...none, ...exifIn(bytes), type: 'image/heic', ...heicSize(bytes) }
    const mvhd = bytes.indexOf('mvhd', 0, 'latin1')
    const seconds = mvhd > 0 && mvhd + 12 < bytes.length ? bytes.readUInt32BE(mvhd + 8) : 0
    const where = bytes.indexOf('\u00a9xyz', 0, 'latin1')
    const place = where > 0 ? /^([+-][\d.]+)([+-][\d.]+)\//.exec(text(where + 8, 40)) : null
    return {
      ...none,
      ...(place ? { place: [Number(place[1]), Number(place[2])] as const } : {}),
      type: text(8, 2) === 'qt' ? 'video/quicktime' : 'video/mp4',
      takenMs: seconds > 2_082_844_800 ? (seconds - 2_082_844_800) * 1000 : undefined,
      width: 320,
      height: 240,
    }
  }
  return none
}

function jpegSize(bytes: Buffer): { width: number; height: number } {
  for (let at = 2; at + 9 < bytes.length && bytes[at] === 0xff; at += 2 + bytes.readUInt16BE(at + 2)) {
    const marker = bytes[at + 1]!
    if (marker >= 0xc0 && marker <= 0xc3) return { height: bytes.readUInt16BE(at + 5), width: bytes.readUInt16BE(at + 7) }
  }
  return { width: 0, height: 0 }
}

function heicSize(bytes: Buffer): { width: number; height: number } {
  const at = bytes.indexOf('ispe', 0, 'latin1')
  if (at < 0 || at + 16 > bytes.length) return { width: 0, height: 0 }
  const [w, h] = [bytes.readUInt32BE(at + 8), bytes.readUInt32BE(at + 12)]
  return bytes.indexOf('irot', 0, 'latin1') > 0 ? { width: h, height: w } : { width: w, height: h }
}

/** Offset of London at a wall time: summer time from the last Sunday of March to that of October, at one in the morning UTC. */
function londonOffsetMs(wall: number): number {
  const year = new Date(wall).getUTCFullYear()
  const lastSunday = (month: number) => {
    const last = new Date(Date.UTC(year, month + 1, 0, 1))
    return last.getTime() - last.getUTCDay() * 86_400_000
  }
  return wall - 3_600_000 >= lastSunday(2) && wall - 3_600_000 < lastSunday(9) ? 3_600_000 : 0
}

function exifIn(bytes: Buffer): Partial<Looked> {
  const at = bytes.indexOf(Buffer.from([0x49, 0x49, 42, 0, 8, 0, 0, 0]))
  if (at < 0) return {}
  const tiff = bytes.subarray(at)
  const entries = (place: number) => {
    const out = new Map<number, number>()
    if (place <= 0 || place + 2 > tiff.length) return out
    const n = tiff.readUInt16LE(place)
    for (let i = 0; i < n && place + 14 + i * 12 <= tiff.length; i++) out.set(tiff.readUInt16LE(place + 2 + i * 12), place + 2 + i * 12)
    return out
  }
  const value = (entry: number | undefined) => (entry === undefined ? 0 : tiff.readUInt32LE(entry + 8))
  const words = (entry: number | undefined) => {
    if (entry === undefined) return ''
    const n = tiff.readUInt32LE(entry + 4)
    return tiff.subarray(n <= 4 ? entry + 8 : value(entry), (n <= 4 ? entry + 8 : value(entry)) + n - 1).toString('latin1')
  }
  const root = entries(8)
  const exif = entries(value(root.get(0x8769)))
  const match = /^(\d{4}):(\d\d):(\d\d) (\d\d):(\d\d):(\d\d)$/.exec(words(exif.get(0x9003)))
  const offset = /^([+-])(\d\d):(\d\d)$/.exec(words(exif.get(0x9011)))
  const out: { -readonly [K in keyof Looked]?: Looked[K] } = {}
  if (match) {
    const [y, mo, d, h, mi, s] = match.slice(1).map(Number) as [number, number, number, number, number, number]
    const wall = Date.UTC(y, mo - 1, d, h, mi, s)
    out.takenMs =
      wall - (offset ? (offset[1] === '-' ? -1 : 1) * (Number(offset[2]) * 60 + Number(offset[3])) * 60_000 : londonOffsetMs(wall))
  }
  const gps = entries(value(root.get(0x8825)))
  const angle = (entry: number | undefined, ref: number | undefined) => {
    if (entry === undefined) return undefined
    const [d, m, s] = [0, 8, 16].map((i) => tiff.readUInt32LE(value(entry) + i) / tiff.readUInt32LE(value(entry) + i + 4)) as [
      number,
      number,
      number,
    ]
    return (d + m / 60 + s / 3600) * (/[SW]/.test(words(ref)) ? -1 : 1)
  }
  const [lat, lon] = [angle(gps.get(2), gps.get(1)), angle(gps.get(4), gps.get(3))]
  if (lat !== undefined && lon !== undefined) out.place = [lat, lon]
  return out
}
