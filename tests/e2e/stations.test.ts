import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { expectAccessible, press, runShop, standing, type RunningShop } from '../setup/browser.ts'
import { addPhone, bookTicket } from '../setup/ticket.ts'

let running: RunningShop
beforeAll(async () => {
  running = await runShop({ secondBench: true })
})
afterAll(() => running.close())

const stripOf = (page: Page, bench: string) => page.getByRole('list', { name: `Bench “${bench}”` })

describe('a shop with two benches', () => {
  it('shows both on every page, carries at the second, and asks for phones at one bench', async () => {
    const { shop } = running
    const window = { ...shop, hand: (path: string, body?: unknown) => shop.hand(`@window/${path}`, body) }
    const old = { serial: 'W-OLD', model: 'Orrin 5', port: 1, people: { seed: 3, count: 30, style: 'plain' as const } }
    const now = { serial: 'W-NEW', model: 'Orrin 9', port: 2 }
    await addPhone(window, old)
    await addPhone(window, now)
    const number = await bookTicket(shop, old, now)

    const today = await running.open('/')
    await stripOf(today, 'Window').getByText('Orrin 5').waitFor()
    expect(await stripOf(today, 'Bench').getByText('Orrin').count()).toBe(0)
    await today.getByText('2 of 16 ports in use').waitFor()
    await expectAccessible(today)
    await today.close()

    const page = await running.open(`/tickets/${number}`)
    await page.getByText('port 9').first().waitFor()
    await press(page, /^Count in the Orrin 5/)
    await press(page, /^Carry 30 contacts/)
    await standing(page, 'May be handed over: the counts agree.')

    // the new phone goes to the other bench, by the hand on the practice screen
    const practice = await running.open('/practice')
    const phone = practice.locator('[data-phone="W-NEW"]')
    await phone.getByText('Window').waitFor()
    await phone.getByText('port 10').waitFor()
    await phone.getByRole('button', { name: 'Pull the cable' }).click()
    await phone.getByText('not plugged in').waitFor()
    await phone.getByRole('combobox', { name: 'Port' }).selectOption({ label: 'port 14' })
    await phone.getByRole('button', { name: 'Plug in', exact: true }).click()
    await phone.getByText('port 14', { exact: true }).first().waitFor()
    await page.getByText('port 14').first().waitFor()
    await practice.close()

    const bench = await running.open('/bench')
    await bench.getByRole('heading', { name: 'Bench “Window”' }).waitFor()
    await bench.locator('[data-port="14"]').getByText('Orrin 9').waitFor()
    await expectAccessible(bench)
    await bench.close()
  })

  it('says where each phone is while they are apart', async () => {
    const { shop } = running
    const window = { ...shop, hand: (path: string, body?: unknown) => shop.hand(`@window/${path}`, body) }
    const old = { serial: 'A-OLD', model: 'Orrin 5', port: 3, people: { seed: 4, count: 5 } }
    const now = { serial: 'A-NEW', model: 'Orrin 9', port: 5 }
    await addPhone(shop, old)
    await addPhone(window, now)
    const page = await running.open(`/tickets/${await bookTicket(shop, old, now)}`)
    await page.locator('[data-touch="apart"]').getByText('OLD is at bench “Bench”, NEW at “Window”: plug both in at one').waitFor()
    await press(page, /^Count in the Orrin 5/)
    await page.getByText('The two phones are at two benches. Plug both in at one.').first().waitFor()
    await expectAccessible(page)
    await page.close()
  })
})
