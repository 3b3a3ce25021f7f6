import { chromium } from 'playwright-core'
import { pin } from '../tests/setup/shop.ts'
import { runShop } from '../tests/setup/browser.ts'
import { report } from './measure.ts'
import type { BenchShop } from './shop.ts'

const mostBytes = 350_000
const mostRequests = 20

/** What a ticket’s page costs over the wire at its first visit. */
export async function measurePage(shop: BenchShop): Promise<void> {
  process.env.CORVEND_TEST_ADMIN_URL = shop.adminUrl
  const running = await runShop({ demo: true })
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
  try {
    const context = await browser.newContext()
    await context.request.post(`${running.url}/api/session`, { data: { name: 'Rowan', pin } })
    const { tickets } = (await (await context.request.get(`${running.url}/api/today`)).json()) as { tickets: { number: string }[] }
    const page = await context.newPage()
    const client = await context.newCDPSession(page)
    await client.send('Network.enable')
    const sizes: number[] = []
    client.on('Network.loadingFinished', ({ encodedDataLength }) => sizes.push(encodedDataLength))
    await page.goto(`${running.url}/tickets/${tickets[0]!.number}`)
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
