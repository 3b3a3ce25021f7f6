import { createHmac, randomBytes } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import type { Client } from '../base/db/sql.ts'
import { openBodies, openLists, sealBodies, sealList } from './blocks.ts'
import { contentDigest, keyCheck, keyedHash, matchKeyNumber, nativeDigest, keysFrom, open, openText, seal, sealText } from './keys.ts'
import type { ReadingId } from '../base/ids.ts'

const keys = keysFrom(randomBytes(32))
const others = keysFrom(randomBytes(32))
/** A client that answers a query for blocks. */
const holding = (rows: { no: number; sealed: Buffer }[]) => ({ query: async () => ({ rows }) }) as unknown as Client

const master = randomBytes(32)

const reading = (id: number) => id as ReadingId

describe('sealing', () => {
  it('opens with the same key and binding only', () => {
    const sealed = seal(keys.seal, 'a', Buffer.from('Ines'))
    expect(open(keys.seal, 'a', sealed).toString()).toBe('Ines')
    expect(() => open(keys.seal, 'b', sealed)).toThrow()
    expect(() => open(others.seal, 'a', sealed)).toThrow()
  })

  it('finds every changed byte', () => {
    const sealed = seal(keys.seal, 'a', Buffer.from('Ines'))
    for (let i = 0; i < sealed.length; i++) {
      const hurt = Buffer.from(sealed)
      hurt[i]! ^= 1
      expect(() => open(keys.seal, 'a', hurt)).toThrow()
    }
  })

  it('never seals the same text twice alike', () => {
    expect(sealText(keys, 'x', 'Ines').equals(sealText(keys, 'x', 'Ines'))).toBe(false)
    expect(openText(keys, 'x', sealText(keys, 'x', 'Zoë 山'))).toBe('Zoë 山')
  })

  it('digests of the same content are comparable within a ticket, and say nothing across tickets', () => {
    const bytes = Buffer.from('a')
    expect(contentDigest(keys, bytes).equals(contentDigest(keys, bytes))).toBe(true)
    expect(contentDigest(keys, bytes).equals(contentDigest(others, bytes))).toBe(false)
    expect(nativeDigest(keys, '1').equals(nativeDigest(others, '1'))).toBe(false)
    expect(nativeDigest(keys, '1')).toHaveLength(16)
    expect(matchKeyNumber(keys, 'k')).toBe(matchKeyNumber(keys, 'k'))
    expect(matchKeyNumber(keys, 'k')).not.toBe(matchKeyNumber(others, 'k'))
    expect(BigInt.asIntN(64, BigInt(matchKeyNumber(keys, 'k'))).toString()).toBe(matchKeyNumber(keys, 'k'))
  })

  it('keys of one ticket differ by their use', () => {
    const same = Buffer.from('the same')
    expect(new Set([keyedHash(keys.seal)(same), keys.digest(same), keys.native(same)].map((digest) => digest.toString('hex'))).size).toBe(3)
  })

  it('a keyed hash is HMAC-SHA256 (RFC 2104, and RFC 4231 case 1), for inputs of any length', () => {
    expect(keyedHash(Buffer.alloc(20, 0x0b))(Buffer.from('Hi There')).toString('hex')).toBe(
      'b0344c61d8db38535ca8afceaf0bf12b881dc200c9833da726e9376c2e32cff7',
    )
    for (const length of [0, 1, 63, 64, 65, 5000]) {
      const [key, bytes] = [randomBytes(32), randomBytes(length)]
      expect(keyedHash(key)(bytes)).toEqual(createHmac('sha256', key).update(bytes).digest())
    }
  })

  it('the key check is one for each master key', () => {
    expect(keyCheck(master).equals(keyCheck(Buffer.from(master)))).toBe(true)
    expect(keyCheck(master).equals(keyCheck(randomBytes(32)))).toBe(false)
  })
})

describe('blocks', () => {
  it('give back lists and bodies as they were, empty ones too', async () => {
    const slots = [
      { nativeId: '1', title: 'Zoë', search: 'zoë' },
      { nativeId: '2', title: '', search: '' },
    ]
    const bodies = [Buffer.from('a'), Buffer.alloc(0), randomBytes(500)]
    expect((await openLists(holding([{ no: 4, sealed: sealList(keys, reading(7), 4, slots) }]), keys, reading(7), [4])).get(4)).toEqual(
      slots,
    )
    const opened = (await openBodies(holding([{ no: 4, sealed: sealBodies(keys, reading(7), 4, bodies) }]), keys, reading(7), [4])).get(4)!
    expect(opened.map((b) => b.toString('hex'))).toEqual(bodies.map((b) => b.toString('hex')))
  })

  it('are bound to their reading, number and family', async () => {
    const sealed = sealList(keys, reading(7), 4, [])
    await expect(openLists(holding([{ no: 4, sealed }]), keys, reading(8), [4])).rejects.toThrow()
    await expect(openLists(holding([{ no: 5, sealed }]), keys, reading(7), [5])).rejects.toThrow()
    await expect(openBodies(holding([{ no: 4, sealed }]), keys, reading(7), [4])).rejects.toThrow()
  })
})
