import { mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { startPostgres } from '../../scripts/postgres.ts'
import { testPostgres } from '../setup/database.ts'
import { card, held, models } from '../setup/memory-bench.ts'
import type { CopyId, HoldingId } from '#server/base/ids.ts'

// phones that keep what they hold in no database: what is found in the server's files, we put there
vi.mock('#server/endpoints/transports.ts', async () => {
  const { memoryAt } = await import('../setup/memory-bench.ts')
  return { transportOf: () => memoryAt('bench') }
})
const { openShop } = await import('../setup/shop.ts')
const { bookTicket, carry, countIn, isChecked, waitFor, worker } = await import('../setup/ticket.ts')
const { callOff, sign } = await import('#server/desk/hand-back/act.ts')
const { note } = await import('#server/desk/course.ts')
const { finishErasing, handBackAndErase } = await import('#server/desk/hand-back/erase.ts')
const { readTicket } = await import('#server/desk/read-ticket.ts')
const { forgetUnbooked } = await import('#server/endpoints/forget-uploads.ts')
const { newHolding, secretOf } = await import('#server/vault/holdings.ts')
const { folderOfKeys } = await import('#server/vault/key-store.ts')
const { keysFrom, open } = await import('#server/vault/keys.ts')
const { destroyDue } = await import('#server/vault/lockers/destroy.ts')
const { keyBound } = await import('#server/vault/lockers/store.ts')

let shop: Awaited<ReturnType<typeof openShop>>
let hands: ReturnType<typeof worker>
const began = Date.now() - 2000
beforeAll(async () => {
  shop = await openShop()
  hands = worker(shop)
})
afterAll(async () => {
  hands.kill()
  await shop.close()
})

function readIfThere(path: string): Buffer {
  try {
    return readFileSync(path)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return Buffer.alloc(0)
    throw error
  }
}

/** Which of these bytes stand anywhere in the database's own files, its log included. */
function foundIn(folder: string, needles: Readonly<Record<string, Buffer>>): string[] {
  const found = new Set<string>()
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    const path = join(entry.parentPath, entry.name)
    // the database lives on: a file of its own may go between two looks, and holds nothing then
    const { mtimeMs = 0 } = statSync(path, { throwIfNoEntry: false }) ?? {}
    if (!entry.isFile() || mtimeMs < began) continue
    const bytes = readIfThere(path)
    for (const [name, needle] of Object.entries(needles))
      if (bytes.includes(needle) || bytes.includes(Buffer.from(needle.toString('hex')))) found.add(name)
  }
  return [...found].sort()
}

async function restart(): Promise<void> {
  ;(await startPostgres(testPostgres, { fast: true })).stop()
  await startPostgres(testPostgres, { fast: true })
  await expect
    .poll(() =>
      shop.services.pool.query('select 1').then(
        () => 'there',
        () => 'away',
      ),
    )
    .toBe('there')
}

async function bodyOf(copyId: number): Promise<number> {
  const { rows } = await shop.services.pool.query<{ body_id: number }>('select body_id from copy_record where copy_id = $1', [copyId])
  return rows[0]!.body_id
}

const canary = 'Quillwortsedge'
async function carried(mark: string) {
  const wish = (side: 'O' | 'N') => ({ serial: `MEM-${mark}${side}`, model: side === 'O' ? 'Orrin 5' : 'Orrin 9', port: 1 })
  for (const { serial, model } of [wish('O'), wish('N')]) {
    models[serial] = model
    held.set(serial, new Map())
  }
  held.get(wish('O').serial)!.set('o1', card(canary, 101))
  const number = await bookTicket(shop, wish('O'), wish('N'))
  await countIn(shop, number)
  await carry(shop, number)
  await waitFor(shop, number, isChecked, 'check off')
  const { rows } = await shop.services.pool.query<{ holding: HoldingId }>('select holding_id as holding from ticket where number = $1', [
    number,
  ])
  return { number, holding: rows[0]!.holding }
}

