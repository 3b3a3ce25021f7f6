import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openShop, type TestShop } from '../setup/shop.ts'
import { createPairs } from '../setup/pairs.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, waitFor, worker } from '../setup/ticket.ts'

let shop: TestShop
let hands: ReturnType<typeof worker>
beforeAll(async () => {
  shop = await openShop()
  hands = worker(shop)
})
afterAll(async () => {
  hands.kill()
  await shop.close()
})
const withPair = createPairs(() => shop)

interface Stored {
  id: string
  storage: string
  damage: string | null
  facts: string[]
  card: string
  files: string[]
}
const photosOf = async (serial: string): Promise<Stored[]> => (await shop.hand(`phones/${serial}/store?kind=photos`)).records
const sizes = (record: Stored): number[] => JSON.parse(record.facts[0]!).files.map((file: { size: number }) => file.size)

const pairs = [
  ['Orrin 5', 'Veyra 12'],
  ['Veyra 14', 'Orrin 9'],
  ['Orrin 5', 'Tamsel M2'],
  ['Tamsel M2', 'Veyra 14'],
  ['Veyra 12', 'Veyra 14'],
] as const

describe('photos from booking in to check off', () => {
  it.concurrent.each(pairs)('%s to %s: agrees, and every file is on the new phone byte for byte, or its conversion', async (from, to) => {
    await withPair(
      ({ old, now, mark }) => ({ old: { serial: `PO-${mark}`, model: from, port: old }, now: { serial: `PN-${mark}`, model: to, port: now } }),
      async (pair) => {
        await addPhone(shop, pair.old)
        await addPhone(shop, pair.now)
        await shop.hand(`phones/${pair.old.serial}/fill`, { kind: 'photos', seed: 7, count: 30, style: 'traps' })
        await shop.hand(`phones/${pair.now.serial}/fill`, { kind: 'photos', seed: 8, count: 5 })
        const number = await bookTicket(shop, pair.old, pair.now, ['photos'])
        const counted = await countIn(shop, number)
        const reasons = Object.fromEntries(counted.reasons.map((r) => [r.code, r.items]))
        await carry(shop, number)
        const ticket = await waitFor(shop, number, isChecked, 'check off')
        await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
        const [row] = ticket.ledger
        expect(row!.fates).toMatchObject({ pending: 0, lost: 0, unreadable: 2, refused: 0 })
        const [had, has] = [await photosOf(pair.old.serial), await photosOf(pair.now.serial)]
        // what should be there: of the owner's own, whole, and shown as it is
        const wanted = had.filter((r) => r.storage !== 'deleted' && !r.damage && r.files.length > 0 && !sizes(r).includes(0) && !r.card.includes('no picture')).flatMap((r) => r.files)
        const there = new Map<string, number>()
        for (const digest of has.flatMap((r) => r.files)) there.set(digest, (there.get(digest) ?? 0) + 1)
        let missing = 0
        for (const digest of wanted) {
          const n = there.get(digest) ?? 0
          if (n === 0) missing++
          else there.set(digest, n - 1)
        }
        expect(missing).toBe(reasons['converted-to-jpeg'] ?? 0)
        // nothing half, nothing twice: five of its own, our conversions, and no file more
        expect([...there.values()].reduce((sum, n) => sum + n, 0)).toBe(5 + missing)
      },
    )
  })
})
