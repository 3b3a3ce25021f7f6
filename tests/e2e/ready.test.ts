import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { expectAccessible, press, quiet, runShop, standing, type RunningShop } from '../setup/browser.ts'
import { addPhone, bookTicket, clearBench, type PhoneWish } from '../setup/ticket.ts'

let running: RunningShop
let n = 0
beforeAll(async () => {
  running = await runShop()
})
afterAll(() => running.close())

const hand = (path: string, body: object = {}) => running.shop.hand(path, body)
const need = (page: Page, side: 'old' | 'new', code: string, state: string) =>
  page.locator(`section[data-side="${side}"] [data-need="${code}"][data-state="${state}"]`).waitFor()

async function readyPair({ old = 'Orrin 5', now = 'Veyra 12', people = 20, kinds = ['contacts'] } = {}): Promise<{
  page: Page
  number: string
  oldPhone: PhoneWish
  newPhone: PhoneWish
}> {
  await clearBench(running.shop)
  n++
  const oldPhone = { serial: `R-OLD-${n}`, model: old, port: 3, people: { seed: 700 + n, count: people } }
  const newPhone = { serial: `R-NEW-${n}`, model: now, port: 4, settle_ms: 200 }
  await addPhone(running.shop, oldPhone)
  await addPhone(running.shop, newPhone)
  const number = await bookTicket(running.shop, oldPhone, newPhone, kinds)
  const page = await running.open(`/tickets/${number}`)
  await page.getByRole('button', { name: /^Count in the/ }).waitFor()
  return { page, number, oldPhone, newPhone }
}

