import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { writeExif, type CameraNotes } from './exif.ts'
import { makeMedia, noteIn, type MediaRecipe } from './media.ts'

/** How a file of a practice phone is made: one of the drawn seeds, varied by what is noted in it, or bytes from a number. */
export type Recipe =
  | {
      readonly from: string
      readonly salt: number
      readonly notes?: Omit<CameraNotes, 'thumbnail'>
      readonly thumbnail?: boolean
      readonly cutTo?: number
      readonly pad?: number
    }
  | { readonly empty: true }
  | { readonly garbage: number }
  | { readonly generated: number; readonly size: number }
  | { readonly media: MediaRecipe }

const seeds = new Map<string, Buffer>()
function seedFile(name: string): Buffer {
  let bytes = seeds.get(name)
  if (!bytes) seeds.set(name, (bytes = readFileSync(resolve('standins/files/seeds', name))))
  return bytes
}

/** A small picture for a film, one of those drawn: which, by its size. */
export const frameOf = (sizeBytes: number): Buffer =>
  seedFile((['harbour.thumb.jpg', 'lighthouse.thumb.jpg', 'hive.thumb.jpg', 'choir.thumb.jpg'] as const)[sizeBytes % 4]!)

const types = { jpg: 'image/jpeg', heic: 'image/heic', png: 'image/png', webp: 'image/webp', gif: 'image/gif', mp4: 'video/mp4' } as const
/** What a seed is. */
export function typeOfSeed(name: string): string {
  return types[name.slice(name.lastIndexOf('.') + 1) as keyof typeof types] ?? 'application/octet-stream'
}

/** The bytes of a file that fits into memory. */
export function makeFile(recipe: Recipe): Buffer {
  if ('empty' in recipe) return Buffer.alloc(0)
  if ('garbage' in recipe) return Buffer.alloc(900, `no picture ${recipe.garbage} `)
  if ('generated' in recipe || 'media' in recipe) return Buffer.concat([...piecesOf(recipe)])
  const { from, salt, notes, cutTo, thumbnail, pad = 0 } = recipe
  const seed = seedFile(from)
  const whole = vary(from, seed, salt, { ...notes, ...(thumbnail ? { thumbnail: seedFile(from.replace('.jpg', '.thumb.jpg')) } : {}) })
  if (pad > 0 && from.endsWith('.jpg')) return padded(whole, pad)
  return cutTo === undefined ? whole : whole.subarray(0, cutTo)
}

/** As large as a camera's picture: comments a decoder skips, in front of its last marker. */
function padded(jpeg: Buffer, bytes: number): Buffer {
  const pieces: Buffer[] = [jpeg.subarray(0, 2)]
  const notes = jpeg.subarray(2, 4 + jpeg.readUInt16BE(4))
  for (let left = bytes; left > 0; left -= 60_000) {
    const size = Math.min(left, 60_000)
    pieces.push(Buffer.from([0xff, 0xfe, (size + 2) >> 8, (size + 2) & 255]), Buffer.alloc(size, bytes & 255))
  }
  // notes come first: whoever reads the beginning of a file finds them there
  return Buffer.concat([pieces[0]!, notes, ...pieces.slice(1), jpeg.subarray(2 + notes.length)])
}

function vary(name: string, seed: Buffer, salt: number, notes: CameraNotes): Buffer {
  const mark = Buffer.from(`practice ${salt}`, 'latin1')
  if (name.endsWith('.jpg')) {
    const segment = (marker: number, body: Buffer) =>
      Buffer.concat([Buffer.from([0xff, marker, (body.length + 2) >> 8, (body.length + 2) & 255]), body])
    const exif =
      Object.keys(notes).length > 0 ? segment(0xe1, Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), writeExif(notes)])) : Buffer.alloc(0)
    return Buffer.concat([seed.subarray(0, 2), exif, segment(0xfe, mark), seed.subarray(2)])
  }
  if (name.endsWith('.png'))
    return Buffer.concat([
      seed.subarray(0, 33),
      pngChunk('tEXt', Buffer.concat([Buffer.from('Comment\0', 'latin1'), mark])),
      seed.subarray(33),
    ])
  if (name.endsWith('.webp')) {
    const even = mark.length % 2 ? Buffer.concat([mark, Buffer.alloc(1)]) : mark
    const size = Buffer.alloc(4)
    size.writeUInt32LE(mark.length)
    const out = Buffer.concat([seed, Buffer.from('SALT', 'latin1'), size, even])
    out.writeUInt32LE(out.length - 8, 4)
    return out
  }
  if (name.endsWith('.gif'))
    return Buffer.concat([seed.subarray(0, seed.length - 1), Buffer.from([0x21, 0xfe, mark.length]), mark, Buffer.from([0, 0x3b])])
  // HEIC and MP4: boxes, of which one more that says nothing may stand at the end; dates have their places
  const out = Buffer.from(seed)
  if (name.endsWith('.heic') && notes.taken)
    for (let at = out.indexOf('2000:01:01 00:00:00', 0, 'latin1'); at >= 0; at = out.indexOf('2000:01:01 00:00:00', at, 'latin1'))
      out.write(notes.taken, at, 'latin1')
  if (name.endsWith('.mp4') && notes.taken) {
    const at = out.indexOf('mvhd', 0, 'latin1') + 8
    // seconds since 1904, in UTC (ISO/IEC 14496-12 section 8.2.2)
    for (const place of [at, at + 4])
      out.writeUInt32BE(Math.floor(Date.parse(notes.taken.replace(/^(\d+):(\d+):(\d+) /, '$1-$2-$3T') + 'Z') / 1000) + 2_082_844_800, place)
  }
  const head = Buffer.alloc(8)
  head.writeUInt32BE(mark.length + 8)
  head.write('free', 4, 'latin1')
  return Buffer.concat([out, head, mark])
}

