import { streamFile } from '#server/line/moving/move-files.ts'
import { peakKb } from './measure.ts'
import { attach } from './pipe.ts'

/** Streams one large file from phone to phone, and prints its own peak memory in kB. */
const link = { url: process.env.PIPE_URL!, token: process.env.PIPE_TOKEN! }
const [seed, size] = [Number(process.env.PIPE_SEED), Number(process.env.PIPE_SIZE)]
const [old, now] = [await attach(link, 'PIPE-OLD'), await attach(link, 'PIPE-NEW')]
const moved = await streamFile({
  kind: 'videos',
  old,
  now,
  file: { handle: `v${seed}-1`, sizeBytes: size, digest: process.env.PIPE_DIGEST! },
  side: {},
  onBytes: async () => undefined,
})
if (!moved) throw new Error('not what was sent')
console.log(peakKb())
process.exit(0)