describe('the screen follows the phones, with no request but the open event stream', () => {
  it('a need ticks and unticks itself: locked, cable fallen back, permission withdrawn, too hot, debugging off', async () => {
    const { page, oldPhone } = await readyPair()
    const { serial } = oldPhone
    await page.getByRole('button', { name: /Make ready/ }).click()
    await page.getByText('Making ready').waitFor()
    await quiet(page)
    const asked: string[] = []
    page.on('request', (request) => void asked.push(request.url()))
    await hand(`phones/${serial}/lock`)
    await need(page, 'old', 'unlocked', 'unmet')
    await hand(`phones/${serial}/unlock`)
    await need(page, 'old', 'unlocked', 'met')
    await hand(`phones/${serial}/withdraw`, { kind: 'contacts' })
    await need(page, 'old', 'allow:contacts', 'unmet')
    await page
      .locator('[data-touch="old"]')
      .getByText(/allow contacts/)
      .waitFor()
    await hand(`phones/${serial}/allow-contacts`)
    await need(page, 'old', 'allow:contacts', 'met')
    await hand(`phones/${serial}/set`, { temperature: 47 })
    await need(page, 'old', 'cool', 'unmet')
    await hand(`phones/${serial}/cool-down`)
    await need(page, 'old', 'cool', 'met')
    await hand(`phones/${serial}/cable-charging`)
    await page.locator('section[data-side="old"][data-sight="unseen"]').waitFor()
    await page.getByText('port 3 draws current').waitFor()
    await hand(`phones/${serial}/cable-files`)
    await need(page, 'old', 'cable-files', 'met')
    await hand(`phones/${serial}/pull`)
    await page.locator('section[data-side="old"][data-sight="absent"]').waitFor()
    await hand(`phones/${serial}/plug`, { port: 7 })
    await page.locator('section[data-side="old"]').getByText('port 7').waitFor()
    await need(page, 'old', 'trusted', 'met')
    expect(asked).toEqual([])
    await page.close()
  })

  it('a question nobody answers goes by, and the causes lead to asking it again', async () => {
    await clearBench(running.shop)
    await hand('phones', { serial: 'GOES-BY', model: 'Veyra 10', version: '16' })
    await hand('phones/GOES-BY/set', { prompt_ms: 700 })
    await addPhone(running.shop, { serial: 'GOES-TO', model: 'Orrin 9', port: 2 })
    await hand('phones/GOES-BY/plug', { port: 1 })
    const number = await bookTicket(
      running.shop,
      { serial: 'GOES-BY', model: 'Veyra 10', port: 1 },
      { serial: 'GOES-TO', model: 'Orrin 9', port: 2 },
    )
    const page = await running.open(`/tickets/${number}`)
    await page.getByText('Seen, and says nothing?').waitFor()
    await page.locator('[data-cause="question-gone"]').waitFor({ state: 'attached' })
    await hand('phones/GOES-BY/set', { prompt_ms: 60_000 })
    await hand('phones/GOES-BY/replug')
    await page.locator('[data-touch="old"]').waitFor()
    await hand('phones/GOES-BY/trust')
    await page.getByRole('button', { name: /^Count in the/ }).waitFor()
    await page.close()
  })

  it('the bench shows a stranger, offers it to the ticket that waits for its model, and makes it show a mark', async () => {
    await clearBench(running.shop)
    await addPhone(running.shop, { serial: 'B-OLD', model: 'Veyra 9', port: 5 })
    const number = await bookTicket(
      running.shop,
      { serial: 'B-OLD', model: 'Veyra 9', port: 5 },
      { serial: null, model: 'Tamsel M3', port: 6 },
    )
    const page = await running.open('/bench')
    await page.locator('[data-port="5"][data-state="waits"], [data-port="5"][data-state="ready"]').waitFor()
    await page.getByText('named by its model only').waitFor()
    await expectAccessible(page)
    // two of one model side by side: told apart by serial, port and mark
    for (const [serial, port] of [
      ['TW-1', 6],
      ['TW-2', 7],
    ] as const)
      await addPhone(running.shop, { serial, model: 'Tamsel M3', port })
    await page.locator('[data-port="7"]').getByText('TW-2').waitFor()
    await page.locator('[data-port="7"]').getByRole('button', { name: 'Show “7” on it' }).click()
    await expect.poll(async () => (await running.shop.hand('phones/TW-2')).markedText).toBe('7')
    await page
      .locator('[data-port="7"]')
      .getByRole('button', { name: `It is ${number}’s NEW` })
      .click()
    await page.locator('[data-port="7"]').getByText('NEW', { exact: true }).waitFor()
    await page.locator('[data-port="6"]').getByRole('link', { name: 'Book it in' }).click()
    await page.waitForURL(/book-in\?port=6/)
    await expect
      .poll(() => page.getByRole('group', { name: 'Old phone' }).getByRole('radio', { checked: true }).innerText())
      .toContain('Tamsel M3')
    await page.close()
  })
})

