import { createDecipheriv, hash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { readdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { faces } from '#core/kinds/faces.ts'
import type { HoldingId } from '../base/ids.ts'
import { blobsOf, writeBlob } from '../vault/blobs.ts'
import { findSecret } from '../vault/holdings.ts'
import { keysFrom } from '../vault/keys.ts'
import type { UploadPlaces } from './upload-store.ts'

const cards: string = faces.find(({ begins }) => begins === 'VCARD')!.code
/** `{id}.sealed` are cards, `{id}.{kind}.sealed` anything else. */
const formerName = /^([\da-f-]{36})(?:\.(\w+))?\.sealed$/

/**
 * Moves dropped files that an earlier version kept as files of one key stream into blobs. Killed anywhere, it goes on at
 * the next start: what is half moved is written on, and a former file goes once its blob is whole. Answers how many.
 */
export async function moveUploads(places: UploadPlaces): Promise<number> {
  const folder = join(places.dataFolder, 'uploads')
  const store = blobsOf(places)
  let moved = 0
  for (const file of await readdir(folder).catch(() => [])) {
    const [, id, kind = cards] = formerName.exec(file) ?? []
    if (!id) continue
    const secret = findSecret(places, id as HoldingId)
    // what came in and was never taken apart, or has no key, is nobody's
    if (secret && kind !== 'raw') {
      const blob = writeBlob(keysFrom(secret), store, { holding: id as HoldingId, name: kind })
      for await (const chunk of openFormer(join(folder, file), { secret, kind })) await blob.write(chunk)
      await blob.end()
      moved++
    }
    await rm(join(folder, file), { force: true })
  }
  await rm(folder, { recursive: true, force: true })
  return moved
}

/** AES-256 in counter mode; a secret is key (32) and nonce (16), and each kind but cards has a nonce made of that one. */
function openFormer(path: string, { secret, kind }: { secret: Buffer; kind: string }): AsyncIterable<Buffer> {
  const [key, nonce] = [secret.subarray(0, 32), secret.subarray(32)]
  const own = kind === cards ? nonce : hash('sha256', Buffer.concat([nonce, Buffer.from(kind)]), 'buffer').subarray(0, 16)
  return createReadStream(path).pipe(createDecipheriv('aes-256-ctr', key, own))
}
