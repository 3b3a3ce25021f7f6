import { zlibSync } from 'fflate'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { makeFile } from '../../../standins/files/files.ts'
import { createFinder } from './find-in-file.ts'
import { createInspector, inspectFile } from './inspect.ts'

const text = (s: string) => Buffer.from(s, 'latin1')
const u16 = (n: number) => Buffer.from([n >> 8, n & 255])
const u32 = (n: number) => Buffer.from([n >>> 24, (n >> 16) & 255, (n >> 8) & 255, n & 255])
const noise = (n: number) => Buffer.alloc(n, 'sea and fog ')

/** The block a camera wrote, taken out of a picture of the practice phones. */
const camera = makeFile({
  from: 'hive.jpg',
  salt: 1,
  notes: { taken: '2026:07:09 12:00:00', offset: '+02:00', place: [-33.925, 18.42], orientation: 6 },
})
const block = (() => {
  const at = camera.indexOf('Exif\0\0', 0, 'latin1')
  return camera.subarray(at + 6, at - 2 + camera.readUInt16BE(at - 2))
})()
const said = { taken: { year: 2026, month: 7, day: 9, hour: 12 }, offsetMinutes: 120, orientation: 6 }

const segment = (marker: number, data: Buffer) => Buffer.concat([Buffer.from([0xff, marker]), u16(data.length + 2), data])
const jpeg = (...segments: Buffer[]) =>
  Buffer.concat([Buffer.from([0xff, 0xd8]), ...segments, Buffer.from([0xff, 0xda, 0, 2, 1, 2, 0xff, 0xd9])])
const exifSegment = segment(0xe1, Buffer.concat([text('Exif\0\0'), block]))

const chunk = (type: string, data: Buffer) => Buffer.concat([u32(data.length), text(type), data, u32(0)])
const png = (...chunks: Buffer[]) =>
  Buffer.concat([text('\x89PNG\r\n\x1a\n'), chunk('IHDR', Buffer.alloc(13)), ...chunks, chunk('IEND', Buffer.alloc(0))])
const profile = text(
  `\nexif\n${String(block.length + 6).padStart(8)}\n${Buffer.concat([text('Exif\0\0'), block])
    .toString('hex')
    .replace(/.{72}/g, '$&\n')}\n`,
)

const box = (type: string, ...content: Buffer[]) => {
  const all = Buffer.concat(content)
  return Buffer.concat([u32(all.length + 8), text(type), all])
}
const full = (type: string, version: number, ...content: Buffer[]) => box(type, Buffer.from([version, 0, 0, 0]), ...content)
const item = Buffer.concat([u32(6), text('Exif\0\0'), block])
interface Heif {
  readonly brand: string
  /** Between the index and the item; or the item in front of the index. */
  readonly gap: number
  readonly order: 'index-first' | 'item-first' | 'inside'
  readonly version?: 0 | 1 | 2
}
function heif({ brand, gap, order, version = 0 }: Heif): Buffer {
  const type = box('ftyp', text(brand), u32(0), text('mif1'))
  const id = (n: number) => (version < 2 ? u16(n) : u32(n))
  const infos = full('iinf', 0, u16(2), full('infe', 2, u16(1), u16(0), text('hvc1\0')), full('infe', 2, u16(2), u16(0), text('Exif\0')))
  const index = (at: number) =>
    full(
      'meta',
      0,
      full('hdlr', 0, u32(0), text('pict')),
      infos,
      full(
        'iloc',
        version,
        Buffer.from([0x44, 0x00]),
        id(2),
        ...[1, 2].flatMap((n) => [
          id(n),
          ...(version > 0 ? [u16(order === 'inside' && n === 2 ? 1 : 0)] : []),
          u16(0),
          u16(1),
          u32(n === 2 ? at : 0),
          u32(n === 2 ? item.length : 4),
        ]),
      ),
      ...(order === 'inside' ? [box('idat', noise(7), item)] : []),
    )
  if (order === 'inside') return Buffer.concat([type, index(7), box('mdat', noise(gap))])
  if (order === 'item-first') return Buffer.concat([type, box('mdat', item, noise(gap)), index(type.length + 8)])
  const size = index(0).length
  return Buffer.concat([type, index(type.length + size + 8 + gap), box('mdat', noise(gap), item)])
}
const webp = Buffer.concat([
  text('RIFF'),
  u32(0),
  text('WEBPVP8X'),
  Buffer.from([10, 0, 0, 0]),
  Buffer.alloc(10),
  text('VP8 '),
  Buffer.from([1, 0, 16, 0]),
  noise(1_048_577),
  Buffer.alloc(1),
  text('EXIF'),
  Buffer.from([block.length & 255, block.length >> 8, 0, 0]),
  block,
])
/** A film as phones write it while it is filmed: what says all about it stands at its end. */
const film = Buffer.concat([
  box('ftyp', text('mp42'), u32(0)),
  box('mdat', noise(2_000_000)),
  box('moov', full('mvhd', 0, u32(2_082_844_800 + Date.UTC(2024, 11, 31) / 1000), Buffer.alloc(96))),
])

