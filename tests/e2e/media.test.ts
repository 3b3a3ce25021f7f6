import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { setNeed } from '#server/ready/act-ready.ts'
import { expectAccessible, press, runShop, standing, type RunningShop } from '../setup/browser.ts'
import { photosOf } from '../setup/photos.ts'
import { addPhone, bookTicket, type PhoneWish } from '../setup/ticket.ts'

let running: RunningShop
let n = 0
beforeAll(async () => {
  running = await runShop()
})
afterAll(() => running.close())

interface Wish {
  readonly to?: string
  readonly count?: number
  readonly large?: number
  readonly style?: 'traps' | 'plain'
  readonly apps?: number
  readonly kinds?: string[]
}

/** Two phones with photos, and what else a test asks for, counted in on the screen. */
async function counted(
  { to = 'Veyra 12', count = 40, large, style = 'plain', apps, kinds = ['photos'] }: Wish = {},
  open?: { width: number; height: number },
): Promise<{ page: Page; old: PhoneWish; now: PhoneWish; number: string }> {
  n++
  const { shop } = running
  for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
  const old: PhoneWish = {
    serial: `M-OLD-${n}`,
    model: 'Orrin 5',
    port: 1,
    ...(kinds.includes('contacts') ? { people: { seed: 40 + n, count: 30 } } : {}),
  }
  const now: PhoneWish = { serial: `M-NEW-${n}`, model: to, port: 2, version: '18', settle_ms: 200 }
  await addPhone(shop, old)
  await addPhone(shop, now)
  await shop.hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 300 + n, count, style, ...(large ? { large } : {}) })
  if (apps) await shop.hand(`phones/${old.serial}/fill`, { kind: 'apps', seed: 30, count: apps })
  const number = await bookTicket(shop, old, now, kinds)
  if (kinds.includes('apps') && to.startsWith('Veyra'))
    await setNeed(shop.services, number, { body: { side: 'new', code: 'second-step', how: 'ticked', reason: null }, actor: shop.actor })
  const page = await running.open(`/tickets/${number}`, open)
  await press(page, /^Count in the Orrin 5/)
  await page.getByRole('button', { name: /^Carry [\d,]+ (items|photos)/ }).waitFor({ timeout: 60_000 })
  return { page, old, now, number }
}
describe('photos on the screen', () => {
  it('the grid is masked, chosen by key and by mark, asks for a screen of pictures at the most, and only while they are shown', async () => {
    const { page, number } = await counted({ count: 120, style: 'traps' })
    await page.locator('tr[data-kind="photos"] [data-count="count"]').click()
    const grid = page.getByTestId('photo-grid')
    await grid.locator('[data-tile="0"]').waitFor()
    expect(await grid.locator('img').count()).toBe(0)
    expect(running.urls.filter((url) => url.includes('thumbnail'))).toEqual([])
    // masked: no file name anywhere on the page
    expect(await page.locator('main').innerText()).not.toMatch(/IMG_|\.jpg/i)
    await expectAccessible(page)
    const tiles = await grid.locator('[data-tile]').count()
    expect(tiles).toBeLessThan(60)
    await grid.locator('[data-tile="0"]').focus()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('ArrowDown')
    await expect.poll(() => page.evaluate(() => (document.activeElement as HTMLElement).dataset.tile)).toBe('7')
    await page.keyboard.press('Space')
    await expect.poll(async () => (await page.locator('tr[data-kind="photos"] [data-count="notChosen"]').innerText()).trim()).toBe('3')
    await page.getByRole('button', { name: 'Show the pictures…' }).click()
    await page.getByLabel('Choose single items').check()
    await press(page, 'Show names for 10 minutes')
    await grid.locator('img').first().waitFor()
    const asked = () => running.urls.filter((url) => url.includes(`${number}/thumbnail`)).length
    await expect.poll(asked).toBeGreaterThan(10)
    // and no more come than there are tiles
    await page.waitForTimeout(2500)
    expect(asked()).toBeLessThanOrEqual(await grid.locator('[data-tile]').count())
    // hidden again, they are gone from the page
    await page.getByRole('button', { name: 'Hide them now' }).click()
    await expect.poll(() => grid.locator('img').count()).toBe(0)
    await page.close()
  })

  it('a cable pulled in the middle of a file: the screen says so, it goes on by file, and agrees without a half file', async () => {
    const { page, old, now } = await counted({ to: 'Orrin 9', count: 30, large: 20_000_000 })
    const { hand } = running.shop
    await hand(`phones/${now.serial}/faults`, { faults: [{ point: 'file.mid', effect: 'pull', skip: 30 }] })
    await press(page, /^Carry 31 photos/)
    await standing(page, 'NEW Orrin 9: The phone is not plugged in. Plug it into any port.')
    await hand(`phones/${now.serial}/plug`, { port: 2 })
    await standing(page, 'May be handed over: the counts agree.')
    const files = async (serial: string) => (await photosOf(running.shop, serial)).flatMap((r) => r.files).sort()
    expect(await files(now.serial)).toEqual(await files(old.serial))
    expect((await hand(`phones/${now.serial}/loose`)).count).toBe(0)
    await page.close()
  })

  it('storage that fills up waits with its sentence, keeps what is over, and goes on once there is room', async () => {
    const { page, old, now } = await counted({ to: 'Orrin 9', count: 20, large: 8_000_000 })
    const { hand } = running.shop
    await hand(`phones/${now.serial}/faults`, { faults: [{ point: 'file.mid', effect: 'full', skip: 9 }] })
    await press(page, /^Carry 21 photos/)
    await standing(page, 'The phone’s storage is full. Free some space on it, then go on.')
    await expect.poll(async () => (await page.locator('tr[data-kind="photos"] [data-count="pending"]').innerText()).trim()).toBe('12')
    await hand(`phones/${now.serial}/free-space`, {})
    await standing(page, 'May be handed over: the counts agree.')
    expect((await photosOf(running.shop, now.serial)).flatMap((r) => r.files).sort()).toEqual(
      (await photosOf(running.shop, old.serial)).flatMap((r) => r.files).sort(),
    )
    await page.close()
  })

  it('what has no room does not start; a way out is pressed, and it does', async () => {
    const { page, now } = await counted({ to: 'Orrin 9', count: 30, large: 60_000_000 })
    await running.shop.hand(`phones/${now.serial}/set`, { free_bytes: 1_930_000_000 })
    const ways = page.getByTestId('ways-out')
    await ways.waitFor()
    expect(await page.getByRole('button', { name: /^Carry 31 photos/ }).isDisabled()).toBe(true)
    await expectAccessible(page)
    await ways.getByRole('button', { name: /Without files of 50 MB and more/ }).click()
    await press(page, /^Carry 30 photos/)
    await standing(page, 'May be handed over: the counts agree.')
    await page.close()
  })

  it('light kinds are over while photos still run; it is paused and resumed; months open with their table', async () => {
    const { page, old } = await counted({ to: 'Orrin 9', count: 20, large: 9_000_000, kinds: ['contacts', 'photos'] })
    const { hand } = running.shop
    await hand(`phones/${old.serial}/set`, { cable: 'slow' })
    await press(page, /^Carry 51 items/)
    await page.locator('[data-stretch="media"][data-state="running"]').waitFor()
    expect(await page.locator('[data-stretch="light"]').getAttribute('data-state')).toBe('over')
    await press(page, 'Pause')
    await standing(page, 'Paused.')
    await expectAccessible(page)
    await hand(`phones/${old.serial}/set`, { cable: 'data' })
    await press(page, 'Resume')
    await standing(page, 'May be handed over: the counts agree.')
    await press(page, 'Photos by month, old against new')
    await page.locator('[data-testid="months-chart"] canvas').waitFor()
    expect((await page.locator('[data-testid="months-chart"] canvas').boundingBox())!.height).toBeGreaterThan(200)
    const foot = page.getByRole('table', { name: 'By month' }).locator('tfoot td')
    expect(await foot.allInnerTexts()).toEqual(['21', '21', '21', '21'])
    await expectAccessible(page)
    await page.keyboard.press('Escape')
    await page.close()
  })

  it('works at 1024 wide: ledger, tiles and panel stand side by side', async () => {
    const { page } = await counted({ count: 20 }, { width: 1024, height: 768 })
    await page.locator('tr[data-kind="photos"] [data-count="count"]').click()
    await page.getByTestId('photo-grid').locator('[data-tile="0"]').waitFor()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024)
    await page.close()
  })
})

