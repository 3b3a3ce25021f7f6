import { beforeAll, describe, expect, it } from 'vitest'
import { putBackToWait } from '#server/desk/check-off/act.ts'
import { breakAt } from '../setup/pairs.ts'
import { photosOf } from '../setup/photos.ts'
import type { TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, useShop, waitFor } from '../setup/ticket.ts'

let n = 0
// a stream is lost after a second without a byte: as in the shop, only sooner
const opened = useShop({ idleMs: 1000 })
let shop: TestShop
beforeAll(() => {
  shop = opened()
})

async function pair() {
  for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}`, undefined, 'DELETE')
  n++
  const [old, now] = [
    { serial: `SO-${n}`, model: 'Orrin 5', port: 1 },
    { serial: `SN-${n}`, model: 'Orrin 9', port: 2 },
  ]
  await addPhone(shop, old)
  await addPhone(shop, now)
  await shop.hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 70 + n, count: 8 })
  return { old, now, number: await bookTicket(shop, old, now, ['photos']) }
}

describe('a picture that stalls', () => {
  it.each([
    ['file.give', 'old'],
    ['file.mid', 'now'],
  ] as const)('once at %s while it is carried: it is sent again, and all agrees', async (point, side) => {
    const it = await pair()
    await countIn(shop, it.number)
    await breakAt(shop, it[side].serial, point, 'stall', 3)
    await carry(shop, it.number)
    const ticket = await waitFor(shop, it.number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: it.old.serial, new: it.now.serial }, ['agrees'])
    expect((await photosOf(shop, it.now.serial)).flatMap((r) => r.files).sort()).toEqual(
      (await photosOf(shop, it.old.serial)).flatMap((r) => r.files).sort(),
    )
  })

  it('three times while it is carried: it is given up for then, tried again at the end, and all agrees', async () => {
    const { old, now, number } = await pair()
    await countIn(shop, number)
    await breakAt(shop, old.serial, 'file.give', 'stall', 3, 3)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    expect(ticket.ledger[0]).toMatchObject({ fates: { carried: 8, unreadable: 0 }, verdict: 'agrees' })
    expect((await photosOf(shop, now.serial)).length).toBe(8)
  })

  it('again and again: one unreadable item with its reason, and the others are over; by hand it is tried once more', async () => {
    const { old, now, number } = await pair()
    await countIn(shop, number)
    await breakAt(shop, old.serial, 'file.give', 'stall', 7, 60)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    expect(ticket.reasons).toContainEqual(expect.objectContaining({ fate: 'unreadable', code: 'stalls', items: 1 }))
    expect(ticket.ledger[0]).toMatchObject({ fates: { carried: 7, unreadable: 1 }, verdict: 'agrees-with-notes' })
    expect((await photosOf(shop, now.serial)).length).toBe(7)
    await shop.hand(`phones/${old.serial}/faults`, {}, 'DELETE')
    expect(await putBackToWait(shop.services, number, { kind: 'photos', fates: ['unreadable'] })).toBe(1)
    await carry(shop, number)
    const again = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.carried === 8, 'a second try')
    expect(again.ledger[0]!.verdict).toBe('agrees')
  })

  it('three times while it is counted in: one unreadable item, and the count is met all the same', async () => {
    const { old, number } = await pair()
    await breakAt(shop, old.serial, 'file.give', 'stall', 2, 3)
    const ticket = await countIn(shop, number)
    expect(ticket.ledger[0]).toMatchObject({ old: { read: 8, own: 8 }, fates: { unreadable: 1, pending: 7 } })
    expect(ticket.reasons).toContainEqual(expect.objectContaining({ code: 'stalls', items: 1 }))
  })
})
