import { beforeEach, describe, expect, it } from 'vitest'
import { actCodes } from '#contracts/http/course.ts'
import { pastBody } from '#contracts/http/shop.ts'
import { readPast } from '#server/desk/past.ts'
import { readCourse as course, note, handOver } from '#server/desk/course.ts'
import { edit, readBooking } from '#server/desk/book-in/edit.ts'
import { changeKinds } from '#server/desk/book-in/kinds.ts'
import { chooseBody } from '#contracts/http/ticket.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { choose } from '#server/desk/choose/act.ts'
import { stopTicketRun } from '#server/desk/carry/act.ts'
import { decide } from '#server/desk/choose/joinings.ts'
import { callOff, sign } from '#server/desk/hand-back/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { advanceStraight, setStraightThrough } from '#server/desk/straight.ts'
import { readToday } from '#server/desk/today/view.ts'
import type { Services } from '#server/base/services.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, useShop, waitFor, type PhoneWish } from '../setup/ticket.ts'

const theShop = useShop()
let n = 0
let old: PhoneWish
let now: PhoneWish
beforeEach(async () => {
  const shop = theShop()
  for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
  n++
  old = { serial: `LO-${n}`, model: 'Orrin 5', port: 1, people: { seed: 5, count: 20 } }
  now = { serial: `LN-${n}`, model: 'Orrin 9', port: 2 }
})
/** Both phones in their ports and ready, and a ticket that names them. */
async function plugged(): Promise<string> {
  for (const phone of [old, now]) await addPhone(theShop(), phone)
  return bookTicket(theShop(), old, now)
}
const readCourse = async (...of: Parameters<typeof course>) => (await course(...of)).acts
const as = () => ({ actor: theShop().actor })
const later = (hours: number) => new Date(Date.now() + hours * 3_600_000).toISOString()
const choice = (model: string, serial: string | null) =>
  ({ place: 'bench', maker: 'Orrin', model, platform: 'android', version: '13', serial }) as const

describe('a booking that changes', () => {
  it('customer and promise until the signature; what is left out stays', async () => {
    const { services } = theShop()
    const number = await bookTicket(theShop(), { ...old, serial: null }, { ...now, serial: null })
    const promisedAt = later(5)
    await edit(services, number, { body: { customer: { name: 'Odile Sallow', phone: '020 7946 0119', note: '' }, promisedAt }, ...as() })
    expect(await readBooking(services, number)).toMatchObject({
      customer: { name: 'Odile Sallow', phone: '020 7946 0119' },
      promisedAt,
      waitsInShop: true,
      canChangePhones: true,
      wanted: ['contacts'],
    })
    expect((await readTicket(services, number, theShop().actor)).customer).toBe('Odile S.')
    // the same once more is no change
    await edit(services, number, { body: { customer: { name: 'Odile Sallow', phone: '020 7946 0119', note: '' }, promisedAt }, ...as() })
    expect((await readCourse(services, number)).map(({ what, code }) => [what, code])).toEqual([
      ['booked', null],
      ['edited', 'customer'],
      ['edited', 'promise'],
    ])
  })

  it('phones change places, or are others, while nothing is written; what was read of them is forgotten', async () => {
    const shop = theShop()
    const { services } = shop
    await addPhone(shop, old)
    await addPhone(shop, now)
    const number = await bookTicket(shop, old, now)
    await countIn(shop, number)
    await edit(services, number, { body: { old: choice('Orrin 9', now.serial), new: choice('Orrin 5', old.serial) }, ...as() })
    const swapped = await readTicket(services, number, theShop().actor)
    expect([swapped.old.serial, swapped.new.serial, swapped.ledger[0]!.old.read]).toEqual([now.serial, old.serial, 0])
    await edit(services, number, { body: { old: choice('Orrin 5', old.serial), new: choice('Orrin 9', now.serial) }, ...as() })
    await countIn(shop, number)
    await carry(shop, number)
    await waitFor(shop, number, isChecked, 'check off')
    await expect(edit(services, number, { body: { old: choice('Orrin 5', null) }, ...as() })).rejects.toMatchObject({
      code: 'PhonesWritten',
    })
    expect((await readBooking(services, number)).canChangePhones).toBe(false)
  })

  it('never the same phone twice, nor one of another open ticket', async () => {
    const shop = theShop()
    await bookTicket(shop, { ...old, serial: `${old.serial}-X` }, { ...now, serial: null })
    const number = await bookTicket(shop, old, now)
    const twice = { body: { new: choice('Orrin 5', old.serial) }, ...as() }
    await expect(edit(shop.services, number, twice)).rejects.toMatchObject({ code: 'SamePhoneTwice' })
    const others = { body: { new: choice('Orrin 5', `${old.serial}-X`) }, ...as() }
    await expect(edit(shop.services, number, others)).rejects.toMatchObject({ code: 'PhoneOnOtherTicket' })
    const { old: before, new: after } = await readTicket(shop.services, number, theShop().actor)
    expect([before.serial, after.serial]).toEqual([old.serial, now.serial])
  })
})

