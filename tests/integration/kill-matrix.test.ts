import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { expectFilesOver } from '../setup/photos.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, prepareMessages, waitFor, worker, type PhoneWish } from '../setup/ticket.ts'

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
  'half record': { old: [{ person: { given: 'Half', phones: [tel('+447700900305')], note: 'second half' } }], first: [], to: 'Veyra 12', half: true },
} as const

/** Where the worker dies, or the cable goes. */
const moments = {
  'killed before send': { checkpoint: 'before-send' },
  'cut mid-write': { fault: { point: 'write.mid', effect: 'cut', skip: 1 } },
  'cut after write, before the answer': { fault: { point: 'write.after', effect: 'cut' } },
  'killed after the answer, before commit': { checkpoint: 'after-answer' },
} as const

let n = 0

/** Counts in and carries; the worker dies at its moment, and another goes on. */
async function carryAcrossDeath(number: string, moment: { readonly checkpoint: string } | { readonly fault: unknown }) {
  const checkpoint = 'checkpoint' in moment ? moment.checkpoint : undefined
  let deaths = 0
  const first = worker(shop, (name, run) => {
    if (name === checkpoint && run.type === 'carry' && deaths++ === 0) {
      first.kill()
      return new Promise(() => undefined)
    }
    return undefined
  })
  await countIn(shop, number)
  await carry(shop, number)
  if (checkpoint) while (deaths === 0) await new Promise((r) => setTimeout(r, 20))
  const second = worker(shop)
  const ticket = await waitFor(shop, number, isChecked, 'check off')
  first.kill()
  second.kill()
  return ticket
}

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

        const ticket = await carryAcrossDeath(await bookTicket(shop, old, now), moment)
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

const message = (change: object) => ({ from: '07700 900471', atMs: Date.UTC(2026, 9, 1, 12), text: 'A text', ...change })
const fillerTexts = Array.from({ length: 5 }, (_, i) => message({ atMs: Date.UTC(2026, 9, 2, i), text: `Filler ${i}` }))
const textsSent = {
  'two equal texts of one second': [message({}), message({})],
  'a text that becomes three records': [message({ text: 'Every buoy of the channel. '.repeat(100) })],
  'a text whose picture is moved first': [message({ type: 'mms', parts: [{ type: 'image/jpeg', name: 'quay.jpg', handle: 'k1', size: 900 }] })],
} as const

describe('messages, whatever is killed at whatever moment', () => {
  const half = { fault: { point: 'write.record', effect: 'half' } } as const
  for (const [what, content] of Object.entries(textsSent)) {
    for (const [when, moment] of Object.entries({ ...moments, 'half written, then cut': half })) {
      it(`${what}, ${when}`, async () => {
        n++
        const old: PhoneWish = { serial: `KO-${n}`, model: 'Orrin 5', port: 1 }
        const now: PhoneWish = { serial: `KN-${n}`, model: 'Tamsel M2', port: 2, settle_ms: 60 }
        await addPhone(shop, old)
        await addPhone(shop, now)
        await shop.hand(`phones/${old.serial}/add`, { messages: [...content, ...fillerTexts], attached: [{ handle: 'k1', text: 'the picture'.repeat(80) }] })
        if ('fault' in moment) await shop.hand(`phones/${now.serial}/faults`, { faults: [moment.fault] })
        const number = await bookTicket(shop, old, now, ['messages'])
        await prepareMessages(shop, number, { old, now })
        const ticket = await carryAcrossDeath(number, moment)
        await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
        expect((await shop.hand(`phones/${now.serial}/store?kind=messages`)).count).toBe(content.length + fillerTexts.length + (what.includes('three') ? 2 : 0))
      })
    }
  }
})

describe('photos, whatever is killed at whatever moment', () => {
  const more = { 'killed when its files are moved': { checkpoint: 'file-moved' }, 'half written, then cut': { fault: { point: 'write.record', effect: 'half', skip: 3 } }, 'cable pulled in mid-file': { fault: { point: 'part.mid', effect: 'cut', skip: 7 } } } as const
  // to a phone that takes no HEIC, keeps clips apart and originals beside: conversion, parts and several files at once
  for (const [when, moment] of Object.entries({ ...moments, ...more })) {
    it(`converted, moving and plain ones, ${when}`, async () => {
      n++
      const old: PhoneWish = { serial: `KO-${n}`, model: 'Veyra 12', port: 1 }
      const now: PhoneWish = { serial: `KN-${n}`, model: 'Tamsel M2', port: 2, settle_ms: 60 }
      await addPhone(shop, old)
      await addPhone(shop, now)
      await shop.hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 60 + n, count: 6, style: 'traps' })
      await shop.hand(`phones/${now.serial}/fill`, { kind: 'photos', seed: 600 + n, count: 2 })
      if ('fault' in moment) await shop.hand(`phones/${now.serial}/faults`, { faults: [moment.fault] })
      const ticket = await carryAcrossDeath(await bookTicket(shop, old, now, ['photos']), moment)
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees-with-notes'])
      const [row] = ticket.ledger
      expect([row!.short, row!.over, row!.fates.pending, row!.fates.refused, row!.new.cameOtherwise]).toEqual([0, 0, 0, 0, 0])
      await expectFilesOver(shop, { old: old.serial, new: now.serial }, { own: 2, converted: ticket.reasons.find((r) => r.code === 'converted-to-jpeg')!.items })
      expect((await shop.hand(`phones/${now.serial}/loose`)).count).toBe(0)
    })
  }
})
