import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { faces, kindCodes } from '#core/kinds/faces.ts'
import { startCheck } from '#server/desk/check-off/act.ts'
import { expectFilesOver } from '../setup/photos.ts'
import { unopenedChanges } from '../setup/opens.ts'
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

const pairs = [
  ['Orrin 5', 'Veyra 12'],
  ['Veyra 14', 'Orrin 9'],
  ['Orrin 5', 'Tamsel M2'],
  ['Tamsel M2', 'Veyra 14'],
  ['Veyra 12', 'Veyra 14'],
] as const

describe('a ticket from booking in to check off', () => {
  pairs.forEach(([from, to], i) => {
    it(`${from} to ${to}: agrees with notes, and the new phone’s own store is what the ledger says`, async () => {
      const old = { serial: `OLD-${i}`, model: from, port: 1, people: { seed: 30 + i, count: 60, style: 'traps' as const } }
      const now = { serial: `NEW-${i}`, model: to, port: 2, people: { seed: 99, count: 5 } }
      await addPhone(shop, old)
      await addPhone(shop, now)
      const number = await bookTicket(shop, old, now)
      const counted = await countIn(shop, number)
      const [row] = counted.ledger
      expect(row!.old.read).toBe(85)
      expect(row!.fates.unreadable).toBe(2)
      await carry(shop, number)
      const ticket = await waitFor(shop, number, isChecked, 'check off')
      await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees-with-notes'])
      expectForecastMet(counted, ticket)
      await shop.hand(`phones/${old.serial}/pull`, {})
      await shop.hand(`phones/${now.serial}/pull`, {})
    })
  })
})

