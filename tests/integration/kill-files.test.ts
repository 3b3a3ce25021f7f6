import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { faces } from '#core/kinds/faces.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { carryAcrossDeath, moments } from '../setup/kill.ts'
import { expectFilesOver } from '../setup/photos.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, expectAgrees, prepareMessages, type PhoneWish } from '../setup/ticket.ts'

let shop: TestShop
let n = 0
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
})
afterAll(() => shop.close())
afterEach(async () => {
  for (const serial of [`KO-${n}`, `KN-${n}`]) await shop.hand(`phones/${serial}`, undefined, 'DELETE').catch(() => undefined)
})

const message = (change: object) => ({ from: '07700 900471', atMs: Date.UTC(2026, 9, 1, 12), text: 'A text', ...change })
const fillerTexts = Array.from({ length: 5 }, (_, i) => message({ atMs: Date.UTC(2026, 9, 2, i), text: `Filler ${i}` }))
const textsSent = {
  'two equal texts of one second': [message({}), message({})],
  'a text that becomes three records': [message({ text: 'Every buoy of the channel. '.repeat(100) })],
  'a text whose picture is moved first': [
    message({ type: 'mms', parts: [{ type: 'image/jpeg', name: 'quay.jpg', handle: 'k1', size: 900 }] }),
  ],
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
        await shop.hand(`phones/${old.serial}/add`, {
          messages: [...content, ...fillerTexts],
          attached: [{ handle: 'k1', text: 'the picture'.repeat(80) }],
        })
        if ('fault' in moment) await shop.hand(`phones/${now.serial}/faults`, { faults: [moment.fault] })
        const number = await bookTicket(shop, old, now, ['messages'])
        await prepareMessages(shop, number, { old, now })
        const ticket = await carryAcrossDeath(shop, number, moment)
        await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
        expect((await shop.hand(`phones/${now.serial}/store?kind=messages`)).count).toBe(
          content.length + fillerTexts.length + (what.includes('three') ? 2 : 0),
        )
      })
    }
  }
})

describe('photos, whatever is killed at whatever moment', () => {
  const more = {
    'killed when its files are moved': { checkpoint: 'file-moved' },
    'half written, then cut': { fault: { point: 'write.record', effect: 'half', skip: 3 } },
    'cable pulled in mid-file': { fault: { point: 'file.mid', effect: 'cut', skip: 7 } },
  } as const
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
      const ticket = await carryAcrossDeath(shop, await bookTicket(shop, old, now, ['photos']), moment)
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees-with-notes'])
      const [row] = ticket.ledger
      expect([row!.short, row!.over, row!.fates.pending, row!.fates.refused, row!.new.cameOtherwise]).toEqual([0, 0, 0, 0, 0])
      await expectFilesOver(
        shop,
        { old: old.serial, new: now.serial },
        { own: 2, converted: ticket.reasons.find((r) => r.code === 'converted-to-jpeg')!.items },
      )
      expect((await shop.hand(`phones/${now.serial}/loose`)).count).toBe(0)
    })
  }
})

describe('each kind of files, killed once, at a moment of its own', () => {
  const kinds = faces.flatMap(({ code, group }) => (group === 'files' ? [code] : []))
  const cut = { fault: { point: 'file.mid', effect: 'cut', skip: 2 } } as const
  const all = [...Object.entries(moments), ['cable pulled in mid-file', cut] as const]
  it.each(kinds.map((kind, i) => [kind, ...all[i % all.length]!] as const))('%s, %s', async (kind, _, moment) => {
    n++
    const old: PhoneWish = { serial: `KO-${n}`, model: 'Orrin 5', port: 1 }
    const now: PhoneWish = { serial: `KN-${n}`, model: 'Veyra 12', port: 2, settle_ms: 60 }
    await addPhone(shop, old)
    await addPhone(shop, now)
    const { namesOthers } = kindOf(kind)
    const wanted = namesOthers ? [namesOthers.kind, kind] : [kind]
    for (const one of wanted) await shop.hand(`phones/${old.serial}/fill`, { kind: one, seed: 40 + n, count: 4, style: 'traps', tracks: 4 })
    if ('fault' in moment) await shop.hand(`phones/${now.serial}/faults`, { faults: [moment.fault] })
    const ticket = await carryAcrossDeath(shop, await bookTicket(shop, old, now, wanted), moment)
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees', 'agrees-with-notes'])
    for (const { short, over, fates, new: there } of ticket.ledger)
      expect([short, over, fates.pending, fates.lost, there.cameOtherwise]).toEqual([0, 0, 0, 0, 0])
    expect((await shop.hand(`phones/${now.serial}/loose`)).count).toBe(0)
  })
})
