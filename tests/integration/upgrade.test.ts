import { readFileSync } from 'node:fs'
import { gunzipSync } from 'node:zlib'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DatabaseUrls } from '../../scripts/provision.ts'
import { resume } from '#server/desk/course.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { migrate } from '#server/base/db/migrate.ts'
import { acceptDifference, putBackToWait } from '#server/desk/check-off/act.ts'
import { sign } from '#server/desk/hand-back/act.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { ledgerRow } from '#contracts/http/ledger.ts'
import { linesOfSums } from '#core/book/index.ts'
import { secretOf } from '#server/vault/holdings.ts'
import { moveKeys } from '#server/vault/move-keys.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { carry, figuresOf, isChecked, waitFor, worker } from '../setup/ticket.ts'
import type { HoldingId } from '#server/base/ids.ts'

const folder = new URL('../fixtures/upgrade/', import.meta.url)
const before = JSON.parse(readFileSync(new URL('shop.json', folder), 'utf8')) as {
  masterKey: string
  tickets: Record<string, string>
  stages: Record<string, string>
}

async function load(url: string, name: string): Promise<void> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  await client.query(gunzipSync(readFileSync(new URL(name, folder))).toString('utf8'))
  await client.end()
}

let shop: TestShop
let hands: ReturnType<typeof worker>
let urls: DatabaseUrls
beforeAll(async () => {
  shop = await openShop({
    from: {
      masterKey: Buffer.from(before.masterKey, 'hex'),
      async restore(made) {
        urls = made
        await load(made.owner, 'corvend-0009.sql.gz')
        await load(made.standins, 'standins-0006.sql.gz')
      },
    },
  })
})
afterAll(async () => {
  hands?.kill()
  await shop.close()
})

const read = (mark: string) => readTicket(shop.services, before.tickets[mark]!, shop.actor)

/** Plugs both phones of a ticket in, works, and pulls them again: another ticket's come into the same ports. */
async function withPhones(mark: string, work: (number: string) => Promise<void>): Promise<void> {
  const serials = [`UO-${mark}`, `UN-${mark}`]
  for (const [i, serial] of serials.entries()) {
    await shop.hand(`phones/${serial}/faults`, {}, 'DELETE')
    await shop.hand(`phones/${serial}/plug`, { port: 1 + i })
    const { trust, switches } = await shop.hand(`phones/${serial}`)
    if (switches['cable-files'] === false) await shop.hand(`phones/${serial}/cable-files-on`, {})
    if (trust === 'asked') await shop.hand(`phones/${serial}/trust`, {})
  }
  try {
    await work(before.tickets[mark]!)
  } finally {
    for (const serial of serials) await shop.hand(`phones/${serial}/pull`, {})
  }
}

async function toTheEnd(number: string): Promise<void> {
  const end = await readTicket(shop.services, number, shop.actor)
  for (const row of end.ledger)
    if (row.verdict === 'differs') await acceptDifference(shop.services, number, { kind: row.kind, by: 'Ines Harrow' })
  await sign(shop.services, number, { by: 'Ines Harrow', actor: shop.actor })
  await handBackAndErase(shop.services, number, number)
  expect(await readTicket(shop.services, number, shop.actor)).toMatchObject({ erasedAt: expect.any(String) })
}

const checked = (number: string) => waitFor(shop, number, isChecked, 'check off')

