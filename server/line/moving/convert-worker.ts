import { parentPort } from 'node:worker_threads'
import libheif from 'libheif-js/wasm-bundle.js'
import sharp, { type Sharp } from 'sharp'

/**
 * Decodes pictures, in a thread of its own that can be ended: a file made by a stranger may take for ever, or all
 * memory. Pixels are counted before anything is decoded.
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

parentPort!.on('message', (job: Job) => {
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
    (bytes) => parentPort!.postMessage({ id: job.id, bytes } satisfies Done, [bytes.buffer as ArrayBuffer]),
    (error: Error) => parentPort!.postMessage({ id: job.id, failed: error.message } satisfies Done),
  )
})
