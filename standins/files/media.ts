import { zipSync } from 'fflate'

/** Tags as their programs write them. */
export interface SoundTags {
  readonly title?: string
  readonly artist?: string
  readonly album?: string
  readonly track?: number
  readonly year?: number
  readonly genre?: string
}

/** What a film, a sound, a book or a document of a practice phone is made of: short, but whole by its format. */
export type MediaRecipe = (
  | {
      readonly as: 'mp4' | 'mov' | '3gp' | 'm4a' | 'm4b'
      readonly seconds: number
      /** Sample entries by their four letters; none where it has no such track. */
      readonly video?: string
      readonly audio?: string
      readonly width?: number
      readonly height?: number
      /** Degrees; a matrix of its track. */
      readonly turned?: 90 | 180 | 270
      readonly takenMs?: number
      readonly place?: readonly [number, number]
      readonly tags?: SoundTags
      readonly isPodcast?: boolean
      readonly isProtected?: boolean
      /** Its index stands behind what it points to, or nowhere: the recording broke off. */
      readonly index?: 'last' | 'none'
      /** How its boxes lie. */
      readonly lies?: 'sizes' | 'nested'
    }
  | { readonly as: 'mp3'; readonly seconds: number; readonly tags?: SoundTags; readonly tagBytes?: number; readonly hasNoTags?: boolean }
  | { readonly as: 'flac' | 'ogg' | 'wav' | 'amr'; readonly seconds: number; readonly tags?: SoundTags }
  | { readonly as: 'mkv'; readonly seconds: number; readonly width: number; readonly height: number }
  | { readonly as: 'epub'; readonly title: string; readonly author: string; readonly isProtected?: boolean; readonly body?: string }
  | { readonly as: 'pdf'; readonly title: string; readonly isLocked?: boolean }
  | { readonly as: 'text'; readonly text: string }
  | { readonly as: 'docx'; readonly text: string }
) & {
  /** Tells one from another whose all else is equal. */
  readonly salt: number
  /** As many bytes as a customer's has: what is missing is filled up where a format lets it. */
  readonly size?: number
  readonly cutTo?: number
}

const types = {
  mp4: 'video/mp4',
  mov: 'video/quicktime',
  '3gp': 'video/3gpp',
  m4a: 'audio/mp4',
  m4b: 'audio/mp4',
  mp3: 'audio/mpeg',
  flac: 'audio/flac',
  ogg: 'audio/ogg',
  wav: 'audio/wav',
  amr: 'audio/amr',
  mkv: 'video/x-matroska',
  epub: 'application/epub+zip',
  pdf: 'application/pdf',
  text: 'text/plain',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
} as const
/** What such a file is. */
export const typeOfMedia = ({ as }: MediaRecipe): string => types[as]
/** How its name ends. */
export const endingOf = ({ as }: MediaRecipe): string => (as === 'text' ? 'txt' : as)

/** Larger than a phone of ours keeps: such a file notes what it was made of, so that whoever is given it can make it again. */
export const isLarge = ({ size = 0 }: MediaRecipe) => size > 3_000_000
const noteOf = (recipe: MediaRecipe) =>
  isLarge(recipe) ? `PRACTICE-FILE ${Buffer.from(JSON.stringify(inOrder(recipe))).toString('base64url')}\n` : `practice ${recipe.salt}`
/** The same recipe is the same bytes, in whichever order a database gives its parts. */
const inOrder = (value: unknown): unknown =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.fromEntries(
        Object.entries(value)
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([key, one]) => [key, inOrder(one)]),
      )
    : value

/** What the beginning of a large file says it was made of. */
export function noteIn(text: string): MediaRecipe | undefined {
  const note = /PRACTICE-FILE ([\w-]{2,3000})\n/.exec(text)?.[1]
  return note === undefined ? undefined : (JSON.parse(Buffer.from(note, 'base64url').toString()) as MediaRecipe)
}

/** Everything of a file but what fills it up, and where that stands: in front of `tail`. */
export function makeMedia(recipe: MediaRecipe): { head: Buffer; fill: number; tail: Buffer } {
  const parts = partsOf(recipe)
  const fill = Math.max(0, (recipe.size ?? 0) - parts.head.length - parts.tail.length)
  return fill > 0 && parts.grow ? parts.grow(fill) : { ...parts, fill: 0 }
}

