import { chromium } from 'playwright-core'
import { demoStaff } from './demo.ts'

/** Takes the pictures of docs/screenshots from a fresh demo that is running: `./corvend demo --fresh`, then `npx tsx scripts/pictures.ts URL`. */
const url = process.argv[2] ?? 'http://127.0.0.1:4670'
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  // as a user sees it: what scrolls must show that it does
  ignoreDefaultArgs: ['--hide-scrollbars'],
  args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-background-networking', '--disable-gpu', '--no-first-run'],
})
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', timezoneId: 'Europe/London' })
// counting a demo phone takes as long as the machine takes
context.setDefaultTimeout(120_000)
const page = await context.newPage()
const post = (path: string, data: object = {}) => context.request.post(`${url}/api/${path}`, { data })
const take = async (name: string) => {
  await page.waitForTimeout(700)
  await page.screenshot({ path: `docs/screenshots/${name}.png` })
}
await post('session', { name: demoStaff.name, pin: demoStaff.pin })
if (!process.argv.includes('lockers')) await takeAll()
await takeLockers()
await browser.close()

async function takeAll(): Promise<void> {
  for (const serial of ['OR7-1180-B3', 'HT3-0064-F2', 'VY10-7743-A9']) await post(`practice/phones/${serial}/plug`)
  await page.goto(`${url}/tickets/T-0401`)
  await page.getByText('Making ready').waitFor()
  await take('make-ready')
  await page.goto(`${url}/bench`)
  await page.getByText('Awaited on the bench').waitFor()
  await take('bench')
  await page.goto(`${url}/guide`)
  await page.getByRole('button', { name: /^Orrin 7 Android/ }).click()
  await page.getByLabel('The other phone').selectOption({ label: 'Veyra 12' })
  await page.locator('[data-guide-need="debugging"] summary').waitFor()
  await take('guide')
  for (const serial of ['OR5-4417-K2', 'VY12-9031-C7']) await post(`practice/phones/${serial}/trust`)
  await post('tickets/T-0401/needs', { side: 'new', code: 'second-step', how: 'ticked' })
  await context.request.delete(`${url}/api/practice/phones/VY12-9031-C7/faults`, { data: {} })
  await post('practice/phones/VY12-9031-C7/faults', {
    faults: [
      { point: 'write.record', effect: 'drop', skip: 30, times: 3 },
      { point: 'write.record', effect: 'alter', skip: 4, times: 2 },
    ],
  })

  await page.goto(`${url}/tickets/T-0401`)
  // what the phones ask their owners for the kinds of files
  for (const serial of ['OR5-4417-K2', 'VY12-9031-C7'])
    for (const kind of ['voicemail', 'recordings', 'documents', 'music']) await post(`practice/phones/${serial}/allow-${kind}`)
  await page.getByRole('button', { name: /^Count in the/ }).click()
  await page.getByRole('button', { name: /^Carry [\d,]+ items/ }).waitFor()
  await page.locator('tr[data-group="files"] button').first().click()
  await page.locator('tr[data-kind="music"] th button').first().click()
  await page.locator('[data-figure] button').first().click()
  await page.getByTestId('ticket-scroll').evaluate((around) => (around.scrollTop = 0))
  await take('ticket-choose')
  await page.getByLabel('Close the list').click()
  await page.locator('tr[data-kind="videos"] [data-count="count"]').click()
  await page.getByTestId('photo-grid').locator('[data-tile="0"]').waitFor()
  await page.getByRole('button', { name: 'Show the pictures…' }).click()
  await page.getByLabel('Choose single items').check()
  await page.getByRole('button', { name: 'Show names for 10 minutes' }).click()
  await page.getByTestId('photo-grid').locator('img').first().waitFor()
  await page.waitForTimeout(2500)
  await take('ticket-videos')
  await page.getByRole('button', { name: 'Hide them now' }).click()
  await page.getByLabel('Close the items').click()
  await page.locator('tr[data-group="files"] button').first().click()
  await page.locator('tr[data-kind="contacts"] [data-count="count"]').click()
  await page.getByLabel('Close the items').click()
  await page.getByRole('button', { name: /people on both phones/ }).click()
  await page.getByRole('button', { name: /^Join the \d+ who/ }).click()
  await page.getByText('To be joined').first().waitFor()
  await page.getByLabel('Close the list').click()
  await page.locator('tr[data-kind="photos"] [data-count="count"]').click()
  await page.getByTestId('photo-grid').locator('[data-tile="0"]').waitFor()
  await page.getByLabel('Close the items').click()
  await page.getByRole('row', { name: /^Apps/ }).getByRole('button').first().click()
  await page.getByTestId('apps').waitFor()
  await page.getByTestId('apps').evaluate((board) => {
    const around = board.closest('[data-testid="ticket-scroll"]')!
    around.scrollTop += board.getBoundingClientRect().top - around.getBoundingClientRect().top - 12
  })
  await take('ticket-apps')
  await page.getByTestId('ticket-scroll').evaluate((around) => (around.scrollTop = 0))
  await page.getByRole('button', { name: /^Carry [\d,]+ items/ }).click()
  await page.locator('[data-stretch="media"][data-state="running"]').waitFor()
  await page.locator('[data-testid="stretches"]').waitFor()
  await page.waitForTimeout(900)
  await take('ticket-carry')
  await page.getByTestId('standing').filter({ hasText: 'contacts 5 short, 2 over' }).waitFor()
  await page
    .getByRole('row', { name: /^Contacts/ })
    .getByRole('button')
    .first()
    .click()
  await page.waitForTimeout(4500)
  await take('ticket-check-off')
  await page.getByRole('button', { name: 'Messages by month, old against new' }).click()
  await page.locator('[data-testid="months-chart"] canvas').waitFor()
  await page.keyboard.press('Escape')
  await page.goto(`${url}/practice`)
  await page.getByRole('heading', { name: 'Veyra 12' }).waitFor()
  await take('practice')
  await page.goto(url)
  await page.getByRole('table').waitFor()
  await take('today')
  await page.goto(`${url}/tickets/T-0401`)
  await page.getByRole('button', { name: 'More', exact: true }).click()
  await page.getByText('Call the ticket off…').click()
  await page.getByText('Nothing more is carried, and the data can be erased').waitFor()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Put the 5 contacts back/ }).click()
  await page.getByRole('button', { name: /^Carry 5 contacts/ }).click()
  await page.getByTestId('run').waitFor()
  await page.getByTestId('run').waitFor({ state: 'detached' })
  await page.getByTestId('standing').filter({ hasText: 'contacts 2 over' }).waitFor()
  await page.getByTestId('left-behind').scrollIntoViewIfNeeded()
  await page.getByTestId('left-behind').locator('input').fill('T-0401')
  await page.getByRole('button', { name: /^Take away all 2 contacts/ }).click()
  await page.getByTestId('standing').filter({ hasText: 'the counts agree' }).waitFor()
  await page.locator('[data-put-back]').first().waitFor()
  await take('hand-back')
  for (const serial of ['OR5-4417-K2', 'VY12-9031-C7']) await post(`practice/phones/${serial}/forget-computers`)
  await page.waitForTimeout(600)
  await page.goto(`${url}/sheet/T-0401`)
  await page.getByTestId('sheet').waitFor()
  await take('sheet')
  await page.goto(`${url}/course/T-0401`)
  await page.locator('[data-act="carry"]').first().waitFor()
  await take('course')
  await page.goto(`${url}/settings`)
  await page.getByRole('table', { name: 'Staff' }).waitFor()
  await take('settings')
  await page.goto(`${url}/book-in`)
  await page.getByLabel('Name', { exact: true }).fill('Perrin Leeming')
  await page.getByRole('group', { name: 'Old phone' }).getByRole('combobox').selectOption({ label: 'Orrin 5 (Android)' })
  await page.getByRole('group', { name: 'New phone' }).getByRole('combobox').selectOption({ label: 'Veyra 14 (iOS)' })
  await page.getByText('groups are left off').first().waitFor()
  await page.getByRole('button', { name: 'All asked' }).click()
  await page.locator('[data-question="run-by"]').getByText('Partly').click()
  await take('book-in')
}

