import { randomBytes } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import type { HoldingId } from '../base/ids.ts'
import type { BlobName } from './blob-store.ts'
import { blobsOf, chunkBytes, readBlob, writeBlob } from './blobs.ts'
import { keysFrom } from './keys.ts'

const folder = mkdtempSync(join(tmpdir(), 'corvend-blobs-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const store = blobsOf({ dataFolder: folder })
const keys = keysFrom(randomBytes(32))
const holding = 'h-1' as HoldingId
let n = 0
const fresh = (): BlobName => ({ holding, name: `b${++n}` })
const pathOf = ({ holding, name }: BlobName) => join(folder, 'blobs', holding, name)

/** Writes in uneven pieces, as they come over a cable. */
async function write(blob: BlobName, bytes: Buffer, piece = 70_001) {
  const writer = writeBlob(keys, store, blob)
  for (let at = 0; at < bytes.length; at += piece) await writer.write(bytes.subarray(at, at + piece))
  return writer.end()
}
async function read(blob: BlobName, range?: { from?: number; to?: number }): Promise<Buffer> {
  const chunks: Buffer[] = []
  for await (const chunk of readBlob(keys, store, blob, range)) chunks.push(chunk)
  return Buffer.concat(chunks)
}
const said = (blob: BlobName) =>
  read(blob).then(
    () => 'opened',
    () => 'refused',
  )

describe('sealed blobs', () => {
  it.each([0, 1, chunkBytes - 1, chunkBytes, chunkBytes + 1, 3 * chunkBytes, 5 * chunkBytes + 12_345])(
    'give back %i bytes as they came, and nothing of them can be read without the key',
    async (size) => {
      const [blob, bytes] = [fresh(), randomBytes(size)]
      const { sizeBytes, digest } = await write(blob, bytes)
      expect(sizeBytes).toBe(size)
      expect((await read(blob)).equals(bytes)).toBe(true)
      expect(digest).toMatch(/^[\da-f]{64}$/)
      if (size > 32) expect(readFileSync(pathOf(blob)).includes(bytes.subarray(0, 32))).toBe(false)
    },
  )

  it('are read from any place to any other', async () => {
    const [blob, bytes] = [fresh(), randomBytes(3 * chunkBytes + 100)]
    await write(blob, bytes)
    for (const [from, to] of [
      [0, 10],
      [chunkBytes - 5, chunkBytes + 5],
      [2 * chunkBytes, bytes.length],
      [3 * chunkBytes + 99, 3 * chunkBytes + 100],
      [bytes.length, bytes.length + 5],
    ] as const)
      expect((await read(blob, { from, to })).equals(bytes.subarray(from, to))).toBe(true)
  })

  it('have one digest for one content within a holding, and another in another', async () => {
    const bytes = randomBytes(2 * chunkBytes + 7)
    const [one, two] = [await write(fresh(), bytes), await write(fresh(), bytes, 999)]
    expect(two.digest).toBe(one.digest)
    const other = writeBlob(keysFrom(randomBytes(32)), store, fresh())
    await other.write(bytes)
    expect((await other.end()).digest).not.toBe(one.digest)
    bytes[chunkBytes] = bytes[chunkBytes]! ^ 1
    expect((await write(fresh(), bytes)).digest).not.toBe(one.digest)
  })

  it('refuse a chunk that is altered, exchanged, doubled, left out, cut off, or another blob’s', async () => {
    const slot = chunkBytes + 28
    const bytes = randomBytes(3 * chunkBytes + 50)
    const spoil: Record<string, (sealed: Buffer) => Buffer> = {
      altered: (sealed) => ((sealed[slot + 40] = sealed[slot + 40]! ^ 1), sealed),
      exchanged: (sealed) => Buffer.concat([sealed.subarray(slot, 2 * slot), sealed.subarray(0, slot), sealed.subarray(2 * slot)]),
      doubled: (sealed) => Buffer.concat([sealed.subarray(0, slot), sealed]),
      'left out': (sealed) => Buffer.concat([sealed.subarray(0, slot), sealed.subarray(2 * slot)]),
      'cut off at a chunk’s end': (sealed) => sealed.subarray(0, 3 * slot),
      'cut off within a chunk': (sealed) => sealed.subarray(0, 3 * slot + 20),
      emptied: () => Buffer.alloc(0),
    }
    for (const [how, change] of Object.entries(spoil)) {
      const blob = fresh()
      await write(blob, bytes)
      writeFileSync(pathOf(blob), change(readFileSync(pathOf(blob))))
      expect([how, await said(blob)]).toEqual([how, 'refused'])
    }
    const [one, other] = [fresh(), fresh()]
    await write(one, bytes)
    writeFileSync(pathOf(other), readFileSync(pathOf(one)))
    expect(await said(other)).toBe('refused')
    expect(await said({ holding, name: 'never' })).toBe('refused')
  })

  it('go on where a killed write stopped: chunks that are there are not written again, and half a chunk is none', async () => {
    const slot = chunkBytes + 28
    const [blob, bytes] = [fresh(), randomBytes(4 * chunkBytes + 9)]
    const { digest } = await write(blob, bytes)
    const whole = readFileSync(pathOf(blob))
    truncateSync(pathOf(blob), 2 * slot + 1000)
    expect(await said(blob)).toBe('refused')
    expect(await write(blob, bytes)).toEqual({ sizeBytes: bytes.length, digest })
    expect((await read(blob)).equals(bytes)).toBe(true)
    const again = readFileSync(pathOf(blob))
    // sealed anew they would have another nonce
    expect(again.subarray(0, 2 * slot).equals(whole.subarray(0, 2 * slot))).toBe(true)
    expect(again.subarray(2 * slot, 3 * slot).equals(whole.subarray(2 * slot, 3 * slot))).toBe(false)
  })

  it('written again with other or fewer bytes hold those alone', async () => {
    const [blob, bytes] = [fresh(), randomBytes(4 * chunkBytes)]
    await write(blob, bytes)
    const other = Buffer.concat([bytes.subarray(0, chunkBytes), randomBytes(chunkBytes + 3)])
    await write(blob, other)
    expect((await read(blob)).equals(other)).toBe(true)
    expect(statSync(pathOf(blob)).size).toBe(other.length + 3 * 28)
  })

  it('go with their holding, and are listed with what they take', async () => {
    const mine = { holding: 'h-2' as HoldingId, name: 'x' }
    await write(mine, randomBytes(500))
    expect(await store.sizeOf(mine.holding)).toMatchObject({ bytes: 528 })
    await store.drop(mine.holding)
    expect(await store.holdings()).not.toContain(mine.holding)
    expect(await said(mine)).toBe('refused')
  })

  it('have no name that leads out of their folder', async () => {
    for (const blob of [
      { holding, name: '../x' },
      { holding: '..' as HoldingId, name: 'x' },
      { holding, name: '' },
    ])
      await expect(writeBlob(keys, store, blob).drop()).rejects.toThrow('no name of a blob')
  })
})
