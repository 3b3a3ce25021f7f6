import { readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import type { z } from 'zod'
import { lockersBody, type CopyView } from '#contracts/http/lockers.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import { lockerEndpoint } from '#server/endpoints/makers/locker.ts'
import type { CopyId, HoldingId, TicketId } from '#server/base/ids.ts'
import { forgetUnbooked } from '#server/endpoints/forget-uploads.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { callOff, sign } from '#server/desk/hand-back/act.ts'
import { closeCopy, destroyNow, keepCopy } from '#server/desk/lockers/act.ts'
import { closeLook, closeStaleLooks, lookInto } from '#server/desk/lockers/look.ts'
import { readLockers } from '#server/desk/lockers/view.ts'
import { searchBody } from '#contracts/http/ticket.ts'
import { readEntries } from '#server/desk/items/entries.ts'
import { show } from '#server/desk/items/show.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { readToday } from '#server/desk/today/view.ts'
import { startCheck } from '#server/desk/check-off/act.ts'
import { stopTicketRun } from '#server/desk/carry/act.ts'
import { folderOfKeys } from '#server/vault/key-store.ts'
import { findCopy } from '#server/vault/lockers/copies.queries.ts'
import { destroyDue } from '#server/vault/lockers/destroy.ts'
import { blobsOf } from '#server/vault/blobs.ts'
import { againstStores } from '../setup/contents.ts'
import { breakAt } from '../setup/pairs.ts'
import { codeOf } from '../setup/codes.ts'
import {
  addPhone,
  bookTicket,
  carry,
  countIn,
  expectAgrees,
  figuresOf,
  hasFiles,
  isChecked,
  prepareMessages,
  useShop,
  waitFor,
  type NamedPhone,
} from '../setup/ticket.ts'
import { closes, linesOfSums } from '#core/book/index.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { unopened } from '../setup/opens.ts'

/** What a check off waits for before it compares, where a test asks for it. */
let gate: Promise<void> | undefined
const shop = useShop({ leaseMs: 500, checkpoint: (_, run) => (run.type === 'check-off' ? gate : undefined) })
const keepUntil = new Date(Date.now() + 20 * 86_400_000).toISOString().slice(0, 10)
/** Apps come last: they alone are installed by hand on another platform. */
const all = [...kindCodes].sort((a, b) => Number(a === 'apps') - Number(b === 'apps'))

/** Some with files and some without, where every kind would prove no more. */
const shared = ['contacts', 'calls', 'messages', 'photos', 'music']

/** Fills a phone with some of every kind. */
async function fill(serial: string, { n = 40, style = 'plain' }: { n?: number; style?: 'plain' | 'traps' } = {}) {
  for (const kind of all) await shop().hand(`phones/${serial}/fill`, { kind, seed: 11, count: hasFiles(kind) ? 6 : n, style })
}

async function through(number: string): Promise<TicketView> {
  await countIn(shop(), number)
  await carry(shop(), number)
  return waitFor(shop(), number, isChecked, 'check off')
}

/** Copies a phone into a locker, to the end of the check. */
async function copy(old: NamedPhone, kinds = all): Promise<{ ticket: TicketView; number: string; id: CopyId }> {
  const number = await bookTicket(shop(), old, { keepUntil }, kinds)
  const ticket = await through(number)
  return { ticket, number, id: ticket.new.copy!.id as CopyId }
}

/** What must hold of a copy as of any new side: sums close, every number opens, and nothing is short. */
async function expectCopied({ ticket }: { ticket: TicketView }): Promise<void> {
  for (const row of ticket.ledger) {
    const figures = figuresOf(row)
    expect([row.kind, closes(linesOfSums(figures))]).toEqual([row.kind, true])
    expect([row.kind, row.verdict]).toEqual([row.kind, expect.stringMatching(/^agrees/)])
    expect([row.kind, row.fates.cannotCross, row.fates.changed, row.new.first]).toEqual([row.kind, 0, 0, 0])
    expect(await unopened(shop(), ticket.number, row)).toEqual([])
  }
}

const lockers = (change: Partial<z.input<typeof lockersBody>> = {}) => readLockers(shop().services, lockersBody.parse(change))
/** A copy by its number, kept or destroyed. */
async function viewOf(id: CopyId): Promise<CopyView> {
  for (const isDestroyed of [false, true]) {
    const found = (await lockers({ find: String(id), isDestroyed })).copies.find((one) => one.id === id)
    if (found) return found
  }
  throw new Error(`no copy ${id}`)
}

async function end(number: string): Promise<void> {
  const { services, actor } = shop()
  await callOff(services, number, { body: { why: 'done', takeAway: false, typed: number }, actor })
  await handBackAndErase(services, number, number)
}

const pull = async (serial: string) => void (await shop().hand(`phones/${serial}`, undefined, 'DELETE'))

describe('a copy of a phone in a locker', () => {
  it('holds everything as the phone gave it, and is put back on a phone of another platform when its ticket is long erased', async () => {
    const old = { serial: 'LK-1', model: 'Orrin 5', port: 1 }
    await addPhone(shop(), old)
    await fill(old.serial)
    const copied = await copy(old)
    await expectCopied(copied)
    expect(copied.ticket.ledger.map(({ kind }) => kind).sort()).toEqual([...all].sort())
    const kept = await viewOf(copied.id)
    expect([kept.customer, kept.phone.model, kept.destroyed, kept.asOf]).toEqual(['I. H.', 'Orrin 5', null, expect.any(String)])
    for (const row of copied.ticket.ledger) {
      const kind = kept.kinds.find((one) => one.kind === row.kind)!
      // every total is the sum of what it opens to: the copy's own count, what was read back, and the fates it carries
      expect([row.kind, kind.items, row.new.own]).toEqual([row.kind, row.new.last, row.new.last])
      expect([row.kind, kind.fates.carried]).toEqual([row.kind, kind.items])
    }
    await end(copied.number)

    const now = { serial: 'LK-2', model: 'Veyra 12', port: 2, version: '18' }
    await addPhone(shop(), now)
    // apps are installed by hand on another platform
    const number = await bookTicket(shop(), { copy: copied.id }, now, all.slice(0, -1))
    await prepareMessages(shop(), number, { old: { ...now, serial: null, model: 'none' }, now })
    const back = await through(number)
    expect(back.old.copy).toMatchObject({ id: copied.id, shortThen: 0, isDestroyed: false })
    // the phone it was made of still stands there: what came out of the locker is what it holds
    await expectAgrees(shop(), back, { new: now.serial })
    for (const row of back.ledger) {
      expect([row.kind, await againstStores(shop(), row, { old: old.serial, new: now.serial })]).toEqual([row.kind, []])
    }
    await end(number)
    await pull(old.serial)
    await pull(now.serial)
  })

  it('takes every trap of a phone as it is: what could be read is in it, and reads the same again', async () => {
    const old = { serial: 'LK-T', model: 'Orrin 7', port: 1 }
    await addPhone(shop(), old)
    await fill(old.serial, { n: 20, style: 'traps' })
    const copied = await copy(old)
    await expectCopied(copied)
    for (const row of copied.ticket.ledger) {
      const { carried, notChosen, unreadable } = row.fates
      expect([row.kind, carried + notChosen + unreadable, row.new.last]).toEqual([row.kind, row.old.read, carried])
    }
    // what could not be read is kept beside, as it was given, once however often it is checked
    await startCheck(shop().services, copied.number, shop().actor)
    await waitFor(shop(), copied.number, isChecked, 'the check again')
    const { kinds } = await viewOf(copied.id)
    for (const row of copied.ticket.ledger) {
      const kind = kinds.find((one) => one.kind === row.kind)!
      expect([row.kind, kind.unread]).toEqual([row.kind, expect.any(Number)])
      expect(kind.unread).toBeLessThanOrEqual(row.fates.unreadable)
    }
    expect(kinds.find(({ kind }) => kind === 'contacts')!.unread).toBeGreaterThan(0)
    await end(copied.number)
    // what is not in it opens to why, also once the ticket and its items are gone
    for (const { kind, fates, whys } of (await viewOf(copied.id)).kinds)
      for (const fate of ['unreadable', 'notChosen', 'carried']) {
        const lines = whys.filter((why) => why.fate === fate)
        expect([kind, fate, lines.reduce((sum, { items }) => sum + items, 0)]).toEqual([kind, fate, fates[fate] ?? 0])
        if (fate === 'unreadable') expect(lines.every(({ codes }) => codes.length > 0)).toBe(true)
        // all were chosen: what stayed is what nobody takes along unasked
        if (fate === 'notChosen') expect([kind, lines.filter(({ codes }) => !codes[0]?.startsWith('left-'))]).toEqual([kind, []])
      }
    // what is read of the copy is what was read of the phone: nothing of it became unreadable, and none became two
    const number = await lookInto(shop().services, copied.id, { beside: null, actor: shop().actor })
    const look = await waitFor(shop(), number, ({ run, ledger }) => run === null && ledger.every((row) => row.new.first !== null), 'a look')
    for (const row of look.ledger)
      expect([row.kind, row.old.read, row.fates.unreadable]).toEqual([
        row.kind,
        copied.ticket.ledger.find(({ kind }) => kind === row.kind)!.fates.carried,
        0,
      ])
    await closeLook(shop().services, number)
    await pull(old.serial)
  })

  it('stores of a second copy only what changed; each stays whole by itself, and what they share goes with the last', async () => {
    const old = { serial: 'LK-3', model: 'Orrin 9', port: 3 }
    await addPhone(shop(), old)
    await fill(old.serial)
    const before = (await lockers()).storedBytes
    const first = await copy(old, shared)
    await expectCopied(first)
    await end(first.number)
    const afterFirst = (await lockers()).storedBytes
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'contacts', seed: 99, count: 3 })
    const second = await copy(old, shared)
    await expectCopied(second)
    await end(second.number)
    const [one, two] = [await viewOf(first.id), await viewOf(second.id)]
    expect(two.items).toBe(one.items + 3)
    const afterSecond = (await lockers()).storedBytes
    expect(two.savedBytes).toBe(two.bytes - (afterSecond - afterFirst))
    expect(afterSecond - afterFirst).toBeLessThan((afterFirst - before) / 20)

    // with the first destroyed, the second gives everything
    const { services, actor } = shop()
    expect(await codeOf(destroyNow(services, first.id, { why: 'not-needed', typed: '0' }, actor))).toBe('NumberNotTyped')
    await destroyNow(services, first.id, { why: 'not-needed', typed: String(first.id) }, actor)
    expect(await codeOf(destroyNow(services, first.id, { why: 'not-needed', typed: String(first.id) }, actor))).toBe('CopyGone')
    const now = { serial: 'LK-4', model: 'Orrin 9', port: 4 }
    await addPhone(shop(), now)
    const number = await bookTicket(shop(), { copy: second.id }, now, shared)
    await prepareMessages(shop(), number, { old: { ...now, serial: null, model: 'none' }, now })
    const back = await through(number)
    await expectAgrees(shop(), back, { new: now.serial })
    expect(back.ledger.reduce((sum, { fates }) => sum + fates.carried + fates.changed, 0)).toBeGreaterThan(120)
    await end(number)

    // the last goes on its date, also where nobody was there on that date
    await services.pool.query(`update locker_copy set keep_until = now() - interval '3 days' where id = $1`, [second.id])
    const { rows } = await services.pool.query<{ shared: string; mine: string }>(
      `select l.holding_id as shared, c.holding_id as mine from locker_copy c join locker l on l.id = c.locker_id where c.id = $1`,
      [second.id],
    )
    expect(await destroyDue(services)).toBe(1)
    expect(await blobsOf(services.config).names(rows[0]!.shared as never)).toEqual([])
    const keys = readdirSync(services.config.keysFolder)
    for (const holding of [rows[0]!.shared, rows[0]!.mine]) expect(keys).not.toContain(`${holding}.key`)
    expect((await lockers()).storedBytes).toBe(before)
    expect(await viewOf(second.id)).toMatchObject({ items: two.items, customer: null, destroyed: { how: 'date', by: null } })
    expect((await viewOf(first.id)).destroyed).toMatchObject({ how: 'asked', why: 'not-needed', by: actor.name })
    expect(await codeOf(bookTicket(shop(), { copy: second.id }, now, all))).toBe('CopyGone')
    await pull(old.serial)
    await pull(now.serial)
  })

  it('whose parts were altered, lost or taken away says so item by item; nothing of it is taken for whole', async () => {
    const old = { serial: 'LK-5', model: 'Orrin 5', port: 5 }
    await addPhone(shop(), old)
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'contacts', seed: 3, count: 20 })
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 3, count: 6 })
    const kinds = ['contacts', 'photos']
    const copied = await copy(old, kinds)
    await end(copied.number)
    const { services } = shop()
    const { pool, config } = services
    // one record altered, one lost, one file with a hole
    await pool.query(
      `update locker_body set sealed = set_byte(sealed, 40, get_byte(sealed, 40) # 1)
        where id = (select body_id from copy_record where copy_id = $1 and kind = 'contacts' order by seq limit 1)`,
      [copied.id],
    )
    await pool.query(
      `delete from copy_record where copy_id = $1 and kind = 'contacts' and seq = (select max(seq) from copy_record where copy_id = $1 and kind = 'contacts')`,
      [copied.id],
    )
    const { rows } = await pool.query<{ holding: string; blob: string }>(
      `select l.holding_id as holding, b.blob from locker_copy c join locker l on l.id = c.locker_id join locker_body b on b.locker_id = l.id
        where c.id = $1 and b.blob is not null order by b.id limit 1`,
      [copied.id],
    )
    const file = await blobsOf(config).file({ holding: rows[0]!.holding as never, name: rows[0]!.blob }, 'write')
    const chunk = await file.read(0)
    chunk[50]! ^= 1
    await file.write(0, chunk)
    await file.close()

    const now = { serial: 'LK-6', model: 'Orrin 9', port: 6 }
    await addPhone(shop(), now)
    const number = await bookTicket(shop(), { copy: copied.id }, now, kinds)
    const back = await through(number)
    const row = (kind: string) => back.ledger.find((one) => one.kind === kind)!
    expect([row('contacts').old.read, row('contacts').fates.unreadable]).toEqual([20, 2])
    expect(row('photos').fates.unreadable).toBe(1)
    await expectAgrees(shop(), back, { new: now.serial }, ['agrees-with-notes'])
    await end(number)

    // its own word altered: it is not read at all
    await pool.query(
      `update copy_kind set manifest = set_byte(manifest, 30, get_byte(manifest, 30) # 1) where copy_id = $1 and kind = 'contacts'`,
      [copied.id],
    )
    const damaged = await bookTicket(shop(), { copy: copied.id }, now, kinds)
    await startCountIn(services, damaged, shop().actor)
    const waits = await waitFor(shop(), damaged, ({ run }) => run?.state === 'paused', 'a wait')
    expect([waits.run!.reason, waits.run!.side]).toEqual(['CopyDamaged', 'old'])
    await end(damaged)
    // made by a newer version: untouched
    await pool.query('update locker_copy set format = 2 where id = $1', [copied.id])
    expect(await codeOf(bookTicket(shop(), { copy: copied.id }, now, kinds))).toBe('CopyNewer')
    await pull(old.serial)
    await pull(now.serial)
  })

  it('that breaks off goes on where it was, and one that is never finished goes with its ticket', async () => {
    const old = { serial: 'LK-7', model: 'Orrin 5', port: 7 }
    await addPhone(shop(), old)
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 5, count: 12 })
    const number = await bookTicket(shop(), old, { keepUntil }, ['photos'])
    await countIn(shop(), number)
    await breakAt(shop(), old.serial, 'file.give', 'pull', 5)
    await carry(shop(), number)
    const waits = await waitFor(shop(), number, ({ run }) => run?.state === 'paused', 'a wait')
    expect([waits.run!.reason, waits.run!.side]).toEqual(['NotPlugged', 'old'])
    await shop().hand(`phones/${old.serial}/plug`, { port: 7 })
    await shop().hand(`phones/${old.serial}/unlock`, {})
    const ticket = await waitFor(shop(), number, isChecked, 'check off')
    await expectCopied({ ticket })
    expect(ticket.ledger[0]!.new.last).toBe(ticket.ledger[0]!.old.read)
    // an item that was deleted is no longer asked for: the check says so, and the copy keeps it
    await startCheck(shop().services, number, shop().actor)
    await waitFor(shop(), number, ({ run }) => run === null, 'the check again')
    await end(number)
    expect((await viewOf(ticket.new.copy!.id as CopyId)).items).toBe(12)

    const other = await bookTicket(shop(), old, { keepUntil }, ['photos'])
    const half = await countIn(shop(), other)
    // a disk that is full is said as that, and nothing half stays
    const { rows } = await shop().services.pool.query<{ id: TicketId }>('select id from ticket where number = $1', [other])
    const copyId = half.new.copy!.id as CopyId
    const connection = await lockerEndpoint(shop().services, copyId, { ticketId: rows[0]!.id, side: 'new' }).attach()
    const full = async function* () {
      yield Buffer.alloc(1000)
      throw Object.assign(new Error('no space left on device'), { code: 'ENOSPC' })
    }
    expect(await codeOf(connection.sink!.putFile('photos', full()))).toBe('DiskFull')
    // who attaches ends the former connection
    await lockerEndpoint(shop().services, copyId, { ticketId: rows[0]!.id, side: 'new' }).attach()
    expect(await codeOf(connection.sink!.close!('photos'))).toBe('ConnectionTaken')
    expect((await shop().services.pool.query('select 1 from copy_file where copy_id = $1', [copyId])).rows).toEqual([])
    await end(other)
    // with its ticket, at once
    expect(await destroyDue(shop().services)).toBe(0)
    expect(await viewOf(half.new.copy!.id as CopyId)).toMatchObject({ destroyed: { how: 'unfinished' } })
    await pull(old.serial)
  })

  it('stays when its ticket is signed before it was read back, and says what was not', async () => {
    const { services, actor } = shop()
    const old = { serial: 'LK-U', model: 'Orrin 5', port: 3 }
    await addPhone(shop(), old)
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'contacts', seed: 51, count: 9 })
    const number = await bookTicket(shop(), old, { keepUntil }, ['contacts'])
    await countIn(shop(), number)
    let open = () => {}
    gate = new Promise((done) => (open = done))
    await carry(shop(), number)
    const carried = await waitFor(shop(), number, ({ run }) => run?.type === 'check-off', 'carried')
    await stopTicketRun(services, number)
    gate = undefined
    open()
    const stopped = await waitFor(shop(), number, ({ run }) => run === null, 'a stop')
    await sign(services, number, { by: 'Ines Harrow', withWhatStands: true, actor })
    await handBackAndErase(services, number, number)
    expect(await destroyDue(services)).toBe(0)
    const id = carried.new.copy!.id as CopyId
    const view = await viewOf(id)
    expect(stopped.ledger[0]!.notYetChecked).toBe(9)
    expect([view.items, view.destroyed, view.kinds[0]!.fates.notReadBack]).toEqual([9, null, 9])
    const look = await lookInto(services, id, { beside: null, actor })
    const seen = await waitFor(shop(), look, ({ run, ledger }) => run === null && ledger[0]!.new.first !== null, 'a look')
    expect(seen.ledger[0]!.old.read).toBe(9)
    await closeLook(services, look)
    await pull(old.serial)
  })

  it('is looked into as into a phone: every count opens, names stay hidden until they are shown, and what was read goes with the look', async () => {
    const { services, actor } = shop()
    const [kept] = (await lockers()).copies
    const id = kept!.id as CopyId
    const alone = { beside: null, actor }
    const number = await lookInto(services, id, alone)
    expect(await lookInto(services, id, alone)).toBe(number)
    const look = await waitFor(shop(), number, ({ run, ledger }) => run === null && ledger.every((row) => row.new.first !== null), 'a look')
    expect([look.isLook, look.old.copy!.id, look.stage]).toEqual([true, id, 'count-in'])
    for (const row of look.ledger) {
      const kind = kept!.kinds.find((one) => one.kind === row.kind)!
      expect([row.kind, row.old.read, row.old.own, row.new.first]).toEqual([row.kind, kind.items, kind.items, 0])
      const search = searchBody.parse({ kind: row.kind, filter: 'all', limit: 200 })
      const page = await readEntries(services, number, { actor, search })
      expect([page.total, page.rows.every(({ title }) => title === null)]).toEqual([row.old.read, true])
      await show(services, number, { reason: 'customer-asked', actor })
      const shown = await readEntries(services, number, { actor, search })
      expect(shown.rows.some(({ title }) => (title ?? '') !== '')).toBe(true)
    }
    // nothing is carried from it, and no list of tickets has it
    expect(await codeOf(carry(shop(), number))).toBe('LookOnly')
    expect((await readToday(services)).tickets.map((one) => one.number)).not.toContain(number)
    await closeLook(services, number)
    const { rows } = await services.pool.query('select 1 from reading r join ticket t on t.holding_id = r.holding_id where t.number = $1', [
      number,
    ])
    expect(rows).toEqual([])
    expect((await viewOf(id)).items).toBe(kept!.items)
    // one nobody closes goes by itself
    const forgotten = await lookInto(services, id, alone)
    await services.pool.query(`update ticket set created_at = now() - interval '13 hours' where number = $1`, [forgotten])
    expect(await closeStaleLooks(services)).toBe(1)
  })

  it('is compared with a later copy, and with the phone as it is now: what only one holds, what both do, what changed in between', async () => {
    const { services, actor } = shop()
    const old = { serial: 'LK-C', model: 'Orrin 5', port: 2 }
    await addPhone(shop(), old)
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'contacts', seed: 31, count: 20 })
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'calls', seed: 31, count: 10 })
    const first = await copy(old, ['contacts', 'calls'])
    await end(first.number)
    // three go, four come, two are said otherwise
    const { records } = (await shop().hand(`phones/${old.serial}/store?kind=contacts`)) as { records: { id: string }[] }
    for (const at of [1, 5, 9]) await shop().hand(`phones/${old.serial}/delete-record`, { id: Number(records[at]!.id) })
    for (const at of [2, 6]) await shop().hand(`phones/${old.serial}/edit-record`, { id: Number(records[at]!.id) })
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'contacts', seed: 77, count: 4 })
    const second = await copy(old, ['contacts'])
    await end(second.number)
    for (const beside of [{ copy: second.id as number }, { serial: old.serial }]) {
      const number = await lookInto(services, first.id, { beside, actor })
      const look = await waitFor(shop(), number, ({ run, forecasts }) => run === null && forecasts.length > 0, 'a comparison')
      expect(look.ledger.map(({ kind }) => kind).sort()).toEqual('copy' in beside ? ['contacts'] : ['calls', 'contacts'])
      const contacts = look.ledger.find(({ kind }) => kind === 'contacts')!
      const { counts } = look.forecasts.find(({ kind }) => kind === 'contacts')!
      // on the later side 21: 15 in both, and 6 new or said otherwise; of the 20 before, 5 are nowhere as they were
      expect([contacts.old.read, counts.alreadyThere, counts.carried, contacts.new.first]).toEqual([21, 15, 6, 20])
      expect([contacts.new.altered, contacts.new.cameOtherwise]).toEqual([2, 3])
      for (const [filter, n] of [
        ['willBeThere', 15],
        ['toCome', 6],
        // of one phone: four new, two changed in between, three gone
        ['onlyHere', 4],
        ['differs', 2],
        ['altered', 2],
        ['first', 20],
        ['cameOtherwise', 3],
      ] as const) {
        const page = await readEntries(services, number, { actor, search: searchBody.parse({ kind: 'contacts', filter, limit: 100 }) })
        expect([filter, page.total, page.rows.length]).toEqual([filter, n, n])
      }
      if ('serial' in beside)
        expect(look.forecasts.find(({ kind }) => kind === 'calls')!.counts).toMatchObject({ alreadyThere: 10, carried: 0 })
      expect(await codeOf(carry(shop(), number))).toBe('LookOnly')
      await closeLook(services, number)
    }
    expect((await viewOf(first.id)).items).toBe(30)
    expect(await codeOf(lookInto(services, first.id, { beside: { serial: 'nowhere' }, actor }))).toBe('NotPlugged')
    // of another phone equal names say nothing: what is not the same is only on one side
    const other = { serial: 'LK-D', model: 'Orrin 5', port: 3 }
    await addPhone(shop(), other)
    await shop().hand(`phones/${other.serial}/fill`, { kind: 'contacts', seed: 977, count: 6 })
    const apart = await lookInto(services, first.id, { beside: { serial: other.serial }, actor })
    const seen = await waitFor(shop(), apart, ({ run, forecasts }) => run === null && forecasts.length > 0, 'a comparison')
    expect(seen.ledger.find(({ kind }) => kind === 'contacts')!.new).toMatchObject({ altered: 0, cameOtherwise: 20 })
    await closeLook(services, apart)
    await pull(other.serial)
    const ofPhotos = (await lockers()).copies.find(({ kinds }) => kinds.every(({ kind }) => kind === 'photos'))!
    expect(await codeOf(lookInto(services, first.id, { beside: { copy: ofPhotos.id }, actor }))).toBe('NothingToCompare')
    await pull(old.serial)
  })

  it('closed by its owner’s passphrase gives counts alone; the passphrase puts it back, a wrong one is throttled', async () => {
    const { services, actor } = shop()
    const old = { serial: 'LK-8', model: 'Orrin 5', port: 8 }
    await addPhone(shop(), old)
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'contacts', seed: 21, count: 15 })
    const copied = await copy(old, ['contacts'])
    // not while its ticket is open
    expect(await codeOf(closeCopy(services, copied.id, { passphrase: 'tide and lantern' }))).toBe('CopyInUse')
    await end(copied.number)
    const { rows: before } = await services.pool.query<{ holding: string }>('select holding_id as holding from locker_copy where id = $1', [
      copied.id,
    ])
    // what somebody looks at now is closed with it
    const looking = await lookInto(services, copied.id, { beside: null, actor })
    await waitFor(shop(), looking, ({ run }) => run === null, 'a look')
    await closeCopy(services, copied.id, { passphrase: 'tide and lantern' })
    expect((await readTicket(services, looking, actor)).erasedAt).not.toBeNull()
    expect(readdirSync(services.config.keysFolder)).not.toContain(`${before[0]!.holding}.key`)
    expect(await viewOf(copied.id)).toMatchObject({ isClosed: true, customer: null, items: 15 })
    expect(await codeOf(lookInto(services, copied.id, { beside: null, actor }))).toBe('CopyClosed')
    expect(await codeOf(closeCopy(services, copied.id, { passphrase: 'another one here' }))).toBe('CopyClosed')
    // a later copy of the phone shares nothing with what it can't open, and is whole
    const later = await copy(old, ['contacts'])
    expect((await viewOf(later.id)).savedBytes).toBe(0)
    await end(later.number)

    const now = { serial: 'LK-9', model: 'Orrin 9', port: 7 }
    await addPhone(shop(), now)
    const book = (passphrase?: string) => bookTicket(shop(), { copy: copied.id, ...(passphrase ? { passphrase } : {}) }, now, ['contacts'])
    expect(await codeOf(book())).toBe('CopyClosed')
    for (let n = 0; n < 5; n++) expect(await codeOf(book('Tide and lantern'))).toBe('WrongPassphrase')
    expect(await codeOf(book('tide and lantern'))).toBe('PassphraseThrottled')
    await services.pool.query('update locker_copy set wait_until = now() where id = $1', [copied.id])
    const number = await book('tide and lantern')
    const back = await through(number)
    await expectAgrees(shop(), back, { old: old.serial, new: now.serial })
    expect(back.ledger[0]!.fates.carried).toBe(15)
    await end(number)
    // the ticket’s hold on it went with the ticket
    const { rows } = await services.pool.query('select 1 from ticket_phone where copy_key is not null')
    expect(rows).toEqual([])
    await pull(old.serial)
    await pull(now.serial)
  })

  it('keeps its blobs: they are nobody’s to tidy', async () => {
    const { pool, config } = shop().services
    const store = blobsOf(config)
    const all = await store.holdings()
    const { rows } = await pool.query<{ id: HoldingId }>('select holding_id as id from locker')
    const mine = all.filter((id) => rows.some((row) => row.id === id))
    expect(mine.length).toBeGreaterThan(0)
    await forgetUnbooked(shop().services, 0)
    expect((await store.holdings()).filter((id) => mine.includes(id))).toEqual(mine)
  })

  it('is found by its number, its ticket, its model or the serial of its phone; a page at a time', async () => {
    const all = await lockers({ limit: 200 })
    expect(all.total).toBe(all.copies.length)
    expect(all.total).toBeGreaterThan(3)
    const found: number[] = []
    for (let after: number | null = null; ;) {
      const page = await lockers({ after, limit: 2 })
      found.push(...page.copies.map(({ id }) => id))
      if ((after = page.next) === null) break
    }
    expect(found).toEqual(all.copies.map(({ id }) => id))
    const [last] = all.copies
    for (const find of [String(last!.id), last!.ticket!.toLowerCase()])
      expect((await lockers({ find })).copies.map(({ id }) => id)).toEqual([last!.id])
    expect((await lockers({ find: 'LK-8' })).copies.map(({ phone }) => phone.model)).toEqual(['Orrin 5', 'Orrin 5'])
    expect((await lockers({ find: 'LK-nowhere' })).total).toBe(0)
    expect((await lockers({ find: 'orrin 5' })).total).toBeGreaterThan(2)
    const gone = await lockers({ isDestroyed: true })
    expect(gone.copies.every(({ destroyed }) => destroyed !== null)).toBe(true)
    expect(gone.total).toBeGreaterThan(1)
  })

  it('whose key can’t be reached, or that is destroyed while a ticket reads it, is said; the ticket has an end', async () => {
    const { services, actor } = shop()
    const old = { serial: 'LK-K', model: 'Orrin 5', port: 5 }
    const now = { serial: 'LK-M', model: 'Orrin 9', port: 6 }
    await addPhone(shop(), old)
    await addPhone(shop(), now)
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'contacts', seed: 41, count: 8 })
    const copied = await copy(old, ['contacts'])
    await end(copied.number)
    const { holding } = (await findCopy(services.pool, copied.id))!
    const store = folderOfKeys(services.config.keysFolder)
    const wrapped = store.find(holding!)!
    store.destroy(holding!)
    const number = await bookTicket(shop(), { copy: copied.id }, now, ['contacts'])
    const waits = async (reason: string) => {
      const ticket = await waitFor(shop(), number, ({ run }) => run?.state === 'paused' && run.reason === reason, reason)
      expect(ticket.run!.side).toBe('old')
    }
    await startCountIn(services, number, actor)
    await waits('KeyAway')
    // its counts are no secret, and whose it is stays unsaid
    expect(await viewOf(copied.id)).toMatchObject({ items: 8, customer: null, destroyed: null })
    store.put(holding!, wrapped)
    await waitFor(shop(), number, ({ run, forecasts }) => run === null && forecasts.length > 0, 'count in')
    await services.pool.query(`update locker_copy set keep_until = now() where id = $1`, [copied.id])
    expect(await destroyDue(services)).toBe(1)
    await carry(shop(), number)
    await waits('CopyGone')
    await stopTicketRun(services, number)
    await end(number)
    await pull(old.serial)
    await pull(now.serial)
  })

  it('is kept longer by a day of the shop’s, never into the past', async () => {
    const { services, actor } = shop()
    const { copies } = await lockers()
    const [kept] = copies
    const id = kept!.id as CopyId
    expect(await codeOf(keepCopy(services, id, { keepUntil: '2026-01-01' }, actor))).toBe('BadRequest')
    expect(await codeOf(keepCopy(services, 999_999 as CopyId, { keepUntil }, actor))).toBe('CopyNotFound')
    const day = new Date(Date.now() + 90 * 86_400_000).toISOString().slice(0, 10)
    await keepCopy(services, id, { keepUntil: day }, actor)
    expect(new Date(Date.parse((await viewOf(id)).keepUntil) - 1).toISOString().slice(0, 10)).toBe(day)
  })
})
