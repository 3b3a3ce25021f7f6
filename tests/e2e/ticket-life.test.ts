import type { Page } from 'playwright-core'
import type { TicketView } from '#contracts/http/ticket.ts'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { expectAccessible, press, runShop, standing, type RunningShop } from '../setup/browser.ts'
import { pin } from '../setup/shop.ts'
import { note } from '#server/desk/course.ts'
import { setStraightThrough } from '#server/desk/straight.ts'
import { addPhone, bookTicket, isChecked, waitFor } from '../setup/ticket.ts'

let running: RunningShop
let n = 0
beforeAll(async () => {
  running = await runShop()
})
afterAll(() => running.close())

async function pair({ people = 20, kinds = ['contacts'] } = {}) {
  for (const { serial } of (await running.shop.hand('phones')).phones) await running.shop.hand(`phones/${serial}/pull`, {})
  n++
  const old = { serial: `L-OLD-${n}`, model: 'Orrin 5', port: 1, people: { seed: 700 + n, count: people, style: 'plain' as const } }
  const now = { serial: `L-NEW-${n}`, model: 'Orrin 9', port: 2, settle_ms: 100, joins_equal: false }
  await addPhone(running.shop, old)
  await addPhone(running.shop, now)
  return { old, now, number: await bookTicket(running.shop, old, now, kinds) }
}
/** Counts presses as a technician would: what is clicked and what is sent by Enter. */
async function counting(page: Page): Promise<() => Promise<number>> {
  await page.evaluate(() => {
    const seen = globalThis as unknown as { presses: number }
    seen.presses = 0
    addEventListener('click', (event) => (event.target as HTMLElement).closest('button, a, [role="menuitem"]') && seen.presses++, true)
  })
  return () => page.evaluate(() => (globalThis as unknown as { presses: number }).presses)
}
const menu = async (page: Page, name: string) => {
  await press(page, 'More')
  await page.getByRole('menuitem', { name }).click()
}

