import { randomBytes } from 'node:crypto'
import { zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket } from '../setup/ticket.ts'
import { startWeb, type Web } from '../setup/web.ts'

/** How long the web process may work without a look at anybody else, in milliseconds: a pause a person does not notice. */
const mostTurnMs = 500
/** How long health and another ticket may wait for any reason, a machine busy with something else among them. */
const mostGapMs = 5000
/** A bomb is larger; what is compiled and kept for the next is not. */
const mostGrownMb = 20

let shop: TestShop
let web: Web
let number: string
let startMb = 0
const liveMb = async () => (await web.liveBytes()) / 1e6
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
  web = await startWeb(shop)
  // it begins with a long turn: whoever watches sees one
  expect(await web.longestTurnMs()).toBeGreaterThan(50)
  const old = { serial: 'BO-O', model: 'Orrin 5', port: 1, people: { seed: 3, count: 12 } }
  const now = { serial: 'BO-N', model: 'Orrin 9', port: 2, people: { seed: 4, count: 3 } }
  for (const phone of [old, now]) await addPhone(shop, phone)
  number = await bookTicket(shop, old, now, ['contacts', 'calls'])
  // what it takes to have taken something in once is no growth
  await (await upload(card(''))).text()
  startMb = await liveMb()
})
afterAll(async () => {
  web.kill()
  await shop.close()
})

const upload = (body: Uint8Array | string) =>
  fetch(`${web.url}/api/uploads`, {
    method: 'POST',
    headers: { authorization: `Bearer ${shop.token}`, 'content-type': 'application/octet-stream', connection: 'close' },
    body: body as BodyInit,
  })

/** Another client asks for health and for a second ticket all the while; answers the longest it waited. */
async function watched<T>(work: () => Promise<T>): Promise<{ result: T; gapMs: number }> {
  let isOver = false
  let gapMs = 0
  const asking = (async () => {
    while (!isOver) {
      for (const path of ['/api/health', `/api/tickets/${number}`]) {
        const began = performance.now()
        // making a bomb holds this process up: a connection left open would be over by then
        const { ok } = await fetch(web.url + path, { headers: { authorization: `Bearer ${shop.token}`, connection: 'close' } })
        gapMs = Math.max(gapMs, performance.now() - began)
        if (!ok) throw new Error(`no answer of ${path}`)
      }
      await new Promise((resolve) => setTimeout(resolve, 10))
    }
  })()
  const result = await work().finally(() => (isOver = true))
  await asking
  return { result, gapMs }
}

const event = (lines: string) =>
  `BEGIN:VEVENT\r\nUID:${randomBytes(4).toString('hex')}\r\nSUMMARY:x\r\nDTSTART:20260101T080000Z\r\n${lines}\r\nEND:VEVENT\r\n`
