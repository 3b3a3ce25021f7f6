import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decide, readJoining, readJoinings, undoJoinings } from '#server/desk/choose/joinings.ts'
import { show } from '#server/desk/items/show.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { breakAt, createPairs, keepHelping } from '../setup/pairs.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, waitFor, worker, type PhoneWish } from '../setup/ticket.ts'

let shop: TestShop
let hands: ReturnType<typeof worker>
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
  hands = worker(shop, async (name, run) => {
    if (!['join-before-send', 'before-send'].includes(name)) return
    const { rows } = await shop.services.pool.query<{ number: string }>('select number from ticket where id = $1', [run.ticket_id])
    const act = behindOurBack.get(rows[0]!.number)
    behindOurBack.delete(rows[0]!.number)
    await act?.()
  })
})
/** What happens to a ticket's new phone once its count is frozen and before anything is sent to it. */
const behindOurBack = new Map<string, () => Promise<void>>()
afterAll(async () => {
  hands.kill()
  await shop.close()
})

const tel = (v: string, t = 'cell') => ({ v, t })
/** On the old phone: who says more than the new one knows, who can't be one with theirs, who is alone, who is there already. */
const ours = [
  {
    given: 'Joined',
    family: 'Sure',
    phones: [tel('+447700900501')],
    emails: [{ v: 'sure@example.org', t: 'home' }],
    company: 'Harbour office',
  },
  { given: 'Only', family: 'Name', phones: [tel('+447700900502')] },
  { given: 'Two', family: 'Birthdays', phones: [tel('+447700900503')], birthday: '1980-01-01' },
  { given: 'Alone', phones: [tel('+447700900504')] },
  { given: 'Equal', phones: [tel('+447700900505')] },
]
const theirs = [
  { given: 'Joined', family: 'Sure', phones: [tel('07700 900501')], note: 'Rings at noon' },
  { given: 'Only', family: 'Name', emails: [{ v: 'only@example.org', t: 'home' }] },
  { given: 'Two', family: 'Birthdays', phones: [tel('+447700900503')], birthday: '1981-02-02' },
  { given: 'Equal', phones: [tel('+447700900505')] },
]

interface Pair {
  readonly old: PhoneWish
  readonly now: PhoneWish
  readonly number: string
}
const pairs = createPairs(() => shop)
const withPair = (to: string, work: (pair: Pair) => Promise<void>) =>
  pairs(async ({ old: port, now: nowPort, mark }): Promise<Pair> => {
    const old = { serial: `JO-${mark}`, model: 'Orrin 5', port }
    const now = { serial: `JN-${mark}`, model: to, port: nowPort, settle_ms: 40, joins_equal: false }
    await addPhone(shop, old)
    await addPhone(shop, now)
    await shop.hand(`phones/${old.serial}/add`, { persons: ours.map((person) => ({ person })) })
    await shop.hand(`phones/${now.serial}/add`, { persons: theirs.map((person) => ({ person })) })
    const number = await bookTicket(shop, old, now)
    await countIn(shop, number)
    return { old, now, number }
  }, work)

const list = (number: string) =>
  readJoinings(shop.services, number, { wish: { kind: 'contacts', after: null, limit: 60 }, actor: shop.actor })
const contentOf = async (serial: string): Promise<string[]> =>
  (await shop.hand(`phones/${serial}/store`)).records.map((r: { facts: string[] }) => r.facts.join(' | ')).sort()
const chosen = (number: string, rule: 'sure' | 'all' | 'none') => decide(shop.services, number, { kind: 'contacts', body: { rule } })
const checked = (number: string) => waitFor(shop, number, isChecked, 'check off')
/** Phones that can change a record in place, and one where it is written anew and the former taken away. */
const ways = ['Orrin 9', 'Veyra 12'] as const

