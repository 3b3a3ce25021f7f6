import { openShop, startProcess } from '../tests/setup/shop.ts'
import { startCarry } from '#server/desk/carry/act.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { bookIn } from '#server/desk/book-in/act.ts'
import { median } from './measure.ts'
import type { BenchShop } from './shop.ts'

const rounds = 5
const leaseMs = 10_000
const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** How long after a worker is killed another takes up its run, against the lease that would have run out else. */
export async function measureTakeover({ adminUrl }: BenchShop): Promise<void> {
  process.env.CORVEND_TEST_ADMIN_URL = adminUrl
  const shop = await openShop({ leaseMs })
  const delays: number[] = []
  const phone = (serial: string, model: string) => ({
    place: 'bench' as const,
    maker: 'Orrin',
    model,
    platform: 'android' as const,
    version: '13',
    serial,
  })
  const epoch = async () =>
    (await shop.services.pool.query<{ epoch: number }>(`select max(epoch) as epoch from run where type = 'carry'`)).rows[0]!.epoch
  try {
    for (const [i, [serial, model]] of [['TO', 'Orrin 5'] as const, ['TN', 'Orrin 9'] as const].entries()) {
      await shop.hand('phones', { serial, model, version: '13', settle_ms: 50 })
      if (i === 0) await shop.hand(`phones/${serial}/fill`, { seed: 8, count: 20_000 })
      await shop.hand(`phones/${serial}/plug`, { port: i + 1 })
      await shop.hand(`phones/${serial}/trust`, {})
    }
    const customer = { name: 'Bench', phone: '', note: '' }
    const booking = {
      customer,
      old: phone('TO', 'Orrin 5'),
      new: phone('TN', 'Orrin 9'),
      kinds: ['contacts'],
      intake: {},
      promisedAt: '2026-12-01T10:00:00Z',
      waitsInShop: false,
    }
    const number = await bookIn(shop.services, booking, shop.actor)
    const work = async () => (await startProcess('server/worker/main.ts', shop.env)).child
    let mine = await work()
    await startCountIn(shop.services, number, shop.actor)
    while ((await readTicket(shop.services, number, shop.actor)).run) await sleep(200)
    const { forecasts } = await readTicket(shop.services, number, shop.actor)
    await startCarry(shop.services, number, { actor: shop.actor, body: { stamps: { contacts: forecasts[0]!.stamp }, confirmRoles: true } })
    while ((await epoch()) < 1) await sleep(20)
    for (let round = 0; round < rounds; round++) {
      const other = await work()
      await sleep(1500)
      const before = await epoch()
      const began = performance.now()
      mine.kill('SIGKILL')
      while ((await epoch()) === before) await sleep(10)
      delays.push(performance.now() - began)
      mine = other
    }
    mine.kill('SIGKILL')
    const seconds = (ms: number) => (ms / 1000).toFixed(1)
    console.log(
      `a killed worker’s run is taken up after ${seconds(median(delays))} s (median of ${rounds}; ${seconds(Math.max(...delays))} s at worst; its lease: ${seconds(leaseMs)} s)`,
    )
  } finally {
    await shop.close()
  }
}
