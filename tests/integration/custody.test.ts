import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { insertShowing } from '#server/vault/showing.queries.ts'
import { sign } from '#server/desk/hand-back/act.ts'
import { keyCheck } from '#server/vault/keys.ts'
import { takeWhole } from '#server/endpoints/brought/uploads.ts'
import { makeShop } from '../../scripts/provision.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, isChecked, waitFor, worker } from '../setup/ticket.ts'
import type { TicketId } from '#server/base/ids.ts'

let shop: TestShop
beforeAll(async () => {
  shop = await openShop()
})
afterAll(() => shop.close())

const canary = 'Quillwortcanary'

/** Everything the application has put down: the database in full, and every file of its folder. */
function everythingKept(): string {
  const admin = new URL(process.env.CORVEND_TEST_ADMIN_URL!)
  admin.pathname = new URL(shop.urls.owner).pathname
  const dump = execFileSync('pg_dump', ['--inserts', admin.href], {
    encoding: 'latin1',
    maxBuffer: 1e9,
    env: { ...process.env, PGSSLMODE: 'disable' },
  })
  const folder = shop.services.config.dataFolder
  const files = readdirSync(folder, { recursive: true, withFileTypes: true })
  return dump + files.map((file) => file.name + (file.isFile() ? readFileSync(join(file.parentPath, file.name), 'latin1') : '')).join('\n')
}
const seen = (text: string) =>
  [canary, Buffer.from(canary).toString('base64').slice(2, 16), Buffer.from(canary).toString('hex')].some((form) => text.includes(form))

describe('custody of a customer’s data', () => {
  it('keeps no word of a customer unsealed, with faults on the way, and nothing after erasing', async () => {
    const old = { serial: 'CAN-O', model: 'Orrin 5', port: 1 }
    const now = { serial: 'CAN-N', model: 'Veyra 12', port: 2 }
    await addPhone(shop, old)
    await addPhone(shop, now)
    const person = {
      given: canary,
      family: canary,
      nickname: [canary],
      company: canary,
      department: canary,
      title: canary,
      role: canary,
      note: canary,
      phones: [{ v: '+447700900999', t: canary, own: true }],
      emails: [{ v: `${canary}@example.org`, t: 'home' }],
      groups: [canary],
      addresses: [{ parts: ['', '', canary, canary, '', '', ''], t: 'home' }],
      relations: [{ v: canary, t: canary, own: true }],
      urls: [{ v: `https://example.org/${canary}`, t: '' }],
    }
    await shop.hand('phones/CAN-O/add', { persons: [{ person }, { person: { ...person, given: 'B' }, damage: 'cut-card' }] })
    await shop.hand('phones/CAN-N/faults', { faults: [{ point: 'write.after', effect: 'cut' }] })
    const number = await bookTicket(shop, old, now)
    const { pool } = shop.services
    await takeWhole(
      shop.services,
      (async function* () {
        yield Buffer.from(`BEGIN:VCARD\r\nVERSION:3.0\r\nFN:${canary}\r\nEND:VCARD\r\n`)
      })(),
    )
    const hands = worker(shop)
    await countIn(shop, number)
    await carry(shop, number)
    await waitFor(shop, number, isChecked, 'check off')
    hands.kill()
    // the word is there: the phone holds it
    expect(seen(JSON.stringify(await shop.hand('phones/CAN-N/store')))).toBe(true)
    expect(seen(everythingKept())).toBe(false)
    await sign(shop.services, number, { by: canary, actor: shop.actor })
    expect(seen(everythingKept())).toBe(false)
    await handBackAndErase(shop.services, number, number)
    const left = await pool.query(
      `select (select count(*) from item) + (select count(*) from block) + (select count(*) from entry) + (select count(*) from written) as n,
              (select final_ledger from ticket where number = $1) as ledger`,
      [number],
    )
    expect(left.rows[0].n).toBe(0)
    expect(left.rows[0].ledger[0].old.read).toBe(2)
  })

  it('the application’s role is refused by the stand-ins’ database', async () => {
    const url = new URL(shop.urls.app)
    url.pathname = new URL(shop.urls.standins).pathname
    const client = new pg.Client({ connectionString: url.href })
    await expect(client.connect()).rejects.toThrow(/permission denied/)
  })

  it('who was shown what can’t be rewritten by the application’s role', async () => {
    const { pool } = shop.services
    await insertShowing(pool, { ticketId: 1 as TicketId, number: 'T-1', staffId: shop.actor.id, scope: 'names', reason: 'customer-asks' })
    await expect(pool.query('delete from showing')).rejects.toThrow(/permission denied/)
    await expect(pool.query(`update showing set reason = ''`)).rejects.toThrow(/permission denied/)
    await expect(pool.query('truncate showing')).rejects.toThrow(/permission denied/)
  })

  it('another master key is found at the start', async () => {
    expect(keyCheck(Buffer.alloc(32, 1)).equals(keyCheck(Buffer.alloc(32, 2)))).toBe(false)
    await expect(makeShop(shop.urls.app, { masterKey: Buffer.alloc(32, 7), name: '', address: '', staff: [] })).rejects.toThrow(
      'master key',
    )
  })
})