describe('straight through', () => {
  /** Presses once, and lets it run as the worker would. */
  async function straight(number: string, body = { on: true, agree: false }): Promise<() => void> {
    const { services } = theShop()
    await setStraightThrough(services, number, { body, ...as() })
    let isOn = true
    void (async () => {
      while (isOn) {
        await advanceStraight(services).catch(() => undefined)
        await new Promise((resolve) => setTimeout(resolve, 100))
      }
    })()
    return () => void (isOn = false)
  }
  /** One person of both phones, of whom each knows something else. */
  async function addBoth(): Promise<void> {
    const person = { given: 'Joined', family: 'Sure', phones: [{ v: '+447700900501', t: 'cell' }] }
    const shop = theShop()
    await shop.hand(`phones/${old.serial}/add`, { persons: [{ person: { ...person, company: 'Harbour office' } }] })
    await shop.hand(`phones/${now.serial}/add`, { persons: [{ person: { ...person, note: 'Rings at noon' } }] })
  }
  const promised = (number: string) => edit(theShop().services, number, { body: { promisedAt: later(6) }, ...as() })

  it('one press takes two ready phones to “may be handed over”', async () => {
    const shop = theShop()
    await addPhone(shop, old)
    await addPhone(shop, now)
    const number = await bookTicket(shop, old, now, ['contacts', 'calls'])
    await promised(number)
    const end = await straight(number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    end()
    expect(ticket.mayHandOver).toBe(true)
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial })
    const course = await readCourse(shop.services, number)
    expect(course.map(({ what, code, by }) => [what, code, by])).toEqual([
      ['booked', null, 'Rowan'],
      ['edited', 'promise', 'Rowan'],
      ['count-in', null, 'Rowan'],
      ['ended', 'count-in', null],
      ['carry', null, 'Rowan'],
      ['ended', 'carry', null],
      ['ended', 'check-off', null],
    ])
  })

  it('begins by itself once a phone that was not ready is', async () => {
    const shop = theShop()
    await addPhone(shop, old)
    await shop.hand('phones', { serial: now.serial, model: now.model, version: '13', settle_ms: 40 })
    await shop.hand(`phones/${now.serial}/plug`, { port: 2 })
    const number = await bookTicket(shop, old, now)
    await promised(number)
    const end = await straight(number)
    await new Promise((resolve) => setTimeout(resolve, 1500))
    expect((await readTicket(shop.services, number, theShop().actor)).lastRun).toBeNull()
    await shop.hand(`phones/${now.serial}/trust`, {})
    await waitFor(shop, number, isChecked, 'check off')
    end()
  })

  it('stops for people on both phones, says so on Today, and goes on with a yes', async () => {
    const shop = theShop()
    await addPhone(shop, old)
    await addPhone(shop, now)
    await addBoth()
    const number = await bookTicket(shop, old, now)
    await promised(number)
    let end = await straight(number)
    const stopped = await waitFor(shop, number, (t) => t.straight?.stop != null && t.run === null, 'a stop')
    expect(stopped.straight!.stop!.code).toBe('people-on-both')
    expect(stopped.straight!.stop!.of[0]).toMatchObject({ kind: 'contacts', code: '', items: 1 })
    const listed = (await readToday(shop.services)).tickets.find((t) => t.number === number)!
    expect(listed.straight!.stop!.code).toBe('people-on-both')
    end()
    // said once, however often it is looked at
    const stops = (await readCourse(shop.services, number)).filter(({ what }) => what === 'straight-stopped')
    expect(stops.map(({ code, by }) => [code, by])).toEqual([['people-on-both', null]])
    end = await straight(number, { on: true, agree: true })
    const over = await waitFor(shop, number, isChecked, 'check off')
    end()
    expect(over.straight!.stop).toBeNull()
  })

  it('joined people are an answer, too', async () => {
    const shop = theShop()
    await addPhone(shop, old)
    await addPhone(shop, now)
    await addBoth()
    const number = await bookTicket(shop, old, now)
    await promised(number)
    await countIn(shop, number)
    await decide(shop.services, number, { kind: 'contacts', body: { rule: 'sure' } })
    const end = await straight(number)
    await waitFor(shop, number, isChecked, 'check off')
    end()
  })

  it('an end after the promise is asked about; what has no room nobody can say yes to', async () => {
    const shop = theShop()
    const number = await plugged()
    await promised(number)
    await setStraightThrough(shop.services, number, { body: { on: true, agree: false }, ...as() })
    await countIn(shop, number)
    const late: Services = { ...shop.services, clock: { ...shop.services.clock, now: () => Date.now() + 7 * 3_600_000 } }
    await advanceStraight(late)
    const read = () => readTicket(shop.services, number, theShop().actor)
    expect((await read()).straight!.stop?.code).toBe('after-promise')
    await setStraightThrough(shop.services, number, { body: { on: true, agree: true }, ...as() })
    await advanceStraight(late)
    await waitFor(shop, number, isChecked, 'check off')
    // its figures stand among past tickets before it is erased, and are its ledger's
    const { ledger } = await read()
    const [row] = (await readPast(shop.services, pastBody.parse({ number }))).rows
    const sum = (of: (row: (typeof ledger)[number]) => number) => ledger.reduce((all, one) => all + of(one), 0)
    expect(row!.cameOver).toBeGreaterThan(0)
    expect([row!.read, row!.cameOver]).toEqual([
      sum(({ old: o }) => (o.read ?? 0) + o.late),
      sum(({ fates }) => fates.carried + fates.changed + fates.merged),
    ])
  })

  it('who stops the run stops what would go on by itself', async () => {
    const shop = theShop()
    await addPhone(shop, { ...old, people: { seed: 5, count: 2500 } })
    await addPhone(shop, now)
    const number = await bookTicket(shop, old, now)
    await promised(number)
    const end = await straight(number)
    await waitFor(shop, number, (t) => t.run !== null, 'a run')
    await stopTicketRun(shop.services, number)
    await new Promise((resolve) => setTimeout(resolve, 500))
    end()
    const ticket = await readTicket(shop.services, number, theShop().actor)
    expect([ticket.straight, ticket.run]).toEqual([null, null])
  })
})

