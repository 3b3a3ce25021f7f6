import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { zipSync } from 'fflate'
import { TextReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js'
import { makeFile } from '#standins/files/files.ts'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import { expectAccessible, press, runShop, type RunningShop } from '../setup/browser.ts'
import { pin } from '../setup/shop.ts'

let running: RunningShop
beforeAll(async () => {
  running = await runShop({ demo: true })
})
afterAll(() => running.close())

async function ledger(number: string): Promise<LedgerRow[]> {
  const response = await fetch(`${running.url}/api/tickets/${number}/ledger`, {
    headers: { authorization: `Bearer ${running.shop.token}` },
  })
  const { kinds } = (await response.json()) as { kinds: LedgerRow[] }
  return kinds
}
const rowOf = (rows: readonly LedgerRow[], kind: string) => rows.find((row) => row.kind === kind)!
const cell = (page: Page, column: string, kind = 'contacts') => page.locator(`tr[data-kind="${kind}"] [data-count="${column}"]`)
async function count(page: Page, column: string, kind = 'contacts'): Promise<number> {
  // a column that is nought in every row is folded away
  if ((await page.locator(`tr[data-kind] [data-count="${column}"]`).count()) === 0) return 0
  const text = await cell(page, column, kind).innerText()
  return text.trim() === '—' ? 0 : Number(text.replace(/,/g, ''))
}

const kinds = ['contacts', 'calls', 'calendar', 'messages'] as const
/** Presses a choice of the kind that is shown, and waits until it is made. */
async function decideOn(page: Page, choice: 'All' | 'None') {
  await page.getByRole('button', { name: choice, exact: true }).click()
  await page.getByRole('button', { name: choice, exact: true, pressed: true }).waitFor()
}

/** What the lines of the open list add up to, from the first to the last: only those in view are on the page. */
function sumOfList(page: Page): Promise<number> {
  return page.evaluate(async () => {
    const list = document.querySelector('section[aria-labelledby="groups-head"] ul[style]')!
    const scroller = list.parentElement!
    const figures = new Map<string, number>()
    // a list that has no height yet is looked at again
    for (let top = 0; top <= scroller.scrollHeight; top += Math.max(scroller.clientHeight / 2, 20)) {
      scroller.scrollTop = top
      await new Promise((resolve) => setTimeout(resolve, 60))
      for (const line of list.querySelectorAll('li'))
        figures.set(line.style.transform, Number(line.querySelector(':scope > strong')?.textContent?.replace(/,/g, '')))
    }
    scroller.scrollTop = 0
    return [...figures.values()].reduce((sum, n) => sum + n, 0)
  })
}

describe('a ticket by hand, from booking in to the erased sheet', () => {
  let page: Page
  let number = ''

  it('is booked in from the ports, with what crosses said while filling in', async () => {
    page = await running.open('/')
    await page.getByRole('heading', { name: 'Bench' }).waitFor()
    await expectAccessible(page)
    // from a port, so that its phone is chosen already; what is chosen before the page has all it asked for stays
    await page.route('**/api/guide', async (asked) => {
      await page.waitForTimeout(1500)
      await asked.continue()
    })
    await page.getByRole('link', { name: 'Book in' }).last().click()
    await page.getByLabel('Name', { exact: true }).fill('Ines Harrow')
    const [old, now] = [page.getByRole('group', { name: 'Old phone' }), page.getByRole('group', { name: 'New phone' })]
    await old.getByText('Orrin 5', { exact: true }).click()
    await now.getByText('Veyra 12', { exact: true }).click()
    await page.getByText('groups are left off: the phone has none').waitFor()
    await expectAccessible(page)
    await page.locator('option', { hasText: 'Orrin 7' }).first().waitFor({ state: 'attached' })
    expect(await old.getByRole('radio', { checked: true }).innerText()).toContain('Orrin 5')
    await press(page, 'Book the ticket in')
    await page.waitForURL(/tickets\/T-/)
    number = page.url().split('/').at(-1)!
  })

  it('is made ready by hands on the practice phones, and ticks itself', async () => {
    await page.locator('[data-need="trusted"][data-state="unmet"]').first().waitFor()
    const practice = await running.open('/practice')
    await expectAccessible(practice)
    for (const serial of ['OR5-4417-K2', 'VY12-9031-C7']) {
      await practice.locator(`[data-phone="${serial}"]`).getByRole('button', { name: 'Answer “yes”' }).click()
    }
    // what no phone can report, a person looks at
    await press(page, 'I have looked: it is done')
    await page.getByRole('button', { name: /^Count in the Orrin 5/ }).waitFor()
    await practice.close()
  })

  it('is counted in, both phones live, and met with their own stores', async () => {
    await press(page, /^Count in the Orrin 5/)
    await page.getByRole('button', { name: /^Carry [\d,]+ items to the Veyra 12/ }).waitFor()
    for (const kind of kinds) {
      const stores = await Promise.all(
        ['OR5-4417-K2', 'VY12-9031-C7'].map((serial) => running.shop.hand(`phones/${serial}/store?kind=${kind}`)),
      )
      expect([kind, await count(page, 'count', kind), await count(page, 'first', kind)]).toEqual([kind, stores[0].count, stores[1].count])
    }
    // what can't cross is said from Book in to the sheet
    await page.getByTestId('cannot').getByText('calls (the platform lets nobody write its call log)').waitFor()
    expect((await count(page, 'cannotCross', 'calls')) + (await count(page, 'notOver', 'calls'))).toBe(await count(page, 'count', 'calls'))
  })

  it('opens every count to as many items as it says', async () => {
    for (const [column, kind] of kinds.flatMap((kind) =>
      ['count', 'first', 'pending', 'notOver', 'notChosen'].map((column) => [column, kind] as const),
    )) {
      const n = await count(page, column, kind)
      await cell(page, column, kind).click()
      await expect.poll(() => page.getByTestId('items-total').innerText()).toBe(n.toLocaleString('en-GB'))
      // what opened has the focus: Esc closes it from there
      await page.keyboard.press('Escape')
      await page.getByLabel('Close the items').waitFor({ state: 'detached' })
    }
  })

  it('keeps what is open in the address: back closes it, a reload keeps it, the focus goes in and comes back', async () => {
    const shown = () => page.evaluate(() => document.activeElement?.getAttribute('data-count') ?? document.activeElement?.id)
    // the ledger is one stop, with arrows inside
    expect(await page.locator('[role="grid"] [tabindex="0"]').count()).toBe(1)
    await cell(page, 'count', 'contacts').focus()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('j')
    await page.keyboard.press('End')
    await page.keyboard.press('Home')
    await page.keyboard.press('ArrowRight')
    expect(await page.evaluate(() => document.activeElement?.closest('tr')?.getAttribute('data-kind'))).toBe('calendar')
    await cell(page, 'count', 'messages').focus()
    await page.keyboard.press('Enter')
    await page.getByTestId('items-total').waitFor()
    expect(new URL(page.url()).search).toBe('?open=messages.all')
    await expect.poll(shown).toBe('items-head')
    await page.reload()
    await page.getByTestId('items-total').waitFor()
    await page.keyboard.press('Escape')
    await page.getByLabel('Close the items').waitFor({ state: 'detached' })
    await cell(page, 'pending', 'calendar').click()
    await page.getByTestId('items-total').waitFor()
    await page.goBack()
    await page.getByLabel('Close the items').waitFor({ state: 'detached' })
    await cell(page, 'pending', 'calendar').click()
    await page.getByLabel('Close the items').click()
    await expect.poll(shown).toBe('pending')
    expect(new URL(page.url()).search).toBe('')
    // the months, and a phone’s own count, are places, too
    await page.goto(`${running.url}/tickets/${number}?open=messages.by-month.old`)
    await page.getByTestId('groups-total').waitFor()
    await page.goto(`${running.url}/tickets/${number}?open=contacts.own.old`)
    await page.getByRole('table', { name: 'Own count' }).waitFor()
    await page.goto(`${running.url}/tickets/${number}?open=nothing.known`)
    await page.getByRole('heading', { name: 'Choose', level: 2 }).waitFor()
  })

  it('never drops the focus: what is pressed and goes hands it on, and n goes to what comes next', async () => {
    await page.locator('tr[data-kind="calendar"] th button').first().click()
    const lost = () => page.evaluate(() => document.activeElement === document.body)
    await page.keyboard.press('n')
    expect(await page.evaluate(() => document.activeElement?.textContent)).toMatch(/^\s*Carry [\d,]+ items/)
    await decideOn(page, 'None')
    expect(await lost()).toBe(false)
    await decideOn(page, 'All')
    await page.getByRole('link', { name: 'Guide' }).click()
    await page.getByRole('heading', { name: 'Guide' }).first().waitFor()
    await expect.poll(lost).toBe(false)
    await page.goBack()
    await page.getByTestId('standing').waitFor()
    await expect.poll(lost).toBe(false)
  })

  it('a box that was ticked never stays for the row that takes its place', async () => {
    await cell(page, 'pending', 'calendar').click()
    const boxes = page.getByRole('list', { name: 'Items' }).getByRole('checkbox')
    await boxes.first().waitFor()
    const [first, before] = [await boxes.first().getAttribute('aria-label'), await count(page, 'pending', 'calendar')]
    await boxes.first().click()
    await expect.poll(() => boxes.first().getAttribute('aria-label')).not.toBe(first)
    const left = () => boxes.evaluateAll((all) => all.filter((box) => !(box as HTMLInputElement).checked).map((box) => box.ariaLabel))
    expect([first, await left()]).toEqual([first, []])
    await page.getByLabel('Close the items').click()
    await decideOn(page, 'All')
    await expect.poll(() => count(page, 'pending', 'calendar')).toBe(before)
  })

  it('asks once for a choice: one request, one answer, pressed together for the wire', async () => {
    await page.locator('tr[data-kind="calendar"] th button').first().click()
    await page.waitForTimeout(800)
    const asked: string[] = []
    const answers: string[] = []
    page.on('request', (request) => request.url().includes(`/api/tickets/${number}`) && asked.push(request.method()))
    page.on('response', (response) => {
      if (response.url().includes('/choose')) answers.push(response.headers()['content-encoding'] ?? 'plain')
    })
    // somebody else's change is on its way all the while, as in any busy shop
    const other = await running.shop.services.pool.connect()
    await other.query('begin; select pg_current_xact_id()')
    try {
      await decideOn(page, 'None')
      await page.waitForTimeout(1200)
      expect([asked, answers]).toEqual([['POST'], ['br']])
      await decideOn(page, 'All')
      await page.waitForTimeout(1200)
    } finally {
      await other.query('rollback')
      other.release()
    }
    expect(asked).toEqual(['POST', 'POST'])
    page.removeAllListeners('request')
    page.removeAllListeners('response')
  })

  it('says how it stands in one place, for those who listen', async () => {
    expect(await page.locator('[aria-live], [role="status"]').count()).toBe(1)
    await expect.poll(() => page.getByTestId('live').innerText()).toContain('Not yet: nothing is carried over.')
  })

  it('opens every count of the forecast and of the account to as many items as it says', async () => {
    const numbers = () =>
      page.locator(
        '[aria-label="Forecast"] button, [data-panel="choose"] li button, section[aria-label="Ledger"] table:not([aria-label="Ledger"]):not([aria-label="Second figures"]) button:not([data-own])',
      )
    for (const kind of kinds) {
      await page.locator(`tr[data-kind="${kind}"] th button`).first().click()
      const all = await numbers().count()
      expect(all).toBeGreaterThan(5)
      for (let i = 0; i < all; i++) {
        const n = await numbers().nth(i).innerText()
        await numbers().nth(i).click()
        await expect.poll(() => page.getByTestId('items-total').innerText()).toBe(n)
        await page.getByLabel('Close the items').click()
      }
    }
  })

  it('takes the phone’s own count apart, and its parts are its sum', async () => {
    await page.locator('tr[data-kind="contacts"] th button').first().click()
    await page.locator('button[data-own="old"]').last().click()
    const table = page.getByRole('table', { name: 'Own count' })
    await table.getByText('The owner’s own card').waitFor()
    const figures = (await table.locator('td').allInnerTexts()).map((text) => Number(text.replace(/,/g, '')))
    expect(figures.slice(0, -1).reduce((a, b) => a + b)).toBe(figures.at(-1))
    await expectAccessible(page)
    await page.getByLabel('Close the count').click()
  })

  it('sends no names until a reason is given, and then shows and finds them', async () => {
    await cell(page, 'count').click()
    const answer = page.waitForResponse((response) => response.request().postData()?.includes('with-photo') === true)
    await page.getByLabel('Shape').selectOption('with-photo')
    const { rows: masked, isShowing } = (await (await answer).json()) as { rows: { title: string | null }[]; isShowing: boolean }
    expect(masked.length).toBeGreaterThan(0)
    expect([isShowing, ...masked.map(({ title }) => title)]).toEqual([false, ...masked.map(() => null)])
    expect(JSON.stringify(masked)).not.toMatch(/Harrow|Oakes|Leeming/)
    await page.getByLabel('Shape').selectOption('')
    await press(page, 'Names are hidden. Show them…')
    await page.getByLabel('Choose single items').check()
    await expectAccessible(page)
    await press(page, 'Show names for 10 minutes')
    // in any spelling: with accents or without, a number as it is dialled here or from abroad
    for (const text of ['ångström', 'ozturk', '07700 900101', '+44 7700 900101', '0044 7700-900-101']) {
      await page.getByPlaceholder('Search names and numbers').fill(text)
      await expect.poll(() => page.getByTestId('items-total').innerText()).toBe('1')
    }
    await page.getByText('Zoë Ångström-Öztürk').click()
    await page.getByRole('dialog').getByText('+447700900101').waitFor()
    await page.keyboard.press('Escape')
    // conversations, too, by who writes in them
    await page.goto(`${running.url}/tickets/${number}?open=messages.by-group.old`)
    const all = Number((await page.getByTestId('groups-total').innerText()).replace(',', ''))
    await page.getByPlaceholder('Search by name or number').fill('7700 9001')
    await expect.poll(async () => Number(await page.getByTestId('groups-total').innerText())).toBeLessThan(all)
    await page.getByPlaceholder('Search by name or number').fill('nobody of that name')
    await expect.poll(() => page.getByTestId('groups-total').innerText()).toBe('0')
    await page.goto(`${running.url}/tickets/${number}?open=contacts.all`)
    await page.getByPlaceholder('Search names and numbers').fill('zoe ang')
    await page.getByText('Zoë Ångström-Öztürk').waitFor()
    const { rows } = await running.shop.services.pool.query('select scope, reason from showing')
    expect(rows).toEqual([{ scope: 'names', reason: 'choose-items' }])
    // hidden at once, however long the server takes to say so
    let letGo = () => undefined as void
    const held = new Promise<void>((resolve) => (letGo = resolve))
    await page.route(`**/api/tickets/${number}/show*`, async (route) => {
      await held
      await route.continue()
    })
    await press(page, 'Hide them now')
    await page.getByText('Zoë Ångström-Öztürk').waitFor({ state: 'detached' })
    letGo()
    await page.unroute(`**/api/tickets/${number}/show*`)
    await page.getByText('Names are hidden. Show them…').waitFor()
    await page.getByLabel('Close the items').click()
  })

  it('joins who is on both phones by a rule, and the forecast says so before anything is written', async () => {
    await page.locator('tr[data-kind="contacts"] th button').first().click()
    const expected = await count(page, 'expected')
    await press(page, /people on both phones: join or keep both/)
    await page.getByText('hidden name').first().waitFor({ state: 'attached' })
    await expectAccessible(page)
    const sure = Number(/\d+/.exec(await page.getByRole('button', { name: /^Join the \d+ who share/ }).innerText())![0])
    expect(sure).toBeGreaterThan(5)
    await press(page, /^Join the \d+ who share/)
    await expect.poll(() => page.getByText('To be joined').count()).toBeGreaterThan(3)
    await press(page, /^Keep both of no\. /)
    await expect.poll(() => count(page, 'expected')).toBe(expected - (sure - 1))
    await page.getByLabel('Close the list').click()
    const line = page.getByRole('row', { name: /^Joined with theirs/ })
    expect(await line.locator('button').innerText()).toBe(String(sure - 1))
    await line.locator('button').click()
    await expect.poll(() => page.getByTestId('items-total').innerText()).toBe(String(sure - 1))
    await page.getByLabel('Close the items').click()
  })

  it('counts messages by conversation, month and year, each sum the whole', async () => {
    await page.locator('tr[data-kind="messages"] th button').first().click()
    const all = (await count(page, 'count', 'messages')) - (await count(page, 'notOver', 'messages'))
    await press(page, 'By month or year…')
    for (const by of ['By year', 'By month']) {
      await page.getByRole('complementary', { name: 'Panel' }).getByText(by, { exact: true }).click()
      await page.getByTestId('groups-total').waitFor()
      await expect.poll(() => sumOfList(page)).toBe(all)
    }
    await expectAccessible(page)
    await page.getByLabel('Close the list').click()
  })

  it('carries over, checks off by itself and agrees with notes, equal to the phones’ own stores', async () => {
    await expectAccessible(page)
    await press(page, /^Carry [\d,]+ items to the Veyra 12/)
    await page.getByTestId('standing').getByText('May be handed over: the counts agree.').waitFor({ timeout: 240_000 })
    const parts = ['notChosen', 'cannotCross', 'pending', 'carried', 'changed', 'merged', 'alreadyThere', 'notOver']
    for (const row of await ledger(number)) {
      const { kind } = row
      // what is installed by hand waits for the customer, and is named so
      if (kind === 'apps') expect([row.verdict, row.fates.pending, row.agreesButInstall]).toEqual(['waiting', row.toInstall, true])
      else expect([kind, row.verdict]).toEqual([kind, 'agrees-with-notes'])
      const store = await running.shop.hand(`phones/VY12-9031-C7/store?kind=${kind}`)
      expect([kind, await count(page, 'last', kind)]).toEqual([kind, store.count])
      expect((await count(page, 'last', kind)) + row.toInstall).toBe(await count(page, 'expected', kind))
      const sum = (await Promise.all(parts.map((part) => count(page, part, kind)))).reduce((a, b) => a + b)
      expect(await count(page, 'count', kind)).toBe(sum)
    }
    await expectAccessible(page)
  })

  it('prints a sheet without a contact’s name, is signed and erased; the counts remain', async () => {
    const before = await ledger(number)
    // both phones trust this computer since they were made ready: that is put back before the sheet is final
    await page.locator('[data-put-back="trusted"][data-state="open"]').first().waitFor()
    for (const serial of ['OR5-4417-K2', 'VY12-9031-C7']) await running.shop.hand(`phones/${serial}/forget-computers`, {})
    await expect.poll(() => page.locator('[data-put-back][data-state="open"]').count()).toBe(0)
    await page.getByRole('link', { name: 'Open the sheet to print it' }).click()
    const sheet = page.getByTestId('sheet')
    await sheet.waitFor()
    await expectAccessible(page)
    const text = await sheet.innerText()
    expect(text).toContain('Ines Harrow')
    expect(text).not.toMatch(/Oakes|Ångström|07700 900[2-9]/)
    const pdf = await page.pdf({ format: 'A4' })
    // seven kinds with every trap there is: two pages at the most
    expect(pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g)!.length).toBeLessThanOrEqual(2)
    await page.getByRole('link', { name: 'Back to the ticket' }).click()
    await page.getByLabel('Signed by').fill('Ines Harrow')
    // apps tied to the old phone: who signs past them says that the customer knows
    expect(await page.getByRole('button', { name: 'The sheet is signed' }).isDisabled()).toBe(true)
    await page.getByLabel(/The customer knows that/).check()
    await press(page, 'The sheet is signed')
    await page.getByRole('heading', { name: 'Hand back and erase' }).waitFor()
    // what was printed before the signature and after it is the same page
    const body = async (of: Page) => {
      await of.getByTestId('digest').waitFor()
      return (await of.getByTestId('sheet').innerText())
        .replace(/Customer: [^\n]*/, 'Customer')
        .replace(/\s*Kept as signed[^\n]*/, '')
        .trim()
    }
    const after = await running.open(`/sheet/${number}`)
    expect(await body(after)).toBe(text.trim())
    await page.getByTestId('not-printed').waitFor()
    expect(await page.getByRole('button', { name: /^Hand back and erase the data/ }).isDisabled()).toBe(true)
    await after.evaluate(() => void (globalThis.print = () => undefined))
    await after.getByRole('button', { name: 'Print the sheet' }).click()
    await expect.poll(() => page.getByTestId('not-printed').count()).toBe(0)
    await page.getByLabel(`Type ${number}`).fill(number.toLowerCase())
    await press(page, /^Hand back and erase the data/)
    await page.getByTestId('standing').getByText('Handed back. The data is erased').waitFor()
    // what was not installed is the customer's since the signature; every other count is as it was
    // and after erasing it is the same but for names
    await after.reload()
    const erased = await body(after)
    expect(erased).not.toContain('Ines Harrow')
    const plain = (page: string) =>
      page
        .replace(/Ines Harrow[^\n]*|erased(?=\n)/, '')
        .replace(/, (serial erased|OR5-4417-K2|VY12-9031-C7)(?=\n)/g, '')
        .replace(/ Point its camera[^\n]*/, '')
    expect(plain(erased)).toBe(plain(text.trim()))
    await after.close()
    const stands = await ledger(number)
    expect(stands.filter((row) => row.kind !== 'apps')).toEqual(before.filter((row) => row.kind !== 'apps'))
    const [was, is] = [before, stands].map((rows) => rows.find((row) => row.kind === 'apps')!)
    expect([is!.fates.pending, is!.fates.notChosen, is!.verdict]).toEqual([
      0,
      was!.fates.notChosen + was!.fates.pending,
      'agrees-with-notes',
    ])
    const { rows } = await running.shop.services.pool.query(
      `select (select count(*) from item) as items, (select count(*) from block) as blocks, (select count(*) from entry) as entries, key_wrapped, holding_id, customer from ticket where number = $1`,
      [number],
    )
    expect(rows[0]).toEqual({ items: 0, blocks: 0, entries: 0, key_wrapped: null, holding_id: null, customer: null })
  })
})

