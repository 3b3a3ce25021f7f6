import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { faultPoints } from '#standins/faults.ts'
import { breakAt, createPairs, keepHelping } from '../setup/pairs.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, waitFor, worker, type PhoneWish } from '../setup/ticket.ts'
import { openPool } from '#server/base/db/sql.ts'
import { putBackToWait, startCheck } from '#server/desk/check-off/act.ts'

let shop: TestShop
let hands: ReturnType<typeof worker>
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
  hands = worker(shop)
})
afterAll(async () => {
  hands.kill()
  await shop.close()
})

interface Pair {
  readonly old: PhoneWish
  readonly now: PhoneWish
}
const pairs = createPairs(() => shop)
/** Runs a test with two phones of its own. */
const withPair = (work: (pair: Pair) => Promise<void>, count = 250) =>
  pairs(async ({ old: port, now: nowPort, mark }): Promise<Pair> => {
    const old = { serial: `FO-${mark}`, model: 'Orrin 5', port, people: { seed: mark, count } }
    const now = { serial: `FN-${mark}`, model: 'Veyra 12', port: nowPort, people: { seed: 500 + mark, count: 5 } }
    await addPhone(shop, old)
    await addPhone(shop, now)
    return { old, now }
  }, work)

const fault = (serial: string, point: string, effect: string, skip?: number, times?: number) =>
  breakAt(shop, serial, point, effect, skip, times)

const readingFaults = faultPoints.filter(({ operation }) => ['attach', 'facts', 'count', 'list'].includes(operation))
const writingFaults = faultPoints.filter(({ operation, point }) => operation === 'write' && point !== 'write.record')

describe.concurrent('every fault of reading ends in an honest state and a way on', () => {
  for (const { point, effects } of readingFaults) {
    for (const effect of effects) {
      it(`${point}: ${effect}`, () =>
        withPair(async ({ old, now }) => {
          await fault(old.serial, point, effect)
          const number = await bookTicket(shop, old, now)
          const stop = keepHelping(shop, old)
          const ticket = await countIn(shop, number).finally(stop)
          expect(ticket.ledger[0]!.old).toMatchObject({ read: 90, own: 91 })
          expect(ticket.readings.find((r) => r.side === 'old')).toMatchObject({ state: 'whole', got: 90 })
        }, 90))
    }
  }
})

describe.concurrent('every fault of writing ends with the counts agreeing once the phone is helped', () => {
  for (const { point, effects } of writingFaults) {
    for (const effect of effects.filter((e) => e !== 'stall')) {
      it(`${point}: ${effect}`, () =>
        withPair(async ({ old, now }) => {
          const number = await bookTicket(shop, old, now)
          await countIn(shop, number)
          await fault(now.serial, point, effect, point === 'write.mid' ? 30 : 0)
          const stop = keepHelping(shop, now)
          await carry(shop, number)
          const ticket = await waitFor(shop, number, isChecked, 'check off').finally(stop)
          await expectAgrees(shop, ticket, { old: old.serial, new: now.serial })
          // what a phone refused for a moment was tried again at the end
          expect(ticket.ledger[0]!.fates.refused).toBe(0)
        }))
    }
  }
})