describe('while others are still counted in', () => {
  it('a kind that is whole is chosen, and stays as it was chosen; one that is not is refused', async () => {
    const shop = theShop()
    // another maker's, where something of some is lost
    await addPhone(shop, { ...old, people: { seed: 5, count: 20, style: 'traps' }, calls: { seed: 3, count: 9000, style: 'plain' } })
    const other = { ...now, model: 'Tamsel M3' }
    await addPhone(shop, { ...other, people: { seed: 5, count: 3 } })
    const number = await bookTicket(shop, old, other, ['contacts', 'calls'])
    await startCountIn(shop.services, number, shop.actor)
    const counted = await waitFor(shop, number, (t) => t.run !== null && t.forecasts.length === 1, 'whole contacts')
    expect(counted.forecasts[0]!.changes.length).toBeGreaterThan(0)
    const none = { body: chooseBody.parse({ choice: 'none' }) }
    await choose(shop.services, number, { kind: 'contacts', ...none })
    await expect(choose(shop.services, number, { kind: 'calls', ...none })).rejects.toMatchObject({
      code: expect.stringMatching(/OldNotRead|PhoneBusy/),
    })
    const ticket = await waitFor(shop, number, (t) => t.run === null && t.forecasts.length === 2, 'count in')
    const [contacts, calls] = ['contacts', 'calls'].map((kind) => ticket.ledger.find((row) => row.kind === kind)!)
    expect(contacts!.fates).toMatchObject({ pending: 0, notChosen: contacts!.old.read! - contacts!.fates.unreadable })
    expect(contacts!.fates.notChosen).toBeGreaterThan(10)
    // what they would lose on the way is not why they stay: they do by choice
    expect(ticket.reasons.filter(({ kind, fate }) => kind === 'contacts' && fate === 'notChosen')).toEqual([])
    expect(calls!.fates.pending).toBeGreaterThan(100)
  })
})