describe('straight through', () => {
  it('from two ready phones to a signed sheet in at most six presses on the screen', async () => {
    const { number } = await pair({ people: 900 })
    const page = await running.open(`/tickets/${number}`)
    const presses = await counting(page)
    const elsewhere = await running.open('/guide')
    await press(page, /^Straight through/)
    // whichever page one is on, the tab says how far it is
    await expect.poll(() => elsewhere.title(), { timeout: 30_000 }).toContain(number)
    await standing(page, 'May be handed over')
    await expect.poll(() => elsewhere.title(), { timeout: 10_000 }).not.toContain(number)
    await elsewhere.close()
    await page.getByLabel('Signed by').fill('Ines Harrow')
    await press(page, 'The sheet is signed')
    await page.getByText('Signed by Ines Harrow').waitFor()
    expect(await presses()).toBeLessThanOrEqual(6)
    await expectAccessible(page)
    await page.close()
  })

  it('its end is noticed on whichever page one is, once this browser wants it: a sound, and a notice that names no customer', async () => {
    const { number } = await pair()
    const page = await running.open('/guide')
    await page.addInitScript(() => {
      const seen = globalThis as unknown as { tones: number; notices: string[] }
      seen.tones = 0
      seen.notices = []
      const start = OscillatorNode.prototype.start
      OscillatorNode.prototype.start = function (...args) {
        seen.tones++
        start.apply(this, args)
      }
      class Told {
        static permission = 'granted'
        static requestPermission = async () => 'granted'
        constructor(title: string, { body }: { body: string }) {
          seen.notices.push(`${title}: ${body}`)
        }
      }
      Object.defineProperty(globalThis, 'Notification', { value: Told })
      document.hasFocus = () => false
    })
    const told = () => page.evaluate(() => (({ tones, notices }) => ({ tones, notices }))(globalThis as never))
    const run = async () => {
      await setStraightThrough(running.shop.services, number, { body: { on: true, agree: false }, actor: running.shop.actor })
      await waitFor(running.shop, number, isChecked, 'check off')
    }
    await page.goto(`${running.url}/settings`)
    await page.getByLabel('A quiet sound when a ticket is over or waits for a hand').check()
    // what it is like is heard when it is chosen
    await expect.poll(async () => (await told()).tones).toBe(2)
    await page.getByLabel(/A notice of the computer’s own/).check()
    await page.goto(`${running.url}/guide`)
    await page.getByRole('heading', { level: 1 }).waitFor()
    expect(await told()).toEqual({ tones: 0, notices: [] })
    await run()
    await expect.poll(told).toEqual({ tones: 2, notices: [expect.stringContaining(`Corvend: ${number}`)] })
    expect(JSON.stringify(await told())).not.toContain('Ines')
    await page.evaluate(() => localStorage.clear())
    await page.close()
  })

  it('waits for somebody where it must be decided, says so on Today, and goes on with a yes', async () => {
    const { number, old, now } = await pair()
    const person = { given: 'Joined', family: 'Sure', phones: [{ v: '+447700900501', t: 'cell' }] }
    await running.shop.hand(`phones/${old.serial}/add`, { persons: [{ person: { ...person, company: 'Harbour office' } }] })
    await running.shop.hand(`phones/${now.serial}/add`, { persons: [{ person: { ...person, note: 'Rings at noon' } }] })
    const page = await running.open(`/tickets/${number}`)
    await press(page, /^Straight through/)
    await standing(page, 'straight through waits for you, as there are people on both phones')
    await expectAccessible(page)
    const today = await running.open('/')
    await today
      .getByRole('row', { name: new RegExp(number) })
      .getByText('Decide: there are people on both phones')
      .waitFor()
    await today.close()
    await press(page, 'Carry them as they are')
    await standing(page, 'May be handed over')
    await page.close()
  })

  it('is said at Book in, too', async () => {
    for (const { serial } of (await running.shop.hand('phones')).phones) await running.shop.hand(`phones/${serial}/pull`, {})
    await addPhone(running.shop, { serial: 'L-B-1', model: 'Orrin 5', port: 1, people: { seed: 1, count: 5 } })
    await addPhone(running.shop, { serial: 'L-B-2', model: 'Orrin 9', port: 2 })
    const page = await running.open('/book-in')
    await page.getByLabel('Name').fill('Odile Sallow')
    await page
      .getByRole('group', { name: 'Old phone' })
      .getByRole('radio', { name: /Orrin 5/ })
      .click()
    await page
      .getByRole('group', { name: 'New phone' })
      .getByRole('radio', { name: /Orrin 9/ })
      .click()
    for (const kind of ['Messages', 'Calls', 'Calendar', 'Photos', 'Apps']) await page.getByLabel(kind, { exact: true }).uncheck()
    await page.getByLabel(/^Straight through/).check()
    await press(page, 'Book the ticket in')
    await page.waitForURL(/tickets/)
    await standing(page, 'May be handed over')
    await page.close()
  })
})