describe('erasing is real', () => {
  it.skipIf(process.env.DATABASE_URL)(
    'no key and no word of a customer is in the database’s own files, log included, before and after an erase and a restart',
    async () => {
      const { number, holding } = await carried('A')
      const { config } = shop.services
      const key = secretOf(config, holding)
      const wrapped = folderOfKeys(config.keysFolder).find(holding)!
      const needles = {
        key,
        'key of the seal': keysFrom(key).seal,
        'key of matches': Buffer.from(keysFrom(key).match),
        'wrapped key': wrapped,
        // without its nonce and tag
        'wrapped key alone': wrapped.subarray(28),
        'master key': config.masterKey,
        canary: Buffer.from(canary),
        // what is there: the look finds things
        number: Buffer.from(number),
      }
      await restart()
      expect(foundIn(testPostgres, needles)).toEqual(['number'])
      await sign(shop.services, number, { by: canary, withWhatStands: true, actor: shop.actor })
      await handBackAndErase(shop.services, number, number)
      await restart()
      expect(foundIn(testPostgres, needles)).toEqual(['number'])
      expect(folderOfKeys(config.keysFolder).find(holding)).toBeUndefined()
    },
  )

  it.skipIf(process.env.DATABASE_URL)(
    'no key and no word of a copy in a locker is in them either, before and after its date is over, nor in any blob; a killed end is finished',
    async () => {
      const { services } = shop
      const { config, pool } = services
      models['MEM-LO'] = 'Orrin 5'
      held.set('MEM-LO', new Map([['o1', card(canary, 105)]]))
      const keepUntil = new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10)
      const number = await bookTicket(shop, { serial: 'MEM-LO', model: 'Orrin 5', port: 1 }, { keepUntil })
      await countIn(shop, number)
      await carry(shop, number)
      const { new: now, ledger } = await waitFor(shop, number, isChecked, 'check off')
      expect(ledger[0]!.verdict).toBe('agrees')
      await sign(services, number, { by: canary, withWhatStands: true, actor: shop.actor })
      await handBackAndErase(services, number, number)
      const { rows } = await pool.query<{ mine: HoldingId; shared: HoldingId; wrapped: Buffer }>(
        `select c.holding_id as mine, l.holding_id as shared, r.wrapped
           from locker_copy c join locker l on l.id = c.locker_id join copy_record r on r.copy_id = c.id where c.id = $1`,
        [now.copy!.id],
      )
      const { mine, shared, wrapped } = rows[0]!
      const body = open(keysFrom(secretOf(config, mine)).seal, keyBound(now.copy!.id as CopyId, await bodyOf(now.copy!.id)), wrapped)
      const needles = {
        'key of the copy': secretOf(config, mine),
        'key of what copies share': secretOf(config, shared),
        'key of a record': body,
        'wrapped key': folderOfKeys(config.keysFolder).find(mine)!.subarray(28),
        canary: Buffer.from(canary),
        'canary in Base64': Buffer.from(Buffer.from(canary).toString('base64').slice(0, 16)),
        number: Buffer.from(number),
      }
      await restart()
      expect(foundIn(testPostgres, needles)).toEqual(['number'])
      // a copy of contacts alone has no files; what there is of others is looked through
      mkdirSync(join(config.dataFolder, 'blobs'), { recursive: true })
      expect(foundIn(join(config.dataFolder, 'blobs'), needles)).toEqual([])
      // its date is over, and the process that destroys it is killed once that is noted
      await pool.query(
        `update locker_copy set keep_until = now() - interval '1 day', destroyed_at = now(), destroyed_how = 'date' where id = $1`,
        [now.copy!.id],
      )
      await destroyDue(services)
      await destroyDue(services)
      await restart()
      expect(foundIn(testPostgres, needles)).toEqual(['number'])
      for (const holding of [mine, shared]) expect(folderOfKeys(config.keysFolder).find(holding)).toBeUndefined()
      const left = await pool.query('select (select count(*)::int from copy_record) + (select count(*)::int from locker_body) as n')
      expect(left.rows[0]).toEqual({ n: 0 })
    },
  )

  it('what a killed process left half erased is finished: the key first, then what it sealed', async () => {
    const { number, holding } = await carried('B')
    const { pool, config } = shop.services
    // as a process leaves it that was killed once the counts were kept
    await pool.query(
      `update ticket set erased_at = now(), handed_back_at = now(), customer = null, final_ledger = '[]' where number = $1`,
      [number],
    )
    expect((await readTicket(shop.services, number, shop.actor)).customer).toBeNull()
    await finishErasing(shop.services)
    await finishErasing(shop.services)
    const left = await pool.query(
      `select holding_id, (select count(*)::int from entry e where e.ticket_id = t.id) as entries,
              (select count(*)::int from reading r where r.holding_id = $2) as readings,
              (select count(*)::int from holding h where h.id = $2) as holdings
         from ticket t where number = $1`,
      [number, holding],
    )
    expect(left.rows[0]).toEqual({ holding_id: null, entries: 0, readings: 0, holdings: 0 })
    expect(folderOfKeys(config.keysFolder).find(holding)).toBeUndefined()
  })

  it('a key that is nobody’s goes once it has waited; a ticket’s and the others’ stay', async () => {
    const { config } = shop.services
    const { holding } = await carried('D')
    const stray = newHolding(config).id
    await forgetUnbooked(shop.services, 0)
    expect([holding, stray].map((id) => folderOfKeys(config.keysFolder).find(id) !== undefined)).toEqual([true, false])
  })

  it('a folder of keys that is away is said, and nothing is taken for erased', async () => {
    const { number, holding } = await carried('C')
    const { services } = shop
    const away = { ...services, config: { ...services.config, keysFolder: join(services.config.keysFolder, 'unplugged') } }
    // the counts are no secret: the page goes on, without a word of the customer's, and whatever needs one says why
    const shown = await readTicket(away, number, shop.actor)
    expect([shown.customer, shown.erasedAt, shown.ledger[0]!.verdict]).toEqual([null, null, 'agrees'])
    await expect(note(away, number, { words: 'Rings at noon', actor: shop.actor })).rejects.toMatchObject({ code: 'KeyAway' })
    await finishErasing(away)
    expect(folderOfKeys(services.config.keysFolder).find(holding)).toBeDefined()
    expect((await readTicket(services, number, shop.actor)).customer).not.toBeNull()
    // a key that is lost for good leaves no ticket without an end
    await callOff(away, number, { body: { why: 'Its key is lost', takeAway: false, typed: number }, actor: shop.actor })
    await handBackAndErase(away, number, number)
    expect((await readTicket(away, number, shop.actor)).erasedAt).not.toBeNull()
  })
})
