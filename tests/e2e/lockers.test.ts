import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { expectAccessible, press, runShop, standing, type RunningShop } from '../setup/browser.ts'
import { addPhone } from '../setup/ticket.ts'

let running: RunningShop
beforeAll(async () => {
  running = await runShop()
})
afterAll(() => running.close())

describe('a copy in a locker, by the screen alone', () => {
  it('is made, looked into, kept longer, put back on another platform, and destroyed', async () => {
    const { shop } = running
    const old = {
      serial: 'LE-OLD',
      model: 'Orrin 5',
      port: 1,
      people: { seed: 41, count: 30, style: 'plain' as const },
      calls: { seed: 41, count: 25 },
    }
    await addPhone(shop, old)
    await shop.hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 41, count: 5 })
    const page = await running.open('/book-in')
    await page.getByLabel('Name', { exact: true }).fill('Ines Harrow')
    await page
      .getByRole('radio', { name: /Orrin 5/ })
      .first()
      .click()
    await page.getByLabel('Or keep a copy in a locker of the shop’s').check()
    expect(await page.getByLabel('Kept until, the day included').inputValue()).toMatch(/^\d{4}-\d{2}-\d{2}$/)
    for (const kind of ['Messages', 'Calendar', 'Apps']) await page.getByLabel(kind, { exact: true }).uncheck()
    await expectAccessible(page)
    await press(page, 'Book the ticket in')
    await page.getByText(/copy \d+, kept until/).waitFor()
    await press(page, /^Count in the/)
    await press(page, /^Carry 60 items to the locker/)
    await standing(page, 'May be handed over')
    await expectAccessible(page)
    const number = new URL(page.url()).pathname.split('/').at(-1)!
    await page.getByLabel('Signed by').fill('Ines Harrow')
    await press(page, 'The sheet is signed')
    await page.getByTestId('not-printed').getByRole('checkbox').check()
    await page.getByLabel(/^Type T-/).fill(number)
    await press(page, /erase/i)
    await standing(page, 'Handed back')

    // what is kept, with its counts, that open to their kinds
    await page.goto(`${running.url}/lockers`)
    const row = page.locator('[data-copy]').first()
    await row.getByText('I. H.').waitFor()
    await row.getByText('nothing short').waitFor()
    await row.getByRole('button', { name: '60 items' }).click()
    const sum = row.getByRole('row', { name: /^All/ })
    expect(await sum.innerText()).toMatch(/^All\s+60\s/)
    await expectAccessible(page)
    await row.getByRole('button', { name: /^Keep until… copy/ }).click()
    const day = new Date(Date.now() + 200 * 86_400_000).toISOString().slice(0, 10)
    await page.getByLabel('Kept until, the day included').fill(day)
    await press(page, 'Keep it until then')
    await row.getByText(String(new Date(day).getUTCFullYear())).waitFor()

    // looked into as into a phone: masked until shown
    await row.getByRole('button', { name: /^Look into it/ }).click()
    await page.getByText(/^As of .*nothing was short then/).waitFor()
    await page.getByRole('button', { name: '30 contacts: In the copy' }).click()
    await page
      .locator('aside')
      .getByText(/Names are hidden/)
      .waitFor()
    expect(await page.getByTestId('items').or(page.locator('aside')).first().innerText()).toContain('30')
    await expectAccessible(page)
    await press(page, /^Close the items/)
    await press(page, 'Close the look')
    await page.getByText(/This look is closed/).waitFor()

    // compared with the phone as it is now: three people came since
    await shop.hand(`phones/${old.serial}/fill`, { seed: 977, count: 3 })
    await page.goto(`${running.url}/lockers`)
    await row.getByRole('button', { name: /^Compare… copy/ }).click()
    await page.getByLabel('The Orrin 5 in port 1, as it is now').check()
    await expectAccessible(page)
    await page.getByRole('dialog').getByRole('button', { name: 'Compare' }).click()
    await page.getByRole('button', { name: '3 contacts: Only in the Orrin 5' }).waitFor()
    await page.getByRole('button', { name: '30 contacts: In both' }).click()
    await page.getByText('contacts: in both', { exact: false }).first().waitFor()
    await expectAccessible(page)
    await press(page, /^Close the items/)
    await press(page, 'Close the look')
    await page.getByText(/This look is closed/).waitFor()

    // put back on another platform
    await shop.hand(`phones/${old.serial}/pull`, {})
    const now = { serial: 'LE-NEW', model: 'Orrin 9', port: 2, joins_equal: false }
    await addPhone(shop, now)
    await page.goto(`${running.url}/lockers`)
    await page.getByRole('link', { name: /^Put back copy/ }).click()
    await page.getByLabel('Or put a copy back').waitFor()
    await page.getByLabel('Name', { exact: true }).fill('Ines Harrow')
    await page
      .getByRole('group', { name: 'New phone' })
      .getByRole('radio', { name: /Orrin 9/ })
      .click()
    for (const kind of ['Messages', 'Calendar', 'Apps']) await page.getByLabel(kind, { exact: true }).uncheck()
    await press(page, 'Book the ticket in')
    await page.getByText(/copy \d+, as of/).waitFor()
    await press(page, /^Count in the/)
    await press(page, /^Carry 60 items to the Orrin 9/)
    await standing(page, 'May be handed over')
    expect((await shop.hand(`phones/${now.serial}/store?kind=contacts`)).count).toBe(30)
    expect((await shop.hand(`phones/${now.serial}/store?kind=photos`)).count).toBe(5)
    const back = new URL(page.url()).pathname.split('/').at(-1)!
    await page.getByLabel('Signed by').fill('Ines Harrow')
    await press(page, 'The sheet is signed')
    await page.getByTestId('not-printed').getByRole('checkbox').check()
    await page.getByLabel(/^Type T-/).fill(back)
    await press(page, /erase/i)
    await standing(page, 'Handed back')

    // destroyed before its date, by its number typed
    await page.goto(`${running.url}/lockers`)
    const copy = (await row.getAttribute('data-copy'))!
    await row.getByRole('button', { name: /^Destroy… copy/ }).click()
    await page.getByLabel('Why').selectOption('put-back')
    await page.getByLabel(`Type ${copy} to confirm`).fill(copy)
    await press(page, 'Destroy it now')
    await page.getByText(/^No copy is kept/).waitFor()
    await page.getByLabel('Destroyed ones').check()
    await page
      .getByTestId('copy-gone')
      .getByText(/It was put back/)
      .waitFor()
    await expectAccessible(page)
    expect((await shop.services.pool.query('select 1 from copy_record')).rows).toEqual([])
    await page.close()
  })
})
