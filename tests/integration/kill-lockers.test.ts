import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import type { TicketView } from '#contracts/http/ticket.ts'
import type { CopyId, HoldingId } from '#server/base/ids.ts'
import { callOff } from '#server/desk/hand-back/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { blobsOf } from '#server/vault/blobs.ts'
import { findCopy } from '#server/vault/lockers/copies.queries.ts'
import { zipSync } from 'fflate'
import { makeFile } from '#standins/files/files.ts'
import { bring } from '../setup/uploads.ts'
import { carryAcrossDeath } from '../setup/kill.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import {
  addPhone,
  bookTicket,
  carry,
  countIn,
  expectAgrees,
  isChecked,
  prepareMessages,
  waitFor,
  worker,
  type PhoneWish,
} from '../setup/ticket.ts'

let shop: TestShop
let n = 0
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
})
afterAll(() => shop.close())
afterEach(async () => {
  for (const serial of [`LO-${n}`, `LN-${n}`]) await shop.hand(`phones/${serial}`, undefined, 'DELETE').catch(() => undefined)
})

const keepUntil = new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10)
const kinds = ['contacts', 'messages', 'photos']
const twin = { person: { given: 'Twin', phones: [{ v: '+447700900304', t: 'cell' }] } }
const text = { from: '07700 900471', atMs: Date.UTC(2026, 9, 1, 12), text: 'A text' }
const picture = { ...text, type: 'mms', text: 'With a picture', parts: [{ type: 'image/jpeg', name: 'quay.jpg', handle: 'k1', size: 900 }] }

const moments = {
  'killed before send': { checkpoint: 'before-send' },
  'killed after the answer, before commit': { checkpoint: 'after-answer' },
  'killed when its files are moved': { checkpoint: 'file-moved' },
  'the old side breaks off in mid-file': { fault: { point: 'file.give', effect: 'cut', skip: 9 } },
} as const

/** A phone with what is easily doubled or lost: twins, equal texts of one second, files of several records. */
async function filled(): Promise<PhoneWish> {
  n++
  const old: PhoneWish = { serial: `LO-${n}`, model: 'Orrin 5', port: 1 }
  await addPhone(shop, old)
  await shop.hand(`phones/${old.serial}/add`, { persons: [twin, twin, { person: { given: 'Alone', phones: [] } }] })
  await shop.hand(`phones/${old.serial}/add`, {
    messages: [text, text, picture],
    attached: [{ handle: 'k1', text: 'the picture'.repeat(80) }],
  })
  await shop.hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 60 + n, count: 6, style: 'traps' })
  return old
}

async function end(number: string): Promise<void> {
  const { services, actor } = shop
  await callOff(services, number, { body: { why: 'done', takeAway: false, typed: number }, actor })
  await handBackAndErase(services, number, number)
}

/** What must hold of a copy whatever happened on the way: each item once, each file named by a record, no blob nobody knows. */
async function expectWhole(ticket: TicketView): Promise<void> {
  const { pool, config } = shop.services
  const id = ticket.new.copy!.id as CopyId
  for (const row of ticket.ledger) {
    expect([row.kind, row.verdict]).toEqual([row.kind, expect.stringMatching(/^agrees/)])
    expect([row.kind, row.fates.carried, row.fates.lost, row.new.double, row.new.leftBehind]).toEqual([row.kind, row.new.last, 0, 0, 0])
  }
  const { rows } = await pool.query<{ kind: string; records: number; items: number; bytes: number; held: number }>(
    `select k.kind, k.items, k.bytes::float8 as bytes,
            (select sum(b.size_bytes)::float8 from (select body_id from copy_record r where r.copy_id = k.copy_id and r.kind = k.kind
                union all select body_id from copy_file f where f.copy_id = k.copy_id and f.kind = k.kind) h
               join locker_body b on b.id = h.body_id) as held,
            (select count(*)::int from copy_record r where r.copy_id = k.copy_id and r.kind = k.kind) as records
       from copy_kind k where k.copy_id = $1`,
    [id],
  )
  for (const { kind, records, items, bytes, held } of rows) expect([kind, records, held]).toEqual([kind, items, bytes])
  expect((await pool.query('select 1 from copy_file where copy_id = $1 and seq is null', [id])).rows).toEqual([])
  const { shared } = (await findCopy(pool, id))!
  const { rows: known } = await pool.query<{ blob: string }>(
    `select b.blob from locker_body b join locker_copy c on c.locker_id = b.locker_id where c.id = $1 and b.blob is not null order by 1`,
    [id],
  )
  expect((await blobsOf(shop.services.config).names(shared!)).sort()).toEqual(known.map(({ blob }) => blob))
  expect(config.keysFolder).toBeTruthy()
}

const homeMoments = {
  ...moments,
  'killed while the archive is made': { checkpoint: 'packing', of: 'check-off' },
  'killed when it is made, before it is read back': { checkpoint: 'finished', of: 'check-off' },
} as const

