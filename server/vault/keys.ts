import { createCipheriv, createDecipheriv, createHmac, hash, hkdfSync, randomBytes } from 'node:crypto'

/** HMAC-SHA256 under one key. */
export type KeyedHash = (bytes: Uint8Array) => Buffer

/** The keys of one ticket, derived from its own; digests are comparable within a ticket only. */
export interface TicketKeys {
  readonly seal: Buffer
  readonly digest: KeyedHash
  readonly native: KeyedHash
  /** As text: it stands before what is hashed. */
  readonly match: string
}

/**
 * Seals bytes by AES-256-GCM as nonce (12), tag (16), text.
 * @param bound what the bytes belong to; opening with another is refused
 */
export function seal(key: Buffer, bound: string, bytes: Uint8Array): Buffer {
  const nonce = randomBytes(12)
  const cipher = createCipheriv('aes-256-gcm', key, nonce)
  cipher.setAAD(Buffer.from(bound))
  const text = cipher.update(bytes)
  // a stream cipher has nothing left at its end
  cipher.final()
  return Buffer.concat([nonce, cipher.getAuthTag(), text])
}

/** @throws Error when the key, what it is bound to, or the bytes are not the ones sealed */
export function open(key: Buffer, bound: string, sealed: Buffer): Buffer {
  const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, 12))
  decipher.setAAD(Buffer.from(bound))
  decipher.setAuthTag(sealed.subarray(12, 28))
  return Buffer.concat([decipher.update(sealed.subarray(28)), decipher.final()])
}

/** What is sealed and compared with, from the one key of a holding. */
export function keysFrom(key: Buffer): TicketKeys {
  const derive = (use: string) => Buffer.from(hkdfSync('sha256', key, Buffer.alloc(0), use, 32))
  return {
    seal: derive('seal'),
    digest: keyedHash(derive('digest')),
    native: keyedHash(derive('native')),
    match: derive('match').toString('base64'),
  }
}

const mostInPlace = 4096

/** HMAC (RFC 2104 section 2) written out over two plain hashes: for short inputs half the cost of the object that does the same. */
export function keyedHash(key: Buffer): KeyedHash {
  const block = Buffer.alloc(64)
  key.copy(block)
  const inner = block.map((byte) => byte ^ 0x36)
  const outer = block.map((byte) => byte ^ 0x5c)
  // what is hashed is laid out in one place: most inputs are short, and a new buffer for each costs as much as its hash
  const whole = Buffer.alloc(64 + mostInPlace)
  whole.set(inner)
  const outside = Buffer.alloc(64 + 32)
  outside.set(outer)
  return (bytes) => {
    if (bytes.length > mostInPlace) hash('sha256', Buffer.concat([inner, bytes]), 'buffer').copy(outside, 64)
    else {
      whole.set(bytes, 64)
      hash('sha256', whole.subarray(0, 64 + bytes.length), 'buffer').copy(outside, 64)
    }
    return hash('sha256', outside, 'buffer')
  }
}

/** HMAC-SHA256 of canonical bytes. */
export function contentDigest(keys: TicketKeys, bytes: Uint8Array): Buffer {
  return keys.digest(bytes)
}

/** The first 16 bytes of an HMAC-SHA256 of a phone's own id: enough to match, nothing to read. */
export function nativeDigest(keys: TicketKeys, nativeId: string): Buffer {
  return keys.native(Buffer.from(nativeId)).subarray(0, 16)
}

/** A match key as a signed 64-bit number, as text for PostgreSQL. */
export function matchKeyNumber(keys: TicketKeys, key: string): string {
  // one call with the secret in front: a third of an HMAC's cost, and 64 bits of it give nothing to extend
  return hash('sha256', `${keys.match}${key}`, 'buffer').readBigInt64BE(0).toString()
}

/** A digest by the master key of a fixed text; equal only for the same key. */
export function keyCheck(masterKey: Buffer): Buffer {
  return createHmac('sha256', masterKey).update('corvend key check').digest()
}

export function sealText(keys: TicketKeys, bound: string, text: string): Buffer {
  return seal(keys.seal, bound, Buffer.from(text, 'utf8'))
}

export function openText(keys: TicketKeys, bound: string, sealed: Buffer): string {
  return open(keys.seal, bound, sealed).toString('utf8')
}

export function hashSerial(key: Buffer, serial: string): Buffer {
  return keyedHash(key)(Buffer.from(serial)).subarray(0, 16)
}
