import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { inspectFile } from '#core/formats/image/inspect.ts'
import { makeFile } from '#standins/files/files.ts'
import { createConverter, NotConverted, toJpeg } from './converter.ts'

const converter = createConverter()
afterAll(() => converter.close())
const look = (bytes: Uint8Array) => inspectFile(bytes)

/** Where the lighthouse's dark lantern is in a picture: near the top when it stands upright. */
async function lanternAt(bytes: Uint8Array): Promise<{ x: number; y: number }> {
  const { data, info } = await sharp(bytes).resize(64, 48, { fit: 'fill' }).greyscale().raw().toBuffer({ resolveWithObject: true })
  let [best, x, y] = [255, 0, 0]
  data.forEach((value, i) => {
    if (value < best) [best, x, y] = [value, i % info.width, Math.floor(i / info.width)]
  })
  return { x: x / info.width, y: y / info.height }
}

describe('conversion', () => {
  it('HEIC becomes an upright JPEG with date and place kept', async () => {
    const jpeg = await toJpeg(
      makeFile({ from: 'lighthouse.heic', salt: 1, notes: { taken: '2026:02:03 04:05:06' } }),
      'image/heic',
      converter,
    )
    expect(await look(jpeg)).toMatchObject({
      type: 'image/jpeg',
      taken: { year: 2026, second: 6 },
      offsetMinutes: 0,
      orientation: 1,
      place: { latitude: expect.closeTo(50.5, 4), longitude: expect.closeTo(-4.25, 4) },
    })
    expect((await lanternAt(jpeg)).y).toBeLessThan(0.3)
  })
  it('turned by container and by Exif at once, it is turned once only', async () => {
    const turned = await toJpeg(makeFile({ from: 'turned.heic', salt: 1 }), 'image/heic', converter)
    const { width, height } = await sharp(turned).metadata()
    expect([width, height]).toEqual([512, 384])
    expect((await lanternAt(turned)).y).toBeLessThan(0.3)
    expect((await look(turned)).orientation).toBe(1)
  })
  it('WebP, which says no date, gets none', async () => {
    expect(await look(await toJpeg(makeFile({ from: 'tide.webp', salt: 1 }), 'image/webp', converter))).toMatchObject({
      type: 'image/jpeg',
      taken: undefined,
      place: undefined,
    })
  })
  it('the same picture becomes the same bytes each time: a killed worker makes what the first one made', async () => {
    const heic = makeFile({ from: 'lighthouse.heic', salt: 5, notes: { taken: '2026:02:03 04:05:06' } })
    const second = createConverter()
    const [a, b] = [await toJpeg(heic, 'image/heic', converter), await toJpeg(heic, 'image/heic', second)]
    await second.close()
    expect(Buffer.from(a).equals(Buffer.from(b))).toBe(true)
  })
  it.each([
    ['what is no picture', Buffer.alloc(900, 'x'), 'image/heic'],
    ['half a HEIC', makeFile({ from: 'lighthouse.heic', salt: 1 }).subarray(0, 1800), 'image/heic'],
    ['half a WebP', makeFile({ from: 'tide.webp', salt: 1 }).subarray(0, 700), 'image/webp'],
  ])('%s is refused by a code, and the next picture is converted', async (_, bytes, type) => {
    await expect(toJpeg(bytes, type, converter)).rejects.toBeInstanceOf(NotConverted)
    expect((await toJpeg(makeFile({ from: 'tide.webp', salt: 1 }), 'image/webp', converter)).length).toBeGreaterThan(1000)
  })
  it('a picture of too many pixels is refused before it is decoded', async () => {
    const huge = await sharp({ create: { width: 16_000, height: 9_000, channels: 3, background: '#123' } })
      .png({ compressionLevel: 9 })
      .toBuffer()
    const before = performance.now()
    await expect(converter.run(huge, 'image/png', { as: 'tile', side: 160 })).rejects.toThrow(/pixel/i)
    expect(performance.now() - before).toBeLessThan(2000)
  })
  it('one that takes too long is ended with its process, and the next gets a new one', async () => {
    const hasty = createConverter({ timeoutMs: 1 })
    await expect(hasty.run(makeFile({ from: 'lighthouse.heic', salt: 1 }), 'image/heic', { as: 'tile', side: 160 })).rejects.toThrow(
      'too-slow',
    )
    await hasty.close()
    const patient = createConverter()
    expect(
      (await patient.run(makeFile({ from: 'lighthouse.heic', salt: 1 }), 'image/heic', { as: 'tile', side: 160 })).length,
    ).toBeGreaterThan(500)
    await patient.close()
  })
})
