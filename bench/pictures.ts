import sharp from 'sharp'
import { embeddedPreview } from '#core/formats/image/inspect.ts'
import { createConverter, toJpeg } from '#server/line/moving/converter.ts'
import { writeExif } from '#standins/files/exif.ts'
import { makeFile } from '#standins/files/files.ts'

/** Small pictures a second, taken out of a file and decoded; and HEIC conversions a second. */
export async function measurePictures(): Promise<void> {
  const seed = makeFile({ from: 'lighthouse.jpg', salt: 1 })
  const large = await sharp(seed).resize(4000, 3000).jpeg({ quality: 85 }).toBuffer()
  const small = await sharp(seed).resize(160, 120).jpeg({ quality: 60 }).toBuffer()
  const body = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), writeExif({ taken: '2026:01:05 18:00:00', thumbnail: small })])
  const camera = Buffer.concat([
    large.subarray(0, 2),
    Buffer.from([0xff, 0xe1, (body.length + 2) >> 8, (body.length + 2) & 255]),
    body,
    large.subarray(2),
  ])
  const converter = createConverter()
  try {
    const embedded = await perSecond(200, () => embeddedPreview(camera.subarray(0, 524_288)))
    await converter.run(large, 'image/jpeg', { as: 'tile', side: 160 })
    const decoded = await perSecond(25, () => converter.run(large, 'image/jpeg', { as: 'tile', side: 160 }))
    console.log(
      `small pictures of 12 megapixels: ${embedded.toFixed(0)} a second embedded, ${decoded.toFixed(1)} a second decoded (${(embedded / decoded).toFixed(0)} times)`,
    )
    const heic = makeFile({ from: 'lighthouse.heic', salt: 1, notes: { taken: '2026:01:05 18:00:00' } })
    await toJpeg(heic, 'image/heic', converter)
    const converted = await perSecond(40, () => toJpeg(heic, 'image/heic', converter))
    console.log(
      `HEIC to JPEG, date and place proved: ${converted.toFixed(1)} a second of 0.2 megapixels, ${(converted * 0.197).toFixed(1)} megapixels a second`,
    )
  } finally {
    await converter.close()
  }
}

async function perSecond(times: number, work: () => Promise<unknown>): Promise<number> {
  const began = performance.now()
  for (let i = 0; i < times; i++) await work()
  return (times / (performance.now() - began)) * 1000
}
