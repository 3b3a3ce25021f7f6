import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { ChildProcess } from 'node:child_process'
import { startPostgres } from '../../scripts/postgres.ts'
import { testPostgres } from '../setup/database.ts'
import { openShop, startProcess, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, waitFor } from '../setup/ticket.ts'

let shop: TestShop
const children: ChildProcess[] = []
const addWorker = async () => {
  const { child } = await startProcess('server/worker/main.ts', shop.env)
  children.push(child)
  return child
}
beforeAll(async () => {
  shop = await openShop({ leaseMs: 1500 })
})
afterAll(async () => {
  for (const child of children) child.kill('SIGKILL')
  await shop.close()
})

describe('workers in processes of their own', () => {
  it('one is killed in the middle of 5,000 contacts: the other takes over by itself and the ticket agrees', async () => {
    const old = { serial: 'W-OLD', model: 'Orrin 5', port: 1, people: { seed: 8, count: 5000 } }
    const now = { serial: 'W-NEW', model: 'Veyra 12', port: 2, people: { seed: 9, count: 40 }, settle_ms: 300 }
    await addPhone(shop, old)
    await addPhone(shop, now)
    const number = await bookTicket(shop, old, now)
    await addWorker()
    await addWorker()
    await countIn(shop, number)
    await carry(shop, number)
    await waitFor(shop, number, (t) => (t.ledger[0]?.fates.carried ?? 0) > 1500, 'a third')
    const { rows } = await shop.services.pool.query<{ owner: string }>(`select lease_owner as owner from run where type = 'carry'`)
    const mine = children.find((child) => child.pid === Number(rows[0]!.owner.split('.')[0]))
    expect(mine).toBeDefined()
    mine!.kill('SIGKILL')
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
    expect(ticket.ledger[0]).toMatchObject({ short: 0, over: 0, fates: { carried: 5000 } })
    const epochs = await shop.services.pool.query<{ epoch: number }>(`select max(epoch) as epoch from run where type = 'carry'`)
    expect(epochs.rows[0]!.epoch).toBeGreaterThan(1)
    // a record once each, by the phone's own store
    const store = await shop.hand('phones/W-NEW/store')
    const names = store.records.map((r: { facts: string[] }) => JSON.stringify(r.facts))
    expect(names.length).toBe(5040)
  })

  it.each(['SIGKILL', 'SIGTERM'] as const)('by %s its run is free at once, long before its lease runs out', async (signal) => {
    const far = await openShop({ leaseMs: 60_000 })
    const two: ChildProcess[] = []
    const work = async () => two.push((await startProcess('server/worker/main.ts', far.env)).child)
    try {
      await addPhone(far, { serial: 'L-OLD', model: 'Orrin 5', port: 1, people: { seed: 8, count: 3000 } })
      await addPhone(far, { serial: 'L-NEW', model: 'Orrin 9', port: 2, settle_ms: 50 })
      const number = await bookTicket(far, { serial: 'L-OLD', model: 'Orrin 5', port: 1 }, { serial: 'L-NEW', model: 'Orrin 9', port: 2 })
      await work()
      await countIn(far, number)
      await carry(far, number)
      await waitFor(far, number, (t) => (t.ledger[0]?.fates.carried ?? 0) > 200, 'a start')
      await work()
      two[0]!.kill(signal)
      const taken = () => far.services.pool.query<{ epoch: number; state: string }>(`select epoch, state from run where type = 'carry'`)
      const end = Date.now() + 20_000
      while ((await taken()).rows[0]!.epoch < 2 && Date.now() < end) await new Promise((resolve) => setTimeout(resolve, 50))
      expect((await taken()).rows[0]!.epoch).toBeGreaterThan(1)
      const ticket = await waitFor(far, number, isChecked, 'check off')
      expect(ticket.ledger[0]).toMatchObject({ short: 0, over: 0, fates: { carried: 3000 } })
    } finally {
      for (const child of two) child.kill('SIGKILL')
      await far.close()
    }
  })

  it('the database restarted mid-carry, and the stand-ins killed: it goes on by itself and agrees', async () => {
    const old = { serial: 'D-OLD', model: 'Orrin 5', port: 3, people: { seed: 18, count: 1500 } }
    const now = { serial: 'D-NEW', model: 'Veyra 12', port: 4, settle_ms: 200 }
    await addPhone(shop, old)
    await addPhone(shop, now)
    const number = await bookTicket(shop, old, now)
    await countIn(shop, number)
    await carry(shop, number)
    await waitFor(shop, number, (t) => (t.ledger[0]?.fates.carried ?? 0) > 200, 'a start')
    if (process.env.DATABASE_URL) {
      // a server that is not ours: every connection of the application is ended at once, as by its restart
      await shop.services.pool
        .query(
          `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and usename = current_user and pid <> pg_backend_pid()`,
        )
        .catch(() => undefined)
    } else {
      ;(await startPostgres(testPostgres, { fast: true })).stop()
      await startPostgres(testPostgres, { fast: true })
    }
    await new Promise((r) => setTimeout(r, 300))
    await shop.restartStandins()
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    await expectAgrees(shop, ticket, { old: old.serial, new: now.serial }, ['agrees'])
    expect((await shop.hand('phones/D-NEW/store')).count).toBe(1500)
  })
})
