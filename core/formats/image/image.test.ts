import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { makeFile } from '../../../standins/files/files.ts'
import { embeddedPreview, inspectFile } from './inspect.ts'
import { fitsName, renameTo, sniffType } from '../sniff.ts'

const notes = { taken: '2026:07:09 12:00:00', place: [-33.925, 18.42] as const }
const look = (bytes: Uint8Array) => inspectFile(bytes)

describe('what a file is', () => {
  it.each([
    ['lighthouse.jpg', 'image/jpeg'],
    ['screen.png', 'image/png'],
    ['wave.gif', 'image/gif'],
    ['tide.webp', 'image/webp'],
    ['lighthouse.heic', 'image/heic'],
    ['clip.mp4', 'video/mp4'],
  ])('%s is %s by its first bytes', (from, type) => {
    expect(sniffType(makeFile({ from, salt: 1 }))).toBe(type)
  })
  it.each([
    [Buffer.from('\0\0\0\x14ftypqt  ', 'latin1'), 'video/quicktime'],
    [Buffer.from('\0\0\0\x14ftyp3gp5', 'latin1'), 'video/3gpp'],
    [Buffer.from('\0\0\0\x14ftypavif', 'latin1'), 'image/avif'],
    [Buffer.alloc(0), undefined],
    [Buffer.from('no picture'), undefined],
    [Buffer.from([0xff, 0xd8]), undefined],
  ])('brands tell pictures from films, and what is neither is neither', (bytes, type) => {
    expect(sniffType(bytes)).toBe(type)
  })
  it('is by no means its name; a name is given the ending of what the file is', () => {
    expect(fitsName('IMG_1.JPG', 'image/jpeg')).toBe(true)
    expect(fitsName('IMG_1.jpg', 'image/heic')).toBe(false)
    expect(renameTo('IMG_1.jpg', 'image/heic')).toBe('IMG_1.heic')
    expect(renameTo('really a png.jpg', 'image/png')).toBe('really a png.png')
    expect(renameTo('no ending', 'image/gif')).toBe('no ending.gif')
    expect(renameTo('v1.2 of a long name', 'image/png')).toBe('v1.2 of a long name.png')
    expect(renameTo('kept.weird', 'application/x-unknown')).toBe('kept.weird')
  })
})

describe('what a file says of itself', () => {
  it('Exif: the camera’s clock with its offset, the place, how it is turned (Exif 2.32)', async () => {
    expect(await look(makeFile({ from: 'hive.jpg', salt: 1, notes: { ...notes, offset: '+02:00', orientation: 6 } }))).toMatchObject({
      type: 'image/jpeg',
      taken: { year: 2026, month: 7, day: 9, hour: 12 },
      offsetMinutes: 120,
      orientation: 6,
      isDamaged: false,
      place: { latitude: expect.closeTo(-33.925, 4), longitude: expect.closeTo(18.42, 4) },
    })
  })
  it('without an offset it is the owner’s local time, not UTC', async () => {
    expect((await look(makeFile({ from: 'hive.jpg', salt: 1, notes: { taken: notes.taken } }))).offsetMinutes).toBeUndefined()
  })
  it('HEIC carries Exif as an item of its own (ISO/IEC 23008-12 annex A)', async () => {
    expect(await look(makeFile({ from: 'turned.heic', salt: 1, notes: { taken: '2025:01:02 03:04:05' } }))).toMatchObject({
      type: 'image/heic',
      taken: { year: 2025, second: 5 },
      offsetMinutes: 0,
      orientation: 6,
    })
  })
  it('a film says when in UTC by its movie header (ISO/IEC 14496-12 section 8.2.2)', async () => {
    expect(await look(makeFile({ from: 'clip.mp4', salt: 1, notes: { taken: '2024:12:31 23:59:58' } }))).toMatchObject({
      taken: { year: 2024, month: 12, day: 31, hour: 23, minute: 59, second: 58 },
      offsetMinutes: 0,
    })
  })
  it('nothing noted is nothing said', async () => {
    expect(await look(makeFile({ from: 'screen.png', salt: 1 }))).toMatchObject({ taken: undefined, place: undefined, orientation: 1 })
    expect(await look(makeFile({ from: 'tide.webp', salt: 1 }))).toMatchObject({ type: 'image/webp', taken: undefined })
    expect(await look(Buffer.alloc(0))).toMatchObject({ type: undefined })
  })
  it('a picture whose end is missing is damaged', async () => {
    const whole = makeFile({ from: 'hive.jpg', salt: 1 })
    expect((await look(whole.subarray(0, 1500))).isDamaged).toBe(true)
    const png = makeFile({ from: 'screen.png', salt: 1 })
    expect([(await look(png)).isDamaged, (await look(png.subarray(0, png.length - 20))).isDamaged]).toEqual([false, true])
  })
  it('never throws, whatever is cut out of a file or turned round in it', async () => {
    const whole = makeFile({ from: 'lighthouse.jpg', salt: 1, notes: { ...notes, offset: '+00:00' }, thumbnail: true })
    await fc.assert(
      fc.asyncProperty(fc.nat(whole.length - 1), fc.nat(255), fc.nat(whole.length), async (at, byte, end) => {
        const bytes = Buffer.from(whole.subarray(0, end))
        if (at < bytes.length) bytes[at] = byte
        await look(bytes)
        await embeddedPreview(bytes)
      }),
      { numRuns: 300, seed: 7 },
    )
  })
  it('the small picture a camera put in is found, and none where there is none', async () => {
    const preview = await embeddedPreview(makeFile({ from: 'hive.jpg', salt: 1, notes, thumbnail: true }))
    expect([preview![0], preview![1], preview!.length > 300]).toEqual([0xff, 0xd8, true])
    expect(await embeddedPreview(makeFile({ from: 'hive.jpg', salt: 1, notes }))).toBeUndefined()
    expect(await embeddedPreview(Buffer.from('nothing'))).toBeUndefined()
  })
})
