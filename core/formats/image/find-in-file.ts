import { Unzlib } from 'fflate'
import { binaryText, joinBytes as join } from '../../text/bytes.ts'
import { createLooker, numberAt, type Looking as Reading, type Want } from '../looking.ts'
import { sniffType } from '../sniff.ts'

/** What a file's own notes stand in: an Exif block as TIFF (Exif 2.32 section 4.5.2), or a film's movie header. */
export type Found = { readonly as: 'exif' | 'movie'; readonly bytes: Uint8Array } | undefined

type Looking = Reading<Found>

/** The most that is kept of one block: what cameras write takes up some tens of kilobytes. */
const mostBytes = 1_048_576
/** Boxes that say where everything else stands; those of a picture of many tiles are long. */
const mostBoxBytes = 4_194_304
/** How much of the beginning is kept for files whose index stands behind what it points to. */
const keptBytes = 524_288

interface Start {
  type: string | undefined
  /** The beginning of the file, as far as it was kept. */
  kept(): Uint8Array
}

/** Looks for a file's own notes while it streams by, wherever they stand in it; keeps little of it. Never throws on data. */
export function createFinder(): { push(chunk: Uint8Array): void; end(): { type: string | undefined; found: Found } } {
  let kept: Uint8Array[] = []
  let keptSize = 0
  const start: Start = {
    type: undefined,
    kept() {
      kept = [join(kept)]
      return kept[0]!
    },
  }
  const looker = createLooker(begin(start))
  return {
    push(chunk) {
      if (keptSize < keptBytes) {
        const piece = chunk.subarray(0, keptBytes - keptSize)
        kept.push(piece)
        keptSize += piece.length
      }
      looker.push(chunk)
    },
    end: () => ({ type: start.type, found: looker.end() }),
  }
}

function* begin(start: Start): Looking {
  const head = yield { take: 16 }
  start.type = sniffType(head)
  switch (start.type) {
    case 'image/jpeg':
      return yield* inJpeg(head)
    case 'image/png':
      return yield* inPng(head)
    case 'image/webp':
      return yield* inWebp(head)
    case 'image/heic':
    case 'image/avif':
    case 'video/mp4':
    case 'video/quicktime':
    case 'video/3gpp':
      return yield* inBoxes(head, start, start.type.startsWith('video/'))
    default:
      return undefined
  }
}

/** Bytes from a place on that were read already, and as many more as are missing. */
function* upTo(had: Uint8Array, n: number): Generator<Want, Uint8Array, Uint8Array> {
  return had.length >= n ? had : join([had, yield { take: n - had.length }])
}

const textAt = (bytes: Uint8Array, at: number, n: number) => binaryText(bytes.subarray(at, at + n))

/** A block without the words some write in front of it. */
function exifOf(bytes: Uint8Array): Found {
  const block = textAt(bytes, 0, 6) === 'Exif\0\0' ? bytes.subarray(6) : bytes
  return /^(II\*\0|MM\0\*)/.test(textAt(block, 0, 4)) ? { as: 'exif', bytes: block } : undefined
}

/** Segments before the first scan (ITU-T T.81, annex B); Exif is an APP1. */
function* inJpeg(head: Uint8Array): Looking {
  let rest: Uint8Array = head.subarray(2)
  for (;;) {
    rest = yield* upTo(rest, 4)
    if (rest.length < 4 || rest[0] !== 0xff) return undefined
    // bytes of FF may stand in between
    if (rest[1] === 0xff) {
      rest = rest.subarray(1)
      continue
    }
    if (rest[1] === 0xda || rest[1] === 0xd9) return undefined
    const size = 2 + numberAt(rest, 2, 2)
    if (size < 4) return undefined
    if (rest[1] === 0xe1) {
      rest = yield* upTo(rest, size)
      const found = exifOf(rest.subarray(4, size))
      if (found) return found
      rest = rest.subarray(size)
    } else if (rest.length >= size) rest = rest.subarray(size)
    else {
      yield { skip: size - rest.length }
      rest = new Uint8Array()
    }
  }
}