describe('a ticket’s life', () => {
  it('is changed, noted, told of, and called off from Today; who did what stays when it is erased', async () => {
    const { number } = await pair()
    const page = await running.open(`/tickets/${number}`)
    await page.getByRole('button', { name: /Book in$/ }).click()
    await page.getByTestId('booking').getByText('Ines Harrow').waitFor()
    await press(page, 'Change the booking')
    await page.getByLabel('Name').fill('Odile Sallow')
    await page.getByLabel('Customer waits in the shop').uncheck()
    await press(page, 'Keep the changes')
    await page.getByTestId('booking').getByText('Odile Sallow').waitFor()
    await page.getByText('Comes back').first().waitFor()
    await expectAccessible(page)

    await menu(page, 'Add a note…')
    await page.getByRole('dialog').getByRole('textbox').fill('Wants the photos first')
    await press(page, 'Add a note')
    await page.getByTestId('last-note').getByText('Wants the photos first').waitFor()

    await menu(page, 'Tell the customer…')
    await page.getByRole('dialog').getByRole('button', { name: 'It will be late' }).click()
    expect(await page.getByTestId('letter').inputValue()).toContain(number)
    expect(await page.getByTestId('letter').inputValue()).not.toContain('Odile')
    await expectAccessible(page)
    await page.getByRole('dialog').getByRole('button', { name: 'Copy the text' }).click()
    await page.keyboard.press('Escape')

    const today = await running.open('/')
    const row = today.getByRole('row', { name: new RegExp(number) })
    await row.getByText('Wants the photos first').waitFor()
    await row.getByRole('button', { name: `More of ${number}` }).click()
    await today.getByRole('menuitem', { name: 'Call the ticket off…' }).click()
    await today.getByText('Nothing was written on the NEW Orrin 9').waitFor()
    await today.getByLabel('Why, kept sealed with the ticket').fill('Bought elsewhere')
    await today.getByLabel(`Type ${number}`).fill(number)
    await expectAccessible(today)
    await press(today, 'Call the ticket off')
    await row.getByText('Called off').waitFor()
    await today.close()

    await page.goto(`${running.url}/course/${number}`)
    const acts = () => page.locator('[data-act]').evaluateAll((rows) => rows.map((one) => one.getAttribute('data-act')))
    await expect.poll(acts).toEqual(['booked', 'edited', 'edited', 'note', 'told', 'called-off'])
    await page.getByText('“Bought elsewhere”').waitFor()
    await press(page, 'Notes and hand-overs')
    expect(await acts()).toEqual(['note', 'told', 'called-off'])
    await expectAccessible(page)
    await page.goto(`${running.url}/tickets/${number}`)
    await page.getByLabel(`Type ${number}`).fill(number)
    await press(page, /^Hand back and erase/)
    await page.getByTestId('standing').getByText('Handed back').waitFor()
    await page.getByRole('link', { name: 'Who did what' }).click()
    await expect.poll(acts).toEqual(['booked', 'edited', 'edited', 'note', 'told', 'called-off', 'erased'])
    expect(await page.locator('main').innerText()).not.toMatch(/Bought elsewhere|photos first/)
    await page.close()
  })

  it('the receipt names what is wanted, what can’t cross and the shop’s terms; the sheet ends with the shop’s words', async () => {
    const { number } = await pair()
    const settings = await running.open('/settings')
    await settings.getByLabel('Words on the receipt: the shop’s terms').fill('Collect within 30 days.')
    await settings.getByLabel('Words at the end of the sheet').fill('Thank you for coming.')
    await press(settings, 'Keep the changes')
    await settings.getByRole('table', { name: 'Changes of settings' }).getByText('Words on the receipt').waitFor()
    await expectAccessible(settings)
    await settings.close()
    const page = await running.open(`/receipt/${number}`)
    const text = await page.getByTestId('receipt').innerText()
    for (const word of [number, 'Ines Harrow', 'Orrin 5, L-OLD', 'Contacts', 'Ready by', 'Collect within 30 days.'])
      expect(text).toContain(word)
    await expectAccessible(page)
    // on the paper that was chosen, and on one sheet of it
    for (const [paper, size] of [
      ['A6', [298, 420]],
      ['A4', [595, 842]],
    ] as const) {
      await press(page, paper)
      // a hand is slower than this: the page is drawn on the other paper first
      await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))))
      const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1')
      const sizes = [...pdf.matchAll(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g)].map(([, ...sides]) =>
        sides.map((n) => Math.round(Number(n))),
      )
      expect([paper, sizes]).toEqual([paper, [size]])
    }
    await page.goto(`${running.url}/sheet/${number}`)
    await page.getByText('Thank you for coming.').waitFor()
    await page.getByLabel('With who did what').check()
    await page.getByRole('table', { name: 'The course' }).getByText('Booked in').waitFor()
    await expectAccessible(page)
    await page.close()
  })
})

