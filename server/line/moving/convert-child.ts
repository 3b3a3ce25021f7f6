import libheif from 'libheif-js/wasm-bundle.js'
import sharp, { type Sharp } from 'sharp'

/**
 * Decodes pictures, in a process of its own that can be killed: a file made by a stranger may take for ever, or all
 * memory, or bring the decoder down with whatever it runs in. Pixels are counted before anything is decoded.
 */
export interface Job {
  readonly id: number
  readonly bytes: Uint8Array
  readonly type: string
  readonly mostPixels: number
  /** jpeg: the whole picture, upright, with this Exif. tile: so many pixels wide and high at most, without any. */
  readonly make:
    { readonly as: 'jpeg'; readonly exif: Record<string, Record<string, string>> } | { readonly as: 'tile'; readonly side: number }
}
export type Done = { readonly id: number; readonly bytes: Uint8Array } | { readonly id: number; readonly failed: string }

// the decoder says what it thinks of a file aloud; logs are no place for that
console.log = () => undefined
sharp.concurrency(1)
sharp.cache(false)

async function open({ bytes, type, mostPixels }: Job): Promise<Sharp> {
  if (type !== 'image/heic') return sharp(bytes, { limitInputPixels: mostPixels, failOn: 'error', animated: false }).autoOrient()
  const [image] = new libheif.HeifDecoder().decode(bytes)
  if (!image) throw new Error('no-picture')
  // the container's own turning is in these already; the Exif's says the same once more and is left out
  const [width, height] = [image.get_width(), image.get_height()]
  if (width * height > mostPixels) throw new Error('too-many-pixels')
  const data = new Uint8ClampedArray(width * height * 4)
  await new Promise<void>((resolve, reject) =>
    image.display({ data, width, height }, (shown: unknown) => (shown ? resolve() : reject(new Error('not-decoded')))),
  )
  return sharp(data, { raw: { width, height, channels: 4 }, limitInputPixels: mostPixels }).removeAlpha()
}

process.on('message', (job: Job) => {
  const work = async () => {
    const picture = await open(job)
    const { make } = job
    const made =
      make.as === 'tile'
        ? picture.resize(make.side, make.side, { fit: 'inside', withoutEnlargement: true }).jpeg({ quality: 62 })
        : picture.flatten({ background: '#fff' }).jpeg({ quality: 92 }).withExif(make.exif)
    return new Uint8Array(await made.toBuffer())
  }
  work().then(
    (bytes) => process.send!({ id: job.id, bytes } satisfies Done),
    (error: Error) => process.send!({ id: job.id, failed: error.message } satisfies Done),
  )
})
// who asks is gone
process.on('disconnect', () => process.exit(0))
