import pg from 'pg'
import { afterAll, beforeAll, expect, it, vi } from 'vitest'
import { ticketView } from '#contracts/http/ticket.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, isChecked, prepareMessages, waitFor, worker } from '../setup/ticket.ts'

let shop: TestShop
beforeAll(async () => {
  shop = await openShop()
})
afterAll(() => shop.close())

/** What one look at a ticket asks the database, while nobody else asks it anything. */
async function asked(number: string): Promise<number> {
  const query = vi.spyOn(pg.Client.prototype, 'query')
  // as the door checks every reply in tests: what the database gives has the contract's types
  ticketView.parse(await readTicket(shop.services, number, shop.actor))
  const n = query.mock.calls.length
  query.mockRestore()
  return n
}

it('a look at a ticket asks the database as often for every kind there is as for one', async () => {
  const numbers: string[] = []
  for (const [i, kinds] of [['photos'], [...kindCodes]].entries()) {
    const old = { serial: `LK-O${i}`, model: 'Orrin 5', port: 1 + 2 * i, people: { seed: 5, count: 6 } }
    const now = { serial: `LK-N${i}`, model: 'Orrin 9', port: 2 + 2 * i }
    for (const phone of [old, now]) await addPhone(shop, phone)
    for (const kind of kindCodes.slice(1)) await shop.hand(`phones/${old.serial}/fill`, { kind, seed: 21, count: 3 })
    const number = await bookTicket(shop, old, now, kinds)
    await prepareMessages(shop, number, { old, now })
    numbers.push(number)
  }
  const looks = async () => [await asked(numbers[0]!), await asked(numbers[1]!)]
  const [one, all] = await looks()
  expect(one).toBeGreaterThan(5)
  expect(all).toBe(one)
  const hands = worker(shop)
  for (const number of numbers) await countIn(shop, number)
  hands.stop()
  const [oneRead, allRead] = await looks()
  expect(oneRead).toBeGreaterThan(one!)
  expect(allRead).toBe(oneRead)
  const again = worker(shop)
  for (const number of numbers) {
    await carry(shop, number)
    await waitFor(shop, number, isChecked, 'check off')
  }
  again.kill()
  hands.kill()
  const [oneOver, allOver] = await looks()
  expect(allOver).toBe(oneOver)
})
