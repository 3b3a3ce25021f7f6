import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { followGuide } from '../setup/follow-guide.ts'
import { expectAccessible, quiet, runShop, type RunningShop } from '../setup/browser.ts'
import { bookTicket, clearBench } from '../setup/ticket.ts'

let running: RunningShop
let n = 0
beforeAll(async () => {
  running = await runShop()
})
afterAll(() => running.close())

const hand = (path: string, body: object = {}) => running.shop.hand(path, body)

const pairs = [
  ['Android to iOS', 'Orrin 7', '15', 'Veyra 14', '18'],
  ['iOS to Android', 'Veyra 10', '16', 'Orrin 9', '15'],
  ['Android to Android of another maker', 'Orrin 4', '12', 'Tamsel M3', '14'],
  ['iOS to iOS', 'Veyra 9', '16', 'Veyra 12', '18'],
  ['keypad to Android', 'Holt 3', '2', 'Orrin 7', '14'],
] as const

describe('from the box to ready, acting only on the steps the screen names', () => {
  it.each(pairs)('%s: %s %s to %s %s', async (_, from, fromVersion, to, toVersion) => {
    await clearBench(running.shop)
    n++
    const serials = { old: `G-OLD-${n}`, new: `G-NEW-${n}` }
    await hand('phones', { serial: serials.old, model: from, version: fromVersion, state: 'in-box' })
    await hand('phones', { serial: serials.new, model: to, version: toVersion, state: 'in-box' })
    // habits that a bench meets: one cable that only charges, one port that sleeps, a low battery, a hot phone
    await hand(`phones/${serials.old}/set`, { cable: 'charge-only', battery: 12, is_asleep: true })
    await hand(`phones/${serials.new}/set`, { temperature: 46 })
    const number = await bookTicket(
      running.shop,
      { serial: serials.old, model: from, port: 1, version: fromVersion },
      { serial: serials.new, model: to, port: 2, version: toVersion },
      ['contacts', 'messages', 'calls', 'calendar', 'photos', 'apps'],
    )
    const page = await running.open(`/tickets/${number}`)
    const asked: string[] = []
    await page.getByText('Making ready').waitFor()
    // the page looks once more when its event stream opens
    await quiet(page)
    page.on('request', (request) => void asked.push(`${request.method()} ${new URL(request.url()).pathname}`))
    const fingers = followGuide(page, running.shop, serials, { old: 1, new: 2 })
    await fingers.untilReady()
    // the screen followed without reload, and asked nothing: only what a person ticked was sent
    expect(asked.filter((line) => line.includes('/api/') && !/^(POST .*\/needs|GET \/api\/tickets\/T-\d+)$/.test(line))).toEqual([])
    const ticks = asked.filter((line) => line.startsWith('POST')).length
    expect(asked.filter((line) => line.startsWith('GET')).length).toBeLessThanOrEqual(ticks * 2)
    expect(fingers.done.length).toBeGreaterThan(8)
    await page.getByRole('button', { name: /^Count in the/ }).waitFor()
    await expectAccessible(page)
    await page.close()
  })
})

describe('from whatever state a seed draws to ready', () => {
  it.each([
    [1, 'Tamsel M3', 'Veyra 10'],
    [2, 'Veyra 14', 'Orrin 9'],
    [3, 'Holt 5', 'Tamsel M2'],
  ] as const)('seed %i: %s to %s', async (seed, from, to) => {
    await clearBench(running.shop)
    n++
    const serials = { old: `D-OLD-${n}`, new: `D-NEW-${n}` }
    for (const [side, model] of [
      ['old', from],
      ['new', to],
    ] as const) {
      await hand('phones', { serial: serials[side], model, version: '15' })
      expect(await hand(`phones/${serials[side]}/roll`, { seed: seed * 10 + (side === 'old' ? 0 : 1) })).toMatchObject({
        seed: seed * 10 + (side === 'old' ? 0 : 1),
      })
    }
    const number = await bookTicket(
      running.shop,
      { serial: serials.old, model: from, port: 1, version: '15' },
      { serial: serials.new, model: to, port: 2, version: '15' },
      ['contacts', 'messages', 'calendar'],
    )
    const page = await running.open(`/tickets/${number}`)
    await page.getByText('Making ready').waitFor()
    await followGuide(page, running.shop, serials, { old: 1, new: 2 }).untilReady()
    await page.getByRole('button', { name: /^Count in the/ }).waitFor()
    await page.close()
  })
})