describe('guards, each with its sentence', () => {
  const post = (path: string, body: object = {}) =>
    fetch(`${running.url}/api/${path}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${running.shop.token}`, 'content-type': 'application/json' },
      body: JSON.stringify(body),
    }).then((r) => r.json() as Promise<{ code?: string; title?: string }>)
  const roles = (number: string, body: object) => post(`tickets/${number}/roles`, body)

  it('the same phone twice, a phone of another open ticket, one that is not plugged in', async () => {
    const { page, number, oldPhone } = await readyPair()
    await addPhone(running.shop, { serial: `OTHER-${n}`, model: 'Orrin 9', port: 8 })
    await bookTicket(running.shop, { serial: `OTHER-${n}`, model: 'Orrin 9', port: 8 }, { serial: null, model: 'Veyra 14', port: 1 })
    expect(await roles(number, { newSerial: oldPhone.serial! })).toMatchObject({ code: 'SamePhoneTwice' })
    expect(await roles(number, { newSerial: `OTHER-${n}` })).toMatchObject({ code: 'PhoneOnOtherTicket' })
    expect(await roles(number, { newSerial: 'NOWHERE' })).toMatchObject({ code: 'NotPlugged' })
    await page.close()
  })

  it('roles can be exchanged and one replaced before writing, and freeze at the first write', async () => {
    const { page, number, oldPhone, newPhone } = await readyPair({ people: 3 })
    await page.getByRole('button', { name: /Make ready/ }).click()
    await press(page, 'Exchange old and new')
    await page.locator('section[data-side="old"]').getByText('Veyra 12').waitFor()
    await press(page, 'Exchange old and new')
    await page.locator('section[data-side="old"]').getByText('Orrin 5').waitFor()
    await addPhone(running.shop, { serial: `SPARE-${n}`, model: 'Veyra 14', port: 8 })
    await press(page, 'Another phone is NEW')
    await page.getByLabel('Which port is the NEW phone in?').selectOption({ label: `port 8: Veyra 14, SPARE-${n}` })
    await press(page, 'This is the NEW phone')
    // another model than was booked: asked about, and nothing is named before it is answered
    await press(page, 'No: choose another phone')
    await page.locator('section[data-side="new"]').getByText('Veyra 12').waitFor()
    await press(page, 'This is the NEW phone')
    await press(page, 'Yes: the Veyra 14 is the NEW phone')
    await page.locator('section[data-side="new"]').getByText('Veyra 14').waitFor()
    expect(await roles(number, { newSerial: newPhone.serial! })).toEqual({ ok: true })
    await page
      .getByRole('button', { name: /Count in/ })
      .first()
      .click()
    await press(page, /^Count in the Orrin 5/)
    await press(page, /^Carry 3 contacts/)
    await standing(page, 'May be handed over')
    expect(await roles(number, { oldSerial: newPhone.serial!, newSerial: oldPhone.serial! })).toMatchObject({
      code: 'RolesFrozen',
      title: expect.stringContaining('Writing has begun'),
    })
    await page.close()
  })

  it('a new phone with data while the old one is empty is asked about before anything is written', async () => {
    await clearBench(running.shop)
    await addPhone(running.shop, { serial: 'EMPTY-O', model: 'Orrin 5', port: 1 })
    await addPhone(running.shop, { serial: 'EMPTY-N', model: 'Veyra 12', port: 2, people: { seed: 1, count: 6 } })
    const number = await bookTicket(
      running.shop,
      { serial: 'EMPTY-O', model: 'Orrin 5', port: 1 },
      { serial: 'EMPTY-N', model: 'Veyra 12', port: 2 },
    )
    const page = await running.open(`/tickets/${number}`)
    await press(page, /^Count in the Orrin 5/)
    await page.getByTestId('exchange-question').waitFor()
    await page.close()
  })

  it('nothing starts while a phone is not ready, nor under 20% without charging; a waiver lets it start', async () => {
    const { page, number, oldPhone } = await readyPair({ people: 4 })
    await hand(`phones/${oldPhone.serial}/set`, { battery: 9, is_charging: false })
    expect(await post(`tickets/${number}/count-in`)).toMatchObject({ code: 'BatteryLow', title: expect.stringContaining('20%') })
    await need(page, 'old', 'charge', 'unmet')
    await hand(`phones/${oldPhone.serial}/remove-helper`)
    await hand(`phones/${oldPhone.serial}/set`, { battery: 50 })
    expect(await post(`tickets/${number}/count-in`)).toMatchObject({ code: 'PhonesNotReady' })
    // the needs are on the page only while one is open: the helper's is, until it is back
    await need(page, 'old', 'charge', 'met')
    await hand(`phones/${oldPhone.serial}/install-helper`)
    await page
      .getByRole('button', { name: /^Count in the/ })
      .first()
      .waitFor()
    await hand(`phones/${oldPhone.serial}/set`, { battery: 9 })
    await need(page, 'old', 'charge', 'unmet')
    await page.locator('section[data-side="old"] [data-need="charge"] button').click()
    await press(page, 'Go on without it…')
    await page.getByLabel('Reason').selectOption('customer-knows')
    await press(page, 'Waive “Charge it”')
    await press(page, /^Count in the Orrin 5/)
    await page.getByRole('button', { name: /^Carry 4 contacts/ }).waitFor()
    expect(await post(`tickets/${number}/needs`, { side: 'old', code: 'helper', how: 'ticked' })).toMatchObject({ code: 'NeedNotTickable' })
    expect(
      await post(`tickets/${number}/needs`, { side: 'old', code: 'passcode-off', how: 'waived', reason: 'customer-knows' }),
    ).toMatchObject({ code: 'NeedUnknown' })
    await page.close()
  })

  it('a job that must not be taken is not booked in, on the screen and by HTTP', async () => {
    await clearBench(running.shop)
    const page = await running.open('/book-in')
    await page.locator('[data-question="lost"]').getByText('Yes').click()
    await page.getByText('A phone reported lost is not moved.').waitFor()
    await expectAccessible(page)
    expect(await page.getByRole('button', { name: 'Book the ticket in' }).isDisabled()).toBe(true)
    await press(page, 'All asked: nothing stands against it')
    await page.getByTestId('intake-verdict').getByText('Can be taken', { exact: true }).waitFor()
    const phone = (model: string) => ({ place: 'bench', maker: 'Orrin', model, platform: 'android', version: '13', serial: null })
    const body = {
      customer: { name: 'Perrin Leeming' },
      old: phone('Orrin 5'),
      new: phone('Orrin 9'),
      kinds: ['contacts'],
      promisedAt: '2026-11-24T16:00:00Z',
    }
    expect(await post('tickets', { ...body, intake: { lost: 'yes' } })).toMatchObject({ code: 'MustNotTake' })
    expect(await post('tickets', { ...body, intake: { lost: 'perhaps' } })).toMatchObject({ code: 'BadRequest' })
    await page.close()
  })
})