/** A phone of its own is copied twice, looked into, compared, and taken home as files. `npx tsx scripts/pictures.ts URL lockers` takes these alone. */
async function takeLockers(): Promise<void> {
  const serial = `OR7-5501-S${Date.now() % 1000}`
  const press = (name: string | RegExp) => page.getByRole('button', { name }).first().click()
  await post('practice/phones', { serial, model: 'Orrin 7', version: '14' })
  await post(`practice/phones/${serial}/fill`, { seed: 5, count: 240, style: 'traps' })
  for (const [kind, count] of [
    ['calls', 130],
    ['messages', 900],
    ['calendar', 60],
    ['photos', 40],
  ] as const)
    await post(`practice/phones/${serial}/fill`, { kind, seed: 5, count, style: 'traps' })
  // the bench is full by now: one that only waits makes room
  await post('practice/phones/VY10-7743-A9/pull')
  await post(`practice/phones/${serial}/plug`, { port: 6 })
  await post(`practice/phones/${serial}/trust`)
  for (const customer of ['Ottilie Brand', 'Ottilie Brand']) {
    await page.goto(`${url}/book-in`)
    await page.getByLabel('Name', { exact: true }).fill(customer)
    await page.getByLabel('Or keep a copy in a locker of the shop’s').check()
    await page
      .getByRole('group', { name: 'Old phone' })
      .getByRole('radio', { name: /Orrin 7/ })
      .first()
      .click()
    await page.getByLabel('Apps', { exact: true }).uncheck()
    await press('Book the ticket in')
    await page.getByText(/copy \d+, kept/).waitFor()
    await press(/^Count in the/)
    await press(/^Carry [\d,]+ items to the locker/)
    await page.getByTestId('standing').filter({ hasText: 'May be handed over' }).waitFor({ timeout: 90_000 })
    const number = new URL(page.url()).pathname.split('/').at(-1)!
    await page.getByLabel('Signed by').fill(customer)
    await press('The sheet is signed')
    await page.getByTestId('not-printed').getByRole('checkbox').check()
    await page.getByLabel(/^Type T-/).fill(number)
    await press(/^Hand back and erase/)
    await page
      .getByText(/data is erased/)
      .first()
      .waitFor()
    // the phone goes on living
    for (const [kind, count] of [
      ['contacts', 4],
      ['messages', 37],
    ] as const)
      await post(`practice/phones/${serial}/fill`, { ...(kind === 'contacts' ? {} : { kind }), seed: 91, count, style: 'plain' })
  }
  await page.goto(`${url}/lockers`)
  await page.getByTestId('copy-items').first().click()
  await press(/Unreadable: Contacts$/)
  await page.getByTestId('copy-whys').waitFor()
  await take('lockers')
  await press(/^Look into it/)
  await page.getByText(/^As of/).waitFor()
  await page.getByRole('button', { name: /messages: In the copy/ }).click()
  await take('locker-look')
  await page.goto(`${url}/lockers`)
  await press(/^Compare… copy/)
  await page.getByRole('dialog').getByRole('radio').first().check()
  await page.getByRole('dialog').getByRole('button', { name: 'Compare' }).click()
  await page
    .getByRole('button', { name: /: In both$/ })
    .first()
    .waitFor()
  // counts are whole once both were read to their ends
  await page.getByText('is being read').waitFor({ state: 'hidden' })
  await page
    .getByRole('button', { name: /messages: Only in copy/ })
    .first()
    .click()
  await take('locker-compare')
  await page.goto(`${url}/book-in`)
  await page.getByLabel('Name', { exact: true }).fill('Ottilie Brand')
  await page.getByLabel('Or take it home as files').check()
  await page
    .getByRole('group', { name: 'Old phone' })
    .getByRole('radio', { name: /Orrin 7/ })
    .first()
    .click()
  await press('Book the ticket in')
  await page.getByText('made when everything is carried').waitFor()
  await press(/^Count in the/)
  await press(/^Carry [\d,]+ items/)
  await page.getByTestId('take-home').filter({ hasText: 'Read back whole' }).waitFor({ timeout: 90_000 })
  await take('take-home')
}