describe('a database made by an earlier version', () => {
  it('is brought up to date once, by whoever comes first, and again without effect', async () => {
    await Promise.all([1, 2, 3].map(() => migrate(urls.owner, urls.app)))
    const { rows } = await shop.services.pool.query<{ name: string; checksum: string | null }>(
      'select name, checksum from migration order by name',
    )
    expect(rows.length).toBeGreaterThanOrEqual(9)
    expect(rows.every(({ checksum }) => checksum?.length === 64)).toBe(true)
  })

  it('is refused when a landed migration was changed, or when it is newer than the application', async () => {
    const client = new pg.Client({ connectionString: urls.owner })
    await client.connect()
    try {
      const [{ checksum }] = (await client.query('select checksum from migration order by name limit 1')).rows
      await client.query(`update migration set checksum = 'other' where checksum = $1`, [checksum])
      await expect(migrate(urls.owner, urls.app)).rejects.toThrow('was changed after it was applied')
      await client.query(`update migration set checksum = $1 where checksum = 'other'`, [checksum])
      await client.query(`insert into migration (name, checksum) values ('9999-from-the-future.sql', 'x')`)
      await expect(migrate(urls.owner, urls.app)).rejects.toThrow('newer version')
      await client.query(`delete from migration where name like '9999%'`)
      await migrate(urls.owner, urls.app)
    } finally {
      await client.end()
    }
  })

  it('has its keys moved out of the database, wrapped by another master key; the former one opens nothing any more', async () => {
    const { pool, config } = shop.services
    const { rows } = await pool.query<{ inside: number; holdings: HoldingId[] }>(
      `select (select count(*)::int from ticket where key_wrapped is not null) + (select count(*)::int from upload where key_wrapped is not null) as inside,
              (select array_agg(holding_id::text) from ticket where erased_at is null) as holdings`,
    )
    expect([rows[0]!.inside, rows[0]!.holdings.length > 5]).toEqual([0, true])
    const former = Buffer.from(before.masterKey, 'hex')
    expect(config.masterKey.equals(former)).toBe(false)
    for (const holding of rows[0]!.holdings) {
      expect(secretOf(config, holding)).toHaveLength(32)
      expect(() => secretOf({ ...config, masterKey: former }, holding)).toThrow()
    }
    // moved once: a second start changes nothing
    expect((await moveKeys(pool, { masterKey: config.masterKey, keysFolder: config.keysFolder })).equals(config.masterKey)).toBe(true)
  })

  it('shows every ticket where it stood', async () => {
    for (const [mark, stage] of Object.entries(before.stages)) expect([mark, (await read(mark)).stage]).toEqual([mark, stage])
    expect((await read('short')).ledger[0]).toMatchObject({ verdict: 'differs', fates: { lost: 2 } })
    expect((await read('whole')).ledger.map((row) => row.verdict.startsWith('agrees'))).toEqual([true, true, true, true, true, true])
    const kept = (await read('erased')).ledger
    expect(kept).toHaveLength(2)
    for (const row of kept) {
      expect(ledgerRow.parse(row)).toEqual(row)
      expect(linesOfSums(figuresOf(row)).filter(({ left, right }) => left !== right)).toEqual([])
    }
  })
})

describe('a ticket an earlier version left is finished', () => {
  beforeAll(() => {
    hands = worker(shop)
  })

  it('from Book in', () =>
    withPhones('booked', async (number) => {
      for (const serial of ['UO-booked', 'UN-booked']) await shop.hand(`phones/${serial}/fill`, { kind: 'calls', seed: 2, count: 5 })
      await startCountIn(shop.services, number, shop.actor)
      await waitFor(shop, number, (t) => t.run === null && t.forecasts.length > 0, 'count in')
      await carry(shop, number)
      await checked(number)
      await toTheEnd(number)
    }))

  it('from a count in that waits for its phone', () =>
    withPhones('reading', async (number) => {
      await waitFor(shop, number, (t) => t.run === null && t.forecasts.length === 2, 'count in')
      await carry(shop, number)
      await checked(number)
      await toTheEnd(number)
    }))

  it('from Choose, with what was chosen', () =>
    withPhones('chosen', async (number) => {
      expect((await read('chosen')).ledger[0]!.fates.notChosen).toBe(2)
      await carry(shop, number)
      const { ledger } = await checked(number)
      expect(ledger[0]!.fates.notChosen).toBe(2)
      expect(ledger.every((row) => row.verdict.startsWith('agrees'))).toBe(true)
      await toTheEnd(number)
    }))

  it('from a batch whose answer was never kept: nothing twice', () =>
    withPhones('broken', async (number) => {
      const { ledger } = await checked(number)
      expect(ledger.map(({ short, over, fates }) => [short, over, fates.pending])).toEqual([
        [0, 0, 0],
        [0, 0, 0],
      ])
      await toTheEnd(number)
    }))

  it('from a carry that was stopped', () =>
    withPhones('stopped', async (number) => {
      await carry(shop, number)
      const { ledger } = await checked(number)
      expect(ledger.every((row) => row.verdict.startsWith('agrees'))).toBe(true)
      await toTheEnd(number)
    }))

  it('from Check off with two lost: carried again, they are there', () =>
    withPhones('short', async (number) => {
      expect(await putBackToWait(shop.services, number, { kind: 'contacts', fates: ['lost'] })).toBe(2)
      await carry(shop, number)
      const { ledger } = await checked(number)
      expect(ledger[0]).toMatchObject({ short: 0, over: 0, fates: { lost: 0 } })
      await toTheEnd(number)
    }))

  it.each(['agrees', 'whole'])('from Hand back: %s', (mark) => withPhones(mark, toTheEnd))

  it('from a rest', () =>
    withPhones('resting', async (number) => {
      await resume(shop.services, number, { words: '', actor: shop.actor })
      await carry(shop, number)
      await checked(number)
      await toTheEnd(number)
    }))

  it('from a signed sheet', () =>
    withPhones('signed', async (number) => {
      await handBackAndErase(shop.services, number, number)
      expect((await read('signed')).erasedAt).not.toBeNull()
    }))
})
