import { createCipheriv, createHmac, pbkdf2 } from 'node:crypto'
import { pipeline } from 'node:stream/promises'
import { Readable } from 'node:stream'
import { promisify } from 'node:util'
import { createInflateRaw } from 'node:zlib'
import { crc32, crcStep } from '#core/formats/zip/crc.ts'

/** Bytes that can be read from any place on. */
export interface RandomBytes {
  readonly sizeBytes: number
  /** @param range `to` is not part of it */
  read(range: { readonly from: number; readonly to: number }): AsyncIterable<Buffer>
}

/** An entry as the central directory says it is (APPNOTE 4.3.12). */
export interface ZipEntry {
  readonly path: string
  readonly sizeBytes: number
  readonly packedBytes: number
  readonly crc: number
  /** 0 as it is, 8 deflated; any other is not read here. */
  readonly method: number
  /** How it is locked: by AES (of so many bits), or by the old way. */
  readonly lock: { readonly aes: 128 | 192 | 256; readonly hasCrc: boolean } | 'old' | null
  readonly isFolder: boolean
  /** What its zone-less clock says, or the instant where it is noted; milliseconds since 1970. */
  readonly modifiedMs: number
  readonly headerAt: number
  /** What the old lock is tested by. */
  readonly check: number
}

export type ZipFault =
  'zip-damaged' | 'zip-too-many-entries' | 'zip-too-large' | 'zip-bomb' | 'zip-encrypted' | 'zip-wrong-password' | 'zip-method'

/** A ZIP, or an entry of it, that can't be read; why, by code. */
export class ZipError extends Error {
  constructor(readonly code: ZipFault) {
    super(code)
  }
}

const mostEntries = 400_000
const mostDirectoryBytes = 200_000_000
/** More than this many bytes out of one is nothing anybody keeps. */
const mostRatio = 1100

async function bytesAt(file: RandomBytes, from: number, length: number): Promise<Buffer> {
  if (from < 0 || length < 0 || from + length > file.sizeBytes) throw new ZipError('zip-damaged')
  const chunks: Buffer[] = []
  for await (const chunk of file.read({ from, to: from + length })) chunks.push(chunk)
  const all = Buffer.concat(chunks)
  if (all.length !== length) throw new ZipError('zip-damaged')
  return all
}

/**
 * Every entry of a ZIP, by its central directory, ZIP64 included (APPNOTE 4.3.14 to 4.3.16). Entries that lie over one
 * another, or beyond the file, are one file that lies: nothing of it is taken. @throws ZipError
 */
export async function readZipDirectory(file: RandomBytes): Promise<ZipEntry[]> {
  const { entries, at, size } = await findDirectory(file)
  if (entries > mostEntries) throw new ZipError('zip-too-many-entries')
  if (size > mostDirectoryBytes) throw new ZipError('zip-too-large')
  const directory = await bytesAt(file, at, size)
  const out: ZipEntry[] = []
  for (let from = 0, n = 0; n < entries; n++) {
    if (from + 46 > size || directory.readUInt32LE(from) !== 0x02014b50) throw new ZipError('zip-damaged')
    const [nameLength, extraLength, noteLength] = [28, 30, 32].map((offset) => directory.readUInt16LE(from + offset)) as [
      number,
      number,
      number,
    ]
    const end = from + 46 + nameLength + extraLength + noteLength
    if (end > size) throw new ZipError('zip-damaged')
    out.push(entryOf(directory.subarray(from, end), nameLength, extraLength))
    from = end
  }
  // each has its own place: the same bytes told twice make a small file a huge one
  let last = 0
  for (const { headerAt, packedBytes } of [...out].sort((a, b) => a.headerAt - b.headerAt)) {
    if (headerAt < last || headerAt + 30 + packedBytes > at) throw new ZipError(headerAt < last ? 'zip-bomb' : 'zip-damaged')
    last = headerAt + 30 + packedBytes
  }
  return out
}

async function findDirectory(file: RandomBytes): Promise<{ entries: number; at: number; size: number }> {
  const length = Math.min(file.sizeBytes, 22 + 65_535 + 20)
  const from = file.sizeBytes - length
  const tail = await bytesAt(file, from, length)
  for (let at = tail.length - 22; at >= 0; at--) {
    if (tail.readUInt32LE(at) !== 0x06054b50 || at + 22 + tail.readUInt16LE(at + 20) > tail.length) continue
    const told = { entries: tail.readUInt16LE(at + 10), size: tail.readUInt32LE(at + 12), at: tail.readUInt32LE(at + 16) }
    const isLarge = told.entries === 0xffff || told.size === 0xffffffff || told.at === 0xffffffff
    if (!isLarge || at < 20 || tail.readUInt32LE(at - 20) !== 0x07064b50) return told
    const end = await bytesAt(file, Number(tail.readBigUInt64LE(at - 12)), 56)
    if (end.readUInt32LE(0) !== 0x06064b50) throw new ZipError('zip-damaged')
    const [entries, size, start] = [32, 40, 48].map((offset) => Number(end.readBigUInt64LE(offset))) as [number, number, number]
    return { entries, size, at: start }
  }
  throw new ZipError('zip-damaged')
}