describe('contacts and calls in one ticket', () => {
  const withCalls = async (from: string, to: string, { oldCalls, newCalls }: { oldCalls: object; newCalls?: object }) => {
    for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
    n++
    const old = { serial: `CO-${n}`, model: from, port: 1, people: { seed: 5, count: 12 } }
    const now = { serial: `CN-${n}`, model: to, port: 2 }
    await addPhone(shop, old)
    await addPhone(shop, now)
    await shop.hand(`phones/${old.serial}/fill`, { kind: 'calls', ...oldCalls })
    if (newCalls) await shop.hand(`phones/${now.serial}/fill`, { kind: 'calls', ...newCalls })
    const number = await bookTicket(shop, old, now, ['contacts', 'calls'])
    return { number, old, now }
  }
  let n = 0
  const callsRow = (ticket: Awaited<ReturnType<typeof countIn>>) => ticket.ledger.find((row) => row.kind === 'calls')!
  const reasonsOf = (ticket: Awaited<ReturnType<typeof countIn>>) =>
    Object.fromEntries(ticket.reasons.filter((r) => r.kind === 'calls').map((r) => [r.code, r.items]))

  it('run one after the other, light first, and each row agrees with the phones’ own stores', async () => {
    const { number, old, now } = await withCalls('Orrin 5', 'Orrin 9', { oldCalls: { seed: 3, count: 200, style: 'traps' } })
    const counted = await countIn(shop, number)
    expect(counted.ledger.map((row) => row.kind)).toEqual(['contacts', 'calls'])
    expect(callsRow(counted)).toMatchObject({ old: { read: 220 }, fates: { unreadable: 3 } })
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees', 'agrees-with-notes'])
    expect(callsRow(ticket)).toMatchObject({ fates: { carried: 216 }, new: { last: 216 }, verdict: 'agrees-with-notes' })
    // three equal calls in one second are three on the new phone, too
    const { records } = await shop.hand(`phones/${now.serial}/store?kind=calls`)
    const facts = records.map((r: { facts: string[] }) => JSON.parse(r.facts[0]!))
    expect(facts.filter((c: { number: string }) => c.number === '07700 900322')).toHaveLength(3)
    expect(facts.filter((c: { number: string }) => c.number === '').length).toBe(2)
    expect(facts.map((c: { atMs: number }) => c.atMs)).toEqual(expect.arrayContaining([Date.UTC(2026, 2, 29, 1, 30), Date.UTC(2019, 0, 1)]))
  })

  it('what a phone has no word for is changed and named: Orrin to Tamsel loses durations, rejected become missed', async () => {
    const { number, old, now } = await withCalls('Orrin 7', 'Tamsel M3', { oldCalls: { seed: 4, count: 60, style: 'traps' } })
    const counted = await countIn(shop, number)
    expect(reasonsOf(counted)).toMatchObject({ 'rejected-as-missed': 2, 'no-call-date': 1, 'storage-error': 1 })
    await carry(shop, number)
    await expectAgrees(shop, await waitFor(shop, number, isChecked, 'check off'), { old: old.serial, new: now.serial })
  })

  it('calls to iOS can’t cross: all of them are named so, none is sent, and the ticket agrees with notes', async () => {
    const { number, old, now } = await withCalls('Orrin 5', 'Veyra 12', {
      oldCalls: { seed: 6, count: 40 },
      newCalls: { seed: 7, count: 9 },
    })
    const counted = await countIn(shop, number)
    expect(counted.cannot).toEqual({ calls: 'platform-takes-no-calls' })
    expect(callsRow(counted).fates).toMatchObject({ cannotCross: 40, pending: 0 })
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial })
    expect(callsRow(ticket)).toMatchObject({ verdict: 'agrees-with-notes', new: { last: 9, kept: 9 } })
  })

  it('a phone that keeps only its newest: what has no room is said beforehand, none of its own is pushed out', async () => {
    const { number, old, now } = await withCalls('Orrin 5', 'Tamsel M2', {
      oldCalls: { seed: 8, count: 280 },
      newCalls: { seed: 9, count: 50 },
    })
    const counted = await countIn(shop, number)
    expect(callsRow(counted).fates).toMatchObject({ cannotCross: 30, pending: 250 })
    expect(reasonsOf(counted)['no-room']).toBe(30)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial })
    expect(callsRow(ticket)).toMatchObject({ short: 0, over: 0, new: { kept: 50, missing: 0, last: 300 } })
    expect((await shop.hand(`phones/${now.serial}/store?kind=calls`)).count).toBe(300)
  })

  it('iOS to Android: times in UTC and in local time are one instant; equal calls are there already', async () => {
    const { number, old, now } = await withCalls('Veyra 12', 'Orrin 9', {
      oldCalls: { seed: 11, count: 30 },
      newCalls: { seed: 11, count: 30 },
    })
    await expect(countIn(shop, number)).rejects.toThrow('PhonesNotReady')
    await shop.hand(`phones/${old.serial}/encrypted-reading-on`, {})
    await countIn(shop, number)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial })
    expect(callsRow(ticket)).toMatchObject({ fates: { alreadyThere: 30, carried: 0, changed: 0 }, new: { last: 30 } })
  })

  it('a keypad phone’s few calls are read, and its times are those of its zone', async () => {
    const { number, old, now } = await withCalls('Holt 3', 'Orrin 9', { oldCalls: { seed: 12, count: 15 } })
    await countIn(shop, number)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial })
    expect(callsRow(ticket).fates.carried + callsRow(ticket).fates.changed).toBe(15)
  })
})

