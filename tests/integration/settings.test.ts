import { describe, expect, it } from 'vitest'
import { pastBody } from '#contracts/http/shop.ts'
import { signIn } from '#server/case/auth.ts'
import { forgetSerials } from '#server/case/tickets.queries.ts'
import { callOff } from '#server/desk/hand-back/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { readPast } from '#server/desk/past.ts'
import {
  changeStaff,
  firstStart,
  hire,
  isNewShop,
  namePort,
  readSettings,
  setCounterpartWord,
  setShop,
} from '#server/desk/shop/settings.ts'
import { setShopsCounterpart } from '#server/endpoints/counterparts.queries.ts'
import { bookTicket, useShop } from '../setup/ticket.ts'
import type { StaffId } from '#server/base/ids.ts'

const theShop = useShop()
const services = () => theShop().services
const actor = () => theShop().actor
const settings = () => readSettings(services(), actor())
const enter = (name: string, pin: string) => signIn(services().pool, { name, pin, address: name, browser: undefined, session: undefined })

describe('the shop’s own settings', () => {
  it('each change is in the log, with what it was before; what stays is no change', async () => {
    const before = (await settings()).shop
    await setShop(services(), { name: 'Quay Phones', serialDays: 30, zone: before.zone, receiptTerms: 'Ready when we ring.' }, actor())
    const { shop, changes } = await settings()
    expect(shop).toMatchObject({ name: 'Quay Phones', serialDays: 30, receiptTerms: 'Ready when we ring.', address: before.address })
    expect(changes.map(({ what, before: was, after, by }) => [what, was, after, by])).toEqual([
      ['receiptTerms', '', 'Ready when we ring.', 'Rowan'],
      ['serialDays', '90', '30', 'Rowan'],
      ['name', before.name, 'Quay Phones', 'Rowan'],
    ])
  })

  it('a new member of staff signs in; a new PIN ends their sessions; who is let go can’t; the last can’t be let go', async () => {
    await hire(services(), { name: 'Tamsin', initials: 'TA', pin: '7788' }, actor())
    await expect(hire(services(), { name: 'tamsin', initials: 'TX', pin: '1111' }, actor())).rejects.toMatchObject({ code: 'NameTaken' })
    await enter('Tamsin', '7788')
    const { id } = (await settings()).staff.find(({ name }) => name === 'Tamsin')!
    const sessions = async () => (await services().pool.query('select 1 from session where staff_id = $1', [id])).rowCount
    expect(await sessions()).toBe(1)
    await changeStaff(services(), id as StaffId, { pin: '9911', initials: 'TM' }, actor())
    expect(await sessions()).toBe(0)
    await expect(enter('Tamsin', '7788')).rejects.toMatchObject({ code: 'WrongPin' })
    await enter('Tamsin', '9911')
    const log = JSON.stringify((await settings()).changes)
    expect(log).toContain('"pin"')
    expect(log).not.toMatch(/7788|9911/)
    await changeStaff(services(), id as StaffId, { isActive: false }, actor())
    expect(await sessions()).toBe(0)
    await expect(enter('Tamsin', '9911')).rejects.toMatchObject({ code: 'WrongPin' })
    for (const { id: other, isActive, isYou } of (await settings()).staff)
      if (isActive && !isYou) await changeStaff(services(), other as StaffId, { isActive: false }, actor())
    await expect(changeStaff(services(), actor().id, { isActive: false }, actor())).rejects.toMatchObject({ code: 'LastStaff' })
  })

  it('ports have names, and lose them', async () => {
    await namePort(services(), 3, 'Window bench', actor())
    expect((await settings()).shop.portNames).toEqual({ 3: 'Window bench' })
    await namePort(services(), 3, '', actor())
    expect((await settings()).shop.portNames).toEqual({})
  })

  it('what is remembered of counterparts is seen, corrected and forgotten', async () => {
    const word = { appId: 'nobody.knows.this', platform: 'ios' } as const
    await setShopsCounterpart(services().pool, { ...word, counterpartId: 'id1', staffId: actor().id })
    expect((await settings()).counterparts).toMatchObject([{ appId: 'nobody.knows.this', counterpartId: 'id1', by: 'Rowan' }])
    await setCounterpartWord(services(), { ...word, counterpartId: null }, actor())
    expect((await settings()).counterparts[0]!.counterpartId).toBeNull()
    await setCounterpartWord(services(), word, actor())
    expect((await settings()).counterparts).toEqual([])
    await expect(setCounterpartWord(services(), word, actor())).rejects.toMatchObject({ code: 'NotFound' })
  })
})