interface Parts {
  head: Buffer
  tail: Buffer
  /** The same with so many bytes more between the two. */
  grow?: (fill: number) => { head: Buffer; fill: number; tail: Buffer }
}

const nothing = Buffer.alloc(0)
const latin = (text: string) => Buffer.from(text, 'latin1')
const utf8 = (text: string) => Buffer.from(text, 'utf8')
const be = (n: number, bytes: number) => {
  const out = Buffer.alloc(bytes)
  if (bytes === 8) out.writeBigUInt64BE(BigInt(n))
  else out.writeUIntBE(n, 0, bytes)
  return out
}
const le = (n: number, bytes: number) => {
  const out = Buffer.alloc(bytes)
  out.writeUIntLE(n, 0, bytes)
  return out
}

function partsOf(recipe: MediaRecipe): Parts {
  switch (recipe.as) {
    case 'mp3':
      return mp3(recipe)
    case 'flac':
      return flac(recipe)
    case 'ogg':
      return { head: ogg(recipe), tail: nothing }
    case 'wav':
      return wav(recipe)
    case 'amr':
      return { head: amr(recipe), tail: nothing }
    case 'mkv':
      return mkv(recipe)
    case 'epub':
      return { head: epub(recipe), tail: nothing }
    case 'pdf':
      return pdf(recipe)
    case 'text':
      return { head: utf8(recipe.text), tail: nothing }
    case 'docx':
      return { head: docx(recipe), tail: nothing }
    default:
      return movie(recipe)
  }
}

// ISO/IEC 14496-12: a box is its length, four letters, and what is in it

const box = (type: string, ...content: Buffer[]) => {
  const body = Buffer.concat(content)
  return Buffer.concat([be(body.length + 8, 4), latin(type), body])
}
const fullBox = (type: string, flags: number, ...content: Buffer[]) => box(type, be(flags, 4), ...content)
const epochS = 2_082_844_800
const scale = 1000

type MovieRecipe = Extract<MediaRecipe, { video?: string }>

const brands = { mp4: 'mp42', mov: 'qt  ', '3gp': '3gp4', m4a: 'M4A ', m4b: 'M4B ' } as const

function movie(recipe: MovieRecipe): Parts {
  const { as, index, lies, salt } = recipe
  const brand = box('ftyp', latin(brands[as]), be(512, 4), latin(brands[as] + 'isom'))
  const mark = box('free', latin(noteOf(recipe)))
  const body = (fill: number) => be(1, 4).toString('latin1') + 'mdat' + be(16 + 64 + fill, 8).toString('latin1')
  const data = (fill: number) => Buffer.concat([latin(body(fill)), Buffer.alloc(64, salt & 255)])
  if (lies === 'sizes') {
    const whole = moov(recipe)
    // the first track says it is longer than the film
    whole.writeUInt32BE(0x7ffffff0, whole.indexOf('trak', 0, 'latin1') - 4)
    return { head: Buffer.concat([brand, mark, whole, data(0)]), tail: nothing }
  }
  if (lies === 'nested') {
    let inner = box('free')
    for (let i = 0; i < 4000; i++) inner = box('meta', be(0, 4), inner)
    return { head: Buffer.concat([brand, mark, box('moov', inner), data(0)]), tail: nothing }
  }
  const last = index === 'last' ? moov(recipe) : nothing
  const first = index ? nothing : moov(recipe)
  const grow = (fill: number) => ({ head: Buffer.concat([brand, mark, first, data(fill)]), fill, tail: last })
  return { head: grow(0).head, tail: last, grow }
}

