import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { searchBody } from '#contracts/http/ticket.ts'
import { startCheck } from '#server/desk/check-off/act.ts'
import { readEntries } from '#server/desk/items/entries.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, isChecked, prepareMessages, waitFor, worker } from '../setup/ticket.ts'

let shop: TestShop
let hands: ReturnType<typeof worker>
let number: string
const old = { serial: 'PL-O', model: 'Orrin 5', port: 1 }
const now = { serial: 'PL-N', model: 'Orrin 9', port: 2 }
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
  hands = worker(shop)
  await addPhone(shop, old)
  await addPhone(shop, now)
  await shop.hand(`phones/${old.serial}/fill`, { kind: 'messages', seed: 5, count: 1300, style: 'traps' })
  await shop.hand(`phones/${now.serial}/fill`, { kind: 'messages', seed: 6, count: 40 })
  number = await bookTicket(shop, old, now, ['messages'])
  await prepareMessages(shop, number, { old, now })
  await countIn(shop, number)
  await carry(shop, number)
  await waitFor(shop, number, ({ run }) => !run)
  // some are edited and some come: they are numbered by another reading
  const { records } = (await shop.hand(`phones/${old.serial}/store?kind=messages`)) as { records: { id: string }[] }
  for (const at of [3, 40, 41, 700, 1299]) await shop.hand(`phones/${old.serial}/edit-record`, { id: Number(records[at]!.id) })
  await shop.hand(`phones/${old.serial}/fill`, { kind: 'messages', seed: 9, count: 30 })
  await startCheck(shop.services, number, shop.actor)
  await waitFor(shop, number, isChecked)
})
afterAll(async () => {
  hands.kill()
  await shop.close()
})

const whole = searchBody.parse({ kind: 'messages', limit: 200 })
type Wish = { filter?: string; facet?: string; when?: string; limit?: number }
async function everything(wish: Wish) {
  const rows = []
  for (let after: string | null = null; ;) {
    const page = await readEntries(shop.services, number, {
      actor: shop.actor,
      search: { ...whole, ...wish, filter: (wish.filter ?? 'all') as 'all', after: after as never },
    })
    rows.push(...page.rows)
    if (page.next === null) return rows
    after = page.next
  }
}

describe('a page found by the places that are kept is the one found by walking', () => {
  it.each(['all', 'late', 'carried', 'first', 'last', 'arrived'])('of %s: every shape, every month, and both', async (filter) => {
    const all = await everything({ filter })
    expect(all.length).toBeGreaterThan(20)
    const months = [...new Set(all.map((row) => row.at?.slice(0, 7)).filter((month) => month !== undefined))]
    const shapes = ['draft', 'mms', 'attachments', 'group', 'unread', 'line2', 'sent', 'failed']
    const keys = (rows: typeof all) => rows.map(({ key }) => key)
    let found = 0
    for (const shape of shapes) {
      const expected = keys(all.filter((row) => row.shape[shape]))
      found += expected.length
      expect([shape, keys(await everything({ filter, facet: `message-${shape}`, limit: 37 }))]).toEqual([shape, expected])
    }
    for (const month of months.slice(0, 6)) {
      const expected = all.filter((row) => row.at?.startsWith(month))
      expect([month, keys(await everything({ filter, when: month, limit: 23 }))]).toEqual([month, keys(expected)])
      expect(keys(await everything({ filter, when: month, facet: 'message-mms', limit: 5 }))).toEqual(
        keys(expected.filter((row) => row.shape.mms)),
      )
    }
    const year = months[0]!.slice(0, 4)
    expect(keys(await everything({ filter, when: year, limit: 200 }))).toEqual(keys(all.filter((row) => row.at?.startsWith(year))))
    expect(found).toBeGreaterThan(0)
  })
  it('and not one is left out when everything is one shape or another', async () => {
    const [sent, received, all] = [
      await everything({ facet: 'message-sent' }),
      await everything({ facet: 'message-received' }),
      await everything({}),
    ]
    const others = all.filter(({ shape }) => !shape.sent && !shape.received)
    expect(sent.length + received.length + others.length).toBe(all.length)
  })
})
