import type { ChildProcess } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type Browser, type BrowserContext, type Page } from 'playwright-core'
import { expect, type TestContext } from 'vitest'
import { openShop, pin, startProcess, type TestShop } from './shop.ts'
import { startWeb } from './web.ts'

export interface RunningShop {
  readonly shop: TestShop
  readonly browser: Browser
  readonly url: string
  readonly workers: ChildProcess[]
  /** Everything the web process and the workers have written to their output, and every address the pages asked for. */
  readonly output: readonly string[]
  readonly urls: readonly string[]
  addWorker(station?: 'bench' | 'window'): Promise<ChildProcess>
  /** A page that fails the test on any console error. */
  open(path: string, size?: { width: number; height: number }): Promise<Page>
  restartWeb(): Promise<void>
  /** Process id of the web process that runs now. */
  webPid(): number
  close(): Promise<void>
}

const failedFolder = '.corvend/failed'
const headlessShell = '/usr/bin/chromium-headless-shell'
const isTraced = process.env.CORVEND_TRACE === '1'

const axe = readFileSync('node_modules/axe-core/axe.min.js', 'utf8')

export const press = (page: Page, name: string | RegExp) => page.getByRole('button', { name }).first().click()
/** Waits until the page has asked nothing for a while. */
export async function quiet(page: Page, ms = 1000): Promise<void> {
  let last = Date.now()
  const asked = () => void (last = Date.now())
  page.on('request', asked)
  while (Date.now() - last < ms) await page.waitForTimeout(100)
  page.off('request', asked)
}
/** Waits until the ticket says so. */
export const standing = (page: Page, text: string | RegExp) =>
  page.getByTestId('standing').filter({ hasText: text }).waitFor({ timeout: 300_000 })

/**
 * Everything as in the demo: web, worker and stand-ins in their own processes, and a browser.
 * @param oldSpaceMb the old space that web and worker must do with
 */
export async function runShop({
  demo = false,
  leaseMs = 900,
  oldSpaceMb,
  secondBench = false,
}: { demo?: boolean; leaseMs?: number; oldSpaceMb?: number; secondBench?: boolean } = {}): Promise<RunningShop> {
  const shop = await openShop({ demo, leaseMs, secondBench })
  const limited: Record<string, string> = oldSpaceMb ? { NODE_OPTIONS: `--max-old-space-size=${oldSpaceMb}` } : {}
  const output: string[] = []
  const urls: string[] = []
  const web = await startWeb(shop, { output, env: limited })
  const { url } = web
  const workers: ChildProcess[] = []
  const addWorker = async (station = 'bench') => {
    const { child } = await startProcess('server/worker/main.ts', { ...shop.env, ...limited, CORVEND_STATION: station }, output)
    workers.push(child)
    return child
  }
  await addWorker()
  if (secondBench) await addWorker('window')
  // one window with a tab for each page: the browser draws each window’s own frame in a process more
  const profile = mkdtempSync(join(tmpdir(), 'corvend-browser-'))
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: process.env.CORVEND_CHROMIUM ?? (existsSync(headlessShell) ? headlessShell : '/usr/bin/chromium'),
    // the headless build asks before a page copies, which nobody would answer
    permissions: ['clipboard-write'],
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    args: [
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--no-first-run',
      '--disable-gpu',
      '--disable-quic',
    ],
  })
  const browser = context.browser()!
  // what was done and asked, for who looks into a test that fails: each answer is kept, which is work for the browser
  if (isTraced) await context.tracing.start()
  const errors: string[] = []
  const shown = { context, errors }
  openNow.add(shown)
  let isSignedIn = false
  return {
    shop,
    browser,
    url,
    workers,
    output,
    urls,
    addWorker,
    async open(path, size) {
      const page = await context.newPage()
      if (size) await page.setViewportSize(size)
      // a refused request is the browser's own line; what the page says of it is tested
      page.on(
        'console',
        (message) => message.type() === 'error' && !/Failed to load resource/.test(message.text()) && errors.push(message.text()),
      )
      page.on('request', (request) => void urls.push(request.url()))
      page.on('pageerror', (error) => errors.push(error.message))
      // a page beside other work on the machine takes as long as that lets it
      page.setDefaultTimeout(240_000)
      if (!isSignedIn) await context.request.post(`${url}/api/session`, { data: { name: 'Rowan', pin } })
      isSignedIn = true
      await page.goto(url + path)
      return page
    },
    restartWeb: () => web.restart(),
    webPid: () => web.pid(),
    async close() {
      openNow.delete(shown)
      await context.close()
      rmSync(profile, { recursive: true, force: true })
      web.kill()
      for (const worker of workers) worker.kill('SIGKILL')
      await shop.close()
      expect(errors).toEqual([])
    },
  }
}

/** What is open now, for a test that fails. */
const openNow = new Set<{ readonly context: BrowserContext; readonly errors: readonly string[] }>()

/** A picture of each page and what it said, with `CORVEND_TRACE=1` also a trace of what was done, in `.corvend/failed/`. */
export async function keepWhatFailed(task: TestContext['task']): Promise<void> {
  const name = `${task.file.name} ${task.name}`.replace(/[^\w]+/g, '-').slice(-120)
  mkdirSync(failedFolder, { recursive: true })
  const left = async (kind: string, make: (path: string) => Promise<unknown>) => {
    const path = join(failedFolder, `${name}.${kind}`)
    if (!existsSync(path)) await make(path).catch(() => undefined)
  }
  for (const [at, { context, errors }] of [...openNow].entries()) {
    for (const [i, page] of context.pages().entries()) {
      await left(`${at}.${i}.png`, (path) => page.screenshot({ path, timeout: 5000 }))
      await left(`${at}.${i}.html`, async (path) =>
        writeFileSync(path, `<!-- ${page.url()}\n${errors.join('\n')} -->\n${await page.content()}`),
      )
    }
    if (!isTraced) continue
    await left(`${at}.zip`, async (path) => {
      await context.tracing.stop({ path })
      await context.tracing.start()
    })
  }
}

/** No violation of the accessibility rules on the page as it is now. */
export async function expectAccessible(page: Page): Promise<void> {
  // a page that is still empty has nothing to find
  await page.locator('main').first().waitFor()
  if (!(await page.evaluate(() => 'axe' in globalThis))) await page.evaluate(axe)
  const found = await page.evaluate(async () => {
    const { axe } = globalThis as unknown as { axe: typeof import('axe-core') }
    const runOnly = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice']
    // what passes is not described
    const result = await axe.run(document, { runOnly, resultTypes: ['violations'] })
    return result.violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    )
  })
  expect(found).toEqual([])
}