function moov(recipe: MovieRecipe): Buffer {
  const { seconds, video, audio, takenMs, place, tags, isPodcast, as } = recipe
  const made = takenMs === undefined ? 0 : Math.floor(takenMs / 1000) + epochS
  const duration = Math.round(seconds * scale)
  const unit = Buffer.concat([0x10000, 0, 0, 0, 0x10000, 0, 0, 0, 0x40000000].map((n) => be(n, 4)))
  const header = fullBox(
    'mvhd',
    0,
    be(made, 4),
    be(made, 4),
    be(scale, 4),
    be(duration, 4),
    be(0x10000, 4),
    be(0x100, 2),
    Buffer.alloc(10),
    unit,
    Buffer.alloc(24),
    be(9, 4),
  )
  const tracks = [...(video ? [track(recipe, 'vide', video, 1)] : []), ...(audio ? [track(recipe, 'soun', audio, video ? 2 : 1)] : [])]
  const where = place
    ? latin(
        place
          .map(
            (n, i) =>
              (n < 0 ? '-' : '+') +
              Math.abs(n)
                .toFixed(4)
                .padStart(i ? 8 : 7, '0'),
          )
          .join('') + '/',
      )
    : undefined
  const said = [
    ...(where ? [box('\u00a9xyz', be(where.length, 2), be(0x15c7, 2), where)] : []),
    ...(tags || isPodcast || as === 'm4b'
      ? [fullBox('meta', 0, fullBox('hdlr', 0, be(0, 4), latin('mdirappl'), Buffer.alloc(9)), ilst(recipe))]
      : []),
  ]
  return box('moov', header, ...tracks, ...(said.length > 0 ? [box('udta', ...said)] : []))
}

function ilst({ tags = {}, isPodcast, as }: MovieRecipe): Buffer {
  const data = (type: number, value: Buffer) => box('data', be(type, 4), be(0, 4), value)
  const text = (name: string, value: string | number | undefined) => (value === undefined ? [] : [box(name, data(1, utf8(String(value))))])
  return box(
    'ilst',
    ...text('\u00a9nam', tags.title),
    ...text('\u00a9ART', tags.artist),
    ...text('\u00a9alb', tags.album),
    ...text('\u00a9day', tags.year),
    ...text('\u00a9gen', tags.genre),
    ...(tags.track ? [box('trkn', data(0, Buffer.concat([be(0, 2), be(tags.track, 2), be(0, 4)])))] : []),
    ...(isPodcast ? [box('pcst', data(21, be(1, 1)))] : []),
    ...(as === 'm4b' ? [box('stik', data(21, be(2, 1)))] : []),
  )
}

const turnedBy = {
  0: [0x10000, 0, 0, 0, 0x10000, 0, 0, 0, 0x40000000],
  90: [0, 0x10000, 0, 0xffff0000, 0, 0, 0, 0, 0x40000000],
  180: [0xffff0000, 0, 0, 0, 0xffff0000, 0, 0, 0, 0x40000000],
  270: [0, 0xffff0000, 0, 0x10000, 0, 0, 0, 0, 0x40000000],
} as const

function track(recipe: MovieRecipe, kind: 'vide' | 'soun', entry: string, id: number): Buffer {
  const { seconds, width = 1280, height = 720, turned = 0, isProtected } = recipe
  const duration = Math.round(seconds * scale)
  const isFilm = kind === 'vide'
  const matrix = Buffer.concat((isFilm ? turnedBy[turned] : turnedBy[0]).map((n) => be(n, 4)))
  const size = isFilm ? Buffer.concat([be(width, 2), be(0, 2), be(height, 2), be(0, 2)]) : Buffer.alloc(8)
  const tkhd = fullBox('tkhd', 7, be(0, 4), be(0, 4), be(id, 4), be(0, 4), be(duration, 4), Buffer.alloc(16), matrix, size)
  const mdhd = fullBox('mdhd', 0, be(0, 4), be(0, 4), be(scale, 4), be(duration, 4), be(0x55c4, 2), be(0, 2))
  const hdlr = fullBox('hdlr', 0, be(0, 4), latin(kind), Buffer.alloc(12), latin('practice\0'))
  // who locked it, and what it was before (section 8.12)
  const locked = isProtected ? [box('sinf', box('frma', latin(entry)), fullBox('schm', 0, latin('prac'), be(1, 4)))] : []
  const type = isProtected ? (isFilm ? 'encv' : 'enca') : entry
  const sample = isFilm
    ? box(
        type,
        Buffer.alloc(6),
        be(1, 2),
        Buffer.alloc(16),
        be(width, 2),
        be(height, 2),
        be(0x480000, 4),
        be(0x480000, 4),
        be(0, 4),
        be(1, 2),
        Buffer.alloc(32),
        be(24, 2),
        be(0xffff, 2),
        ...locked,
      )
    : box(type, Buffer.alloc(6), be(1, 2), Buffer.alloc(8), be(2, 2), be(16, 2), be(0, 4), be(44_100 * 65_536, 4), ...locked)
  const stbl = box(
    'stbl',
    fullBox('stsd', 0, be(1, 4), sample),
    fullBox('stts', 0, be(1, 4), be(1, 4), be(duration, 4)),
    fullBox('stsc', 0, be(0, 4)),
    fullBox('stsz', 0, be(0, 4), be(0, 4)),
    fullBox('stco', 0, be(0, 4)),
  )
  const head = isFilm ? fullBox('vmhd', 1, Buffer.alloc(8)) : fullBox('smhd', 0, Buffer.alloc(4))
  return box('trak', tkhd, box('mdia', mdhd, hdlr, box('minf', head, box('dinf', fullBox('dref', 0, be(1, 4), fullBox('url ', 1))), stbl)))
}

