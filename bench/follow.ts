import { spawn } from 'node:child_process'
import { chromium } from 'playwright-core'
import { bookIn } from '#server/desk/book-in/act.ts'
import { buildWhenStale } from '../scripts/build.ts'
import { freePort } from '../scripts/postgres.ts'
import { openShop, pin, type TestShop } from '../tests/setup/shop.ts'
import { median } from './measure.ts'
import type { BenchShop } from './shop.ts'

const rounds = 30

/** How long after a hand the screen shows it, as a multiple of a bare event's round trip to who watches the phones. */
export async function measureFollow({ adminUrl }: BenchShop): Promise<void> {
  process.env.CORVEND_TEST_ADMIN_URL = adminUrl
  buildWhenStale()
  const shop = await openShop()
  const port = await freePort()
  const url = `http://127.0.0.1:${port}`
  const web = spawn(process.execPath, ['.output/server/index.mjs'], {
    env: { ...process.env, ...shop.env, NITRO_HOST: '127.0.0.1', NITRO_PORT: String(port), PORT: String(port) },
    stdio: 'ignore',
  })
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-background-networking', '--disable-gpu', '--no-first-run'],
  })
  try {
    const number = await readyTicket(shop)
    for (
      let i = 0;
      i < 100 &&
      !(await fetch(`${url}/api/health`).then(
        (r) => r.ok,
        () => false,
      ));
      i++
    )
      await new Promise((resolve) => setTimeout(resolve, 100))
    const context = await browser.newContext()
    await context.request.post(`${url}/api/session`, { data: { name: 'Rowan', pin } })
    const page = await context.newPage()
    await page.goto(`${url}/tickets/${number}`)
    await page.getByRole('button', { name: /Make ready/ }).click()
    await page.waitForTimeout(1000)
    const bare = await watchBare(shop)
    const times = { screen: [] as number[], bare: [] as number[] }
    for (let i = 0; i < rounds; i++) {
      const isLocking = i % 2 === 0
      const told = bare.next()
      const began = performance.now()
      const acted = shop.hand(`phones/F-OLD/${isLocking ? 'lock' : 'unlock'}`, {})
      await told
      times.bare.push(performance.now() - began)
      await page.waitForSelector(`section[data-side="old"] [data-need="unlocked"][data-state="${isLocking ? 'unmet' : 'met'}"]`, {
        timeout: 10_000,
      })
      times.screen.push(performance.now() - began)
      await acted
      await page.waitForTimeout(120)
    }
    bare.stop()
    const [screen, event] = [median(times.screen), median(times.bare)]
    console.log(
      `a hand is told of in ${event.toFixed(1)} ms, and on the screen in ${screen.toFixed(1)} ms: ${(screen / event).toFixed(1)} bare events`,
    )
  } finally {
    await browser.close()
    web.kill('SIGKILL')
    await shop.close()
  }
}

async function readyTicket(shop: TestShop): Promise<string> {
  const phone = (serial: string, model: string, platform: 'android' | 'ios') =>
    ({ place: 'bench', maker: model.split(' ')[0]!, model, platform, version: '15', serial }) as const
  for (const [serial, model, at] of [
    ['F-OLD', 'Orrin 9', 1],
    ['F-NEW', 'Veyra 12', 2],
  ] as const) {
    await shop.hand('phones', { serial, model, version: '15' })
    await shop.hand(`phones/${serial}/plug`, { port: at })
    await shop.hand(`phones/${serial}/trust`, {})
  }
  const body = {
    customer: { name: 'Bench', phone: '', note: '' },
    old: phone('F-OLD', 'Orrin 9', 'android'),
    new: phone('F-NEW', 'Veyra 12', 'ios'),
    kinds: ['contacts'],
    intake: {},
    promisedAt: '2026-11-24T16:00:00Z',
    waitsInShop: false,
  }
  return bookIn(shop.services, body, shop.actor)
}

/** The phones' own event stream: `next` resolves with the next event. */
async function watchBare(shop: TestShop): Promise<{ next(): Promise<void>; stop(): void }> {
  const stop = new AbortController()
  const response = await fetch(`${shop.services.config.station!.link.url}/watch`, {
    headers: { authorization: `Bearer ${shop.services.config.station!.link.token}` },
    signal: stop.signal,
  })
  let wake: () => void = () => undefined
  void (async () => {
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>)
      if (!Buffer.from(chunk).toString().includes('"here"')) wake()
  })().catch(() => undefined)
  return { next: () => new Promise((resolve) => (wake = resolve)), stop: () => stop.abort() }
}