/** Chunks (PNG 3rd edition, section 11): `eXIf`, or the text that programs wrote before it was there. */
function* inPng(head: Uint8Array): Looking {
  let rest: Uint8Array = head.subarray(8)
  for (;;) {
    rest = yield* upTo(rest, 8)
    if (rest.length < 8) return undefined
    const size = numberAt(rest, 0, 4)
    const type = textAt(rest, 4, 4)
    if (type === 'IEND') return undefined
    if (/^(eXIf|[zti][TE]X[tTf])/.test(type) && size <= mostBytes) {
      rest = yield* upTo(rest, 12 + size)
      const data = rest.subarray(8, 8 + size)
      const found = type === 'eXIf' ? exifOf(data) : inPngText(type, data)
      if (found) return found
      rest = rest.subarray(12 + size)
    } else if (rest.length >= 12 + size) rest = rest.subarray(12 + size)
    else {
      yield { skip: 12 + size - rest.length }
      rest = new Uint8Array()
    }
  }
}

/** `Raw profile type exif`: a name, a count, and the block in hexadecimal. */
function inPngText(type: string, data: Uint8Array): Found {
  const end = data.indexOf(0)
  if (end < 0 || !/^Raw profile type (exif|APP1)$/i.test(textAt(data, 0, end))) return undefined
  let text: Uint8Array | undefined = data.subarray(end + 1)
  if (type === 'zTXt') text = inflate(text.subarray(1))
  else if (type === 'iTXt') {
    const isPacked = text[0] === 1
    // language and translated keyword, each with its end
    const language = text.indexOf(0, 2)
    const keyword = language < 0 ? -1 : text.indexOf(0, language + 1)
    text = keyword < 0 ? undefined : text.subarray(keyword + 1)
    if (text && isPacked) text = inflate(text)
  }
  const profile = text && /^\s*\S+\s+\d+\s+([0-9a-fA-F\s]*)$/.exec(binaryText(text).replace(/\0+$/, ''))?.[1]
  const hex = profile?.replace(/\s/g, '') ?? ''
  return exifOf(Uint8Array.from({ length: hex.length >> 1 }, (_, i) => Number.parseInt(hex.slice(2 * i, 2 * i + 2), 16)))
}

/** Unpacked as far as it is no larger than a block may be. */
function inflate(bytes: Uint8Array): Uint8Array | undefined {
  const out: Uint8Array[] = []
  let size = 0
  try {
    const unpack = new Unzlib((piece) => {
      size += piece.length
      if (size > 2 * mostBytes) throw new Error('too large')
      out.push(piece)
    })
    for (let at = 0; at < bytes.length; at += 4096) unpack.push(bytes.subarray(at, at + 4096), at + 4096 >= bytes.length)
    return join(out)
  } catch {
    return undefined
  }
}

/** Chunks of a RIFF file (WebP container): Exif stands behind the picture. */
function* inWebp(head: Uint8Array): Looking {
  let rest: Uint8Array = head.subarray(12)
  for (;;) {
    rest = yield* upTo(rest, 8)
    if (rest.length < 8) return undefined
    const size = rest[4]! + rest[5]! * 256 + rest[6]! * 65_536 + rest[7]! * 16_777_216
    const padded = 8 + size + (size % 2)
    if (textAt(rest, 0, 4) === 'EXIF') {
      if (size > mostBytes) return undefined
      rest = yield* upTo(rest, 8 + size)
      return exifOf(rest.subarray(8, 8 + size))
    }
    if (rest.length >= padded) rest = rest.subarray(padded)
    else {
      yield { skip: padded - rest.length }
      rest = new Uint8Array()
    }
  }
}

/** Boxes of a file (ISO/IEC 14496-12 section 4.2): the movie header of a film, the Exif item of a picture. */
function* inBoxes(head: Uint8Array, start: Start, isFilm: boolean): Looking {
  let rest = head
  let at = 0
  for (;;) {
    rest = yield* upTo(rest, 16)
    const box = boxAt(rest, 0)
    if (!box) return undefined
    if (box.type === 'moov' && isFilm) {
      // its header stands first in it
      rest = yield* upTo(rest, box.head + 48)
      const inner = boxAt(rest, box.head)
      return inner?.type === 'mvhd' ? { as: 'movie', bytes: rest.subarray(box.head + inner.head) } : undefined
    }
    if (box.type === 'meta' && !isFilm) {
      if (box.size > mostBoxBytes) return undefined
      rest = yield* upTo(rest, box.size)
      const extents = exifExtents(rest.subarray(box.head, box.size))
      if (!extents) return undefined
      const read = extents.inside ?? (yield* readExtents(extents.inFile, { rest: rest.subarray(box.size), at: at + box.size, start }))
      // the item begins with how far away its TIFF header is (ISO/IEC 23008-12 annex A)
      return read && exifOf(read.subarray(4 + numberAt(read, 0, 4)))
    }
    at += box.size
    if (rest.length >= box.size) rest = rest.subarray(box.size)
    else {
      yield { skip: box.size - rest.length }
      rest = new Uint8Array()
    }
  }
}