function entryOf(bytes: Buffer, nameLength: number, extraLength: number): ZipEntry {
  const flags = bytes.readUInt16LE(8)
  let method = bytes.readUInt16LE(10)
  let [packedBytes, sizeBytes, headerAt] = [bytes.readUInt32LE(20), bytes.readUInt32LE(24), bytes.readUInt32LE(42)]
  const name = bytes.subarray(46, 46 + nameLength)
  let path = textOf(name, (flags & 0x800) !== 0)
  let modifiedMs = dosTime(bytes.readUInt16LE(14), bytes.readUInt16LE(12))
  let lock: ZipEntry['lock'] = (flags & 1) === 1 ? 'old' : null
  const extra = bytes.subarray(46 + nameLength, 46 + nameLength + extraLength)
  for (let at = 0; at + 4 <= extra.length;) {
    const [id, length] = [extra.readUInt16LE(at), extra.readUInt16LE(at + 2)]
    const field = extra.subarray(at + 4, at + 4 + length)
    if (field.length < length) break
    at += 4 + length
    if (id === 0x0001) {
      // only what did not fit stands here, in this order (4.5.3)
      let next = 0
      const large = () => {
        if (next + 8 > field.length) throw new ZipError('zip-damaged')
        next += 8
        return Number(field.readBigUInt64LE(next - 8))
      }
      if (sizeBytes === 0xffffffff) sizeBytes = large()
      if (packedBytes === 0xffffffff) packedBytes = large()
      if (headerAt === 0xffffffff) headerAt = large()
    } else if (id === 0x9901 && length >= 7 && lock) {
      const bits = ([0, 128, 192, 256] as const)[field[4]!]
      if (!bits) throw new ZipError('zip-method')
      lock = { aes: bits, hasCrc: field.readUInt16LE(0) === 1 }
      method = field.readUInt16LE(5)
    } else if (id === 0x5455 && length >= 5 && (field[0]! & 1) === 1) modifiedMs = field.readInt32LE(1) * 1000
    else if (id === 0x7075 && length > 5 && field.readUInt32LE(1) === crc32(name)) path = textOf(field.subarray(5), true)
  }
  return {
    path: path.replaceAll('\\', '/'),
    sizeBytes,
    packedBytes,
    crc: bytes.readUInt32LE(16),
    method,
    lock,
    isFolder: path.endsWith('/'),
    modifiedMs,
    headerAt,
    // with its sizes behind it, the old lock is tested by the time instead (6.1.6)
    check: (flags & 8) !== 0 ? bytes.readUInt16LE(12) >> 8 : bytes.readUInt32LE(16) >>> 24,
  }
}

function textOf(bytes: Buffer, isUtf8: boolean): string {
  const text = bytes.toString('utf8')
  return isUtf8 || !text.includes('\ufffd') ? text : bytes.toString('latin1')
}

function dosTime(date: number, time: number): number {
  return Date.UTC(1980 + (date >> 9), ((date >> 5) & 15) - 1, date & 31, time >> 11, (time >> 5) & 63, (time & 31) * 2)
}

/**
 * The bytes of an entry, unlocked and inflated, held against its size, its CRC-32 and, where it is locked by AES, its
 * code (HMAC-SHA1). @throws ZipError: what came before is not to be trusted
 */
export async function* openZipEntry(file: RandomBytes, entry: ZipEntry, password?: string): AsyncGenerator<Buffer> {
  const { headerAt, packedBytes, sizeBytes, method, lock } = entry
  if (method !== 0 && method !== 8) throw new ZipError('zip-method')
  if (sizeBytes > 1_000_000 && sizeBytes > packedBytes * mostRatio) throw new ZipError('zip-bomb')
  // of nothing there is nothing to unlock
  if (packedBytes === 0 && sizeBytes === 0) return
  if (lock && password === undefined) throw new ZipError('zip-encrypted')
  const header = await bytesAt(file, headerAt, 30)
  if (header.readUInt32LE(0) !== 0x04034b50) throw new ZipError('zip-damaged')
  const from = headerAt + 30 + header.readUInt16LE(26) + header.readUInt16LE(28)
  if (from + packedBytes > file.sizeBytes) throw new ZipError('zip-damaged')
  const to = from + packedBytes
  const packed =
    lock === null
      ? file.read({ from, to })
      : lock === 'old'
        ? openOld(file, { from, to }, entry.check, password!)
        : openAes(file, { from, to }, lock.aes, password!)
  let size = 0
  let crc = 0
  for await (const chunk of method === 0 ? packed : inflated(packed)) {
    size += chunk.length
    if (size > sizeBytes) throw new ZipError('zip-damaged')
    crc = crc32(chunk, crc)
    yield chunk
  }
  const hasCrc = lock === null || lock === 'old' || lock.hasCrc
  if (size !== sizeBytes || (hasCrc && crc !== entry.crc)) throw new ZipError('zip-damaged')
}