describe('life interrupts', () => {
  it('a permission withdrawn while carrying pauses and says so; given again, it goes on by itself and agrees', async () => {
    const { page, newPhone } = await readyPair({ people: 1500 })
    await press(page, /^Count in the Orrin 5/)
    await press(page, /^Carry 1,500 contacts/)
    await page.getByTestId('run').waitFor()
    await hand(`phones/${newPhone.serial}/withdraw`, { kind: 'contacts' })
    await standing(page, 'NEW Veyra 12, port 4: Contacts. The phone does not allow this kind to be read or written.')
    await page.locator('[data-touch="new"]').waitFor()
    await expectAccessible(page)
    await hand(`phones/${newPhone.serial}/allow-contacts`)
    await standing(page, 'May be handed over: the counts agree.')
    expect((await running.shop.hand(`phones/${newPhone.serial}/store`)).count).toBe(1500)
    await page.close()
  })

  it('a phone that gets too hot rests, cools down and goes on by itself', async () => {
    const { page, newPhone } = await readyPair({ people: 900 })
    // so hot by one write that it is seen however slow the machine is; and then nearly cool
    await hand(`phones/${newPhone.serial}/set`, { heat_per_write: 60, is_live: true, temperature: 34 })
    await press(page, /^Count in the Orrin 5/)
    await press(page, /^Carry 900 contacts/)
    await standing(page, 'The phone is too hot.')
    await hand(`phones/${newPhone.serial}/set`, { heat_per_write: 0, temperature: 47 })
    await standing(page, 'May be handed over: the counts agree.')
    await page.close()
  })

  it('stops and gives both phones back with an interim sheet, rests, is taken up on other ports, and agrees', async () => {
    const { page, number, oldPhone, newPhone } = await readyPair({ people: 1800 })
    await press(page, /^Count in the Orrin 5/)
    await press(page, /^Carry 1,800 contacts/)
    await page.getByTestId('run').waitFor()
    await press(page, 'More')
    await page.getByRole('menuitem', { name: 'Stop and give both phones back…' }).click()
    await page.getByLabel('Note, kept sealed with the ticket').fill('Has to catch the ferry')
    await page.getByRole('dialog').getByRole('button', { name: 'Stop and give both phones back' }).click()
    await standing(page, 'it rests, and both phones were given back')
    await page.getByText('Has to catch the ferry').waitFor()
    for (const { serial } of [oldPhone, newPhone]) await hand(`phones/${serial}/pull`)
    const sheet = await running.open(`/sheet/${number}`)
    await sheet.getByText('Interim sheet: the counts are not agreed yet.').waitFor()
    await sheet.getByText('both phones were given back', { exact: false }).first().waitFor()
    await sheet.close()
    await hand(`phones/${oldPhone.serial}/plug`, { port: 7 })
    await hand(`phones/${newPhone.serial}/plug`, { port: 8 })
    await press(page, `Take ${number} up again`)
    await press(page, /^Carry [\d,]+ contacts to the Veyra 12/)
    await standing(page, 'May be handed over: the counts agree.')
    expect((await running.shop.hand(`phones/${newPhone.serial}/store`)).count).toBe(1800)
    await page.close()
  })

  it('is handed to a colleague with a note, and held by her then', async () => {
    const { page } = await readyPair()
    await running.shop.addStaff('Merryn', 'ME')
    await press(page, 'More')
    await page.getByRole('menuitem', { name: 'Hand to a colleague…' }).click()
    await page.getByRole('dialog').getByLabel('To').selectOption('Merryn')
    await page.getByLabel('Note, kept sealed with the ticket').fill('Waits for his password')
    await page.getByRole('dialog').getByRole('button', { name: 'Hand the ticket to a colleague' }).click()
    await page.getByText('Waits in the shop · Merryn').waitFor()
    await page.getByRole('list', { name: 'Notes of the course' }).getByText('Waits for his password').waitFor()
    await page.close()
  })

  it('a faulty new phone is exchanged after writing began; what was left behind stays so, and the other phone agrees', async () => {
    const { page, newPhone } = await readyPair({ people: 40 })
    await press(page, /^Count in the Orrin 5/)
    await page.getByText('One by one').click()
    await page.getByLabel('Carry item 3', { exact: true }).uncheck()
    await page.locator('[data-count="notChosen"]').getByText('1', { exact: true }).waitFor()
    await page.getByLabel('Close the items').click()
    await press(page, 'Carry 39 contacts to the Veyra 12')
    await standing(page, 'May be handed over')
    await addPhone(running.shop, { serial: `X-${n}`, model: 'Tamsel M3', port: 8, settle_ms: 200 })
    await press(page, 'More')
    await page.getByRole('menuitem', { name: 'Exchange the new phone…' }).click()
    await page
      .getByRole('dialog')
      .getByLabel('Its place is taken by the phone on')
      .selectOption({ label: `port 8: Tamsel M3, X-${n}` })
    await page.getByRole('dialog').getByRole('button', { name: 'Exchange the new phone' }).click()
    await page.getByText('the Veyra 12 was given back', { exact: false }).waitFor()
    await press(page, /^Count in the Orrin 5 and the Tamsel M3/)
    await press(page, 'Carry 39 contacts to the Tamsel M3')
    await standing(page, 'May be handed over')
    expect((await running.shop.hand(`phones/X-${n}/store`)).count).toBe(39)
    expect((await running.shop.hand(`phones/${newPhone.serial}/store`)).count).toBe(39)
    await page.close()
  })
})

