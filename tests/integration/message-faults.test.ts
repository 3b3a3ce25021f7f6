import { createHash } from 'node:crypto'
import type pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { TicketView } from '#contracts/http/ticket.ts'
import { openPool } from '#server/base/db/sql.ts'
import { setNeed } from '#server/ready/act-ready.ts'
import { startCheck } from '#server/desk/check-off/act.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { breakAt, createPairs, keepHelping } from '../setup/pairs.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import {
  addPhone,
  bookTicket,
  carry,
  countIn,
  expectAgrees,
  figureOf,
  isChecked,
  prepareMessages,
  waitFor,
  worker,
  type PhoneWish,
} from '../setup/ticket.ts'

let shop: TestShop
let hands: ReturnType<typeof worker>
/** The practice phones' own memory, read past everything the product can see. */
let memory: pg.Pool
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
  hands = worker(shop)
  memory = openPool(shop.urls.standins, 'test-memory', { max: 2 })
})
afterAll(async () => {
  hands.kill()
  await memory.end()
  await shop.close()
})

interface Pair {
  readonly old: PhoneWish
  readonly now: PhoneWish
  readonly number: string
}
interface Wish {
  readonly from?: string
  readonly to?: string
  readonly count?: number
  readonly style?: 'traps' | 'plain'
  readonly there?: number
  readonly settleMs?: number
}
const pairs = createPairs(() => shop)
function withPair(
  { from = 'Orrin 5', to = 'Orrin 9', count = 60, style = 'plain', there = 0, settleMs = 40 }: Wish,
  work: (pair: Pair) => Promise<void>,
): Promise<void> {
  return pairs(async ({ old: port, now: nowPort, mark }): Promise<Pair> => {
    const old = { serial: `SO-${mark}`, model: from, port, settle_ms: 40 }
    const now = { serial: `SN-${mark}`, model: to, port: nowPort, settle_ms: settleMs }
    await addPhone(shop, old)
    await addPhone(shop, now)
    await shop.hand(`phones/${old.serial}/fill`, { kind: 'messages', seed: 7, count, style, conversations: 20 })
    if (there > 0) await shop.hand(`phones/${now.serial}/fill`, { kind: 'messages', seed: 7, count: there, conversations: 20 })
    const number = await bookTicket(shop, old, now, ['messages'])
    await prepareMessages(shop, number, { old, now })
    return { old, now, number }
  }, work)
}

/** Everything a phone holds of messages: what each says, and the bytes that belong to it, as comparable text. */
async function heldBy(serial: string): Promise<string[]> {
  const { records } = await shop.hand(`phones/${serial}/store?kind=messages`)
  const { rows } = await memory.query<{ record_id: number; bytes: Buffer }>(
    `select record_id, coalesce(bytes, (select string_agg(bytes, ''::bytea order by n) from file_piece p where (p.serial, p.kind, p.handle) = (file.serial, file.kind, file.handle))) as bytes from file where serial = $1 and kind = 'messages' and record_id is not null order by record_id, handle`,
    [serial],
  )
  const digests = new Map<string, string[]>()
  for (const { record_id: id, bytes } of rows)
    digests.set(String(id), [...(digests.get(String(id)) ?? []), createHash('sha256').update(bytes).digest('hex')])
  const inside = await memory.query<{ id: number; bytes: string }>(
    `select r.id, p->>'inside' as bytes from record r cross join jsonb_array_elements(r.data->'parts') as p
      where r.serial = $1 and r.kind = 'messages' and p ? 'inside'`,
    [serial],
  )
  for (const { id, bytes } of inside.rows)
    digests.set(String(id), [...(digests.get(String(id)) ?? []), createHash('sha256').update(Buffer.from(bytes, 'base64')).digest('hex')])
  return records.map((r: { id: string; facts: string[] }) => [...r.facts, ...(digests.get(r.id) ?? []).sort()].join(' ')).sort()
}
const looseFiles = async (serial: string) =>
  (await memory.query<{ n: number }>('select count(*) as n from file where serial = $1 and record_id is null', [serial])).rows[0]!.n

/** Carries all and waits for the check; the phone is helped whenever it waits for a hand. */
async function carryThrough({ number, old, now }: Pair) {
  const stops = [keepHelping(shop, old), keepHelping(shop, now)]
  await carry(shop, number)
  return waitFor(shop, number, isChecked, 'check off').finally(() => stops.forEach((stop) => stop()))
}
async function checkAgain({ number }: Pair, until: Parameters<typeof waitFor>[2]) {
  await startCheck(shop.services, number, shop.actor)
  return waitFor(shop, number, (t) => isChecked(t) && until(t), 'the check')
}
const text = (change: object) => ({ from: '07700 900471', atMs: Date.UTC(2026, 9, 1, 12), text: 'A text', ...change })

