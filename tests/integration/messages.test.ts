import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { choose as chooseItems } from '#server/desk/choose/act.ts'
import { show } from '#server/desk/items/show.ts'
import { readEntries, readGroups } from '#server/desk/items/entries.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import {
  addPhone,
  bookTicket,
  carry,
  countIn,
  expectAgrees,
  expectForecastMet,
  figureOf,
  isChecked,
  prepareMessages,
  waitFor,
  worker,
} from '../setup/ticket.ts'

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
async function pairOf(
  from: string,
  to: string,
  { count = 60, style = 'traps' as 'traps' | 'plain', there = 0, kinds = ['messages'], settleMs = 40 } = {},
) {
  for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
  n++
  const old = { serial: `MO-${n}`, model: from, port: 1 }
  const now = { serial: `MN-${n}`, model: to, port: 2, settle_ms: settleMs }
  await addPhone(shop, old)
  await addPhone(shop, now)
  await shop.hand(`phones/${old.serial}/fill`, { kind: 'messages', seed: 7, count, style })
  // from the same seed: the newest of what the old phone has is there already, in the new phone's own form
  if (there > 0)
    await shop.hand(`phones/${now.serial}/fill`, {
      kind: 'messages',
      seed: 7,
      count: there,
      conversations: Math.max(1, Math.min(40, Math.ceil(count / 3))),
    })
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
    expectForecastMet(counted, ticket)
    expect({ refused: row!.fates.refused, lost: row!.fates.lost, over: row!.over, unreadable: row!.fates.unreadable }).toEqual({
      refused: 0,
      lost: 0,
      over: 0,
      unreadable: before!.fates.unreadable,
    })
  })
})

describe('choosing messages by slice', () => {
  const asked = (body: object) => ({
    kind: 'messages',
    side: 'old' as const,
    by: 'group' as const,
    text: '',
    after: 0,
    limit: 200,
    ...body,
  })
  const groups = async (number: string, body: object = {}) => readGroups(shop.services, number, { wish: asked(body), actor: shop.actor })
  const choose = (number: string, slice: object) =>
    chooseItems(shop.services, number, {
      kind: 'messages',
      body: {
        choice: 'some',
        mode: 'add',
        set: [],
        slice: { facet: '', storage: '', reason: '', group: '', when: '', isChosen: false, ...slice },
      },
    })
  const list = (number: string, search: object) =>
    readEntries(shop.services, number, {
      search: {
        kind: 'messages',
        filter: 'all',
        facet: '',
        storage: '',
        reason: '',
        group: '',
        when: '',
        text: '',
        after: null,
        limit: 200,
        ...search,
      },
      actor: shop.actor,
    })

  it('by conversation: its count opens to just its messages, its name is masked, and it stays behind whole', async () => {
    const { old, now, number } = await pairOf('Orrin 5', 'Orrin 9', { count: 120 })
    await countIn(shop, number)
    const page = await groups(number)
    expect(page.rows.length).toBe(page.total)
    expect(page.rows.every(({ title }) => title === null)).toBe(true)
    const { ledger } = await readTicket(shop.services, number, shop.actor)
    expect(page.rows.reduce((sum, { items }) => sum + items, 0)).toBe(ledger[0]!.old.read - ledger[0]!.fates.unreadable)
    expect(page.total).toBe(figureOf(ledger[0]!, 'groups', 'old'))
    const [largest] = [...page.rows].sort((a, b) => b.items - a.items)
    expect((await list(number, { group: largest!.key })).rows).toHaveLength(largest!.items)
    expect((await list(number, { group: largest!.key })).rows.every(({ title }) => title === null)).toBe(true)
    await choose(number, { group: largest!.key })
    expect((await groups(number)).rows.find(({ key }) => key === largest!.key)!.chosen).toBe(0)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees', 'agrees-with-notes'])
    expect(ticket.ledger[0]!.fates.notChosen).toBe(largest!.items)
    await show(shop.services, number, { reason: 'check-difference', actor: shop.actor })
    const shown = (await groups(number)).rows.find(({ key }) => key === largest!.key)!
    expect(shown.title).toMatch(/7700|2079/)
  })

  it('by year and month, by line and direction: each slice is a count that opens to its items', async () => {
    const { number } = await pairOf('Orrin 5', 'Orrin 9', { count: 200 })
    await countIn(shop, number)
    const months = await groups(number, { by: 'month' })
    expect(months.rows.length).toBeGreaterThan(2)
    for (const { key, items } of months.rows) expect((await list(number, { when: key })).rows).toHaveLength(items)
    const { key, items } = months.rows[0]!
    await choose(number, { when: key })
    const second = await list(number, { facet: 'message-line2' })
    expect(second.rows).toHaveLength(2)
    await choose(number, { facet: 'message-line2' })
    await choose(number, { facet: 'message-draft' })
    const { fates } = (await readTicket(shop.services, number, shop.actor)).ledger[0]!
    expect(fates.notChosen).toBe((await list(number, { filter: 'notChosen' })).total)
    expect(fates.notChosen).toBeGreaterThanOrEqual(items + 2)
    await choose(number, { when: key.slice(0, 4), isChosen: true })
    expect((await readTicket(shop.services, number, shop.actor)).ledger[0]!.fates.notChosen).toBeLessThan(fates.notChosen)
  })
})
