import { chromium } from 'playwright-core'
import { pin } from '../tests/setup/shop.ts'
import { runShop } from '../tests/setup/browser.ts'
import { buildWhenStale } from '../scripts/build.ts'
import { report } from './measure.ts'
import type { BenchShop } from './shop.ts'

const mostBytes = 350_000
const mostRequests = 20

/** What a ticket’s page costs over the wire at its first visit. */
export async function measurePage(shop: BenchShop): Promise<void> {
  buildWhenStale()
  process.env.CORVEND_TEST_ADMIN_URL = shop.adminUrl
  const running = await runShop({ demo: true })
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
  try {
    const context = await browser.newContext()
    await context.request.post(`${running.url}/api/session`, { data: { name: 'Rowan', pin } })
    const phone = (maker: string, model: string, platform: string, serial: string) => {
      return { place: 'bench', maker, model, platform, version: '18', serial }
    }
    const booked = await context.request.post(`${running.url}/api/tickets`, {
      data: {
        customer: { name: 'Wilf Bench' },
        old: phone('Orrin', 'Orrin 5', 'android', 'OR5-4417-K2'),
        new: phone('Veyra', 'Veyra 12', 'ios', 'VY12-9031-C7'),
        kinds: ['contacts', 'messages', 'calls', 'calendar', 'photos', 'apps'],
        promisedAt: new Date(Date.now() + 3_600_000).toISOString(),
      },
    })
    const { number } = (await booked.json()) as { number: string }
    const page = await context.newPage()
    const client = await context.newCDPSession(page)
    await client.send('Network.enable')
    const sizes: number[] = []
    client.on('Network.loadingFinished', ({ encodedDataLength }) => sizes.push(encodedDataLength))
    await page.goto(`${running.url}/tickets/${number}`)
    await page.getByTestId('standing').waitFor()
    await page.waitForTimeout(1500)
    const bytes = sizes.reduce((sum, size) => sum + size, 0)
    console.log(`a ticket’s page at its first visit: ${Math.round(bytes / 1000)} kB over the wire, ${sizes.length} requests`)
    report('its bytes over 350 kB', bytes / mostBytes, { atMost: 1 })
    report('its requests over 20', sizes.length / mostRequests, { atMost: 1 })
  } finally {
    await browser.close()
    await running.close()
  }
}