/** A box of free space (ISO/IEC 14496-12 section 8.1.2). */
function freeBox(size: number): Buffer {
  const box = Buffer.alloc(size)
  box.writeUInt32BE(size, 0)
  box.write('free', 4)
  return box
}

describe('files as the old phone', () => {
  it('goes through the same line and agrees', async () => {
    await running.shop.hand('phones', { serial: 'FRESH-1', model: 'Veyra 14', version: '18' })
    await running.shop.hand('phones/FRESH-1/plug', { port: 6 })
    await running.shop.hand('phones/FRESH-1/trust', {})
    const cards = Array.from(
      { length: 40 },
      (_, i) =>
        `BEGIN:VCARD\r\nVERSION:${['2.1', '3.0', '4.0'][i % 3]}\r\nN:Dropped${i};Card;;;\r\nFN:Card Dropped${i}\r\nTEL;TYPE=CELL:+447700900${100 + i}\r\nEND:VCARD\r\n`,
    )
    const broken = 'BEGIN:VCARD\r\nVERSION:3.0\r\nN:Broken;;;;\r\nPHOTO;ENCODING=b:!!!\r\nEND:VCARD\r\n'
    const event = (uid: string, ...more: string[]) =>
      ['BEGIN:VEVENT', `UID:${uid}`, 'DTSTART:20261201T090000', 'SUMMARY:Dropped rehearsal', ...more, 'END:VEVENT'].join('\r\n')
    const calendar = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      event('d1', 'RRULE:FREQ=WEEKLY;COUNT=4'),
      event('d2'),
      event('d3'),
      'END:VCALENDAR',
      '',
    ].join('\r\n')
    const zip = zipSync({ 'contacts.vcf': Buffer.from(cards.join('') + broken), 'folder/calendar.ics': Buffer.from(calendar) })
    const page = await running.open('/book-in')
    await page.getByLabel('Name', { exact: true }).fill('Odile Sallow')
    // the shop takes its time: what the page's own look found stands there meanwhile, and says that it is a preview
    await page.route('**/api/uploads/begin', async (route) => {
      await page.getByTestId('file-preview').getByText('A first look.').waitFor()
      await page.getByTestId('file-preview').getByText('41 contacts and 3 calendar items, 1 of them unreadable.').waitFor()
      await route.continue()
    })
    await page.getByLabel('Choose files').setInputFiles({ name: 'phone.zip', mimeType: 'application/zip', buffer: Buffer.from(zip) })
    // looked at in the page at once, and taken in by the shop
    await page.getByText('41 contacts and 3 calendar items in the files').waitFor()
    await page.getByRole('group', { name: 'New phone' }).getByText('Veyra 14', { exact: true }).first().click()
    await press(page, 'Book the ticket in')
    await press(page, /^Count in the Files/)
    await press(page, /^Carry 43 items to the Veyra 14/)
    await page.getByTestId('standing').getByText('May be handed over: the counts agree.').waitFor()
    const row = rowOf(await ledger(page.url().split('/').at(-1)!), 'contacts')
    expect(row).toMatchObject({ verdict: 'agrees-with-notes', old: { read: 41 }, fates: { unreadable: 1 }, new: { last: 40 } })
    expect((await running.shop.hand('phones/FRESH-1/store')).count).toBe(40)
    expect((await running.shop.hand('phones/FRESH-1/store?kind=calendar')).count).toBe(3)
    // and out again as open files, once names are shown
    await page.getByText('As open files…').click()
    await press(page, /Show them first/)
    await page.getByRole('dialog').getByRole('button').first().click()
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'vCard 4.0' }).click()])
    const text = readFileSync(await download.path(), 'utf8')
    expect(download.suggestedFilename()).toMatch(/^T-\d+-contacts\.vcf$/)
    expect(text.match(/BEGIN:VCARD/g)).toHaveLength(40)
    expect(text).toContain('VERSION:4.0')
    await page.close()
  })

  it('that holds nothing Corvend takes is refused with a sentence, and named', async () => {
    const page = await running.open('/book-in')
    await page.getByLabel('Choose files').setInputFiles({ name: 'x.vcf', mimeType: 'text/vcard', buffer: Buffer.from([104, 0, 1, 2, 3]) })
    await page.getByText(/^Nothing of this is anything Corvend takes/).waitFor()
    await page.getByTestId('not-taken').locator('summary').click()
    await page.getByText('x.vcf, 5 B: nothing Corvend knows').waitFor()
    await page.close()
  })

  it('many, among them pictures, a locked ZIP and what is nothing; broken off on the way they go on', async () => {
    const page = await running.open('/book-in')
    const card = 'BEGIN:VCARD\r\nVERSION:3.0\r\nN:Brought;Ada;;;\r\nFN:Ada Brought\r\nEND:VCARD\r\n'
    const locked = new ZipWriter(new Uint8ArrayWriter(), { password: 'Lantern 12', encryptionStrength: 3, useWebWorkers: false })
    await locked.add('people.vcf', new TextReader(card))
    const film = makeFile({ from: 'clip.mp4', salt: 3 })
    const files = [
      { name: 'a.jpg', buffer: makeFile({ from: 'hive.jpg', salt: 1 }) },
      { name: 'a copy.jpg', buffer: makeFile({ from: 'hive.jpg', salt: 1 }) },
      { name: 'note.txt', buffer: Buffer.from('Dear customer') },
      { name: 'thing.dat', buffer: Buffer.from([0, 1, 2, 3, 4]) },
      { name: 'locked.zip', buffer: Buffer.from(await locked.close()) },
      // longer than a piece: what is behind a film's boxes is free space
      { name: 'film.bin', buffer: Buffer.concat([film, freeBox(9_000_000)]) },
    ]
    // on the disk: a file is known again by its time, too
    const folder = mkdtempSync(join(tmpdir(), 'corvend-brought-'))
    const paths = files.map(({ name, buffer }) => {
      writeFileSync(join(folder, name), buffer)
      return join(folder, name)
    })
    let pieces = 0
    await page.route('**/api/uploads/*/files/*', (route) => (++pieces === 5 ? route.abort() : route.continue()))
    await page.getByLabel('Choose files').setInputFiles(paths)
    await page.getByText(/^Taking files in broke off/).waitFor()
    const before = pieces
    // also of a page that lost its files
    await page.reload()
    await page.getByText(/^Taking files in broke off/).waitFor()
    await page.getByLabel('Choose files').setInputFiles(paths)
    await page.getByLabel('The ZIP is locked. Its password').fill('lantern 12')
    await press(page, 'Open it')
    await page.getByLabel('That password does not open it. Its password').fill('Lantern 12')
    await press(page, 'Open it')
    await page.getByText('1 contact, 1 photo, 1 document and 1 video in the files').waitFor()
    // of seven pieces none came twice
    expect(pieces - before).toBe(7 - 4)
    await page.getByTestId('not-taken').locator('summary').click()
    await page.getByText(/^a copy\.jpg, .*: the same as another file here/).waitFor()
    await page.getByText('thing.dat, 5 B: nothing Corvend knows').waitFor()
    await expectAccessible(page)
    await page.close()
    rmSync(folder, { recursive: true })
  }, 90_000)
})

describe('what is written and asked for on the way', () => {
  it('a first visit asks nothing it may not have, comes to the sign-in, and from there to where it was going', async () => {
    const context = await running.browser.newContext({ viewport: { width: 1280, height: 800 } })
    const page = await context.newPage()
    const noise: string[] = []
    page.on('console', (message) => message.type() === 'error' && noise.push(message.text()))
    page.on('response', (response) => response.status() >= 400 && noise.push(`${response.status()} ${response.url()}`))
    await page.goto(`${running.url}/bench?from=outside`)
    await page.getByLabel('PIN').fill(pin)
    await page.getByLabel('Name').fill('Rowan')
    await press(page, 'Sign in')
    await page.waitForURL(/\/bench\?from=outside$/)
    await page.getByRole('heading', { name: /^Bench/ }).waitFor()
    expect(noise).toEqual([])
    await context.close()
  })

  it('no log line and no address holds a word of a customer or of a contact', () => {
    const said = [...running.output, ...running.urls.map(decodeURIComponent)].join('\n')
    expect(running.urls.length).toBeGreaterThan(50)
    expect(said).not.toMatch(/Harrow|Sallow|Ångström|Leeming|Oakes|07700|\+4477|Dropped\d/)
  })
})