// MPEG audio: a tag (ID3v2.4), a frame that says how many there are, and frames of silence

const frameBytes = 417
const framesOf = (seconds: number) => Math.round((seconds * 44_100) / 1152)

function mp3(recipe: Extract<MediaRecipe, { as: 'mp3' }>): Parts {
  const { seconds, tags = {}, tagBytes = 0, hasNoTags, salt } = recipe
  const frame = (id: string, text: string | number | undefined) => {
    if (text === undefined) return nothing
    const body = Buffer.concat([be(3, 1), utf8(String(text))])
    return Buffer.concat([latin(id), sevenBits(body.length), be(0, 2), body])
  }
  const frames = Buffer.concat([
    frame('TIT2', tags.title),
    frame('TPE1', tags.artist),
    frame('TALB', tags.album),
    frame('TRCK', tags.track),
    frame('TDRC', tags.year),
    frame('TCON', tags.genre),
    frame('TXXX', `practice\0${noteOf(recipe)}`),
  ])
  const cover = tagBytes > frames.length ? tagBytes - frames.length : 0
  const tag = hasNoTags ? nothing : Buffer.concat([latin('ID3\x04\0\0'), sevenBits(frames.length + cover), frames])
  const info = Buffer.alloc(frameBytes)
  info.writeUInt32BE(0xfffb9064, 0)
  info.write('Info', 36, 'latin1')
  // how many frames there are, and how many bytes
  info.writeUInt32BE(3, 40)
  info.writeUInt32BE(framesOf(seconds), 44)
  info.writeUInt32BE(framesOf(seconds) * frameBytes, 48)
  if (hasNoTags) info.writeUInt32BE(salt >>> 0, 100)
  const silence = Buffer.alloc(frameBytes)
  silence.writeUInt32BE(0xfffb9064, 0)
  const sound = Buffer.concat([info, silence, silence])
  if (cover > 0) return { head: tag, tail: sound, grow: () => ({ head: tag, fill: cover, tail: sound }) }
  return { head: Buffer.concat([tag, sound]), tail: nothing, grow: (fill) => ({ head: Buffer.concat([tag, sound]), fill, tail: nothing }) }
}

const sevenBits = (n: number) => Buffer.from([(n >> 21) & 127, (n >> 14) & 127, (n >> 7) & 127, n & 127])

type SoundRecipe = Extract<MediaRecipe, { as: 'flac' | 'ogg' | 'wav' | 'amr' }>

/** Vorbis comments: a vendor, and lines of name and value. */
function comments({ tags = {}, salt }: SoundRecipe): Buffer {
  const line = (text: string) => Buffer.concat([le(utf8(text).length, 4), utf8(text)])
  const names = { title: 'TITLE', artist: 'ARTIST', album: 'ALBUM', track: 'TRACKNUMBER', year: 'DATE', genre: 'GENRE' } as const
  const lines = Object.entries(names).flatMap(([name, of]) => {
    const value = tags[name as keyof SoundTags]
    return value === undefined ? [] : [line(`${of}=${value}`)]
  })
  return Buffer.concat([line(`practice ${salt}`), le(lines.length, 4), ...lines])
}