describe('what is taken home as files, whatever is killed at whatever moment', () => {
  for (const [when, moment] of Object.entries(homeMoments)) {
    it(`${when}: everything is in the archive once, and there is one archive`, async () => {
      const old = await filled()
      const number = await bookTicket(shop, old, { home: { password: 'Lantern 12' } }, kinds)
      if ('fault' in moment) await shop.hand(`phones/${old.serial}/faults`, { faults: [moment.fault] })
      const ticket = await carryAcrossDeath(shop, number, moment)
      for (const row of ticket.ledger) {
        expect([row.kind, row.verdict]).toEqual([row.kind, expect.stringMatching(/^agrees/)])
        expect([row.kind, row.fates.carried, row.fates.lost, row.new.double, row.new.leftBehind]).toEqual([row.kind, row.new.last, 0, 0, 0])
      }
      expect(ticket.new.archive).toMatchObject({ isThere: true, hasPassword: true, takenAt: null })
      const { pool, config } = shop.services
      const { rows } = await pool.query<{ holding: HoldingId; blob: string }>(
        `select c.holding_id as holding, a.blob from archive a join locker_copy c on c.id = a.copy_id
           join ticket_phone p on p.copy_id = c.id join ticket t on t.id = p.ticket_id where t.number = $1`,
        [number],
      )
      expect(await blobsOf(config).names(rows[0]!.holding)).toEqual([rows[0]!.blob])
      await end(number)
      // and nothing of it outlives its ticket
      expect(await blobsOf(config).names(rows[0]!.holding)).toEqual([])
    })
  }
})

describe('files that are brought, whatever is killed at whatever moment', () => {
  for (const [when, moment] of Object.entries(moments).filter(([, one]) => 'checkpoint' in one)) {
    it(`${when}: nothing is lost, nothing doubled`, async () => {
      n++
      const twinCard = 'BEGIN:VCARD\r\nVERSION:3.0\r\nN:;Twin;;;\r\nFN:Twin\r\nTEL:+447700900304\r\nEND:VCARD\r\n'
      const cards = Buffer.from(twinCard + twinCard + twinCard.replaceAll('Twin', 'Alone'))
      const pictures = Object.fromEntries(
        Array.from({ length: 5 }, (_, i) => [`Trip/IMG_${i}.jpg`, makeFile({ from: 'hive.jpg', salt: 400 + i })]),
      )
      const { upload } = await bring(shop.services, { 'people.vcf': cards, 'pictures.zip': zipSync(pictures) })
      const now: PhoneWish = { serial: `LN-${n}`, model: 'Tamsel M2', port: 2, settle_ms: 60 }
      await addPhone(shop, now)
      const number = await bookTicket(shop, { upload }, now, ['contacts', 'photos'])
      const ticket = await carryAcrossDeath(shop, number, moment)
      await expectAgrees(shop, ticket, { new: now.serial })
      expect(ticket.ledger.map(({ kind, new: { last } }) => [kind, last]).sort()).toEqual([
        ['contacts', 3],
        ['photos', 5],
      ])
      await end(number)
    })
  }
})

describe('a locker, whatever is killed at whatever moment', () => {
  for (const [when, moment] of Object.entries(moments)) {
    it(`a copy into it, ${when}: nothing is lost, nothing doubled, nothing half`, async () => {
      const old = await filled()
      const number = await bookTicket(shop, old, { keepUntil }, kinds)
      if ('fault' in moment) await shop.hand(`phones/${old.serial}/faults`, { faults: [moment.fault] })
      const ticket = await carryAcrossDeath(shop, number, moment)
      await expectWhole(ticket)
      await end(number)
    })
  }

  for (const [when, moment] of Object.entries(moments).filter(([, one]) => 'checkpoint' in one)) {
    it(`a copy out of it, ${when}`, async () => {
      const old = await filled()
      const hands = worker(shop)
      const made = await bookTicket(shop, old, { keepUntil }, kinds)
      await countIn(shop, made)
      await carry(shop, made)
      const copied = await waitFor(shop, made, isChecked, 'check off')
      hands.kill()
      await expectWhole(copied)
      await end(made)
      const now: PhoneWish = { serial: `LN-${n}`, model: 'Tamsel M2', port: 2, settle_ms: 60 }
      await addPhone(shop, now)
      const number = await bookTicket(shop, { copy: copied.new.copy!.id }, now, kinds)
      await prepareMessages(shop, number, { old: { ...now, serial: null, model: 'none' }, now })
      const ticket = await carryAcrossDeath(shop, number, moment)
      await expectAgrees(shop, ticket, { new: now.serial })
      expect(ticket.ledger.find(({ kind }) => kind === 'contacts')!.new.last).toBe(3)
      await end(number)
    })
  }
})
