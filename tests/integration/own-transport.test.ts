import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { card, held, models } from '../setup/memory-bench.ts'

vi.mock('#server/endpoints/transports.ts', async () => {
  const { memoryAt } = await import('../setup/memory-bench.ts')
  return { transportOf: () => memoryAt('bench') }
})

const { openShop } = await import('../setup/shop.ts')
const { bookTicket, carry, countIn, isChecked, waitFor, worker } = await import('../setup/ticket.ts')

let shop: Awaited<ReturnType<typeof openShop>>
let hands: ReturnType<typeof worker>
beforeAll(async () => {
  shop = await openShop()
  hands = worker(shop)
})
afterAll(async () => {
  hands.kill()
  await shop.close()
})

describe('a transport the product has never heard of', () => {
  it('runs a line between two of its endpoints, from ready phones to counts that agree, by one line of its own', async () => {
    held.set('MEM-O', new Map(Array.from({ length: 450 }, (_, i) => [`o${i}`, card(`Name${i}`, 100 + i)])))
    held.set('MEM-N', new Map([['n0', card('Theirs', 99)]]))
    const wish = (serial: string) => ({ serial, model: models[serial]!, port: 1 })
    const number = await bookTicket(shop, wish('MEM-O'), wish('MEM-N'))
    await countIn(shop, number)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    expect(ticket.ledger[0]).toMatchObject({ verdict: 'agrees', fates: { carried: 450 }, new: { first: 1, kept: 1, last: 451 } })
    const names = (serial: string) => [...held.get(serial)!.values()].map((text) => /Name\d+|Theirs/.exec(text)![0]).sort()
    expect(names('MEM-N')).toEqual([...names('MEM-O'), 'Theirs'].sort())
  })
})
