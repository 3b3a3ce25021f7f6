import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { randomBytes } from 'node:crypto'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { destroyKey, forgetStrayKeys, holdingKeys, keepSerialKey, newHolding, secretOf, serialHash } from './holdings.ts'
import type { HoldingId } from '../base/ids.ts'

const keysFolder = mkdtempSync(join(tmpdir(), 'corvend-keys-'))
afterAll(() => rmSync(keysFolder, { recursive: true }))
const places = { keysFolder, masterKey: randomBytes(32) }

describe('a holding’s key', () => {
  it('is a small file of its own, wrapped, that only its owner reads', () => {
    const { id, keys } = newHolding(places)
    const path = join(keysFolder, `${id}.key`)
    expect([statSync(path).size, statSync(path).mode & 0o777]).toEqual([60, 0o600])
    expect(readFileSync(path).includes(secretOf(places, id))).toBe(false)
    const again = holdingKeys(places, id)
    expect([again.seal, again.match, again.digest(Buffer.from('a'))]).toEqual([keys.seal, keys.match, keys.digest(Buffer.from('a'))])
  })

  it('opens with its master key, and under its own name, alone', () => {
    const [one, other] = [newHolding(places), newHolding(places)]
    expect(() => holdingKeys({ ...places, masterKey: randomBytes(32) }, one.id)).toThrow()
    const [a, b] = [one, other].map(({ id }) => holdingKeys(places, id))
    expect(a!.seal.equals(b!.seal)).toBe(false)
  })

  it('is gone once it is destroyed; what can’t be reached is said, and nothing is made of it', () => {
    const { id } = newHolding(places)
    destroyKey(places, id)
    destroyKey(places, id)
    expect(() => holdingKeys(places, id)).toThrow('KeyAway')
    expect(readdirSync(keysFolder)).not.toContain(`${id}.key`)
    expect(() => holdingKeys({ ...places, keysFolder: join(keysFolder, 'nowhere') }, id)).toThrow('KeyAway')
  })

  it('that is nobody’s goes once it has waited; one that is somebody’s, and the key of serials, stay', async () => {
    keepSerialKey(places, randomBytes(32))
    const [mine, stray] = [newHolding(places).id, newHolding(places).id]
    const strayOf = async (holdings: readonly HoldingId[]) => holdings.filter((holding) => holding !== mine)
    expect(await forgetStrayKeys(places, { olderThanMs: 60_000, strayOf })).toEqual([])
    expect(await forgetStrayKeys(places, { olderThanMs: -1000, strayOf })).toContain(stray)
    expect([() => secretOf(places, mine), () => secretOf(places, 'serials' as HoldingId)].map((look) => look().length)).toEqual([32, 32])
    expect(() => secretOf(places, stray)).toThrow('KeyAway')
  })
})

describe('serials of past phones', () => {
  it('are the same under a new master key, when the former one’s key of serials was kept', () => {
    const folder = mkdtempSync(join(tmpdir(), 'corvend-serials-'))
    const [former, next] = [randomBytes(32), randomBytes(32)]
    const before = serialHash({ keysFolder: folder, masterKey: former }, 'S-1')
    expect(serialHash({ keysFolder: folder, masterKey: next }, 'S-1').equals(before)).toBe(false)
    keepSerialKey({ keysFolder: folder, masterKey: next }, former)
    expect(serialHash({ keysFolder: folder, masterKey: next }, 'S-1').equals(before)).toBe(true)
    rmSync(folder, { recursive: true })
  })
})