describe.concurrent('people on both phones', () => {
  it('are found one to one, with what they share and what stands against joining; nothing is joined unless said', () =>
    withPair('Orrin 9', async ({ number, now }) => {
      const { counts, rows } = await list(number)
      expect(counts).toMatchObject({ all: 3, can: 2, sure: 1, toJoin: 0 })
      expect(rows.map(({ shared, conflicts, title }) => [shared, conflicts, title])).toEqual([
        [['name', 'phone'], [], null],
        [['name'], [], null],
        [['name', 'phone'], ['birthday'], null],
      ])
      await carry(shop, number)
      const ticket = await checked(number)
      expect(ticket.ledger[0]!.fates).toMatchObject({ carried: 4, merged: 0, alreadyThere: 1 })
      expect((await shop.hand(`phones/${now.serial}/store`)).count).toBe(8)
    }))

  it('are shown side by side, field by field, only while showing is allowed', () =>
    withPair('Veyra 12', async ({ number }) => {
      await expect(readJoining(shop.services, number, { kind: 'contacts', key: 'old-0', actor: shop.actor })).rejects.toThrow(
        'ShowingNotAllowed',
      )
      await show(shop.services, number, { reason: 'choose-items', actor: shop.actor })
      const sides = await readJoining(shop.services, number, { kind: 'contacts', key: 'old-0', actor: shop.actor })
      const fields = (lines: readonly { field: string; text: string }[]) => lines.map(({ field }) => field)
      expect(fields(sides.ours)).toEqual(['name', 'phone', 'email', 'company'])
      expect(fields(sides.theirs)).toEqual(['name', 'phone', 'note'])
      expect(fields(sides.joined!)).toEqual(['name', 'phone', 'email', 'company', 'note'])
      expect((await readJoining(shop.services, number, { kind: 'contacts', key: 'old-2', actor: shop.actor })).joined).toBeNull()
      expect((await list(number)).rows[0]!.title).toBe('Joined Sure')
    }))

  it.each(ways)('joined by a rule into a %s as the forecast says, and undone exactly', (to) =>
    withPair(to, async ({ old, now, number }) => {
      const before = await contentOf(now.serial)
      await chosen(number, 'sure')
      const { forecasts } = await readTicket(shop.services, number, shop.actor)
      expect(forecasts[0]!.counts).toMatchObject({ merged: 1, carried: 3, changed: 0, expected: 7 })
      await carry(shop, number)
      const ticket = await checked(number)
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
      expect(ticket.ledger[0]!.new.last).toBe(7)
      expect(ticket.ledger[0]!.new.expected).toBe(7)
      expect(ticket.ledger[0]!.fates.merged + ticket.ledger[0]!.fates.changed).toBe(1)
      const joined = (await contentOf(now.serial)).filter((facts) => facts.includes('Sure'))
      expect(joined).toHaveLength(1)
      for (const fact of ['Rings at noon', 'sure@example.org', 'Harbour office']) expect(joined[0]).toContain(fact)
      expect((await list(number)).counts).toMatchObject({ joined: 1, toJoin: 0 })

      await undoJoinings(shop.services, number, { kind: 'contacts', keys: undefined, actor: shop.actor })
      const undone = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.undone === 1, 'the undoing')
      await expectAgrees(shop, undone, { old: old.serial, new: now.serial }, ['agrees-with-notes'])
      const after = await contentOf(now.serial)
      expect(before.filter((facts) => !after.includes(facts))).toEqual([])
      expect(after).toHaveLength(7)

      // and then, if wanted, as a contact of its own
      await decide(shop.services, number, { kind: 'contacts', body: { keys: ['old-0'], decision: 'carry' } })
      await carry(shop, number)
      const own = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.undone === 0, 'carrying it')
      await expectAgrees(shop, own, { old: old.serial, new: now.serial }, ['agrees'])
      expect(await contentOf(now.serial)).toHaveLength(8)
    }),
  )

  it('one by one: who can’t be one record is never joined, and keeping both wins back', () =>
    withPair('Orrin 9', async ({ now, number }) => {
      await decide(shop.services, number, { kind: 'contacts', body: { keys: ['old-0', 'old-1', 'old-2'], decision: 'join' } })
      expect((await list(number)).rows.map(({ decision }) => decision)).toEqual(['join', 'join', 'keep'])
      await decide(shop.services, number, { kind: 'contacts', body: { keys: ['old-0'], decision: 'keep' } })
      await carry(shop, number)
      const ticket = await checked(number)
      expect(ticket.ledger[0]!.fates).toMatchObject({ merged: 1, carried: 3 })
      expect(await contentOf(now.serial)).toHaveLength(7)
    }))

  it.each(ways)('a record that changed on the %s since its count is left as it is, and ours goes over as its own', (to) =>
    withPair(to, async ({ now, number }) => {
      await chosen(number, 'sure')
      const { records } = await shop.hand(`phones/${now.serial}/store`)
      const theirs = records.find((r: { facts: string[] }) => r.facts.join().includes('noon'))
      behindOurBack.set(number, () => shop.hand(`phones/${now.serial}/edit-record`, { id: Number(theirs.id) }))
      await carry(shop, number)
      const ticket = await checked(number)
      const store = await contentOf(now.serial)
      expect(store.filter((facts) => facts.includes('Sure'))).toHaveLength(2)
      expect(store.some((facts) => facts.includes('edited'))).toBe(true)
      expect(ticket.ledger[0]!).toMatchObject({ short: 0, over: 0 })
    }),
  )

  it.each(ways)('a first count taken anew before carrying to the %s keeps what was decided, and it can still be undone', (to) =>
    withPair(to, async ({ old, now, number }) => {
      await chosen(number, 'sure')
      // somebody comes and goes on the new phone: every record behind has another place
      const { records } = await shop.hand(`phones/${now.serial}/store`)
      await shop.hand(`phones/${now.serial}/delete-record`, {
        id: Number(records.find((r: { facts: string[] }) => r.facts.join().includes('Only')).id),
      })
      await shop.hand(`phones/${now.serial}/add`, { persons: [{ person: { given: 'Stranger', phones: [tel('+447700900599')] } }] })
      await carry(shop, number)
      const ticket = await checked(number)
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
      expect((await list(number)).counts).toMatchObject({ joined: 1 })
      await undoJoinings(shop.services, number, { kind: 'contacts', keys: ['old-0'], actor: shop.actor })
      const undone = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.undone === 1, 'the undoing')
      await expectAgrees(shop, undone, { old: old.serial, new: now.serial }, ['agrees-with-notes'])
      expect((await contentOf(now.serial)).filter((facts) => facts.includes('Rings at noon'))).toHaveLength(1)
    }),
  )

  it.each(ways)('an item edited on the old phone before it is joined on the %s goes over as its own, as it is now', (to) =>
    withPair(to, async ({ old, now, number }) => {
      await chosen(number, 'sure')
      const { records } = await shop.hand(`phones/${old.serial}/store`)
      await shop.hand(`phones/${old.serial}/edit-record`, { id: Number(records[0].id) })
      await carry(shop, number)
      const ticket = await checked(number)
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
      const sure = (await contentOf(now.serial)).filter((facts) => facts.includes('Sure'))
      expect(sure).toHaveLength(2)
      expect(sure.some((facts) => facts.includes('edited'))).toBe(true)
      expect((await list(number)).counts).toMatchObject({ toJoin: 0, joined: 0 })
    }),
  )

  it.each(['amend.before', 'amend.after'] as const)('a cable pulled at %s: joined once, by looking at the record', (point) =>
    withPair('Orrin 9', async ({ old, now, number }) => {
      await chosen(number, 'all')
      await breakAt(shop, now.serial, point, 'pull')
      const stop = keepHelping(shop, now)
      await carry(shop, number)
      const ticket = await checked(number).finally(stop)
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
      expect(ticket.ledger[0]!.fates).toMatchObject({ merged: 2, carried: 2 })
      expect(await contentOf(now.serial)).toHaveLength(6)
    }),
  )
})