describe('the shop', () => {
  it('past tickets are found and open', async () => {
    const { number, old } = await pair()
    const page = await running.open('/past')
    const total = async () => Number((await page.getByTestId('past-total').innerText()).replace(',', ''))
    await expect.poll(total).toBeGreaterThan(1)
    const all = await total()
    await page.getByLabel('Serial of a phone').fill(old.serial)
    await expect.poll(total).toBe(1)
    await page.getByRole('link', { name: new RegExp(number) }).waitFor()
    await expectAccessible(page)
    // and called off, where it is still open: here as on every page that shows it
    for (const path of [`/sheet/${number}`, `/receipt/${number}`, `/course/${number}`]) {
      const other = await running.open(path)
      await press(other, 'Call the ticket off…')
      await other
        .getByRole('dialog', { name: `Call ${number} off` })
        .getByText('Nothing was written on the NEW')
        .waitFor()
      await expectAccessible(other)
      await other.close()
    }
    await press(page, `Call off… ${number}`)
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Why, kept sealed with the ticket').fill('Another was bought')
    await dialog.getByLabel(`Type ${number}`).fill(number)
    await press(page, 'Call the ticket off')
    await page.getByRole('link', { name: new RegExp(`${number}.*called off`, 'i') }).waitFor()
    expect(await page.getByRole('button', { name: /Call off/ }).count()).toBe(0)
    await page.getByLabel('Serial of a phone').fill('')
    await page.getByLabel('How it ended').selectOption('called-off')
    await expect.poll(total).toBeLessThan(all)
    await page.getByLabel('Number').fill('nothing')
    await page.getByText('No ticket answers to that').waitFor()
    await page.close()
  })

  it('staff are added, ports named; a new PIN is typed in and shown nowhere', async () => {
    const page = await running.open('/settings')
    await press(page, 'Add a member of staff')
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Name').fill('Tamsin')
    await dialog.getByLabel('Initials').fill('TA')
    await dialog.getByLabel('PIN, 4 to 12 digits').fill('7788')
    await expectAccessible(page)
    await press(page, 'Add them')
    await page.getByRole('table', { name: 'Staff' }).getByText('Tamsin').waitFor()
    const terms = page.getByLabel('Words on the receipt: the shop’s terms')
    await terms.fill('Being written')
    await page.getByLabel('Port 3').fill('Window')
    await page.getByLabel('Port 3').press('Tab')
    await page.getByRole('table', { name: 'Changes of settings' }).getByText('Name of port 3').waitFor()
    // what is being written in one place stays while another is changed
    expect(await terms.inputValue()).toBe('Being written')
    expect(await page.locator('main').innerText()).not.toContain('7788')
    await press(page, 'Let go: Tamsin')
    await page.getByText('does not work here any more').waitFor()
    await page.close()
  })

  it('an empty shop is set up on its own page, and its first PIN is made there', async () => {
    const { pool } = running.shop.services
    await pool.query('update staff set is_active = false')
    const context = await running.browser.newContext({ viewport: { width: 1280, height: 800 } })
    const page = await context.newPage()
    await page.goto(running.url)
    await page.getByRole('heading', { name: 'Set the shop up' }).waitFor()
    await page.getByLabel('Name, as it stands on the sheet').fill('Quay Phones')
    await page.getByLabel('Your name').fill('Elowen Pike')
    await page.getByLabel('Your name').press('Tab')
    expect(await page.getByLabel('Initials').inputValue()).toBe('EP')
    await page.getByLabel('Your PIN, 4 to 12 digits').fill('1357')
    await page.getByLabel('The PIN again').fill('1358')
    await press(page, 'Open the shop')
    await page.getByText('The two PINs are not the same').waitFor()
    await page.getByLabel('The PIN again').fill('1357')
    await expectAccessible(page)
    await press(page, 'Open the shop')
    await page.getByRole('heading', { name: 'Settings' }).waitFor()
    expect(await page.getByLabel('Name', { exact: true }).inputValue()).toBe('Quay Phones')
    expect(running.output.join('')).not.toContain('1357')
    await context.close()
    await pool.query(`update staff set is_active = true where name = 'Rowan'`)
    expect(pin).toBe('2468')
  })
})

