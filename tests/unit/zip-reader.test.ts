import { Uint8ArrayReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js'
import { zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { openZipEntry, readZipDirectory } from '#server/endpoints/archives/zip-reader.ts'
import { numbers } from '#standins/demo/draw.ts'
import { codeOf } from '../setup/codes.ts'
import { randomBytesOf } from '../setup/uploads.ts'

async function readAll(zip: Uint8Array, password?: string): Promise<Record<string, string>> {
  const file = randomBytesOf(zip)
  const out: Record<string, string> = {}
  for (const entry of await readZipDirectory(file)) {
    const chunks: Buffer[] = []
    for await (const chunk of openZipEntry(file, entry, password)) chunks.push(chunk)
    out[entry.path] = Buffer.concat(chunks).toString()
  }
  return out
}
const failure = (zip: Uint8Array, password?: string) => codeOf(readAll(zip, password))
const long = Buffer.from(Array.from({ length: 4000 }, (_, i) => `TEL:+447700900${i}`).join('\r\n'))

async function written(files: Record<string, Uint8Array>, how: ConstructorParameters<typeof ZipWriter>[1] = {}): Promise<Uint8Array> {
  const zip = new ZipWriter(new Uint8ArrayWriter(), { useWebWorkers: false, ...how })
  for (const [path, bytes] of Object.entries(files)) await zip.add(path, new Uint8ArrayReader(bytes))
  return zip.close()
}

describe('a ZIP', () => {
  it('is read by its directory, stored or deflated, with names of any letters', async () => {
    const zip = zipSync({ 'a.vcf': long, 'folder/': new Uint8Array(0), 'Größe/山.ics': [Buffer.from('BEGIN:VCALENDAR'), { level: 0 }] })
    expect(await readAll(zip)).toEqual({ 'a.vcf': long.toString(), 'folder/': '', 'Größe/山.ics': 'BEGIN:VCALENDAR' })
    expect(await readAll(Buffer.concat([zip]))).toMatchObject({ 'a.vcf': long.toString() })
  })

  it('with fields for large files, and with its sizes behind its bytes', async () => {
    for (const how of [{ zip64: true }, { dataDescriptor: true }, { zip64: true, dataDescriptor: true }, { level: 0 }])
      expect(await readAll(await written({ 'a.vcf': long, 'b.txt': Buffer.from('b') }, how))).toEqual({
        'a.vcf': long.toString(),
        'b.txt': 'b',
      })
  })

  it.each([
    ['AES of 128 bits', { encryptionStrength: 1 as const }],
    ['AES of 192 bits', { encryptionStrength: 2 as const }],
    ['AES of 256 bits', { encryptionStrength: 3 as const }],
    ['the old lock', { zipCrypto: true }],
  ])('locked by %s it opens by its password alone, and says when a byte is altered', async (_, how) => {
    // longer than a piece, and of no whole block
    const bytes = Buffer.concat([long, long, long, Buffer.from('end')])
    // nobody ever said which bytes other letters are in the old one
    const password = 'zipCrypto' in how ? 'Lantern 12' : 'Laterne – 12'
    for (const level of [0, 6]) {
      const zip = await written({ 'a.vcf': bytes, 'empty.txt': new Uint8Array(0) }, { ...how, level, password })
      expect(await readAll(zip, password)).toEqual({ 'a.vcf': bytes.toString(), 'empty.txt': '' })
      expect(await failure(zip)).toBe('zip-encrypted')
      expect(await failure(zip, password.toLowerCase())).toMatch(/zip-wrong-password|zip-damaged/)
      const altered = Buffer.from(zip)
      altered[600]! ^= 1
      expect(await failure(altered, password)).toBe('zip-damaged')
    }
  })

  it('cut anywhere it is damaged, and says so', async () => {
    const zip = zipSync({ 'a.vcf': long })
    for (const at of [0, 3, 40, 200, Math.floor(zip.length / 2), zip.length - 1])
      expect(await failure(zip.subarray(0, at))).toBe('zip-damaged')
  })

  it('whose digest, size or place lies is damaged; one whose entries share their bytes is no archive', async () => {
    const zip = zipSync({ 'a.vcf': long, 'b.vcf': [long.subarray(0, 500), { level: 0 }] })
    const changed = (change: (view: DataView, directory: number) => void) => {
      const copy = zip.slice()
      const view = new DataView(copy.buffer)
      change(view, view.getUint32(copy.length - 6, true))
      return copy
    }
    expect(await failure(changed((view, at) => view.setUint32(at + 16, 1, true)))).toBe('zip-damaged')
    expect(await failure(changed((view, at) => view.setUint32(at + 24, 7, true)))).toBe('zip-damaged')
    expect(await failure(changed((view, at) => view.setUint32(at + 20, 0x7fffffff, true)))).toBe('zip-damaged')
    expect(await failure(changed((view) => view.setUint16(view.byteLength - 12, 9, true)))).toBe('zip-damaged')
    expect(await failure(changed((view, at) => view.setUint16(at + 10, 12, true)))).toBe('zip-method')
    // the second entry says it lies where the first does
    const second = (view: DataView, at: number) => at + 46 + view.getUint16(at + 28, true) + view.getUint16(at + 30, true)
    expect(await failure(changed((view, at) => view.setUint32(second(view, at) + 42, 0, true)))).toBe('zip-bomb')
  })

  it('that would inflate beyond all reason is none', async () => {
    const zip = zipSync({ 'a.bin': new Uint8Array(30_000_000) })
    const copy = zip.slice()
    const view = new DataView(copy.buffer)
    view.setUint32(view.getUint32(copy.length - 6, true) + 24, 0xfffffff0, true)
    expect(await failure(copy)).toBe('zip-bomb')
  })

  it('changed anywhere, it is read or says why, and never throws anything else', async () => {
    const zip = await written(
      { 'a.vcf': long.subarray(0, 900), 'b/c.txt': Buffer.from('text') },
      { password: 'Lantern 12', encryptionStrength: 3 },
    )
    const plain = zipSync({ 'a.vcf': long.subarray(0, 900), 'b/c.txt': Buffer.from('text') })
    const next = numbers(2029)
    for (let i = 0; i < 3000; i++) {
      const bytes = Buffer.from(i % 2 ? plain : zip)
      for (let n = 0; n < 1 + next() * 4; n++) bytes[Math.floor(next() * bytes.length)] = Math.floor(next() * 256)
      const code = await readAll(bytes, i % 2 ? undefined : 'Lantern 12').then(
        () => 'read',
        (error: { code?: string }) => error.code ?? String(error),
      )
      expect(code).toMatch(/^(read|zip-)/)
    }
  })
})