async function* inflated(packed: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  const inflate = createInflateRaw()
  const fed = pipeline(Readable.from(packed), inflate)
  fed.catch(() => undefined)
  try {
    for await (const chunk of inflate) yield chunk as Buffer
    await fed
  } catch (error) {
    // what locked it, or the disk, says more than that the stream is no deflate
    const told = await fed.then(
      () => error,
      (cause: unknown) => cause,
    )
    throw told instanceof ZipError ? told : new ZipError('zip-damaged')
  }
}

const derive = promisify(pbkdf2)
const blockBytes = 16
const codeBytes = 10

/** AES in counter mode as archivers do it: the counter begins at 1, its lowest byte first; key and code by PBKDF2 (RFC 8018). */
async function* openAes(
  file: RandomBytes,
  { from, to }: { from: number; to: number },
  bits: 128 | 192 | 256,
  password: string,
): AsyncGenerator<Buffer> {
  const [saltBytes, keyBytes] = [bits / 16, bits / 8]
  if (to - from < saltBytes + 2 + codeBytes) throw new ZipError('zip-damaged')
  const head = await bytesAt(file, from, saltBytes + 2)
  const keys = await derive(Buffer.from(password, 'utf8'), head.subarray(0, saltBytes), 1000, 2 * keyBytes + 2, 'sha1')
  if (!keys.subarray(2 * keyBytes).equals(head.subarray(saltBytes))) throw new ZipError('zip-wrong-password')
  const hmac = createHmac('sha1', keys.subarray(keyBytes, 2 * keyBytes))
  const cipher = createCipheriv(`aes-${bits}-ecb`, keys.subarray(0, keyBytes), null).setAutoPadding(false)
  let counter = 1
  let rest = Buffer.alloc(0)
  for await (const chunk of file.read({ from: from + saltBytes + 2, to: to - codeBytes })) {
    hmac.update(chunk)
    // what is left of the last block belongs before what comes
    const wanted = chunk.length - rest.length
    const blocks = Math.max(0, Math.ceil(wanted / blockBytes))
    const counters = Buffer.alloc(blocks * blockBytes)
    for (let i = 0; i < blocks; i++, counter++) {
      counters.writeUInt32LE(counter % 0x100000000, i * blockBytes)
      counters.writeUInt32LE(Math.floor(counter / 0x100000000), i * blockBytes + 4)
    }
    const stream = Buffer.concat([rest, cipher.update(counters)])
    const out = Buffer.allocUnsafe(chunk.length)
    for (let i = 0; i < chunk.length; i++) out[i] = chunk[i]! ^ stream[i]!
    rest = stream.subarray(chunk.length)
    yield out
  }
  const code = await bytesAt(file, to - codeBytes, codeBytes)
  if (!hmac.digest().subarray(0, codeBytes).equals(code)) throw new ZipError('zip-damaged')
}

/** The lock of old archives (APPNOTE 6.1): no secret to anybody who tries, but what people have. */
async function* openOld(file: RandomBytes, range: { from: number; to: number }, check: number, password: string): AsyncGenerator<Buffer> {
  let [a, b, c] = [0x12345678, 0x23456789, 0x34567890]
  const update = (byte: number) => {
    a = crcStep(a, byte)
    b = (Math.imul((b + (a & 0xff)) >>> 0, 134775813) + 1) >>> 0
    c = crcStep(c, b >>> 24)
  }
  for (const byte of Buffer.from(password, 'utf8')) update(byte)
  let left = 12
  for await (const chunk of file.read(range)) {
    const out = Buffer.allocUnsafe(chunk.length)
    let n = 0
    for (const sealed of chunk) {
      const mix = (c | 2) & 0xffff
      const byte = (sealed ^ ((Math.imul(mix, mix ^ 1) >>> 8) & 0xff)) & 0xff
      update(byte)
      if (left === 0) out[n++] = byte
      else if (--left === 0 && byte !== check) throw new ZipError('zip-wrong-password')
    }
    if (n > 0) yield out.subarray(0, n)
  }
}