describe('the course of a ticket', () => {
  it('is noted with the act or not at all, and holds no word of the customer after erasing', async () => {
    const shop = theShop()
    const canary = 'Quillfeather'
    const number = await bookTicket(shop, { ...old, serial: null }, { ...now, serial: null }, ['contacts', 'calls'])
    const doing: Services = { ...shop.services, doing: { ...as(), did: [{ what: 'kind-removed', kind: 'calls' }] } }
    await changeKinds(doing, number, { add: [], remove: ['calls'] })
    await expect(changeKinds(doing, number, { add: [], remove: ['contacts'] })).rejects.toMatchObject({ code: 'LastKind' })
    await note(shop.services, number, { words: `Mrs ${canary} wants the photos first`, ...as() })
    expect((await readToday(shop.services)).tickets.find((t) => t.number === number)!.lastNote).toContain(canary)
    await expect(handOver(shop.services, number, { to: 'Nobody', words: canary, ...as() })).rejects.toMatchObject({
      code: 'NobodyOfThatName',
    })
    await callOff(shop.services, number, { body: { why: canary, takeAway: false, typed: number }, ...as() })
    const before = await readCourse(shop.services, number)
    expect(before.map(({ what }) => what)).toEqual(['booked', 'kind-removed', 'note', 'called-off'])
    expect(before.map(({ words }) => words?.includes(canary) ?? false)).toEqual([false, false, true, true])
    await handBackAndErase(shop.services, number, number)
    const after = await readCourse(shop.services, number)
    expect(after.map(({ what, hasWords, words }) => [what, hasWords, words])).toEqual([
      ['booked', false, null],
      ['kind-removed', false, null],
      ['note', true, null],
      ['called-off', true, null],
    ])
    expect(JSON.stringify(after)).not.toContain(canary)
    const { rows } = await shop.services.pool.query(`select string_agg(a::text, ' ') as all from ticket_act a`)
    expect(rows[0].all).not.toContain(canary)
    await expect(note(shop.services, number, { words: 'x', ...as() })).rejects.toMatchObject({ code: 'TicketErased' })
  })

  it('a signed sheet keeps no word of a note in clear', async () => {
    const shop = theShop()
    const number = await plugged()
    await countIn(shop, number)
    await carry(shop, number)
    await waitFor(shop, number, isChecked, 'check off')
    await note(shop.services, number, { words: 'Thistledown rings at noon', ...as() })
    await sign(shop.services, number, { by: 'Ines Harrow', withWhatStands: true, ...as() })
    const { rows } = await shop.services.pool.query('select clear::text as clear from sheet')
    expect(rows.length).toBeGreaterThan(0)
    expect(rows.map(({ clear }) => clear).join(' ')).not.toMatch(/Thistledown|Ines Harrow|LO-\d|LN-\d/)
  })

  it('can’t be rewritten by the application', async () => {
    const { pool } = theShop().services
    await expect(pool.query(`update ticket_act set staff_id = null`)).rejects.toThrow('permission denied')
    await expect(pool.query(`delete from ticket_act`)).rejects.toThrow('permission denied')
  })

  it('a run that waits for the same thing again and again is noted once', async () => {
    const shop = theShop()
    const number = await plugged()
    await countIn(shop, number)
    await carry(shop, number)
    await shop.hand(`phones/${now.serial}/pull`, {})
    await waitFor(shop, number, (t) => t.run?.state === 'paused' || isChecked(t), 'a pause')
    await new Promise((resolve) => setTimeout(resolve, 3000))
    await shop.hand(`phones/${now.serial}/plug`, { port: 2 })
    await waitFor(shop, number, isChecked, 'check off')
    const waits = (await readCourse(shop.services, number)).filter(({ what }) => what === 'waits')
    expect(waits.length).toBeLessThanOrEqual(2)
    await sign(shop.services, number, { by: 'Ines Harrow', withWhatStands: true, ...as() }).catch(() => undefined)
  })

  it('every code is known to the contract', async () => {
    const { rows } = await theShop().services.pool.query<{ what: string }>('select distinct what from ticket_act')
    expect(rows.filter(({ what }) => !(actCodes as readonly string[]).includes(what))).toEqual([])
  })
})
