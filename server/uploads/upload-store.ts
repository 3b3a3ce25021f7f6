import { createCipheriv, createDecipheriv, createHash, randomBytes, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { Problem } from '../http/problem.ts'
import { open, seal } from '../seal/keys.ts'

const mostBytes = 500_000_000

export interface Upload {
  readonly id: string
  readonly keyWrapped: Buffer
  readonly sizeBytes: number
  readonly cards: number
  readonly revision: string
}

/**
 * Streams a dropped file to a sealed temporary file, counting its cards on the way; the name it had is not kept.
 * @throws Problem `FileTooLarge`, `FileUnreadable`
 */
export async function takeUpload(dataFolder: string, masterKey: Buffer, body: AsyncIterable<Uint8Array>): Promise<Upload> {
  const id = randomUUID()
  const key = randomBytes(32)
  const nonce = randomBytes(16)
  const hash = createHash('sha256')
  const splitter = createCardSplitter()
  let sizeBytes = 0
  let cards = 0
  const meter = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      sizeBytes += chunk.length
      if (sizeBytes > mostBytes) return done(new Problem('FileTooLarge'))
      hash.update(chunk)
      for (const _ of splitter.push(chunk)) cards++
      done(null, chunk)
    },
  })
  await mkdir(folderOf(dataFolder), { recursive: true, mode: 0o700 })
  // counter mode: the file is read from its start only, and its digest is kept beside it
  const cipher = createCipheriv('aes-256-ctr', key, nonce)
  try {
    await pipeline(Readable.from(body), meter, cipher, createWriteStream(pathOf(dataFolder, id), { mode: 0o600 }))
    for (const _ of splitter.end()) cards++
    if (cards === 0) throw new Problem('FileUnreadable')
  } catch (error) {
    await rm(pathOf(dataFolder, id), { force: true })
    throw error
  }
  const keyWrapped = seal(masterKey, `upload ${id}`, Buffer.concat([key, nonce]))
  return { id, keyWrapped, sizeBytes, cards, revision: hash.digest('hex').slice(0, 32) }
}

/** The file's bytes again. @throws Error when the file is gone */
export function openUpload(dataFolder: string, masterKey: Buffer, upload: { id: string; keyWrapped: Buffer }): Readable {
  const secret = open(masterKey, `upload ${upload.id}`, upload.keyWrapped)
  const decipher = createDecipheriv('aes-256-ctr', secret.subarray(0, 32), secret.subarray(32))
  const source = createReadStream(pathOf(dataFolder, upload.id))
  source.on('error', (error) => decipher.destroy(error))
  return source.pipe(decipher)
}

export async function dropUpload(dataFolder: string, id: string): Promise<void> {
  await rm(pathOf(dataFolder, id), { force: true })
}

function folderOf(dataFolder: string): string {
  return join(dataFolder, 'uploads')
}

function pathOf(dataFolder: string, id: string): string {
  return join(folderOf(dataFolder), `${id}.sealed`)
}