describe.concurrent('what a phone does behind our back is never shown as agreeing', () => {
  const carried = async ({ old, now }: Pair) => {
    const number = await bookTicket(shop, old, now)
    await countIn(shop, number)
    return number
  }

  it.each([
    ['drops what it accepted', 'drop', { short: 3, over: 0 }],
    ['stores twice', 'double', { short: 0, over: 3 }],
    ['changes what it took', 'alter', { short: 3, over: 3 }],
  ])('a phone that %s differs, with each item to be opened', (_, effect, expected) =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await fault(now.serial, 'write.record', effect, 10, 3)
      await carry(shop, number)
      const ticket = await waitFor(shop, number, isChecked, 'check off')
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['differs'])
      expect(ticket.ledger[0]).toMatchObject(expected)
      expect(ticket.mayHandOver).toBe(false)
    }),
  )

  it('what was lost is carried again, and then agrees', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await fault(now.serial, 'write.record', 'drop', 10, 3)
      await carry(shop, number)
      await waitFor(shop, number, isChecked, 'check off')
      expect(await putBackToWait(shop.services, number, { kind: 'contacts', fates: ['lost'] })).toBe(3)
      await carry(shop, number)
      const ticket = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.verdict !== 'differs', 'agreement')
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
    }))

  it('a full phone that drops silently is short, not agreeing', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await shop.hand(`phones/${now.serial}/set`, { free_bytes: 4000, drops_when_full: true })
      await carry(shop, number)
      const ticket = await waitFor(shop, number, isChecked, 'check off')
      expect(ticket.ledger[0]!.short).toBeGreaterThan(100)
      expect(ticket.ledger[0]!.verdict).toBe('differs')
    }))

  it('a full phone that says so makes the ticket wait, and it goes on by itself when there is room', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await shop.hand(`phones/${now.serial}/set`, { free_bytes: 4000 })
      await carry(shop, number)
      const waiting = await waitFor(shop, number, (t) => t.run?.state === 'paused', 'a pause')
      expect(waiting.run).toMatchObject({ reason: 'StorageFull', side: 'new' })
      expect(waiting.ledger[0]!.verdict).not.toMatch(/agrees/)
      await shop.hand(`phones/${now.serial}/set`, { free_bytes: 4_000_000_000 })
      const ticket = await waitFor(shop, number, isChecked, 'check off')
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
    }))

  it('a contact that reaches the old phone after its count is late, blocks agreement, and is carried', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await carry(shop, number)
      await waitFor(shop, number, isChecked, 'check off')
      await shop.hand(`phones/${old.serial}/add`, { persons: [{ person: { given: 'Late', phones: [{ v: '+447700900777', t: 'cell' }] } }] })
      await startCheck(shop.services, number, shop.actor)
      const late = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.old.late === 1, 'the late one')
      expect(late.ledger[0]).toMatchObject({ verdict: 'waiting', fates: { pending: 1 } })
      expect(late.mayHandOver).toBe(false)
      await carry(shop, number)
      const ticket = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 0, 'check off')
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
    }))

  it('a contact edited on the old phone after its turn is carried again, and its former record is taken away once the new one is proved', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await carry(shop, number)
      await waitFor(shop, number, isChecked, 'check off')
      await shop.hand(`phones/${old.serial}/edit-record`, { id: 5 })
      await startCheck(shop.services, number, shop.actor)
      const late = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 1, 'the edited one')
      expect(late.mayHandOver).toBe(false)
      await carry(shop, number)
      const ticket = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 0, 'check off')
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
      expect((await shop.hand(`phones/${now.serial}/store`)).count).toBe(255)
    }))

  it('a former record that somebody changed on the new phone is left alone, and never agrees', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await carry(shop, number)
      await waitFor(shop, number, isChecked, 'check off')
      const phone = openPool(shop.urls.standins, 'test-hand', { max: 1 })
      const oldFive = await phone.query(`select data->'rows'->0->'v'->>2 as middle from record where serial = $1 and id = 5`, [old.serial])
      const there = await phone.query(`select id from record where serial = $1 and data->>'middle' = $2 and id > 5`, [
        now.serial,
        oldFive.rows[0].middle,
      ])
      await phone.end()
      await shop.hand(`phones/${now.serial}/edit-record`, { id: there.rows[0].id })
      await shop.hand(`phones/${old.serial}/edit-record`, { id: 5 })
      await startCheck(shop.services, number, shop.actor)
      await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 1, 'the edited one')
      await carry(shop, number)
      const ticket = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 0, 'check off')
      expect(ticket.ledger[0]!.verdict).not.toMatch(/^agrees$/)
      expect((await shop.hand(`phones/${now.serial}/store`)).count).toBe(256)
    }))

  it('a contact deleted from the old phone before its turn is gone, and said', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      const { records } = await shop.hand(`phones/${old.serial}/store`)
      await shop.hand(`phones/${old.serial}/delete-record`, { id: Number(records[3].id) })
      await carry(shop, number)
      const ticket = await waitFor(shop, number, isChecked, 'check off')
      expect(ticket.ledger[0]!.fates.gone).toBe(1)
      expect(ticket.ledger[0]!.verdict).toBe('agrees-with-notes')
    }))

  it('an account that syncs the same contacts in beside ours shows as over', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await carry(shop, number)
      await waitFor(shop, number, isChecked, 'check off')
      await shop.hand(`phones/${now.serial}/fill`, { seed: old.people!.seed, count: 4 })
      await startCheck(shop.services, number, shop.actor)
      const ticket = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.over > 0, 'over')
      expect(ticket.ledger[0]).toMatchObject({ over: 4, short: 0, verdict: 'differs' })
    }))

  it('a record of the first count that vanishes is missing: an alarm', () =>
    withPair(async ({ old, now }) => {
      const number = await carried({ old, now })
      await carry(shop, number)
      await waitFor(shop, number, isChecked, 'check off')
      const { records } = await shop.hand(`phones/${now.serial}/store`)
      await shop.hand(`phones/${now.serial}/delete-record`, { id: Number(records[0].id) })
      await startCheck(shop.services, number, shop.actor)
      const ticket = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.new.missing > 0, 'missing')
      expect(ticket.ledger[0]).toMatchObject({ short: 1, verdict: 'differs' })
    }))
})

describe('killed while a former record is taken away', () => {
  it.each(['clear-before-remove', 'clear-before-commit'])(
    'killed at %s, the former record of an edited contact is gone all the same, and nothing else',
    (moment) =>
      withPair(async ({ old, now }) => {
        const number = await bookTicket(shop, old, now)
        await countIn(shop, number)
        await carry(shop, number)
        await waitFor(shop, number, isChecked, 'check off')
        await shop.hand(`phones/${old.serial}/edit-record`, { id: 9 })
        await startCheck(shop.services, number, shop.actor)
        await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 1, 'the edited one')
        hands.kill()
        let deaths = 0
        const mortal = worker(shop, (name) => {
          if (name !== moment || deaths++ > 0) return undefined
          mortal.kill()
          return new Promise(() => undefined)
        })
        await carry(shop, number)
        while (deaths === 0) await new Promise((r) => setTimeout(r, 20))
        hands = worker(shop)
        const ticket = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 0, 'check off')
        await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
      }),
  )
})