function flac(recipe: SoundRecipe): Parts {
  const info = Buffer.alloc(34)
  info.writeUInt16BE(4096, 0)
  info.writeUInt16BE(4096, 2)
  // 44,100 Hz, two channels, sixteen bits, and how many samples (RFC 9639, section 8.2)
  info.writeBigUInt64BE((44_100n << 44n) | (1n << 41n) | (15n << 36n) | BigInt(Math.round(recipe.seconds * 44_100)), 10)
  info.writeUInt32BE(recipe.salt >>> 0, 18)
  const said = comments(recipe)
  const head = Buffer.concat([latin('fLaC'), be(0, 1), be(34, 3), info, be(0x84, 1), be(said.length, 3), said, Buffer.alloc(64)])
  return { head, tail: nothing, grow: (fill) => ({ head, fill, tail: nothing }) }
}

function ogg(recipe: SoundRecipe): Buffer {
  const ident = Buffer.concat([
    latin('\x01vorbis'),
    le(0, 4),
    be(2, 1),
    le(44_100, 4),
    le(0, 4),
    le(128_000, 4),
    le(0, 4),
    be(0xb8, 1),
    be(1, 1),
  ])
  const said = Buffer.concat([latin('\x03vorbis'), comments(recipe), be(1, 1)])
  const samples = Math.round(recipe.seconds * 44_100)
  return Buffer.concat([page(ident, 0, 2, 0), page(said, 1, 0, 0), page(Buffer.alloc(64), 2, 4, samples)])
}

/** A page (RFC 3533, section 6). */
function page(body: Buffer, n: number, flags: number, granule: number): Buffer {
  const laces = [...Array.from({ length: Math.floor(body.length / 255) }, () => 255), body.length % 255]
  const position = Buffer.alloc(8)
  position.writeBigUInt64LE(BigInt(granule))
  const out = Buffer.concat([
    latin('OggS\0'),
    be(flags, 1),
    position,
    le(77, 4),
    le(n, 4),
    le(0, 4),
    be(laces.length, 1),
    Buffer.from(laces),
    body,
  ])
  out.writeUInt32LE(pageSum(out), 22)
  return out
}

function pageSum(bytes: Buffer): number {
  let sum = 0
  for (const byte of bytes) {
    sum = (sum ^ (byte << 24)) >>> 0
    for (let i = 0; i < 8; i++) sum = (sum & 0x80000000 ? (sum << 1) ^ 0x04c11db7 : sum << 1) >>> 0
  }
  return sum
}

function wav({ seconds, salt }: SoundRecipe): Parts {
  const rate = 8000
  const bytes = Math.round(seconds * rate) * 2
  const format = Buffer.concat([latin('fmt '), le(16, 4), le(1, 2), le(1, 2), le(rate, 4), le(rate * 2, 4), le(2, 2), le(16, 2)])
  const head = (n: number) => Buffer.concat([latin('RIFF'), le(n + 36, 4), latin('WAVE'), format, latin('data'), le(n, 4)])
  const sound = Buffer.alloc(Math.min(bytes, 4000), salt & 255)
  return {
    head: Buffer.concat([head(sound.length), sound]),
    tail: nothing,
    grow: () => ({ head: head(bytes), fill: bytes, tail: nothing }),
  }
}

function amr({ seconds, salt }: SoundRecipe): Buffer {
  const frame = Buffer.concat([be(0x3c, 1), Buffer.alloc(31, salt & 255)])
  return Buffer.concat([latin('#!AMR\n'), ...Array.from({ length: Math.round(seconds * 50) }, () => frame)])
}