describe('killed while joining', () => {
  it.each([
    ['Orrin 9', 'join-before-send'],
    ['Orrin 9', 'join-before-commit'],
    ['Orrin 9', 'undo-before-send'],
    ['Orrin 9', 'undo-before-commit'],
    ['Veyra 12', 'before-send'],
    ['Veyra 12', 'after-answer'],
    ['Veyra 12', 'clear-before-remove'],
    ['Veyra 12', 'clear-before-commit'],
    ['Veyra 12', 'undo-before-send'],
    ['Veyra 12', 'undo-before-commit'],
  ])('on a %s at %s: joined once and undone exactly, whoever goes on', (to, moment) =>
    withPair(to, async ({ old, now, number }) => {
      const before = await contentOf(now.serial)
      await chosen(number, 'all')
      hands.kill()
      let deaths = 0
      const mortal = worker(shop, (name) => {
        if (name !== moment || deaths++ > 0) return undefined
        mortal.kill()
        hands = worker(shop)
        return new Promise(() => undefined)
      })
      await carry(shop, number)
      const ticket = await checked(number)
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
      expect(await contentOf(now.serial)).toHaveLength(6)
      await undoJoinings(shop.services, number, { kind: 'contacts', keys: undefined, actor: shop.actor })
      const undone = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.undone === 2, 'the undoing')
      await expectAgrees(shop, undone, { old: old.serial, new: now.serial }, ['agrees-with-notes'])
      const after = await contentOf(now.serial)
      expect(before.filter((facts) => !after.includes(facts))).toEqual([])
      expect(after).toHaveLength(6)
      expect(deaths).toBeGreaterThan(0)
      mortal.kill()
      hands.kill()
      hands = worker(shop)
    }),
  )
})