describe('an empty shop', () => {
  it('is set up once, by whoever opens it first', async () => {
    const { pool } = services()
    const first = {
      shop: { name: 'New Shop', address: '', zone: 'Europe/Paris', locale: 'fr-FR' },
      staff: { name: 'Elowen', initials: 'EL', pin: '2468' },
    } as const
    expect(await isNewShop(services())).toBe(false)
    await expect(firstStart(services(), first)).rejects.toMatchObject({ code: 'NotNew' })
    await pool.query('update staff set is_active = false')
    expect(await isNewShop(services())).toBe(true)
    const both = await Promise.allSettled([
      firstStart(services(), first),
      firstStart(services(), { ...first, staff: { ...first.staff, name: 'Other' } }),
    ])
    expect(both.filter(({ status }) => status === 'fulfilled')).toHaveLength(1)
    expect((await settings()).shop).toMatchObject({ name: 'New Shop', zone: 'Europe/Paris', locale: 'fr-FR' })
    await pool.query(`update staff set is_active = (id = $1)`, [actor().id])
  })
})

describe('past tickets', () => {
  const past = async (wish: object) => readPast(services(), pastBody.parse(wish))
  it('are found by number, serial, date, staff, model and outcome; figures stay after erasing; a serial as long as it is kept', async () => {
    const book = (o: string, n: string) =>
      bookTicket(theShop(), { serial: o, model: 'Orrin 5', port: 1 }, { serial: n, model: 'Veyra 12', port: 2 })
    const [a, b] = [await book('PA-1', 'PA-2'), await book('PB-1', 'PB-2')]
    await callOff(services(), a, { body: { why: 'changed her mind', takeAway: false, typed: a }, actor: actor() })
    await handBackAndErase(services(), a, a)
    const numbers = async (wish: object) => (await past(wish)).rows.map(({ number }) => number)
    expect(await numbers({})).toEqual([b, a])
    expect(await numbers({ number: a.toLowerCase() })).toEqual([a])
    expect(await numbers({ number: '_' })).toEqual([])
    expect(await numbers({ serial: 'PA-1' })).toEqual([a])
    expect(await numbers({ serial: 'PB-2' })).toEqual([b])
    expect(await numbers({ outcome: 'called-off' })).toEqual([a])
    expect(await numbers({ outcome: 'open' })).toEqual([b])
    expect(await numbers({ model: 'veyra' })).toEqual([b, a])
    expect(await numbers({ model: 'Tamsel' })).toEqual([])
    expect(await numbers({ staff: 'Rowan' })).toEqual([b, a])
    expect(await numbers({ staff: 'Nobody' })).toEqual([])
    expect(await numbers({ to: '2020-01-01' })).toEqual([])
    expect((await past({ number: a })).rows[0]).toMatchObject({ isErased: true, read: 0, cameOver: 0, outcome: 'called-off' })
    const { rows, total, next } = await past({ limit: 1 })
    expect([rows.length, total]).toEqual([1, 2])
    expect(await numbers({ limit: 1, after: next })).toEqual([a])
    await services().pool.query(`update ticket set handed_back_at = now() - interval '31 days' where number = $1`, [a])
    await services().pool.query('update shop set serial_days = 30')
    await forgetSerials(services().pool)
    expect(await numbers({ serial: 'PA-1' })).toEqual([])
    expect(await numbers({ number: a })).toEqual([a])
  })
})
