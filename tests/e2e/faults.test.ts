import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { press, runShop, standing, type RunningShop } from '../setup/browser.ts'
import { addPhone, bookTicket, type PhoneWish } from '../setup/ticket.ts'

let running: RunningShop
let n = 0
beforeAll(async () => {
  running = await runShop()
})
afterAll(() => running.close())

async function counted(oldCount: number, newCount = 3): Promise<{ page: Page; old: PhoneWish; now: PhoneWish; number: string }> {
  n++
  const { shop } = running
  for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
  const old = { serial: `E-OLD-${n}`, model: 'Orrin 5', port: 1, people: { seed: 60 + n, count: oldCount } }
  const now = { serial: `E-NEW-${n}`, model: 'Veyra 12', port: 2, people: { seed: 160 + n, count: newCount }, settle_ms: 300 }
  await addPhone(shop, old)
  await addPhone(shop, now)
  const number = await bookTicket(shop, old, now)
  const page = await running.open(`/tickets/${number}`)
  await press(page, /^Count in the Orrin 5/)
  await page.getByRole('button', { name: /^Carry [\d,]+ contacts/ }).waitFor()
  return { page, old, now, number }
}

describe('faults on the screen', () => {
  it('signs in with the right PIN only, and says so', async () => {
    const context = await running.browser.newContext()
    const page = await context.newPage()
    await page.goto(`${running.url}/tickets/T-0401`)
    await page.getByLabel('Name').fill('Rowan')
    await page.getByLabel('PIN').fill('0000')
    await press(page, 'Sign in')
    await page.getByText('Name and PIN do not go together. Try again.').waitFor()
    await page.getByLabel('PIN').fill('2468')
    await page.keyboard.press('Enter')
    await page.getByText('There is no ticket with this number.').waitFor()
    await context.close()
  })

  it('a pulled cable and a locked phone pause with a sentence; plugged in and unlocked it goes on by itself and agrees', async () => {
    const { page, now } = await counted(900)
    const { hand } = running.shop
    await hand(`phones/${now.serial}/faults`, { faults: [{ point: 'write.mid', effect: 'pull', skip: 150 }] })
    await press(page, /^Carry 900 contacts/)
    await standing(page, 'NEW Veyra 12: The phone is not plugged in. Plug it into any port.')
    await hand(`phones/${now.serial}/lock`, {})
    await hand(`phones/${now.serial}/plug`, { port: 5 })
    await standing(page, 'NEW Veyra 12, port 5: The phone is locked. Unlock it and keep its screen on.')
    await hand(`phones/${now.serial}/unlock`, {})
    await standing(page, 'May be handed over: the counts agree.')
    expect((await hand(`phones/${now.serial}/store`)).count).toBe(903)
    await page.close()
  })

  it('a refused trust question is said where the phone is made ready', async () => {
    const { shop } = running
    for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
    await shop.hand('phones', { serial: 'T-OLD', model: 'Orrin 5' })
    await addPhone(shop, { serial: 'T-NEW', model: 'Veyra 12', port: 2 })
    await shop.hand('phones/T-OLD/plug', { port: 1 })
    await shop.hand('phones/T-OLD/refuse', {})
    const number = await bookTicket(shop, { serial: 'T-OLD', model: 'Orrin 5', port: 1 }, { serial: 'T-NEW', model: 'Veyra 12', port: 2 })
    const page = await running.open(`/tickets/${number}`)
    await page.locator('[data-need="trusted"][data-state="unmet"]').first().waitFor()
    await shop.hand('phones/T-OLD/pull', {})
    await shop.hand('phones/T-OLD/plug', { port: 1 })
    await shop.hand('phones/T-OLD/trust', {})
    await page.getByRole('button', { name: /^Count in the Orrin 5/ }).waitFor()
    await page.close()
  })

  it('what a phone dropped is short, opens to its items, is accepted by name, and never reads as agreeing', async () => {
    const { page, now } = await counted(300)
    await running.shop.hand(`phones/${now.serial}/faults`, { faults: [{ point: 'write.record', effect: 'drop', skip: 20, times: 3 }] })
    await press(page, /^Carry 300 contacts/)
    await standing(page, 'Not yet: contacts 3 short.')
    await page.locator('tr[data-kind="contacts"]').getByText('3 short').waitFor()
    await page.locator('[data-count="notOver"]').click()
    await expect.poll(() => page.getByTestId('items-total').innerText()).toBe('3')
    await page.getByLabel('Close the items').click()
    await page.getByLabel(/The customer accepts 3 short/).fill('Ines Harrow')
    await press(page, 'Customer accepts 3 short')
    await standing(page, 'May be handed over: the customer accepts')
    await page.locator('tr[data-kind="contacts"]').getByText('Accepted: 3 short').waitFor()
    await page.close()
  })

  it('a new phone that holds ten times what the old one holds is asked about once, before anything is written', async () => {
    const { page, now } = await counted(4, 60)
    await press(page, /^Carry 4 contacts/)
    const dialog = page.getByRole('dialog')
    await dialog.getByText('Are the phones the right way round?').waitFor()
    await dialog.getByText('60 contacts').waitFor()
    expect((await running.shop.hand(`phones/${now.serial}/store`)).count).toBe(60)
    await dialog.getByRole('button', { name: /^Yes: carry to the Veyra 12 on port 2/ }).click()
    await standing(page, 'May be handed over')
    await page.close()
  })

  it('single contacts are chosen in the list; a click made twice starts one run', async () => {
    const { page, number } = await counted(30)
    await page.getByText('One by one').click()
    await page.getByLabel('Carry item 2', { exact: true }).uncheck()
    await page.locator('[data-count="notChosen"]').getByText('1', { exact: true }).waitFor()
    await page.getByLabel('Close the items').click()
    const carry = page.getByRole('button', { name: 'Carry 29 contacts to the Veyra 12' })
    await carry.dblclick()
    await standing(page, 'May be handed over')
    const { rows } = await running.shop.services.pool.query(
      `select count(*) as n from run r join ticket t on t.id = r.ticket_id where t.number = $1 and r.type = 'carry'`,
      [number],
    )
    expect(rows[0].n).toBe(1)
    await page.close()
  })

  it('a slow double click carries, and does not pause what it began', async () => {
    const { page } = await counted(900)
    await page.getByRole('button', { name: /^Carry 900 contacts/ }).click()
    await page.getByRole('button', { name: 'Pause' }).waitFor()
    for (const name of ['Pause', 'Stop here; what came over stays']) {
      const at = (await page.getByRole('button', { name }).boundingBox())!
      await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2)
      await page.mouse.down({ clickCount: 2 })
      await page.mouse.up({ clickCount: 2 })
    }
    await standing(page, 'May be handed over')
    await page.close()
  })

  it('the web process is killed mid-carry: the work goes on, and the page comes back by itself', async () => {
    const { page } = await counted(1200)
    await press(page, /^Carry 1,200 contacts/)
    await page.getByTestId('run').waitFor()
    await running.restartWeb()
    await standing(page, 'May be handed over: the counts agree.')
    await page.close()
  })

  it('works from the keyboard, and at 1024 wide without sideways scrolling', async () => {
    const page = await running.open('/', { width: 1024, height: 768 })
    await page.getByRole('table').waitFor()
    await page.keyboard.press('/')
    await page.keyboard.type('T-04')
    await page.keyboard.press('Escape')
    await page.locator('h1').click()
    await page.keyboard.press('j')
    await page.keyboard.press('Enter')
    await page.waitForURL(/tickets/)
    await page.getByRole('grid', { name: 'Ledger' }).waitFor()
    await page.keyboard.press('?')
    await page.getByRole('dialog').getByText('this list').waitFor()
    await page.keyboard.press('Escape')
    for (const path of ['/', '/book-in', '/practice', page.url().replace(running.url, '')]) {
      await page.goto(running.url + path)
      await page.locator('h1').waitFor()
      expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 1024])
    }
    await page.close()
  })
})

