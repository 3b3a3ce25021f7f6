import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { readBenchEvent } from '#server/events/bench-event.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { readToday } from '#server/desk/today/view.ts'
import type { Services } from '#server/base/services.ts'
import { codeOf } from '../setup/codes.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, waitFor, worker } from '../setup/ticket.ts'

let shop: TestShop
beforeAll(async () => {
  shop = await openShop({ secondBench: true })
})
afterAll(() => shop.close())

/** The shop as the worker of a bench has it, or, without one, as the pages' server has it. */
function at(code: 'bench' | 'window' | null): TestShop {
  const { config } = shop.services
  const services: Services = { ...shop.services, config: { ...config, station: config.stations.find((one) => one.code === code) ?? null } }
  return { ...shop, services, hand: (path, body, method) => shop.hand(`@${code ?? 'bench'}/${path}`, body, method) }
}

const workers: { kill(): void }[] = []
/** A worker at a bench, and the runs it worked on. */
function workerAt(code: 'bench' | 'window'): number[] {
  const runs: number[] = []
  workers.push(worker(at(code), (_, run) => void runs.push(run.id)))
  return runs
}
afterEach(() => {
  for (const one of workers.splice(0)) one.kill()
})

let n = 0
async function pairAt(code: 'bench' | 'window'): Promise<{ number: string; old: string; now: string }> {
  const tag = `${code}${++n}`
  const old = { serial: `SO-${tag}`, model: 'Orrin 5', port: n * 2 - 1, people: { seed: n, count: 40, style: 'plain' as const } }
  const now = { serial: `SN-${tag}`, model: 'Orrin 9', port: n * 2 }
  await addPhone(at(code), old)
  await addPhone(at(code), now)
  return { number: await bookTicket(shop, old, now), old: old.serial, now: now.serial }
}

describe('two benches on one database, each with practice phones of its own', () => {
  it('carry two tickets at once, each by the worker of its own bench, and pages see both', async () => {
    const atBench = workerAt('bench')
    const atWindow = workerAt('window')
    const pages = at(null)
    const tickets = { bench: await pairAt('bench'), window: await pairAt('window') }
    await Promise.all([countIn(pages, tickets.bench.number), countIn(pages, tickets.window.number)])
    await Promise.all([carry(pages, tickets.bench.number), carry(pages, tickets.window.number)])
    for (const code of ['bench', 'window'] as const) {
      const { number, old, now } = tickets[code]
      const ticket = await waitFor(pages, number, isChecked, `check off at the ${code}`)
      await expectAgrees(at(code), ticket, { old, new: now })
      expect(ticket.new.station).toBe(code)
    }
    const { rows } = await shop.services.pool.query<{ id: number; station: string }>('select id, station from run order by id')
    expect(rows).toHaveLength(6)
    const of = (code: string) => rows.filter(({ station }) => station === code).map(({ id }) => id)
    expect([...new Set(atBench)].sort()).toEqual(of('bench'))
    expect([...new Set(atWindow)].sort()).toEqual(of('window'))

    for (const who of [pages, at('bench'), at('window')]) {
      const { ports, unseenStations } = await readToday(who.services)
      expect(ports.map(({ port }) => port)).toEqual(Array.from({ length: 16 }, (_, i) => i + 1))
      expect(unseenStations).toEqual([])
      const phoneAt = (port: number) => ports.find((one) => one.port === port)!
      expect(phoneAt(1)).toMatchObject({ station: 'bench', phone: { serial: tickets.bench.old }, ticket: tickets.bench.number })
      expect(phoneAt(11)).toMatchObject({ station: 'window', phone: { serial: tickets.window.old }, ticket: tickets.window.number })
    }
    const { ports } = await readBenchEvent(pages.services, new Map())
    expect(ports.filter(({ phone }) => phone).map(({ station }) => station)).toEqual(['bench', 'bench', 'window', 'window'])
  })

  it('a run waits for the worker of its own bench, whoever else is idle', async () => {
    workerAt('bench')
    const { number } = await pairAt('window')
    await startCountIn(at(null).services, number, shop.actor)
    await new Promise((resolve) => setTimeout(resolve, 1500))
    expect((await readTicket(shop.services, number, shop.actor)).run).toMatchObject({ state: 'waiting', type: 'count-in' })
    workerAt('window')
    await waitFor(at(null), number, (t) => t.run === null && t.forecasts.length > 0, 'count in')
  })

  it('a run of a bench that is no more is taken by whoever is left', async () => {
    const { number } = await pairAt('bench')
    await startCountIn(at(null).services, number, shop.actor)
    await shop.services.pool.query(`update run set station = 'attic' where station = 'bench' and state = 'waiting'`)
    workerAt('bench')
    await waitFor(at(null), number, (t) => t.run === null && t.forecasts.length > 0, 'count in')
  })

  it('nothing starts between two benches, and the ticket says where each phone is', async () => {
    const pages = at(null).services
    const old = { serial: 'SO-apart', model: 'Orrin 5', port: 3 }
    const now = { serial: 'SN-apart', model: 'Orrin 9', port: 7 }
    await addPhone(at('bench'), old)
    await addPhone(at('window'), now)
    const number = await bookTicket(shop, old, now)
    expect(await codeOf(startCountIn(pages, number, shop.actor))).toBe('AtTwoStations')
    const ticket = await readTicket(pages, number, shop.actor)
    expect([ticket.old.station, ticket.new.station, ticket.run]).toEqual(['bench', 'window', null])
  })
})