const files: readonly [string, Buffer, object][] = [
  [
    'a JPEG whose Exif stands behind two megabytes of other segments',
    jpeg(...Array.from({ length: 40 }, () => segment(0xe2, noise(60_000))), exifSegment),
    said,
  ],
  ['a JPEG with bytes of FF between its segments', jpeg(Buffer.from([0xff, 0xff]), exifSegment), said],
  ['eXIf of a PNG, behind the picture', png(chunk('IDAT', noise(900_000)), chunk('eXIf', block)), said],
  ['the profile programs write into a PNG as text', png(chunk('tEXt', Buffer.concat([text('Raw profile type exif\0'), profile]))), said],
  ['the same, packed', png(chunk('zTXt', Buffer.concat([text('Raw profile type APP1\0\0'), Buffer.from(zlibSync(profile))]))), said],
  ['the same, as international text', png(chunk('iTXt', Buffer.concat([text('Raw profile type exif\0\0\0en\0\0'), profile]))), said],
  ['HEIF of the brand mif1', heif({ brand: 'mif1', gap: 10, order: 'index-first' }), said],
  ['HEIF whose Exif stands at its end', heif({ brand: 'heic', gap: 3_000_000, order: 'index-first' }), said],
  ['HEIF whose index stands behind all', heif({ brand: 'heix', gap: 900_000, order: 'item-first', version: 1 }), said],
  ['HEIF that holds its Exif in the index', heif({ brand: 'mif1', gap: 100, order: 'inside', version: 1 }), said],
  ['HEIF with wide numbers', heif({ brand: 'msf1', gap: 100, order: 'index-first', version: 2 }), said],
  ['AVIF', heif({ brand: 'avif', gap: 700_000, order: 'index-first' }), said],
  ['WebP', webp, said],
  ['a film that says when it was made at its end', film, { taken: { year: 2024, month: 12, day: 31 }, offsetMinutes: 0 }],
]

describe('what a file says of itself is found wherever it stands', () => {
  it.each(files)('%s', async (_, bytes, expected) => {
    expect(await inspectFile(bytes)).toMatchObject(expected)
  })
  it('in pieces of any size it is the same', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...files),
        fc.array(fc.integer({ min: 1, max: 200_000 }), { minLength: 1, maxLength: 5 }),
        async ([, bytes, expected], sizes) => {
          const inspector = createInspector()
          for (let at = 0, i = 0; at < bytes.length; i++) {
            const size = Math.max(sizes[i % sizes.length]!, bytes.length > 100_000 ? 500 : 1)
            inspector.push(bytes.subarray(at, at + size))
            at += size
          }
          expect(await inspector.end()).toMatchObject(expected)
        },
      ),
      { numRuns: 60, seed: 3 },
    )
  })
  it('never throws, whatever is cut out of it or turned round in it', async () => {
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...files), fc.nat(3000), fc.nat(255), fc.nat(4000), async ([, bytes], at, byte, end) => {
        const cut = Buffer.from(bytes.subarray(0, end))
        if (at < cut.length) cut[at] = byte
        await inspectFile(cut)
      }),
      { numRuns: 1000, seed: 5 },
    )
  })
  it('a block that would unpack into more than any camera writes is none', () => {
    const finder = createFinder()
    const bomb = Buffer.from(zlibSync(Buffer.alloc(60_000_000, '00')))
    finder.push(png(chunk('zTXt', Buffer.concat([text('Raw profile type exif\0\0'), bomb]))))
    expect(finder.end()).toEqual({ type: 'image/png', found: undefined })
  })
})