describe('apps on the screen', () => {
  it('counterparts, the install list with its code, tied apps, and what is left to the customer', async () => {
    const { page, now, number } = await counted({ count: 2, apps: 16, kinds: ['photos', 'apps'] })
    await page.getByRole('row', { name: /^Apps/ }).getByRole('button').first().click()
    const board = page.getByTestId('apps')
    await board.waitFor()
    expect(
      await board
        .locator('th[scope="row"]')
        .allInnerTexts()
        .then((all) => all.every((text) => /hidden name/.test(text))),
    ).toBe(true)
    await expectAccessible(page)
    const tied = board.getByRole('checkbox')
    const open = await tied.count()
    expect(open).toBeGreaterThan(1)
    await tied.first().check()
    await board.getByText(`${open - 1} ${open === 2 ? 'app is' : 'apps are'} tied to the old phone`).waitFor()
    // apps the customer installs are nothing to carry
    await press(page, /^Carry 2 photos/)
    await standing(page, /apps are left to the customer’s list/)
    await page.goto(`${running.url}/sheet/${number}`)
    const list = page.getByTestId('install-list')
    await list.locator('svg').waitFor()
    // the customer, on a phone of their own, signed in nowhere
    const link = /http:\S+\/list\/[A-Z2-9]{12}/.exec(await list.innerText())![0]
    const theirs = await (await running.browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
    await theirs.goto(link)
    await theirs.getByRole('heading', { name: /^Apps to install on your / }).waitFor()
    await expectAccessible(theirs)
    expect(await theirs.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    const id = (await theirs.locator('li a').first().getAttribute('href'))!.split('/').at(-1)!
    await theirs.goto(link.replace(/.{12}$/, 'ABCDEFGHJKLM'))
    await theirs.getByText('There is no list here any more').waitFor()
    await theirs.context().close()
    await running.shop.hand(`phones/${now.serial}/install`, { id })
    await page.goto(`${running.url}/tickets/${number}`)
    await press(page, 'Count both phones again')
    await expect
      .poll(async () => (await page.locator('tr[data-kind="apps"] [data-count="changed"]').innerText()).trim(), { timeout: 30_000 })
      .toBe('1')
    // no name of an app was in an address
    expect(running.urls.filter((url) => /org\.example/.test(url))).toEqual([])
    await page.close()
  })
})
