import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { expectAccessible, press, runShop, standing, type RunningShop } from '../setup/browser.ts'
import { addPhone, bookTicket } from '../setup/ticket.ts'

let running: RunningShop
let n = 0
beforeAll(async () => {
  running = await runShop()
})
afterAll(() => running.close())

interface Pair {
  readonly page: Page
  readonly number: string
  readonly serials: { readonly old: string; readonly now: string }
}
async function counted({ people = 20, calls = 0 } = {}): Promise<Pair> {
  for (const { serial } of (await running.shop.hand('phones')).phones) await running.shop.hand(`phones/${serial}/pull`, {})
  n++
  const [oldPhone, newPhone] = [
    { serial: `S-OLD-${n}`, model: 'Orrin 5', port: 1, people: { seed: 900 + n, count: people, style: 'plain' as const } },
    { serial: `S-NEW-${n}`, model: 'Orrin 9', port: 2, settle_ms: 100, joins_equal: false },
  ]
  await addPhone(running.shop, calls > 0 ? { ...oldPhone, calls: { seed: n, count: calls, style: 'plain' } } : oldPhone)
  await addPhone(running.shop, newPhone)
  const number = await bookTicket(running.shop, oldPhone, newPhone)
  const page = await running.open(`/tickets/${number}`)
  await press(page, /^Count in the Orrin 5/)
  await page.getByRole('button', { name: /^Carry [\d,]+ contacts/ }).waitFor()
  return { page, number, serials: { old: oldPhone.serial, now: newPhone.serial } }
}
const store = async (serial: string, kind = 'contacts') => (await running.shop.hand(`phones/${serial}/store?kind=${kind}`)).count as number
const row = (page: Page, kind: string) => page.getByRole('grid', { name: 'Ledger' }).locator(`tr[data-kind="${kind}"]`)
const figure = (page: Page, kind: string, column: string) => row(page, kind).locator(`[data-count="${column}"]`).innerText()

describe('second thoughts', () => {
  it('a kind is added when all else agrees, runs the line from where it is, and one of which nothing is written goes again', async () => {
    const { page, serials } = await counted({ people: 6, calls: 9 })
    await press(page, /^Carry 6 contacts/)
    await standing(page, 'May be handed over')
    const change = async (kind: string, isWanted: boolean) => {
      await press(page, 'More')
      await page.getByRole('menuitem', { name: 'Change what is carried…' }).click()
      const box = page.getByRole('dialog').getByLabel(kind)
      await box.setChecked(isWanted)
      await expectAccessible(page)
      await page.getByRole('dialog').getByRole('button', { name: 'Change what is carried' }).click()
      await page.getByRole('dialog').waitFor({ state: 'detached' })
    }
    await change('Calendar', true)
    await row(page, 'calendar').waitFor()
    await change('Calendar', false)
    await row(page, 'calendar').waitFor({ state: 'detached' })
    await change('Calls', true)
    // the helper asks the owner of the phones once more
    for (const serial of Object.values(serials)) await running.shop.hand(`phones/${serial}/allow-calls`, {}).catch(() => undefined)
    await standing(page, 'Not yet: calls are not counted.')
    await press(page, 'Count in the calls of both phones')
    await press(page, /^Carry 9 calls/)
    await standing(page, 'May be handed over')
    expect([await figure(page, 'contacts', 'last'), await figure(page, 'calls', 'last')]).toEqual(['6', '9'])
    expect([await store(serials.now), await store(serials.now, 'calls')]).toEqual([6, 9])
    await page.close()
  })

  it('after a stop in the middle what is not over can be left behind', async () => {
    const { page, serials } = await counted({ people: 4000 })
    await press(page, /^Carry 4,000 contacts/)
    await expect.poll(async () => Number((await figure(page, 'contacts', 'carried')).replace(',', ''))).toBeGreaterThan(0)
    await press(page, 'Stop here; what came over stays')
    await press(page, 'Choose again what is carried')
    await page.getByRole('button', { name: 'None', exact: true }).click()
    const count = async (column: string) => Number((await figure(page, 'contacts', column)).replace(/[^\d]/g, ''))
    // what is on its way is not to be left: the check finds out what became of it
    await expect.poll(() => count('notChosen')).toBeGreaterThan(0)
    await page.getByRole('button', { name: /Check off/ }).click()
    await press(page, 'Count both phones afresh and compare')
    await standing(page, 'May be handed over: the counts agree.')
    const over = await store(serials.now)
    expect(over).toBeGreaterThan(0)
    expect([await count('carried'), await count('notChosen')]).toEqual([over, 4000 - over])
    await page.close()
  })

  it('what was altered and carried again is taken away once the number is typed, and then the counts agree', async () => {
    const { page, number, serials } = await counted({ people: 8 })
    await running.shop.hand(`phones/${serials.now}/faults`, { faults: [{ point: 'write.record', effect: 'alter', skip: 0, times: 2 }] })
    await press(page, /^Carry 8 contacts/)
    await standing(page, 'contacts 2 short')
    await press(page, 'Put the 2 contacts back among what waits')
    await press(page, /^Carry 2 contacts/)
    await expect.poll(() => store(serials.now)).toBe(10)
    await standing(page, 'contacts 2 over')
    await expectAccessible(page)
    await page
      .getByTestId('left-behind')
      .getByLabel(/otherwise now/)
      .fill(number)
    await press(page, 'Take away all 2 contacts from port 2')
    await standing(page, 'May be handed over')
    expect(await store(serials.now)).toBe(8)
    await page.close()
  })

  it('called off with what was written taken away: the new phone is as it was, and the data is erased', async () => {
    const { page, number, serials } = await counted({ people: 5 })
    await press(page, /^Carry 5 contacts/)
    await standing(page, 'May be handed over')
    await press(page, 'More')
    await page.getByRole('menuitem', { name: 'Call the ticket off…' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByText('5 items of the OLD Orrin 5 stand on the NEW').waitFor()
    await dialog.getByLabel('Why, kept sealed with the ticket').fill('She keeps the old one')
    await dialog.getByLabel(/^Take away from port 2/).check()
    await dialog.getByLabel(`Type ${number}`).fill(number)
    await expectAccessible(page)
    await dialog.getByRole('button', { name: 'Call the ticket off' }).click()
    await standing(page, 'Called off: nothing more is carried.')
    await expect.poll(() => store(serials.now)).toBe(0)
    await page.getByLabel(`Type ${number}`).fill(number)
    await press(page, /^Hand back and erase/)
    await page
      .getByText(/data is erased/)
      .first()
      .waitFor()
    await page.close()
  })
})