describe('the HTTP interface', () => {
  const call = (path: string, init: RequestInit = {}) => fetch(`${running.url}/api/${path}`, init)
  const bearer = () => ({ authorization: `Bearer ${running.shop.token}`, 'content-type': 'application/json' })

  it.each([
    ['no sign-in', 'today', {}, 401, 'NotSignedIn'],
    ['a wrong token', 'today', { headers: { authorization: 'Bearer x' } }, 401, 'NotSignedIn'],
    [
      'another site’s origin',
      'session',
      { method: 'POST', headers: { 'content-type': 'application/json', origin: 'https://example.org' }, body: '{}' },
      403,
      'WrongOrigin',
    ],
    ['another content type', 'session', { method: 'POST', headers: { 'content-type': 'text/plain' }, body: '{}' }, 415, 'WrongContentType'],
    ['a body that is none', 'session', { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' }, 400, 'BadRequest'],
  ])('%s is refused with a problem document (RFC 9457)', async (_, path, init, status, code) => {
    const response = await call(path, init as RequestInit)
    expect(response.status).toBe(status)
    expect(response.headers.get('content-type')).toContain('application/problem+json')
    expect(response.headers.get('cache-control') ?? 'no-store').toContain('no-store')
    expect(await response.json()).toMatchObject({ status, code, title: expect.stringMatching(/^[A-Z].*\.$/s) })
  })

  it('refuses modes that are not offered, by code', async () => {
    const { number, page } = await counted(3)
    await page.close()
    for (const mode of ['replace', 'undo', 'merge']) {
      const response = await call(`tickets/${number}/kinds/contacts/choose`, {
        method: 'POST',
        headers: bearer(),
        body: JSON.stringify({ choice: 'all', mode }),
      })
      expect([response.status, (await response.json()).code]).toEqual([409, 'ModeNotOffered'])
    }
    const unseen = await call(`tickets/${number}/carry`, {
      method: 'POST',
      headers: bearer(),
      body: JSON.stringify({ stamps: { contacts: 'old' } }),
    })
    expect((await unseen.json()).code).toBe('ForecastNotSeen')
    const search = await call(`tickets/${number}/entries`, {
      method: 'POST',
      headers: bearer(),
      body: JSON.stringify({ kind: 'contacts', text: 'a' }),
    })
    expect((await search.json()).code).toBe('ShowingNotAllowed')
  })

  it('a phone of another open ticket, and the same phone twice, can’t be booked in', async () => {
    const { shop } = running
    const phone: PhoneWish = { serial: 'DUP-1', model: 'Orrin 5', port: 1 }
    await bookTicket(shop, phone, { serial: 'DUP-2', model: 'Veyra 12', port: 2 })
    await expect(bookTicket(shop, phone, { serial: 'DUP-3', model: 'Veyra 12', port: 2 })).rejects.toThrow('PhoneOnOtherTicket')
    await expect(bookTicket(shop, { ...phone, serial: 'DUP-4' }, { serial: 'DUP-4', model: 'Veyra 12', port: 2 })).rejects.toThrow(
      'SamePhoneTwice',
    )
  })
})