describe('every kind in one ticket, every trap inside', () => {
  const five = [
    ['Orrin 5', 'Veyra 12'],
    ['Veyra 14', 'Orrin 9'],
    ['Orrin 5', 'Tamsel M2'],
    ['Veyra 9', 'Veyra 14'],
    ['Holt 3', 'Orrin 7'],
  ] as const
  const fileKinds = faces.flatMap(({ code, group }) => (group === 'files' ? [code] : []))
  it.each(five)('%s to %s: every row agrees or agrees with notes, equal to the phones’ own stores, file by file', async (from, to) => {
    for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
    const old = {
      serial: `T-${from}-${to}-O`.replaceAll(' ', ''),
      model: from,
      port: 1,
      people: { seed: 5, count: 20, style: 'traps' as const },
    }
    const now = { serial: `T-${from}-${to}-N`.replaceAll(' ', ''), model: to, port: 2, people: { seed: 6, count: 4 } }
    for (const phone of [old, now]) await addPhone(shop, phone)
    for (const kind of ['calls', 'calendar', 'messages'])
      await shop.hand(`phones/${old.serial}/fill`, { kind, seed: 21, count: 16, style: 'traps' })
    await shop.hand(`phones/${now.serial}/fill`, { kind: 'calendar', seed: 22, count: 5 })
    await shop.hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 23, count: 3, style: 'traps' })
    await shop.hand(`phones/${now.serial}/fill`, { kind: 'photos', seed: 24, count: 3 })
    for (const [phone, seed] of [
      [old, 25],
      [now, 26],
    ] as const)
      await shop.hand(`phones/${phone.serial}/fill`, { kind: 'apps', seed, count: 12 }).catch(() => undefined)
    for (const kind of fileKinds) {
      await shop.hand(`phones/${old.serial}/fill`, { kind, seed: 27, count: 3, style: 'traps' }).catch(() => undefined)
      await shop.hand(`phones/${now.serial}/fill`, { kind, seed: 28, count: 2 }).catch(() => undefined)
    }
    const number = await bookTicket(shop, old, now, [...kindCodes])
    await prepareMessages(shop, number, { old, now })
    const counted = await countIn(shop, number)
    expect(await unopenedChanges(shop, counted)).toEqual([])
    const row = (ticket: typeof counted) => ticket.ledger.find((r) => r.kind === 'calendar')!
    // 16, and of the traps: holidays somebody else keeps are left behind, two can't be read
    expect(row(counted)).toMatchObject({ old: { read: 39 }, fates: { notChosen: 3, unreadable: 2 } })
    expect(figureOf(row(counted), 'derived', 'old', 'birthdays') ?? 0).toBe(row(counted).old.derived)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    const differ = ticket.ledger.filter(({ verdict, kind }) => !verdict.startsWith('agrees') && kind !== 'apps')
    expect(differ.map((r) => [r.kind, r.old, r.fates, r.new])).toEqual([])
    expect(ticket.mayHandOver).toBe(true)
    expectForecastMet(counted, ticket)
    // what waits is on the customer's install list, and nowhere else
    const apps = ticket.ledger.find((r) => r.kind === 'apps')!
    expect(apps.fates.pending).toBe(apps.toInstall)
    await expectAgrees(
      shop,
      { ...ticket, ledger: ticket.ledger.filter((r) => r.fates.pending === 0) },
      { old: old.serial, new: now.serial },
      ['agrees', 'agrees-with-notes'],
    )
    for (const kind of ticket.ledger)
      expect([kind.kind, kind]).toMatchObject([
        kind.kind,
        {
          short: 0,
          over: 0,
          fates: { lost: 0, ...(['contacts', 'apps'].includes(kind.kind) ? {} : { pending: 0, refused: 0 }) },
        },
      ])
    expect(ticket.ledger.map((r) => r.kind)).toEqual(kindCodes)
    await expectFilesOver(
      shop,
      { old: old.serial, new: now.serial },
      { own: 3, converted: counted.reasons.find((r) => r.code === 'converted-to-jpeg')?.items ?? 0 },
    )
    // nobody is invited again
    const { records } = await shop.hand(`phones/${now.serial}/store?kind=calendar`)
    expect(records.some((r: { card: string }) => r.card.includes('ATTENDEE'))).toBe(false)
  })

  it('an event that is put in after its count is late, and one that is altered on the new phone is never shown as agreeing', async () => {
    for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
    const old = { serial: 'LATE-O', model: 'Orrin 5', port: 1 }
    const now = { serial: 'LATE-N', model: 'Orrin 9', port: 2 }
    for (const phone of [old, now]) await addPhone(shop, phone)
    await shop.hand('phones/LATE-O/fill', { kind: 'calendar', seed: 30, count: 25 })
    const number = await bookTicket(shop, old, now, ['calendar'])
    await countIn(shop, number)
    await shop.hand('phones/LATE-N/faults', { faults: [{ point: 'write.record', effect: 'alter', skip: 4, times: 1 }] })
    await carry(shop, number)
    const altered = await waitFor(shop, number, isChecked, 'check off')
    expect(altered.ledger[0]).toMatchObject({ verdict: 'differs', short: 1 })
    await shop.hand('phones/LATE-O/fill', { kind: 'calendar', seed: 31, count: 1 })
    await startCheck(shop.services, number, shop.actor)
    const late = await waitFor(shop, number, (t) => isChecked(t) && t.ledger[0]!.old.late === 1, 'the late one')
    expect(late.ledger[0]!.fates.pending).toBe(1)
    expect(late.mayHandOver).toBe(false)
  })
})
