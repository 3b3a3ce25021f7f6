import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openShop, type TestShop } from '../setup/shop.ts'
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

const pairs = [
  ['Orrin 5', 'Veyra 12'],
  ['Veyra 14', 'Orrin 9'],
  ['Orrin 5', 'Tamsel M2'],
  ['Tamsel M2', 'Veyra 14'],
  ['Veyra 12', 'Veyra 14'],
] as const

describe('a ticket from booking in to check off', () => {
  pairs.forEach(([from, to], i) => {
    it(`${from} to ${to}: agrees with notes, and the new phone’s own store is what the ledger says`, async () => {
      const old = { serial: `OLD-${i}`, model: from, port: 1, people: { seed: 30 + i, count: 60, style: 'traps' as const } }
      const now = { serial: `NEW-${i}`, model: to, port: 2, people: { seed: 99, count: 5 } }
      await addPhone(shop, old)
      await addPhone(shop, now)
      const number = await bookTicket(shop, old, now)
      const counted = await countIn(shop, number)
      const [row] = counted.ledger
      expect(row!.old.read).toBe(85)
      expect(row!.fates.unreadable).toBe(2)
      const [forecast] = counted.forecasts
      await carry(shop, number)
      const ticket = await waitFor(shop, number, isChecked, 'check off')
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees-with-notes'])
      const { fates } = ticket.ledger[0]!
      expect(fates.carried + fates.changed + fates.refused + fates.merged).toBe(forecast!.counts.carried + forecast!.counts.changed)
      await shop.hand(`phones/${old.serial}/pull`, {})
      await shop.hand(`phones/${now.serial}/pull`, {})
    })
  })
})
