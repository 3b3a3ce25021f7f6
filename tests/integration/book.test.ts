import { beforeAll, describe, expect, it } from 'vitest'
import { steps } from '#core/book/index.ts'
import { runSteps } from '#core/plan/run-states.ts'
import { closes, linesOfSums } from '#core/book/index.ts'
import { sqlState, transaction } from '#server/base/db/sql.ts'
import type { TicketId } from '#server/base/ids.ts'
import { letGo } from '#server/book/entries/entries.queries.ts'
import { bookIn } from '#server/desk/book-in/act.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { takeWhole } from '#server/endpoints/brought/uploads.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, countIn, waitFor, worker } from '../setup/ticket.ts'

let shop: TestShop
beforeAll(async () => {
  shop = await openShop()
  return () => shop.close()
})
const pool = () => shop.services.pool
const triples = (table: Record<string, Record<string, string | undefined>>) =>
  Object.entries(table)
    .flatMap(([from, of]) => Object.entries(of).map(([event, to]) => `${from} ${event} ${to}`))
    .sort()

describe('the book is held by the database, too', () => {
  it.each([
    ['fates', "select from_fate || ' ' || event || ' ' || to_fate as step from fate_step", triples(steps)],
    ['fates as the trigger looks them up', 'select jsonb_object_keys(fate_steps()) as step', triples(steps)],
    ['runs', "select from_state || ' ' || event || ' ' || to_state as step from run_step", triples(runSteps)],
  ])('the steps of %s are the same table', async (_, statement, expected) => {
    const { rows } = await pool().query<{ step: string }>(statement)
    expect(rows.map((row) => row.step).sort()).toEqual(expected)
  })

  it('refuses a fate no event leads to, and a state of a run', async () => {
    const hands = worker(shop)
    await addPhone(shop, { serial: 'BK-1', model: 'Orrin 5', port: 1, people: { seed: 1, count: 3 } })
    await addPhone(shop, { serial: 'BK-2', model: 'Orrin 9', port: 2 })
    const number = await bookTicket(shop, { serial: 'BK-1', model: 'Orrin 5', port: 1 }, { serial: 'BK-2', model: 'Orrin 9', port: 2 })
    await countIn(shop, number)
    hands.kill()
    await expect(pool().query(`update entry set fate = 'carried'`)).rejects.toThrow('no step from pending by read to carried')
    await expect(pool().query(`update entry set fate = 'carried', last_event = 'refused'`)).rejects.toThrow('no step')
    await expect(pool().query(`update run set state = 'running', last_event = 'claimed'`)).rejects.toThrow('no step from done')
    await pool().query(`update entry set fate = 'carried', last_event = 'taken'`)
    for (const serial of ['BK-1', 'BK-2']) await shop.hand(`phones/${serial}`, undefined, 'DELETE')
  })

  it('what is too little for statistics of its own is joined by hash, whatever the planner takes it for; the rest is left to it', async () => {
    const { rows } = await pool().query<{ ticketId: TicketId }>(`select ticket_id as "ticketId" from entry limit 1`)
    const scope = { ticketId: rows[0]!.ticketId, kind: 'contacts' }
    const plan = (got: number) =>
      transaction(pool(), async (client) => {
        await client.query('update reading set got = $1, counted = $1, derived = 0', [got])
        await letGo(client, scope)
        const { rows } = await client.query<{ is: string }>(`select current_setting('enable_nestloop') as is`)
        await client.query('update reading set got = 3, counted = 3')
        return rows[0]!.is
      })
    expect([await plan(19_999), await plan(20_000)]).toEqual(['off', 'on'])
    const { rows: after } = await pool().query<{ is: string }>(`select current_setting('enable_nestloop') as is`)
    expect(after[0]!.is).toBe('on')
  })
})

describe('while it runs', () => {
  it('the old side’s sums close while Count in reads it', async () => {
    let hold = () => undefined as void
    const isHeld = new Promise<void>((resolve) => (hold = resolve))
    let isThere = false
    const hands = worker(shop, (name) => {
      if (name !== 'reading-first-end') return undefined
      isThere = true
      return isHeld
    })
    await addPhone(shop, { serial: 'GR-1', model: 'Orrin 5', port: 3, people: { seed: 1, count: 30, style: 'traps' } })
    await addPhone(shop, { serial: 'GR-2', model: 'Orrin 9', port: 4 })
    const number = await bookTicket(shop, { serial: 'GR-1', model: 'Orrin 5', port: 3 }, { serial: 'GR-2', model: 'Orrin 9', port: 4 })
    await startCountIn(shop.services, number, shop.actor)
    const ticket = await waitFor(shop, number, (t) => isThere && t.ledger[0]!.old.read > 0, 'a reading')
    const [row] = ticket.ledger
    const lines = linesOfSums({
      ...row!,
      old: { ...row!.old, derived: 0, own: null },
      changedWithLoss: 0,
      twins: 0,
      isRunning: true,
      isChecked: false,
      isRecounted: false,
      acceptedBy: null,
    })
    expect(closes(lines)).toBe(true)
    expect(row!.fates.pending + row!.fates.unreadable).toBe(row!.old.read)
    hold()
    await waitFor(shop, number, (t) => t.run === null, 'the end')
    hands.kill()
  })

  it.each(['Client has encountered a connection error and is not queryable', 'Connection terminated unexpectedly'])(
    'a database that is away is told by “%s”',
    (message) => {
      expect(sqlState(new Error(message))).toBe('away')
    },
  )
})

describe('a file that holds some kinds', () => {
  it('is booked with what it holds: no phone waits for a permission nothing needs', async () => {
    const card = 'BEGIN:VCARD\r\nVERSION:3.0\r\nN:Quill;Ada;;;\r\nFN:Ada Quill\r\nEND:VCARD\r\n'
    async function* once() {
      yield Buffer.from(card)
    }
    const { config } = shop.services
    const { upload } = await takeWhole({ pool: pool(), config }, once())
    await addPhone(shop, { serial: 'FI-2', model: 'Orrin 9', port: 6 })
    const phone = { maker: 'Orrin', model: 'Orrin 9', platform: 'android' as const, version: '13', serial: 'FI-2' }
    const book = (kinds: string[]) =>
      bookIn(
        shop.services,
        {
          customer: { name: 'Ines Harrow', phone: '', note: '' },
          old: { place: 'file', maker: 'File', model: 'File', platform: 'file', version: '', serial: null, upload },
          new: { place: 'bench', ...phone },
          kinds,
          intake: {},
          promisedAt: '2026-11-30T16:30:00Z',
          waitsInShop: false,
        },
        shop.actor,
      )
    await expect(book(['messages', 'calls'])).rejects.toThrow('BadRequest')
    const number = await book(['contacts', 'messages', 'calls', 'calendar', 'photos', 'apps'])
    const ticket = await readTicket(shop.services, number, shop.actor)
    expect(ticket.kinds).toEqual(['contacts'])
    expect(ticket.ready.new.needs.filter(({ code }) => /message|photo|call/.test(code))).toEqual([])
  })
})
