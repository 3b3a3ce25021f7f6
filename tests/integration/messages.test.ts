import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, prepareMessages, waitFor, worker } from '../setup/ticket.ts'

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

let n = 0
async function pairOf(from: string, to: string, { count = 60, style = 'traps' as 'traps' | 'plain', there = 0, kinds = ['messages'], settleMs = 40 } = {}) {
  for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
  n++
  const old = { serial: `MO-${n}`, model: from, port: 1 }
  const now = { serial: `MN-${n}`, model: to, port: 2, settle_ms: settleMs }
  await addPhone(shop, old)
  await addPhone(shop, now)
  await shop.hand(`phones/${old.serial}/fill`, { kind: 'messages', seed: 7, count, style })
  // from the same seed: the newest of what the old phone has is there already, in the new phone's own form
  if (there > 0) await shop.hand(`phones/${now.serial}/fill`, { kind: 'messages', seed: 7, count: there, conversations: Math.max(1, Math.min(40, Math.ceil(count / 3))) })
  const number = await bookTicket(shop, old, now, kinds)
  await prepareMessages(shop, number, { old, now })
  return { old, now, number }
}

describe('messages between two phones, every trap inside', () => {
  it.each([
    ['Orrin 5', 'Veyra 12'],
    ['Veyra 14', 'Orrin 9'],
    ['Orrin 5', 'Tamsel M2'],
    ['Tamsel M2', 'Veyra 14'],
    ['Veyra 12', 'Veyra 14'],
    ['Holt 3', 'Orrin 9'],
  ])('%s to %s: agrees with notes, equal to the phones’ own stores', async (from, to) => {
    const { old, now, number } = await pairOf(from, to)
    const counted = await countIn(shop, number)
    const [before] = counted.ledger
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    const [row] = ticket.ledger
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees-with-notes'])
    expect({ refused: row!.fates.refused, lost: row!.fates.lost, over: row!.over, unreadable: row!.fates.unreadable }).toEqual({ refused: 0, lost: 0, over: 0, unreadable: before!.fates.unreadable })
  })
})
