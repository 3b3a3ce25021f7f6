import type { Page } from 'playwright-core'
import { bookIn } from '#server/desk/book-in/act.ts'
import { buildWhenStale } from '../scripts/build.ts'
import { press, runShop, type RunningShop } from '../tests/setup/browser.ts'
import { peakKb, report } from './measure.ts'
import type { BenchShop } from './shop.ts'

interface Size {
  readonly messages: number
  readonly conversations: number
  readonly contacts: number
}
const heavy: Size = { messages: 500_000, conversations: 2_000, contacts: 20_000 }
const tenth: Size = { messages: 50_000, conversations: 2_000, contacts: 20_000 }
const hourMs = 3_600_000

/** The heavy phone, and one with a tenth of its messages, carried through the real interface with the page kept open. */
export async function measureHeavy({ adminUrl }: BenchShop): Promise<void> {
  process.env.CORVEND_TEST_ADMIN_URL = adminUrl
  buildWhenStale()
  const share = Number(process.env.CORVEND_HEAVY_SHARE ?? 1)
  const scaled = (size: Size): Size => ({
    ...size,
    messages: Math.round(size.messages * share),
    contacts: Math.round(size.contacts * share),
  })
  const small = await carryThrough(scaled(tenth))
  const large = await carryThrough(scaled(heavy))
  for (const [who, kept] of [
    ['worker', 'worker'],
    ['web', 'web'],
  ] as const) {
    console.log(
      `${who}: ${(small.peakKb[kept] / 1024).toFixed(0)} MB at ${small.messages.toLocaleString('en-GB')} messages, ${(large.peakKb[kept] / 1024).toFixed(0)} MB at ${large.messages.toLocaleString('en-GB')} (old space 192 MB)`,
    )
    report(`peak memory of the ${who}, large over small`, large.peakKb[kept] / small.peakKb[kept], { atMost: 1.25 })
  }
  report('the page’s heap when all is done, large over small', large.pageBytes / small.pageBytes, { atMost: 1.25 })
  report('rows of a list in the DOM, most seen', Math.max(small.domRows, large.domRows), { atMost: 100 })
  report('pages fetched for one change of facet', large.facetPages, { atMost: 1 })
  report('longest the page did not answer while it ran, in seconds', large.longestFreezeMs / 1000, { atMost: 0.5 })
}

interface Carried {
  readonly messages: number
  readonly peakKb: { worker: number; web: number }
  readonly pageBytes: number
  readonly domRows: number
  readonly facetPages: number
  readonly longestFreezeMs: number
}

async function carryThrough(size: Size): Promise<Carried> {
  const running = await runShop({ oldSpaceMb: 192, leaseMs: 10_000 })
  try {
    const began = performance.now()
    const number = await prepare(running, size)
    say('phones filled', began, size.messages + size.contacts)
    const page = await running.open(`/tickets/${number}`)
    page.setDefaultTimeout(hourMs)
    await watchFreezes(page)
    let domRows = 0
    const rows = async () => (domRows = Math.max(domRows, await page.locator('[data-index]').count()))
    const looking = setInterval(() => void rows().catch(() => undefined), 500)
    const step = async (what: string, work: () => Promise<unknown>) => {
      const start = performance.now()
      await work()
      say(what, start, size.messages + size.contacts)
    }
    await step('counted in', async () => {
      await press(page, /^Count in the/)
      await page.getByRole('button', { name: /^Carry [\d,]+ items/ }).waitFor()
    })
    const { facetPages } = await lookThrough(page, running)
    await step('carried and checked', async () => {
      await press(page, /^Carry [\d,]+ items/)
      await page.locator('tr[data-kind="messages"] [data-count="pending"]').click()
      for (const kind of ['contacts', 'messages']) await page.locator(`tr[data-kind="${kind}"][data-verdict^="agrees"]`).waitFor()
    })
    clearInterval(looking)
    await rows()
    const client = await page.context().newCDPSession(page)
    await client.send('HeapProfiler.collectGarbage')
    const { usedSize } = await client.send('Runtime.getHeapUsage')
    const longestFreezeMs = await page.evaluate(() => (globalThis as unknown as Watched).longestFreezeMs)
    console.log(
      `  the page stood still ${longestFreezeMs.toFixed(0)} ms at the longest; its heap ${(usedSize / 1e6).toFixed(1)} MB; at most ${domRows} rows in the DOM`,
    )
    return {
      messages: size.messages,
      peakKb: { worker: peakKb(running.workers[0]!.pid!), web: peakKb(running.webPid()) },
      pageBytes: usedSize,
      domRows,
      facetPages,
      longestFreezeMs,
    }
  } finally {
    await running.close()
  }
}

function say(what: string, since: number, items: number): void {
  const s = (performance.now() - since) / 1000
  console.log(`  ${what}: ${s.toFixed(1)} s, ${(items / s).toFixed(0)} items a second`)
}

async function prepare({ shop }: RunningShop, { messages, conversations, contacts }: Size): Promise<string> {
  const [old, now] = ['HEAVY-OLD', 'HEAVY-NEW']
  for (const [serial, model, port] of [
    [old, 'Orrin 9', 1],
    [now, 'Orrin 7', 2],
  ] as const) {
    await shop.hand('phones', { serial, model, version: '15' })
    await shop.hand(`phones/${serial}/plug`, { port })
    await shop.hand(`phones/${serial}/trust`, {})
  }
  await shop.hand(`phones/${old}/fill`, { kind: 'messages', seed: 99, count: messages, conversations })
  await shop.hand(`phones/${old}/fill`, { seed: 98, count: contacts })
  await shop.hand(`phones/${now}/message-app-helper`, {})
  const phone = (serial: string, model: string) =>
    ({ place: 'bench', maker: 'Orrin', model, platform: 'android', version: '15', serial }) as const
  const number = await bookIn(
    shop.services,
    {
      customer: { name: 'Bench', phone: '', note: '' },
      old: phone(old, 'Orrin 9'),
      new: phone(now, 'Orrin 7'),
      kinds: ['contacts', 'messages'],
      intake: {},
      promisedAt: '2026-11-24T16:00:00Z',
      waitsInShop: false,
    },
    shop.actor,
  )
  return number
}

/** Opens the list, scrolls it and changes its facet once. */
async function lookThrough(page: Page, { urls }: RunningShop): Promise<{ facetPages: number }> {
  await page.locator('tr[data-kind="messages"] [data-count="count"]').click()
  await page.locator('[data-index]').first().waitFor()
  await page.getByLabel('Shape').selectOption('message-sent')
  await page.waitForTimeout(1500)
  const before = urls.length
  await page.getByLabel('Shape').selectOption('message-mms')
  await page.waitForTimeout(1500)
  const facetPages = urls.slice(before).filter((url) => /\/entries$/.test(url)).length
  await page.getByLabel('Close the items').click()
  return { facetPages }
}

/** What a page that is watched knows of itself. */
interface Watched {
  longestFreezeMs: number
}

async function watchFreezes(page: Page): Promise<void> {
  await page.evaluate(() => {
    let last = performance.now()
    const watched = globalThis as unknown as Watched
    watched.longestFreezeMs = 0
    setInterval(() => {
      const now = performance.now()
      watched.longestFreezeMs = Math.max(watched.longestFreezeMs, now - last - 50)
      last = now
    }, 50)
  })
}