describe('nothing is wider than its page', () => {
  it.each([
    [390, ['/', '/bench', '/past', '/settings', '/course/', '/tickets/']],
    [1024, ['/', '/bench', '/past', '/settings', '/course/', '/receipt/', '/tickets/']],
  ])('at %i', async (width, paths) => {
    const { number } = await pair()
    const { services, actor } = running.shop
    await note(services, number, { words: 'Wants the photos first; rings from odile.sallow.of.saltmere@example.org', actor })
    const page = await running.open('/', { width, height: 800 })
    for (const path of paths) {
      await page.goto(running.url + path + (path.endsWith('/') && path !== '/' ? number : ''))
      await page.getByRole('heading', { level: 1 }).waitFor()
      await page.waitForTimeout(300)
      const wide = await page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('html, nav, main')]
          .filter((part) => part.scrollWidth > part.clientWidth)
          .map((part) => `${part.tagName} ${part.scrollWidth} of ${part.clientWidth}`),
      )
      expect([path, wide]).toEqual([path, []])
    }
    await page.close()
  })

  it.each([1024, 1280])('the ledger at %i, with every column and 500,000 messages: no bar, every verdict whole', async (width) => {
    const { number } = await pair({ kinds: ['contacts', 'messages', 'calls'] })
    const page = await running.open('/', { width, height: 800 })
    const most: string[] = ['notChosen', 'cannotCross', 'alreadyThere', 'merged', 'editedThere']
    let n = 0
    await page.route('**/api/tickets/T-*', async (route) => {
      const response = await route.fetch()
      const ticket = (await response.json()) as TicketView
      const ledger = ticket.ledger.map((row, i) => {
        const read = i === 1 ? 500_000 : 12_345
        const beside = Object.fromEntries(most.slice(0, n).map((fate) => [fate, 1234]))
        const fates = { ...row.fates, carried: read, changed: 2462, lost: 17, ...beside }
        const now = { ...row.new, first: 1234, expected: read + 1234, last: read + 1234, double: 1202 }
        const verdict = (['agrees-with-notes', 'differs', 'accepted'] as const)[i]!
        return { ...row, old: { ...row.old, read, own: read }, fates, new: now, short: 1217, over: 1202, verdict }
      })
      await route.fulfill({ response, json: { ...ticket, ledger } })
    })
    for (; n <= most.length; n++) {
      await page.goto(`${running.url}/tickets/${number}`)
      const grid = page.getByRole('grid', { name: 'Ledger' })
      await grid.getByText('500,000').first().waitFor()
      const [wide, room] = await grid.evaluate((table) => [table.parentElement!.scrollWidth, table.parentElement!.clientWidth])
      expect([n, wide! <= room!]).toEqual([n, true])
      for (const verdict of await grid.locator('tr[data-kind] td:last-child').all()) {
        const box = (await verdict.boundingBox())!
        const inner = await verdict.evaluate((cell) => cell.scrollWidth)
        expect(inner).toBeLessThanOrEqual(Math.ceil(box.width))
      }
    }
    // what is on its way still is nobody's any more
    await page.unrouteAll({ behavior: 'ignoreErrors' })
    await page.close()
  })
})

describe('by the keyboard alone, at 1024 wide', () => {
  it('from ready phones to the erased ticket', async () => {
    const { number } = await pair()
    const page = await running.open(`/tickets/${number}`, { width: 1024, height: 768 })
    // a mouse that is never there
    await page.evaluate(() => addEventListener('mousedown', () => (document.title = 'a mouse'), true))
    const { keyboard } = page
    const focused = () =>
      page.evaluate(() => document.activeElement?.textContent?.trim() || document.activeElement?.getAttribute('name') || '')
    /** `n` goes to what comes next; Enter does it. */
    const next = async (name: RegExp) => {
      await page.getByRole('button', { name }).first().waitFor({ timeout: 60_000 })
      await expect
        .poll(async () => {
          await keyboard.press('n')
          return focused()
        })
        .toMatch(name)
      await keyboard.press('Enter')
    }
    /** Tab until a field is reached; never more than a page has. */
    const tabTo = async (label: string) => {
      const field = page.getByLabel(label)
      await field.waitFor()
      for (let i = 0; i < 90; i++) {
        if (await field.evaluate((element) => element === document.activeElement)) return
        await keyboard.press('Tab')
      }
      throw new Error(`Tab never came to ${label}`)
    }
    await next(/^Count in the Orrin 5/)
    await next(/^Carry [\d,]+ contacts/)
    await standing(page, 'May be handed over')
    // what is pressed and goes hands its focus on; a count of the ledger opens and closes by the keys
    expect(await page.evaluate(() => document.activeElement !== document.body)).toBe(true)
    await tabTo('Signed by')
    await keyboard.type('Ines Harrow')
    await keyboard.press('Enter')
    await page.getByText('Signed by Ines Harrow').waitFor()
    await tabTo(`Type ${number}`)
    await keyboard.type(number)
    await keyboard.press('Shift+Tab')
    // erasing before the sheet was printed asks first
    await keyboard.press('Space')
    await keyboard.press('Tab')
    await keyboard.press('Enter')
    await standing(page, 'Handed back. The data is erased')
    expect(await page.title()).not.toBe('a mouse')
    await expectAccessible(page)
    await page.close()
  })
})