describe('what was changed for the move', () => {
  it('is listed per phone, ticked from the phone when restored, waived by name; the sheet is final only then', async () => {
    await clearBench(running.shop)
    n++
    const [old, now] = [`P-OLD-${n}`, `P-NEW-${n}`]
    await hand('phones', { serial: old, model: 'Orrin 5', version: '13' })
    await hand(`phones/${old}/fill`, { seed: n, count: 5 })
    await hand(`phones/${old}/turn-off-debugging`)
    await hand(`phones/${old}/plug`, { port: 1 })
    await addPhone(running.shop, { serial: now, model: 'Veyra 12', port: 2 })
    const number = await bookTicket(running.shop, { serial: old, model: 'Orrin 5', port: 1 }, { serial: now, model: 'Veyra 12', port: 2 })
    const page = await running.open(`/tickets/${number}`)
    await need(page, 'old', 'debugging', 'unmet')
    await hand(`phones/${old}/turn-on-debugging`)
    await need(page, 'old', 'trusted', 'unmet')
    await hand(`phones/${old}/trust`)
    await press(page, /^Count in the Orrin 5/)
    await press(page, /^Carry 5 contacts/)
    await standing(page, 'May be handed over')
    const item = (code: string, state: string) => page.locator(`[data-put-back="${code}"][data-state="${state}"]`)
    await item('debugging', 'open').waitFor()
    await item('trusted', 'open').waitFor()
    expect(await page.locator('[data-put-back]').count()).toBe(2)
    await expectAccessible(page)
    await page.getByLabel('Signed by').fill('Ines Harrow')
    expect(await page.getByRole('button', { name: 'The sheet is signed' }).isDisabled()).toBe(true)
    const sheet = await running.open(`/sheet/${number}`)
    await sheet.getByText('Still to be put back').waitFor()
    await sheet.close()
    await hand(`phones/${old}/turn-off-debugging`)
    await item('debugging', 'restored').waitFor()
    await item('trusted', 'open').getByRole('button', { name: 'Waive…' }).click()
    await page.getByLabel('The customer leaves it, by name').fill('Ines Harrow')
    await press(page, /^Waive$/)
    await item('trusted', 'waived').waitFor()
    await press(page, 'The sheet is signed')
    await page.getByText('Signed by').waitFor()
    await page.close()
  })
})