/** Matroska (RFC 9559): a header, and a segment that says how long it is and of what size its pictures are. */
function mkv({ seconds, width, height, salt }: Extract<MediaRecipe, { as: 'mkv' }>): Parts {
  const element = (id: number, ...content: Buffer[]) => {
    const body = Buffer.concat(content)
    const idBytes = id > 0xffffff ? 4 : id > 0xffff ? 3 : id > 0xff ? 2 : 1
    return Buffer.concat([be(id, idBytes), be(0x10000000 + body.length, 4), body])
  }
  const duration = Buffer.alloc(4)
  duration.writeFloatBE(seconds * 1000)
  const info = element(
    0x1549a966,
    element(0x2ad7b1, be(1_000_000, 3)),
    element(0x4489, duration),
    element(0x7ba9, utf8(`practice ${salt}`)),
  )
  const track = element(
    0xae,
    element(0xd7, be(1, 1)),
    element(0x73c5, be(1, 1)),
    element(0x83, be(1, 1)),
    element(0x86, latin('V_VP9')),
    element(0xe0, element(0xb0, be(width, 2)), element(0xba, be(height, 2))),
  )
  const header = element(0x1a45dfa3, element(0x4282, latin('matroska')), element(0x4287, be(4, 1)), element(0x4285, be(2, 1)))
  const inside = Buffer.concat([info, element(0x1654ae6b, track)])
  const head = (fill: number) =>
    Buffer.concat([
      header,
      be(0x18538067, 4),
      be(0x10000000 + inside.length + fill + 12, 4),
      inside,
      be(0xec, 1),
      be(0x10000000 + fill + 7, 4),
      Buffer.alloc(7),
    ])
  return {
    head: head(0),
    tail: nothing,
    grow: (fill) => ({ head: head(Math.min(fill, 0x0fffff00)), fill: Math.min(fill, 0x0fffff00), tail: nothing }),
  }
}

// books and documents

const fixedDate = new Date(Date.UTC(2024, 0, 2, 3, 4, 6))

function epub({ title, author, isProtected, salt, body = 'A harbour.' }: Extract<MediaRecipe, { as: 'epub' }>): Buffer {
  const xml = (text: string) =>
    text.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`.replace('&#38;', '&amp;').replace('&#60;', '&lt;').replace('&#62;', '&gt;'))
  const file = (text: string, level: 0 | 6 = 6) => [utf8(text), { level, mtime: fixedDate }] as [Uint8Array, { level: 0 | 6; mtime: Date }]
  return Buffer.from(
    zipSync({
      mimetype: file('application/epub+zip', 0),
      'META-INF/container.xml': file(
        '<?xml version="1.0"?><container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="OEBPS/book.opf" media-type="application/oebps-package+xml"/></rootfiles></container>',
      ),
      ...(isProtected
        ? {
            'META-INF/encryption.xml': file(
              '<encryption xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><EncryptedData xmlns="http://www.w3.org/2001/04/xmlenc#"><EncryptionMethod Algorithm="http://www.w3.org/2001/04/xmlenc#aes128-cbc"/></EncryptedData></encryption>',
            ),
          }
        : {}),
      'OEBPS/book.opf': file(
        `<?xml version="1.0"?><package xmlns="http://www.idpf.org/2007/opf" version="3.0"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>${xml(title)}</dc:title><dc:creator id="c">${xml(author)}</dc:creator><dc:identifier>practice-${salt}</dc:identifier></metadata></package>`,
      ),
      'OEBPS/text.xhtml': file(`<html><body><p>${xml(body)}</p></body></html>`),
    }),
  )
}

function docx({ text, salt }: Extract<MediaRecipe, { as: 'docx' }>): Buffer {
  const file = (body: string) => [utf8(body), { mtime: fixedDate }] as [Uint8Array, { mtime: Date }]
  return Buffer.from(
    zipSync({
      '[Content_Types].xml': file('<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>'),
      'word/document.xml': file(`<w:document><w:body>${text} ${salt}</w:body></w:document>`),
    }),
  )
}

function pdf({ title, isLocked, salt }: Extract<MediaRecipe, { as: 'pdf' }>): Parts {
  const head = latin(`%PDF-1.7\n% practice ${salt}\n1 0 obj\n<< /Type /Catalog >>\nendobj\n`)
  const tail = latin(
    `2 0 obj\n<< /Title (${title.replace(/[()\\]/g, '\\$&')}) >>\nendobj\ntrailer\n<< /Root 1 0 R /Info 2 0 R${isLocked ? ' /Encrypt 3 0 R' : ''} >>\nstartxref\n0\n%%EOF\n`,
  )
  const open = latin('% ')
  return {
    head,
    tail,
    grow: (fill) => ({ head: Buffer.concat([head, open]), fill: Math.max(0, fill - 3), tail: Buffer.concat([latin('\n'), tail]) }),
  }
}