const calendar = (inner: string) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${inner}END:VCALENDAR\r\n`
const card = (inner: string) => `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:x\r\n${inner}END:VCARD\r\n`

/** A ZIP of folders only, header after header as a streaming reader meets them. */
function folders(n: number): Uint8Array {
  const headers: Buffer[] = []
  for (let i = 0; i < n; i++) {
    const name = Buffer.from(`d${i}/`)
    const header = Buffer.alloc(30)
    header.writeUInt32LE(0x04034b50, 0)
    header.writeUInt16LE(20, 4)
    header.writeUInt16LE(name.length, 26)
    headers.push(header, name)
  }
  const end = Buffer.alloc(22)
  end.writeUInt32LE(0x06054b50, 0)
  return Buffer.concat([...headers, end])
}

const bombs: readonly (readonly [name: string, make: () => Uint8Array | string, answers: readonly number[]])[] = [
  ['60 MB of nothing', () => Buffer.alloc(60_000_000), [422]],
  ['a ZIP that grows a thousandfold', () => zipSync({ 'a.vcf': Buffer.alloc(60_000_000, 'BEGIN:VCARD\r\n') }, { level: 9 }), [413, 422]],
  ['a ZIP of 300,000 folders', () => folders(300_000), [413, 422]],
  ['a ZIP in a ZIP', () => zipSync({ 'a.zip': zipSync({ 'b.vcf': Buffer.from(card('')) }) }), [422]],
  ['a ZIP cut in half', () => zipSync({ 'a.vcf': randomBytes(100_000) }).subarray(0, 40_000), [422]],
  ['200,000 NOTE lines in one card', () => card('NOTE:x\r\n'.repeat(200_000)), [200]],
  ['a line without an end', () => `BEGIN:VCARD\r\nFN:${'x'.repeat(30_000_000)}`, [200, 422]],
  ['one folded line of 5 MB', () => card(`NOTE:${'x\r\n '.repeat(1_300_000)}\r\n`), [200]],
  ['200,000 cards', () => card('TEL:1\r\n').repeat(200_000), [200]],
  ['100,000 times BEGIN', () => 'BEGIN:VCARD\r\n'.repeat(100_000), [200, 422]],
  [
    '20,000 zones in one calendar',
    () =>
      calendar(
        Array.from({ length: 20_000 }, (_, i) => `BEGIN:VTIMEZONE\r\nTZID:z${i}\r\nEND:VTIMEZONE\r\n`).join('') +
          event('DURATION:PT1H').repeat(2000),
      ),
    [200],
  ],
  [
    '100,000 events of one UID',
    () => calendar('BEGIN:VEVENT\r\nUID:one\r\nDTSTART:20260101T080000Z\r\nEND:VEVENT\r\n'.repeat(100_000)),
    [200],
  ],
  [
    '100,000 components in each other',
    () => calendar(`${'BEGIN:VEVENT\r\n'.repeat(100_000)}${'END:VEVENT\r\n'.repeat(100_000)}`),
    [200, 422],
  ],
  ...['FREQ=SECONDLY', 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31', 'FREQ=YEARLY;BYHOUR=1,2,3;BYMINUTE=1,2,3;BYSECOND=1,2,3'].map(
    (rule) =>
      [
        `a thousand events in a zone whose clock changes by ${rule}`,
        () =>
          calendar(
            `BEGIN:VTIMEZONE\r\nTZID:z\r\nBEGIN:STANDARD\r\nDTSTART:19700101T000000\r\nRRULE:${rule}\r\nTZOFFSETFROM:+0100\r\nTZOFFSETTO:+0000\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\n` +
              'BEGIN:VEVENT\r\nUID:z\r\nDTSTART;TZID=z:20260101T080000\r\nEND:VEVENT\r\n'.repeat(1000),
          ),
        [200],
      ] as const,
  ),
  ...[
    'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31',
    'FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=31',
    'FREQ=DAILY;INTERVAL=2147483647;COUNT=2147483647',
    'FREQ=MINUTELY;BYHOUR=3;BYMONTH=1',
  ].map(
    (rule) =>
      [
        `a thousand series that never come: ${rule}`,
        () => calendar(Array.from({ length: 1000 }, () => event(`RRULE:${rule}`)).join('')),
        [200],
      ] as const,
  ),
]

describe('what stops others stops nobody here', () => {
  it.each(bombs)('%s', async (name, make, answers) => {
    // made before anybody watches: this process asks, too
    const body = make()
    await web.longestTurnMs()
    const { result, gapMs } = await watched(async () => {
      const response = await upload(body)
      return { status: response.status, said: (await response.json()) as { code?: string; upload?: string } }
    })
    const turnMs = await web.longestTurnMs()
    console.log(
      `${name}: ${result.status} ${result.said.code ?? ''}, the longest turn ${turnMs} ms, the longest wait of another ${gapMs.toFixed(0)} ms`,
    )
    expect(answers).toContain(result.status)
    expect(turnMs).toBeLessThan(mostTurnMs)
    expect(gapMs).toBeLessThan(mostGapMs)
  })

  it('and the process holds nothing of it', async () => {
    const nowMb = await liveMb()
    console.log(`held ${startMb.toFixed(0)} MB before, ${nowMb.toFixed(0)} MB after`)
    expect(nowMb - startMb).toBeLessThan(mostGrownMb)
  })
})