describe('the guide', () => {
  it('shows every model with its versions and the pair table, and finds a step by a word of it', async () => {
    const page = await running.open('/guide')
    await page.getByRole('heading', { name: 'Making it ready' }).waitFor()
    expect(await page.getByRole('navigation', { name: 'Models' }).getByRole('listitem').count()).toBeGreaterThanOrEqual(10)
    await page.getByRole('button', { name: /^Veyra 12 iOS/ }).click()
    await page.getByLabel('The other phone').selectOption({ label: 'Orrin 9' })
    await page.locator('[data-crossing="calls"][data-state="changed"]').waitFor()
    await page.getByRole('button', { name: 'To the Veyra 12 from' }).click()
    await page.locator('[data-crossing="calls"][data-state="cannot"]').getByText('the platform lets nobody write its call log').waitFor()
    await expectAccessible(page)
    await page.getByLabel('Find a model, a platform, or a word of a step').fill('passcode')
    await page.locator('[data-guide-need="trusted"]').waitFor()
    expect(await page.locator('[data-guide-need="charge"]').count()).toBe(0)
    await page.close()
  })

  it('takes the shop’s own guide, and refuses a bad one with the place and the rule', async () => {
    running.shop.writeData(
      'guides/ours.json',
      JSON.stringify({
        id: 'ours',
        match: { platform: 'ios', maker: 'Veyra', model: 'Veyra 12' },
        needs: [{ code: 'charge', why: 'Ours go off at 30%.' }],
      }),
    )
    running.shop.writeData(
      'guides/wrong.json',
      JSON.stringify({ id: 'wrong', match: { platform: 'ios' }, needs: [{ code: 'charge', weight: 'perhaps' }] }),
    )
    const page = await running.open('/guide')
    await page.getByText('The shop’s guide wrong.json is not used.').waitFor()
    await page.getByText(/at needs\.0\.weight:/).waitFor()
    await page.getByRole('button', { name: /^Veyra 12 iOS/ }).click()
    await page.getByText('Ours go off at 30%.').waitFor({ state: 'attached' })
    await page.getByText('The shop’s own: ours').waitFor()
    await page.close()
  })
})