describe.concurrent('messages, each trap on its own', () => {
  it('between two phones of one platform every message and every attachment is there byte for byte, none beside', () =>
    withPair({ from: 'Orrin 7', to: 'Orrin 9', style: 'traps' }, async (pair) => {
      await countIn(shop, pair.number)
      const ticket = await carryThrough(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees-with-notes'])
      const [before, after] = [await heldBy(pair.old.serial), await heldBy(pair.now.serial)]
      const { unreadable } = ticket.ledger[0]!.fates
      expect(unreadable).toBeGreaterThan(1)
      expect(after.length).toBe(before.length - unreadable)
      const left = [...before]
      expect(after.filter((held) => !left.includes(held) || !left.splice(left.indexOf(held), 1))).toEqual([])
      expect(await looseFiles(pair.now.serial)).toBe(0)
    }))

  it('three equal messages in one second are three', () =>
    withPair({ count: 0 }, async (pair) => {
      await shop.hand(`phones/${pair.old.serial}/add`, {
        messages: [text({ atMs: 1_790_000_000_100 }), text({ atMs: 1_790_000_000_500 }), text({ atMs: 1_790_000_000_900 })],
      })
      // one of them is there already: two are carried
      await shop.hand(`phones/${pair.now.serial}/add`, { messages: [text({ atMs: 1_790_000_000_000 })] })
      await countIn(shop, pair.number)
      const ticket = await carryThrough(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
      expect(ticket.ledger[0]!.fates).toMatchObject({ alreadyThere: 1, carried: 2 })
      expect((await shop.hand(`phones/${pair.now.serial}/store?kind=messages`)).count).toBe(3)
    }))

  it('what the new phone holds already is not doubled, attachments told by their bytes', () =>
    withPair({ count: 80, there: 30 }, async (pair) => {
      const [row] = (await countIn(shop, pair.number)).ledger
      const ticket = await carryThrough(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
      expect(row!.new.first).toBe(30)
      expect(ticket.ledger[0]!.fates.alreadyThere).toBeGreaterThan(25)
      expect((await shop.hand(`phones/${pair.now.serial}/store?kind=messages`)).count).toBe(30 + ticket.ledger[0]!.fates.carried)
    }))

  it('seconds and milliseconds, one person under several spellings: conversations and attachments are counted as the phone counts them', () =>
    withPair({ from: 'Orrin 5', to: 'Veyra 14', count: 120, style: 'traps' }, async (pair) => {
      await countIn(shop, pair.number)
      const ticket = await carryThrough(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees-with-notes'])
      const [row] = ticket.ledger
      const own = await memory.query<{ conversations: number; attachments: number }>(
        `select count(distinct thread) as conversations, sum(jsonb_array_length(data->'parts'))::int as attachments from record where serial = $1 and kind = 'messages'`,
        [pair.now.serial],
      )
      expect(figureOf(row!, 'sum', 'last', 'attachments')).toBe(own.rows[0]!.attachments)
      expect(figureOf(row!, 'groups', 'last')).toBe(own.rows[0]!.conversations)
    }))

  it('an over-long text is one item of several records: its parts, counted apart', () =>
    withPair({ from: 'Orrin 5', to: 'Tamsel M2', count: 0 }, async (pair) => {
      const long = Array.from({ length: 4 }, (_, i) =>
        text({ atMs: Date.UTC(2026, 9, 2, i), text: `${i} ${'Every buoy of the channel. '.repeat(100)}` }),
      )
      await shop.hand(`phones/${pair.old.serial}/add`, { messages: [text({}), ...long] })
      const counted = await countIn(shop, pair.number)
      expect(counted.forecasts[0]!.counts).toMatchObject({ carried: 1, changed: 4, parts: 8, expected: 5 })
      const ticket = await carryThrough(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
      expect(ticket.ledger[0]).toMatchObject({ fates: { carried: 1, changed: 4 }, new: { arrived: 5, parts: 8 } })
    }))

  it.each(['drop', 'half', 'double', 'alter'])(
    'parts of a text that a phone does not hold whole are never shown as agreeing (%s)',
    (effect) =>
      withPair({ from: 'Orrin 5', to: 'Tamsel M2', count: 4 }, async (pair) => {
        await shop.hand(`phones/${pair.old.serial}/add`, { messages: [text({ text: 'Every buoy of the channel. '.repeat(100) })] })
        await countIn(shop, pair.number)
        await breakAt(shop, pair.now.serial, 'write.record', effect, 4)
        const ticket = await carryThrough(pair)
        const [row] = ticket.ledger
        if (effect === 'half') {
          // the answer never came: it was found out, the half taken away, and sent again
          await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
          expect((await shop.hand(`phones/${pair.now.serial}/store?kind=messages`)).count).toBe(7)
        } else await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['differs'])
        if (effect === 'drop') expect(row).toMatchObject({ short: 1, over: 0 })
        if (effect === 'double') expect(row!.over).toBeGreaterThan(0)
      }),
  )

  it.each([
    ['file.give', 'cut'],
    ['file.give', 'pull'],
    ['file.give', 'unknown-code'],
    ['file.take', 'cut'],
    ['file.take', 'pull'],
    ['file.take', 'unknown-code'],
  ] as const)('an attachment whose streaming fails at %s (%s) is streamed again, and nothing loose stays behind', (point, effect) =>
    withPair({ count: 90 }, async (pair) => {
      await countIn(shop, pair.number)
      const side = point === 'file.give' ? pair.old : pair.now
      await breakAt(shop, side.serial, point, effect, 1)
      const ticket = await carryThrough(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
      expect(await heldBy(pair.now.serial)).toEqual(await heldBy(pair.old.serial))
      expect(await looseFiles(pair.now.serial)).toBe(0)
    }),
  )

  it('an attachment that another one took the place of under its handle is carried as what it is now, never as the one that was counted', () =>
    withPair({ count: 90 }, async (pair) => {
      const counted = await countIn(shop, pair.number)
      expect(figureOf(counted.ledger[0]!, 'sum', 'old', 'attachments')).toBeGreaterThan(1)
      await memory.query(
        `update file set bytes = '\\x00'::bytea where serial = $1 and handle = (select min(handle) from file where serial = $1)`,
        [pair.old.serial],
      )
      await carry(shop, pair.number)
      const ticket = await waitFor(shop, pair.number, isChecked, 'an end')
      // it says another thing now, though the phone says nothing happened: it is given anew at the end, and goes over as it is now
      expect(ticket.ledger[0]).toMatchObject({ fates: { unreadable: 0, pending: 0 }, short: 0, over: 0 })
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
    }))

  it('a text that reaches the old phone after its count is late, blocks agreement, and is carried', () =>
    withPair({}, async (pair) => {
      await countIn(shop, pair.number)
      await carryThrough(pair)
      await shop.hand(`phones/${pair.old.serial}/add`, { messages: [text({ text: 'Where are you?' })] })
      const late = await checkAgain(pair, (t) => t.ledger[0]!.old.late === 1)
      expect(late.ledger[0]).toMatchObject({ verdict: 'waiting', fates: { pending: 1 } })
      expect(late.mayHandOver).toBe(false)
      await carry(shop, pair.number)
      const ticket = await waitFor(shop, pair.number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 0, 'check off')
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
      expect(ticket.ledger[0]).toMatchObject({ old: { late: 1 } })
    }))

  it('a text that the new phone receives meanwhile came otherwise, and does not disturb', () =>
    withPair({}, async (pair) => {
      await countIn(shop, pair.number)
      await carryThrough(pair)
      await shop.hand(`phones/${pair.now.serial}/add`, { messages: [text({ text: 'Welcome to your new phone' })] })
      const ticket = await checkAgain(pair, (t) => t.ledger[0]!.new.cameOtherwise > 0)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
      expect(ticket.ledger[0]).toMatchObject({ new: { cameOtherwise: 1 }, short: 0, over: 0 })
    }))

  it('an account that syncs the same messages in beside ours shows as over', () =>
    withPair({}, async (pair) => {
      await countIn(shop, pair.number)
      await carryThrough(pair)
      await shop.hand(`phones/${pair.now.serial}/fill`, { kind: 'messages', seed: 7, count: 5, conversations: 20 })
      const ticket = await checkAgain(pair, (t) => t.ledger[0]!.over > 0)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['differs'])
      expect(ticket.ledger[0]).toMatchObject({ over: 5, short: 0 })
    }))

  it('messages sorted in after the count first stood still are short at first, and agree when counted again later', () =>
    withPair({}, async (pair) => {
      await countIn(shop, pair.number)
      await breakAt(shop, pair.now.serial, 'write.record', 'later', 20, 6)
      const early = await carryThrough(pair)
      expect(early.ledger[0]).toMatchObject({ verdict: 'differs', short: 6, over: 0 })
      await shop.hand(`phones/${pair.now.serial}/sort-in`, {})
      const ticket = await checkAgain(pair, (t) => t.ledger[0]!.short === 0)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
    }))

  it('while the new phone sorts in, the check waits and says so; no difference is called before its count stands still', () =>
    withPair({ settleMs: 2500 }, async (pair) => {
      await countIn(shop, pair.number)
      // it sorts in for as long as nobody has seen that it does
      const faults = `phones/${pair.now.serial}/faults`
      await shop.hand(faults, { faults: [{ point: 'count', effect: 'restless', skip: 1, times: 100_000 }] })
      await carry(shop, pair.number)
      const verdicts = new Set<string>()
      const until = (reached: (t: TicketView) => boolean, what: string) =>
        waitFor(
          shop,
          pair.number,
          (t) => {
            if (t.run) verdicts.add(t.ledger[0]!.verdict)
            return reached(t)
          },
          what,
        )
      await until((t) => t.run?.step === 'settling', 'the wait')
      await shop.hand(faults, {}, 'DELETE')
      const ticket = await until(isChecked, 'check off')
      expect([...verdicts].filter((verdict) => /agrees|differs/.test(verdict))).toEqual([])
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
    }))

  it('a phone that never comes to rest makes the ticket wait and say why; it goes on once the phone is still', () =>
    withPair({ count: 12 }, async (pair) => {
      await countIn(shop, pair.number)
      const faults = `phones/${pair.now.serial}/faults`
      // once it was looked at before the first write
      await shop.hand(faults, { faults: [{ point: 'count', effect: 'restless', skip: 1, times: 100_000 }] })
      await carry(shop, pair.number)
      // it is looked at again soon: the wait itself is short
      const waits = async () =>
        (
          await shop.services.pool.query(
            `select r.state, r.side, r.kind from run r join ticket t on t.id = r.ticket_id where t.number = $1 and r.reason = 'StillSettling'`,
            [pair.number],
          )
        ).rows[0]
      await expect.poll(waits, { timeout: 60_000, interval: 15 }).toEqual({ state: 'paused', side: 'new', kind: 'messages' })
      expect((await readTicket(shop.services, pair.number, shop.actor)).ledger[0]!.verdict).not.toMatch(/agrees|differs/)
      await shop.hand(faults, {}, 'DELETE')
      const ticket = await waitFor(shop, pair.number, isChecked, 'check off')
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
    }))

  it('an Android phone takes messages only while we are its message app: taken away in the middle, the ticket waits for it', () =>
    withPair({ count: 420 }, async (pair) => {
      await countIn(shop, pair.number)
      const { switches } = await shop.hand(`phones/${pair.now.serial}`)
      await shop.hand(`phones/${pair.now.serial}/set`, { switches: { ...switches, 'message-app': false } })
      await carry(shop, pair.number).catch(() => undefined)
      await new Promise((r) => setTimeout(r, 500))
      expect((await shop.hand(`phones/${pair.now.serial}/store?kind=messages`)).count).toBe(0)
      await shop.hand(`phones/${pair.now.serial}/message-app-helper`, {})
      await carry(shop, pair.number).catch(() => undefined)
      const ticket = await waitFor(shop, pair.number, isChecked, 'check off')
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees'])
    }))

  it('a phone set to keep messages for a year drops the older ones: short by just those', () =>
    withPair({ from: 'Orrin 5', to: 'Veyra 12', count: 30 }, async (pair) => {
      await shop.hand(`phones/${pair.old.serial}/add`, {
        messages: [text({ atMs: Date.UTC(2019, 1, 1) }), text({ atMs: Date.UTC(2019, 1, 2) })],
      })
      const { switches } = await shop.hand(`phones/${pair.now.serial}`)
      await countIn(shop, pair.number)
      await shop.hand(`phones/${pair.now.serial}/set`, { switches: { ...switches, 'message-keep-time': false } })
      await setNeed(shop.services, pair.number, {
        body: { side: 'new', code: 'message-keep-time', how: 'waived', reason: 'customer-knows' },
        actor: shop.actor,
      })
      await carry(shop, pair.number)
      const ticket = await waitFor(shop, pair.number, isChecked, 'check off')
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['differs'])
      expect(ticket.ledger[0]).toMatchObject({ short: 2, over: 0 })
    }))
})