function pngChunk(type: string, body: Buffer): Buffer {
  const tagged = Buffer.concat([Buffer.from(type, 'latin1'), body])
  const out = Buffer.alloc(tagged.length + 8)
  out.writeUInt32BE(body.length)
  tagged.copy(out, 4)
  out.writeUInt32BE(crc32(tagged), tagged.length + 4)
  return out
}

function crc32(bytes: Buffer): number {
  let crc = 0xffffffff
  for (const byte of bytes) {
    crc ^= byte
    for (let i = 0; i < 8; i++) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1
  }
  return (crc ^ 0xffffffff) >>> 0
}

const pieceBytes = 65_536
// a film by its first box, so that whoever looks takes it for one
const generatedHead = (n: number, size: number) => `\0\0\0\x14ftypmp42\0\0\0\0mp42PRACTICE-BYTES ${n} ${size}\n`

/** Bytes from a number, piece by piece: no file, however large. */
export function* generate(n: number, size: number): Generator<Buffer> {
  const base = Buffer.alloc(pieceBytes)
  let state = (n * 2_654_435_761) >>> 0 || 1
  for (let at = 0; at < pieceBytes; at += 4) {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    base.writeUInt32LE(state >>> 0, at)
  }
  for (let at = 0, i = 0; at < size; at += pieceBytes, i++) {
    const piece = Buffer.from(base)
    piece.writeUInt32LE(i, 128)
    if (i === 0) piece.write(generatedHead(n, size), 0, 'latin1')
    yield piece.subarray(0, Math.min(pieceBytes, size - at))
  }
}

/** A file too large to be held, piece by piece. */
export function* piecesOf(recipe: Extract<Recipe, { generated: number } | { media: MediaRecipe }>): Generator<Buffer> {
  if ('generated' in recipe) return yield* generate(recipe.generated, recipe.size)
  const { head, fill, tail } = makeMedia(recipe.media)
  const cutTo = recipe.media.cutTo ?? Number.POSITIVE_INFINITY
  let at = 0
  for (const piece of inOrder(head, fill, tail, recipe.media.salt)) {
    if (at >= cutTo) return
    yield at + piece.length > cutTo ? piece.subarray(0, cutTo - at) : piece
    at += piece.length
  }
}

function* inOrder(head: Buffer, fill: number, tail: Buffer, salt: number): Generator<Buffer> {
  yield head
  for (let left = fill, i = 0; left > 0; left -= pieceBytes, i++) {
    // no byte of it looks like the beginning of a frame
    const piece = Buffer.alloc(Math.min(left, pieceBytes), (salt % 97) + 1)
    if (piece.length >= 8) piece.writeUInt32LE(i & 0x7f7f7f7f, 0)
    yield piece
  }
  if (tail.length > 0) yield tail
}

/** How many bytes it has. */
export function sizeOf(recipe: Recipe): number {
  if ('generated' in recipe) return recipe.size
  if (!('media' in recipe)) return makeFile(recipe).length
  const { head, fill, tail } = makeMedia(recipe.media)
  const whole = head.length + fill + tail.length
  return Math.min(whole, recipe.media.cutTo ?? whole)
}
/** What bytes say they were made from, of files too large to be kept. @param first the beginning of them */
export function madeFrom(first: Buffer): Extract<Recipe, { generated: number } | { media: MediaRecipe }> | undefined {
  const text = first.subarray(0, 4096).toString('latin1')
  const numbered = /PRACTICE-BYTES (\d+) (\d+)\n/.exec(text.slice(0, 100))
  if (numbered) return { generated: Number(numbered[1]), size: Number(numbered[2]) }
  const media = noteIn(text)
  return media && { media }
}