interface Box {
  readonly type: string
  /** With its head. */
  readonly size: number
  readonly head: number
}

function boxAt(bytes: Uint8Array, at: number): Box | undefined {
  if (at + 8 > bytes.length) return undefined
  const [said, type] = [numberAt(bytes, at, 4), textAt(bytes, at + 4, 4)]
  const head = said === 1 ? 16 : 8
  // 0: it goes on to the end of the file
  const size = said === 1 ? numberAt(bytes, at + 8, 8) : said === 0 ? Number.MAX_SAFE_INTEGER : said
  return size >= head ? { type, size, head } : undefined
}

function* boxesIn(bytes: Uint8Array, from: number): Generator<{ readonly type: string; readonly content: Uint8Array }> {
  for (let at = from; ;) {
    const box = boxAt(bytes, at)
    if (!box || at + box.size > bytes.length) return
    yield { type: box.type, content: bytes.subarray(at + box.head, at + box.size) }
    at += box.size
  }
}

interface Extent {
  readonly at: number
  readonly length: number
}

/** Where the Exif item of a picture stands (ISO/IEC 14496-12 sections 8.11.3 and 8.11.6): in the file, or in the index itself. */
function exifExtents(meta: Uint8Array): { readonly inFile: readonly Extent[]; readonly inside?: Uint8Array } | undefined {
  const boxes = new Map<string, Uint8Array>()
  for (const { type, content } of boxesIn(meta, 4)) if (!boxes.has(type)) boxes.set(type, content)
  const [infos, places] = [boxes.get('iinf'), boxes.get('iloc')]
  if (!infos || !places) return undefined
  let id: number | undefined
  for (const { type, content } of boxesIn(infos, infos[0] === 0 ? 6 : 8)) {
    const wide = content[0]! >= 3 ? 4 : 2
    if (type === 'infe' && content[0]! >= 2 && textAt(content, 4 + wide + 2, 4) === 'Exif') id ??= numberAt(content, 4, wide)
  }
  const version = places[0]!
  const sizes = { offset: places[4]! >> 4, length: places[4]! & 15, base: places[5]! >> 4, index: version > 0 ? places[5]! & 15 : 0 }
  const wide = version < 2 ? 2 : 4
  let at = 6
  const next = (n: number) => {
    at += n
    return numberAt(places, at - n, n)
  }
  for (let left = next(wide); left > 0 && id !== undefined && at < places.length; left--) {
    const item = next(wide)
    const method = version > 0 ? next(2) & 15 : 0
    next(2)
    const base = next(sizes.base)
    const extents: Extent[] = []
    for (let n = next(2); n > 0 && at < places.length; n--) {
      next(sizes.index)
      const offset = next(sizes.offset)
      extents.push({ at: base + offset, length: next(sizes.length) })
    }
    if (item !== id) continue
    if (method === 0) return { inFile: extents }
    const data = boxes.get('idat')
    return method === 1 && data ? { inFile: [], inside: join(extents.map((e) => data.subarray(e.at, e.at + e.length))) } : undefined
  }
  return undefined
}

/** The bytes of extents: from what was kept of the beginning, or as they come. */
function* readExtents(
  extents: readonly Extent[],
  { rest: had, at: from, start }: { rest: Uint8Array; at: number; start: Start },
): Generator<Want, Uint8Array | undefined, Uint8Array> {
  const pieces: Uint8Array[] = []
  let [rest, at] = [had, from]
  if (extents.reduce((sum, { length }) => sum + length, 0) > mostBytes) return undefined
  for (const extent of extents) {
    const kept = start.kept()
    if (extent.at + extent.length <= kept.length) {
      pieces.push(kept.subarray(extent.at, extent.at + extent.length))
      continue
    }
    const away = extent.at - at
    if (away < 0) return undefined
    if (away > rest.length) {
      yield { skip: away - rest.length }
      rest = new Uint8Array()
    } else rest = rest.subarray(away)
    rest = yield* upTo(rest, extent.length)
    pieces.push(rest.subarray(0, extent.length))
    rest = rest.subarray(extent.length)
    at = extent.at + extent.length
  }
  return join(pieces)
}
