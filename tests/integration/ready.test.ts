import { mkdirSync, writeFileSync, rmSync, utimesSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { keepBench } from '#server/ready/keeper.ts'
import { readBenchEvent } from '#server/events/bench-event.ts'
import { exchangeNew, handOver, rest, resume } from '#server/desk/course.ts'
import { readGuides } from '#server/ready/guides.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { setNeed, setPutBack } from '#server/ready/act-ready.ts'
import { sign } from '#server/desk/hand-back/act.ts'
import { startCheck } from '#server/desk/check-off/act.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { setRoles } from '#server/desk/ready/roles.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { readToday } from '#server/desk/today/view.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, isChecked, waitFor, worker } from '../setup/ticket.ts'

let shop: TestShop
let n = 0
let old = { serial: '', model: 'Orrin 5', port: 1 }
let now = { serial: '', model: 'Veyra 12', port: 2 }
let number = ''
beforeAll(async () => {
  shop = await openShop()
})
afterAll(() => shop.close())
beforeEach(async () => {
  for (const { serial } of (await shop.hand('phones')).phones) await hand(serial, 'pull')
  n++
  old = { ...old, serial: `RO-${n}` }
  now = { ...now, serial: `RN-${n}` }
  await addPhone(shop, old)
  await addPhone(shop, now)
  number = await bookTicket(shop, old, now, ['contacts', 'messages', 'photos'])
})
const hand = (serial: string, act: string, body: object = {}) => shop.hand(`phones/${serial}/${act}`, body)
const ticket = () => readTicket(shop.services, number, shop.actor)
const need = async (side: 'old' | 'new', code: string) => (await ticket()).ready[side].needs.find((x) => x.code === code)
const say = (side: 'old' | 'new', code: string, how: 'ticked' | 'waived' | 'open', reason: 'customer-knows' | null = null) =>
  setNeed(shop.services, number, { body: { side, code, how, reason }, actor: shop.actor })

describe('needs of a ticket', () => {
  it('are those of the kinds that cross: messages to iOS ask for the locks off, and for a person’s look', async () => {
    const { ready, byHand } = await ticket()
    expect(byHand).toEqual([])
    expect(ready.new.needs.map((x) => x.code)).toEqual(expect.arrayContaining(['anti-theft-off', 'passcode-off', 'second-step']))
    expect(ready.old.needs.map((x) => x.code)).toEqual(expect.arrayContaining(['allow:contacts', 'allow:messages']))
    expect(ready.old.needs.map((x) => x.code)).not.toContain('allow:calls')
    expect((await ticket()).stage).toBe('make-ready')
  })

  it('are ticked by a person only where the phone can’t say, waived only with a reason, and taken back', async () => {
    await expect(say('new', 'anti-theft-off', 'ticked')).rejects.toMatchObject({ code: 'NeedNotTickable' })
    await expect(say('new', 'anti-theft-off', 'waived')).rejects.toMatchObject({ code: 'BadRequest' })
    await expect(say('old', 'bluetooth', 'waived', 'customer-knows')).rejects.toMatchObject({ code: 'NeedUnknown' })
    await say('new', 'second-step', 'ticked')
    expect(await need('new', 'second-step')).toMatchObject({ state: 'ticked' })
    await say('new', 'second-step', 'open')
    expect(await need('new', 'second-step')).toMatchObject({ state: 'ask' })
    await say('new', 'anti-theft-off', 'waived', 'customer-knows')
    expect(await need('new', 'anti-theft-off')).toMatchObject({ state: 'waived', reason: 'customer-knows' })
    await hand(now.serial, 'anti-theft-off')
    expect(await need('new', 'anti-theft-off')).toMatchObject({ state: 'met' })
  })

  it('hold the work up until all that must be is so', async () => {
    await expect(startCountIn(shop.services, number, shop.actor)).rejects.toMatchObject({
      code: 'PhonesNotReady',
      details: { side: 'new' },
    })
    for (const code of ['anti-theft-off', 'passcode-off']) await hand(now.serial, code)
    await say('new', 'second-step', 'ticked')
    await expect(startCountIn(shop.services, number, shop.actor)).resolves.toBeGreaterThan(0)
  })

  it('of a phone that is replaced are asked afresh', async () => {
    await say('new', 'second-step', 'ticked')
    await addPhone(shop, { serial: `OTHER-${n}`, model: 'Veyra 14', port: 5 })
    const seen = (await readToday(shop.services)).ports.flatMap(({ phone }) => (phone ? [phone] : []))
    await setRoles(shop.services, number, { newSerial: `OTHER-${n}` }, seen)
    expect(await need('new', 'second-step')).toMatchObject({ state: 'ask' })
    expect((await ticket()).new.model).toBe('Veyra 14')
  })
})

describe('what was changed for the move', () => {
  const putBack = async (side: 'old' | 'new') => Object.fromEntries((await ticket()).ready[side].putBack.map((x) => [x.code, x.state]))

  it('is what a phone reported otherwise when the ticket was booked, and nothing else', async () => {
    expect(await putBack('new')).toEqual({})
    await hand(now.serial, 'anti-theft-off')
    await keepBench(shop.services)
    expect(await putBack('new')).toEqual({ 'anti-theft-off': 'open' })
    await hand(now.serial, 'anti-theft-on')
    await keepBench(shop.services)
    expect(await putBack('new')).toEqual({ 'anti-theft-off': 'restored' })
    // the old phone was debugging before it came: that stays as it was
    expect(await putBack('old')).toEqual({})
  })

  it('a person’s tick counts where a person looked; where the phone speaks it must say so itself', async () => {
    await say('old', 'screen-stays-on', 'ticked')
    await hand(now.serial, 'anti-theft-off')
    await keepBench(shop.services)
    const done = (side: 'old' | 'new', code: string, how: 'ticked' | 'waived') =>
      setPutBack(shop.services, number, { body: { side, code, how, by: 'Ines Harrow' }, actor: shop.actor })
    await done('old', 'screen-stays-on', 'ticked')
    await expect(done('new', 'anti-theft-off', 'ticked')).rejects.toMatchObject({ code: 'NeedNotTickable' })
    await expect(done('new', 'debugging', 'ticked')).rejects.toMatchObject({ code: 'NeedUnknown' })
    // pulled, it can't say: a person looks
    await hand(now.serial, 'pull')
    await done('new', 'anti-theft-off', 'ticked')
    expect({ ...(await putBack('old')), ...(await putBack('new')) }).toEqual({ 'screen-stays-on': 'ticked', 'anti-theft-off': 'ticked' })
  })

  it('keeps the sheet from being final, and nothing of it outlives the erasing', async () => {
    const contactsOnly = await bookTicket(
      shop,
      { serial: `SO-${n}`, model: 'Orrin 5', port: 3 },
      { serial: `SN-${n}`, model: 'Veyra 12', port: 4 },
    )
    await hand(old.serial, 'pull')
    await shop.hand('phones', { serial: `SO-${n}`, model: 'Orrin 5' })
    await shop.hand(`phones/SO-${n}/fill`, { seed: 1, count: 3 })
    await addPhone(shop, { serial: `SN-${n}`, model: 'Veyra 12', port: 4 })
    await hand(`SO-${n}`, 'plug', { port: 3 })
    await keepBench(shop.services)
    await hand(`SO-${n}`, 'trust')
    await keepBench(shop.services)
    const hands = worker(shop)
    await countIn(shop, contactsOnly)
    await carry(shop, contactsOnly)
    await waitFor(shop, contactsOnly, isChecked, 'check off')
    hands.kill()
    await expect(sign(shop.services, contactsOnly, { by: 'Ines Harrow', actor: shop.actor })).rejects.toMatchObject({
      code: 'PutBackOpen',
    })
    await setPutBack(shop.services, contactsOnly, {
      body: { side: 'old', code: 'trusted', how: 'waived', by: 'Quillwort' },
      actor: shop.actor,
    })
    await sign(shop.services, contactsOnly, { by: 'Ines Harrow', actor: shop.actor })
    await handBackAndErase(shop.services, contactsOnly, contactsOnly)
    const { rows } = await shop.services.pool.query('select count(*) as n from put_back where by_name is not null')
    expect(rows[0].n).toBe(0)
  })
})

describe('the course of a ticket', () => {
  const said = { words: '', actor: { id: 1, name: 'Rowan' } }
  it('a resting ticket starts nothing, rests once, and is taken up once', async () => {
    await rest(shop.services, number, { ...said, actor: shop.actor, words: 'Quillwort' })
    await expect(rest(shop.services, number, { ...said, actor: shop.actor })).rejects.toMatchObject({ code: 'TicketRests' })
    await expect(startCountIn(shop.services, number, shop.actor)).rejects.toMatchObject({ code: 'TicketRests' })
    expect((await ticket()).notes).toMatchObject([{ what: 'rested', by: 'Rowan', words: 'Quillwort' }])
    const { rows } = await shop.services.pool.query('select words from ticket_act')
    expect(rows.every((row) => row.words === null || !row.words.toString('latin1').includes('Quillwort'))).toBe(true)
    await resume(shop.services, number, { ...said, actor: shop.actor })
    await expect(resume(shop.services, number, { ...said, actor: shop.actor })).rejects.toMatchObject({ code: 'NotResting' })
    expect((await ticket()).restingAt).toBeNull()
  })

  it('is handed only to somebody who works here', async () => {
    await expect(handOver(shop.services, number, { to: 'Nobody', words: '', actor: shop.actor })).rejects.toMatchObject({
      code: 'NobodyOfThatName',
    })
    await shop.addStaff(`Merryn${n}`, 'ME')
    await handOver(shop.services, number, { to: `merryn${n}`, words: '', actor: shop.actor })
    expect(await ticket()).toMatchObject({ heldBy: `Merryn${n}`, bookedBy: 'Rowan' })
  })

  it('a new phone is exchanged only for another that is plugged in and free', async () => {
    const seen = async () => (await readToday(shop.services)).ports.flatMap(({ phone }) => (phone ? [phone] : []))
    const exchange = async (serial: string) =>
      exchangeNew(shop.services, number, { serial, seen: await seen(), words: '', actor: shop.actor })
    await expect(exchange(now.serial)).rejects.toMatchObject({ code: 'SamePhoneAgain' })
    await expect(exchange(old.serial)).rejects.toMatchObject({ code: 'SamePhoneTwice' })
    await expect(exchange('NOWHERE')).rejects.toMatchObject({ code: 'NotPlugged' })
    await expect(startCheck(shop.services, number, shop.actor)).rejects.toMatchObject({ code: 'NotCarried' })
  })
})

describe('what the event stream tells of the bench', () => {
  it('is each ticket whose phones changed, once, and no word of a customer', async () => {
    const told = new Map<string, string>()
    const first = await readBenchEvent(shop.services, told)
    expect(first.tickets.map((t) => t.number)).toContain(number)
    expect((await readBenchEvent(shop.services, told)).tickets).toEqual([])
    await hand(old.serial, 'lock')
    const after = await readBenchEvent(shop.services, told)
    expect(after.tickets.map((t) => t.number)).toEqual([number])
    expect(after.ports[0]).toMatchObject({ ticket: number, side: 'old', state: 'waits', touch: { say: 'unlock' } })
    expect(JSON.stringify([first, after])).not.toMatch(/Harrow|07700/)
  })

  it('a phone that changed and is again as it was is told once more: a page may have looked in between', async () => {
    const told = new Map<string, string>()
    await readBenchEvent(shop.services, told)
    await hand(old.serial, 'lock')
    await hand(old.serial, 'unlock')
    expect((await readBenchEvent(shop.services, told, new Set([old.serial]))).tickets.map((t) => t.number)).toEqual([number])
    expect((await readBenchEvent(shop.services, told, new Set(['another']))).tickets).toEqual([])
  })

  it('a stranger is offered to the ticket that waits for its model, and to no other', async () => {
    const waiting = await bookTicket(shop, { serial: `WO-${n}`, model: 'Veyra 9', port: 7 }, { serial: null, model: 'Tamsel M3', port: 8 })
    await addPhone(shop, { serial: `ST-${n}`, model: 'Tamsel M3', port: 7 })
    await addPhone(shop, { serial: `SU-${n}`, model: 'Tamsel M2', port: 8 })
    const { ports } = await readToday(shop.services)
    expect(ports[6]).toMatchObject({ ticket: null, offers: [{ ticket: waiting, side: 'new' }] })
    expect(ports[7]).toMatchObject({ ticket: null, offers: [] })
  })
})

describe('the shop’s own guides', () => {
  const folder = () => join(shop.services.config.dataFolder, 'guides')
  const write = (name: string, text: string, seconds: number) => {
    mkdirSync(folder(), { recursive: true })
    writeFileSync(join(folder(), name), text)
    utimesSync(join(folder(), name), seconds, seconds)
  }
  it('are read when they come, again when they change, and forgotten when they go', () => {
    const before = readGuides(shop.services)
    expect(before.own).toEqual([])
    write('a.json', JSON.stringify({ id: 'ours', match: { platform: 'ios' }, needs: [{ code: 'charge', why: 'First word.' }] }), 1000)
    expect(readGuides(shop.services).own).toEqual(['ours'])
    write('a.json', '{ "id": ', 2000)
    expect(readGuides(shop.services)).toMatchObject({
      own: [],
      refused: [{ file: 'a.json', faults: [{ place: 'the file', rule: expect.stringContaining('it is not JSON') }] }],
    })
    write('b.json', JSON.stringify({ id: 'ours', match: { platform: 'ios' } }), 1000)
    write('c.json', JSON.stringify({ id: 'ours', match: { platform: 'ios' } }), 1000)
    // the same id twice: the first is used, the second refused
    expect(readGuides(shop.services)).toMatchObject({
      own: ['ours'],
      refused: [{ file: 'a.json' }, { file: 'c.json', faults: [{ place: 'id' }] }],
    })
    rmSync(folder(), { recursive: true })
    expect(readGuides(shop.services)).toMatchObject({ own: [], refused: [] })
  })
})
