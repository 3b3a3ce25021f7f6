import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { carryAcrossDeath, moments } from '../setup/kill.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, expectAgrees, type PhoneWish } from '../setup/ticket.ts'

let shop: TestShop
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
})
afterAll(() => shop.close())
afterEach(async () => {
  for (const serial of [`KO-${n}`, `KN-${n}`]) await shop.hand(`phones/${serial}`, undefined, 'DELETE').catch(() => undefined)
})

const tel = (v: string, t = 'cell') => ({ v, t })
const filler = Array.from({ length: 6 }, (_, i) => ({ person: { given: `Filler${i}`, phones: [tel(`+4477009002${10 + i}`)] } }))

/** What the batch holds, and what the new phone held before. */
const contents = {
  exact: { old: [{ person: { given: 'Exact', family: 'One', phones: [tel('+447700900301')] } }], first: [], to: 'Veyra 12' },
  changed: { old: [{ person: { given: 'Changed', starred: true, phones: [tel('+447700900302', 'car')] } }], first: [], to: 'Veyra 12' },
  joined: {
    old: [{ person: { given: 'Joined', family: 'Two', phones: [tel('+447700900303')], emails: [{ v: 'joined@example.org', t: 'home' }] } }],
    first: [{ person: { given: 'Joined', family: 'Two', phones: [tel('+447700900303')] } }],
    to: 'Orrin 9',
  },
  'two identical': {
    old: [{ person: { given: 'Twin', phones: [tel('+447700900304')] } }, { person: { given: 'Twin', phones: [tel('+447700900304')] } }],
    first: [],
    to: 'Veyra 12',
  },
  'half record': {
    old: [{ person: { given: 'Half', phones: [tel('+447700900305')], note: 'second half' } }],
    first: [],
    to: 'Veyra 12',
    half: true,
  },
} as const

let n = 0

describe('whatever is killed at whatever moment, nothing is lost and nothing doubled', () => {
  for (const [what, content] of Object.entries(contents)) {
    for (const [when, moment] of Object.entries(moments)) {
      it(`${what}, ${when}`, async () => {
        n++
        const old: PhoneWish = { serial: `KO-${n}`, model: 'Orrin 5', port: 1 }
        const now: PhoneWish = { serial: `KN-${n}`, model: content.to, port: 2, settle_ms: 60 }
        await addPhone(shop, old)
        await addPhone(shop, now)
        await shop.hand(`phones/${old.serial}/add`, { persons: [...content.old, ...filler] })
        await shop.hand(`phones/${now.serial}/add`, { persons: content.first })
        const faults: object[] = []
        if ('half' in content) faults.push({ point: 'write.record', effect: 'half' })
        if ('fault' in moment) faults.push(moment.fault)
        if (faults.length > 0) await shop.hand(`phones/${now.serial}/faults`, { faults })

        const ticket = await carryAcrossDeath(shop, await bookTicket(shop, old, now), moment)
        await expectAgrees(shop, ticket, { old: old.serial, new: now.serial })
        const [row] = ticket.ledger
        expect([row!.short, row!.over, row!.fates.pending, row!.fates.refused]).toEqual([0, 0, 0, 0])
        // proved against the phone's own store: every fact of every person once, twins twice
        const store = await shop.hand(`phones/${now.serial}/store`)
        const merged = what === 'joined' ? 1 : 0
        expect(store.count).toBe(content.first.length + content.old.length + filler.length - merged)
        expect(row!.fates.merged).toBe(merged)
      })
    }
  }
})
