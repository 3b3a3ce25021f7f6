import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { expectAccessible, press, runShop, standing, type RunningShop } from '../setup/browser.ts'
import { addPhone } from '../setup/ticket.ts'

let running: RunningShop
const folder = mkdtempSync(join(tmpdir(), 'corvend-home-'))
beforeAll(async () => {
  running = await runShop()
})
afterAll(async () => {
  await running.close()
  rmSync(folder, { recursive: true, force: true })
})

describe('taken home as files, by the screen alone', () => {
  it('is made, fetched in parts, put into a folder, locked, and checked when it is brought back', async () => {
    const { shop, url } = running
    const old = {
      serial: 'HE-OLD',
      model: 'Orrin 5',
      port: 1,
      people: { seed: 41, count: 30, style: 'plain' as const },
      calls: { seed: 41, count: 25 },
    }
    await addPhone(shop, old)
    await shop.hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 41, count: 6 })
    const page = await running.open('/book-in')
    // a folder of this computer: the browser's own, where no hand can choose one
    await page.addInitScript(() => Object.assign(globalThis, { showDirectoryPicker: () => navigator.storage.getDirectory() }))
    await page.getByLabel('Name', { exact: true }).fill('Ines Harrow')
    await page
      .getByRole('radio', { name: /Orrin 5/ })
      .first()
      .click()
    await page.getByLabel('Or take it home as files').check()
    await expectAccessible(page)
    for (const kind of ['Messages', 'Calendar', 'Apps']) await page.getByLabel(kind, { exact: true }).uncheck()
    await press(page, 'Book the ticket in')
    await page.getByText('made when everything is carried').waitFor()
    await page.reload()
    await press(page, /^Count in the/)
    await press(page, /^Carry 61 items/)
    await standing(page, 'May be handed over')
    const home = page.getByTestId('take-home')
    await home.getByText(/Read back whole by another reader.*Without a password/).waitFor()
    await expectAccessible(page)
    const number = new URL(page.url()).pathname.split('/').at(-1)!
    const mark = /mark is (\w+)/.exec(await home.innerText())![1]!

    // fetched; and a part of it, as a browser asks that goes on
    const [download] = await Promise.all([page.waitForEvent('download'), home.getByRole('link', { name: 'Fetch the ZIP' }).click()])
    expect(download.suggestedFilename()).toBe(`${number}-files.zip`)
    const path = join(folder, 'first.zip')
    await download.saveAs(path)
    const whole = readFileSync(path)
    const asked = (headers: Record<string, string>) => page.context().request.get(`${url}/api/tickets/${number}/take-home`, { headers })
    const rest = await asked({ range: 'bytes=1000-' })
    expect([rest.status(), rest.headers()['content-range']]).toEqual([206, `bytes 1000-${whole.length - 1}/${whole.length}`])
    expect((await rest.body()).equals(whole.subarray(1000))).toBe(true)
    expect((await asked({ range: 'bytes=-22' })).status()).toBe(206)
    const beyond = await asked({ range: `bytes=${whole.length}-` })
    expect([beyond.status(), await beyond.json()]).toEqual([416, expect.objectContaining({ code: 'RangeNotThere' })])
    // of another archive nothing is gone on with
    expect((await asked({ range: 'bytes=1000-', 'if-range': '"another"' })).status()).toBe(200)
    await home.getByTestId('home-taken').filter({ hasText: 'Fetched at' }).waitFor()

    await home.getByRole('button', { name: 'Put it into a folder…' }).click()
    await home.getByText(/All \d+ files are in the folder, read back one by one/).waitFor()
    const names = await page.evaluate(async () => {
      const root = await navigator.storage.getDirectory()
      const text = async (name: string) => (await (await root.getFileHandle(name)).getFile()).text()
      return {
        cards: (await text('Contacts.vcf')).split('BEGIN:VCARD').length - 1,
        page: (await text('Open me.html')).includes('<h2>Contacts</h2>'),
      }
    })
    expect(names).toEqual({ cards: 30, page: true })

    // locked with a password, it is another file, made and read back anew
    await home.getByRole('button', { name: 'Set a password…' }).click()
    await page.getByLabel('Password, eight characters at least').fill('Lantern 12')
    await page.getByLabel('Once more').fill('Lantern 12')
    await press(page, 'Lock it with this')
    await home.getByText(/Locked with the customer’s password/).waitFor()
    await home.getByText('Nobody has fetched it yet.').waitFor()
    const locked = join(folder, 'locked.zip')
    const [again] = await Promise.all([page.waitForEvent('download'), home.getByRole('link', { name: 'Fetch the ZIP' }).click()])
    await again.saveAs(locked)
    const marked = /mark is (\w+)/.exec(await home.innerText())![1]!
    expect(marked).not.toBe(mark)

    // brought back: whole, told by its mark; and one that is not
    await page.goto(`${url}/whole`)
    await page.locator('input[type=file]').setInputFiles(locked)
    await page.getByText('It is locked. Type the customer’s password.').waitFor()
    await page.getByLabel('Password').fill('lantern 12')
    await press(page, 'Check it')
    await page.getByText('The password does not open it. Capitals and blanks count.').waitFor()
    await page.getByLabel('Password').fill('Lantern 12')
    await press(page, 'Check it')
    await page
      .getByTestId('whole')
      .filter({ hasText: /^It is whole: all \d+ files are as they were made/ })
      .waitFor()
    await page.getByText(`Its mark is ${marked}.`).waitFor()
    expect(await page.getByRole('row', { name: /^Contacts/ }).innerText()).toMatch(/30/)
    await expectAccessible(page)
    const broken = Buffer.from(whole)
    const at = broken.indexOf('Photos/')
    broken[at + 4000]! ^= 1
    writeFileSync(path, broken)
    await page.locator('input[type=file]').setInputFiles(path)
    await page
      .getByTestId('whole')
      .filter({ hasText: /^1 file of \d+ is not as it was made/ })
      .waitFor()
    await expectAccessible(page)

    // on the sheet it stands with its mark; erased, it is gone
    await page.goto(`${url}/sheet/${number}`)
    await page
      .getByText(new RegExp(`mark ${marked}`))
      .first()
      .waitFor()
    await page.goto(`${url}/tickets/${number}`)
    await page.getByLabel('Signed by').fill('Ines Harrow')
    await press(page, 'The sheet is signed')
    await page.getByTestId('not-printed').getByRole('checkbox').check()
    await page.getByLabel(/^Type T-/).fill(number)
    await press(page, /erase/i)
    await standing(page, 'Handed back')
    expect((await asked({})).status()).toBe(410)
  })
})
