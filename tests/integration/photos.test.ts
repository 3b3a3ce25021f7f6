import { beforeAll, describe, expect, it } from 'vitest'
import { expectFilesOver, factsOf, photosOf as storedPhotos, sizesOf } from '../setup/photos.ts'
import type { TestShop } from '../setup/shop.ts'
import { searchBody } from '#contracts/http/ticket.ts'
import { readThumbnail } from '#server/desk/items/thumbnails.ts'
import { putBackToWait } from '#server/desk/check-off/act.ts'
import { pauseTicketRun, resumeTicketRun } from '#server/desk/carry/act.ts'
import { putFirst, takeWayOut } from '#server/desk/choose/act.ts'
import { show } from '#server/desk/items/show.ts'
import { readEntries } from '#server/desk/items/entries.ts'
import { readMonths } from '#server/desk/items/months.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { breakAt, createPairs, keepHelping } from '../setup/pairs.ts'
import {
  addPhone,
  bookTicket,
  carry,
  countIn,
  expectAgrees,
  expectForecastMet,
  figureOf,
  isChecked,
  useShop,
  waitFor,
} from '../setup/ticket.ts'

const opened = useShop()
let shop: TestShop
beforeAll(() => {
  shop = opened()
})
const withPair = createPairs(() => shop)

const photosOf = (serial: string) => storedPhotos(shop, serial)

// three more go through the line with all six kinds, in line.test.ts
const pairs = [
  ['Tamsel M2', 'Veyra 14'],
  ['Veyra 12', 'Veyra 14'],
] as const

describe('photos from booking in to check off', () => {
  it.concurrent.each(pairs)('%s to %s: agrees, and every file is on the new phone byte for byte, or its conversion', async (from, to) => {
    await withPair(
      ({ old, now, mark }) => ({
        old: { serial: `PO-${mark}`, model: from, port: old },
        now: { serial: `PN-${mark}`, model: to, port: now },
      }),
      async (pair) => {
        await addPhone(shop, pair.old)
        await addPhone(shop, pair.now)
        await shop.hand(`phones/${pair.old.serial}/fill`, { kind: 'photos', seed: 7, count: 4, style: 'traps' })
        await shop.hand(`phones/${pair.now.serial}/fill`, { kind: 'photos', seed: 8, count: 5 })
        const number = await bookTicket(shop, pair.old, pair.now, ['photos'])
        const counted = await countIn(shop, number)
        const reasons = Object.fromEntries(counted.reasons.map((r) => [r.code, r.items]))
        await carry(shop, number)
        const ticket = await waitFor(shop, number, isChecked, 'check off')
        await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
        expectForecastMet(counted, ticket)
        const [row] = ticket.ledger
        expect(row!.fates).toMatchObject({ pending: 0, lost: 0, unreadable: 2, refused: 0 })
        await expectFilesOver(
          shop,
          { old: pair.old.serial, new: pair.now.serial },
          { own: 5, converted: reasons['converted-to-jpeg'] ?? 0 },
        )
      },
    )
  })
})

interface Pair {
  readonly old: { serial: string; model: string; port: number }
  readonly now: { serial: string; model: string; port: number }
  readonly number: string
}
/** Two phones and a ticket for photos alone. */
const withPhotos = (
  wish: { from?: string; to?: string; count?: number; style?: 'traps' | 'plain'; large?: number; newCount?: number },
  work: (pair: Pair) => Promise<void>,
) =>
  withPair(async ({ old, now, mark }) => {
    const pair = {
      old: { serial: `TO-${mark}`, model: wish.from ?? 'Orrin 5', port: old },
      now: { serial: `TN-${mark}`, model: wish.to ?? 'Orrin 9', port: now },
    }
    await addPhone(shop, pair.old)
    await addPhone(shop, pair.now)
    await shop.hand(`phones/${pair.old.serial}/fill`, {
      kind: 'photos',
      seed: 20 + mark,
      count: wish.count ?? 14,
      style: wish.style ?? 'plain',
      ...(wish.large ? { large: wish.large } : {}),
    })
    if (wish.newCount) await shop.hand(`phones/${pair.now.serial}/fill`, { kind: 'photos', seed: 90 + mark, count: wish.newCount })
    return { ...pair, number: await bookTicket(shop, pair.old, pair.now, ['photos']) }
  }, work)

const reasonsOf = (ticket: Awaited<ReturnType<typeof countIn>>): Record<string, number> =>
  Object.fromEntries(ticket.reasons.map((r) => [r.code, r.items]))
const carried = async (pair: Pair) => {
  await carry(shop, pair.number)
  return waitFor(shop, pair.number, isChecked, 'check off')
}
const looseFiles = async (serial: string) => (await shop.hand(`phones/${serial}/loose`)).count as number

describe('photos, each trap on its own', () => {
  it.concurrent('a moving photo is one item with two files, and stays one on a phone that keeps the clip elsewhere', () =>
    withPhotos({ to: 'Tamsel M2', count: 4, style: 'traps' }, async (pair) => {
      const counted = await countIn(shop, pair.number)
      const row = counted.ledger[0]!
      const had = await photosOf(pair.old.serial)
      expect(row.old.read).toBe(had.length)
      expect(figureOf(row, 'sum', 'old', 'files')).toBe(
        had.filter((r) => !r.damage && !sizesOf(r).includes(0)).flatMap((r) => factsOf(r).files).length,
      )
      const ticket = await carried(pair)
      // the phone counts each clip once more; our count does not
      expect(figureOf(ticket.ledger[0]!, 'derived', 'last', 'clipsApart')).toBe(3)
      expect(ticket.ledger[0]!.new.own).toBe(ticket.ledger[0]!.new.last! + ticket.ledger[0]!.new.derived)
      expect((await photosOf(pair.now.serial)).filter((r) => factsOf(r).files.length === 2)).toHaveLength(3)
    }),
  )

  it.concurrent('a clip kept elsewhere is read with its picture when that phone is the old one', () =>
    withPhotos({ from: 'Tamsel M2', to: 'Veyra 12', count: 2, style: 'traps' }, async (pair) => {
      const row = (await countIn(shop, pair.number)).ledger[0]!
      expect(figureOf(row, 'derived', 'old', 'clipsApart')).toBe(3)
      expect(row.old.own).toBe(row.old.read + 3)
      const ticket = await carried(pair)
      expect(ticket.ledger[0]!.verdict).toMatch(/^agrees/)
      expect((await photosOf(pair.now.serial)).filter((r) => factsOf(r).files.some((f) => f.role === 'clip'))).toHaveLength(3)
    }),
  )

  it.concurrent('the original behind an edited photo becomes a photo of its own where none is kept behind, and counts as its part', () =>
    withPhotos({ from: 'Veyra 12', to: 'Orrin 9', count: 2, style: 'traps' }, async (pair) => {
      const counted = await countIn(shop, pair.number)
      expect(reasonsOf(counted)['original-beside']).toBe(1)
      expect(counted.forecasts[0]!.counts.parts).toBe(1)
      const ticket = await carried(pair)
      expect(ticket.ledger[0]!.new.parts).toBe(1)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
    }),
  )

  it.concurrent('pictures that are only in the cloud are items that can’t cross, with what to do, and never count as carried', () =>
    withPhotos({ from: 'Veyra 12', to: 'Veyra 14', count: 2, style: 'traps' }, async (pair) => {
      const counted = await countIn(shop, pair.number)
      expect(counted.reasons).toContainEqual(expect.objectContaining({ fate: 'cannotCross', code: 'only-in-cloud', items: 12 }))
      const ticket = await carried(pair)
      expect((await photosOf(pair.now.serial)).filter((r) => factsOf(r).cloud)).toEqual([])
      expect(ticket.ledger[0]!.fates.cannotCross).toBeGreaterThanOrEqual(12)
    }),
  )

  it.concurrent('recently deleted ones stay behind unless they are chosen; hidden ones keep their mark, or are named where none is', () =>
    withPhotos({ to: 'Tamsel M2', count: 2, style: 'traps' }, async (pair) => {
      const counted = await countIn(shop, pair.number)
      expect(counted.ledger[0]!.fates.notChosen).toBe(2)
      expect(reasonsOf(counted)['hidden-becomes-visible']).toBe(3)
      expect(reasonsOf(counted)['burst-apart']).toBe(5)
    }),
  )

  it.concurrent('the same name in different folders are two photos, and byte-identical copies are two as well', () =>
    withPhotos({ to: 'Veyra 12', count: 2, style: 'traps' }, async (pair) => {
      await countIn(shop, pair.number)
      const ticket = await carried(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
      const digests = (await photosOf(pair.now.serial)).flatMap((r) => r.files)
      // the two copies are the only equal ones
      expect(digests.length - new Set(digests).size).toBe(1)
    }),
  )

  it.concurrent('identical bytes are already there: k of them on the old phone, j on the new, the smaller number', () =>
    withPhotos({ to: 'Orrin 9', count: 6 }, async (pair) => {
      await shop.hand(`phones/${pair.now.serial}/fill`, { kind: 'photos', seed: 20 + Number(pair.old.serial.split('-')[1]), count: 6 })
      const counted = await countIn(shop, pair.number)
      expect(counted.forecasts[0]!.counts).toMatchObject({ alreadyThere: 6, carried: 0 })
      expect(counted.plan!.chosenBytes).toBe(0)
    }),
  )

  it.concurrent('an empty file is unreadable, a damaged one is carried as it is and named, what is no picture can’t cross', () =>
    withPhotos({ to: 'Orrin 9', count: 2, style: 'traps' }, async (pair) => {
      const counted = await countIn(shop, pair.number)
      expect(reasonsOf(counted)).toMatchObject({ 'empty-file': 1, 'storage-error': 1, 'damaged-already': 1, 'no-picture': 1 })
      const ticket = await carried(pair)
      const damaged = (await photosOf(pair.old.serial)).find((r) => r.card.includes('damaged.jpg'))!
      expect((await photosOf(pair.now.serial)).flatMap((r) => r.files)).toContain(damaged.files[0])
      expect(ticket.ledger[0]!.fates.unreadable).toBe(2)
    }),
  )

  it.concurrent('wrong extensions are set right by what the file is', () =>
    withPhotos({ to: 'Veyra 12', count: 2, style: 'traps' }, async (pair) => {
      expect(reasonsOf(await countIn(shop, pair.number))['extension-corrected']).toBeGreaterThanOrEqual(2)
      await carried(pair)
      const names = (await photosOf(pair.now.serial)).map((r) => /name="([^"]*)"/.exec(r.card)![1]!)
      expect(names).toContain('really a png.png')
      expect(names).toContain('really heic.heic')
    }),
  )

  it.concurrent(
    'dates: none noted, contradicted, before 1990, far to the east and in summer: the new phone shows the camera’s, to the second',
    () =>
      withPhotos({ to: 'Veyra 12', count: 2, style: 'traps' }, async (pair) => {
        await countIn(shop, pair.number)
        const ticket = await carried(pair)
        expect(ticket.ledger[0]!.verdict).toBe('agrees-with-notes')
        const takenOf = async (serial: string) =>
          new Map((await photosOf(serial)).flatMap((r) => r.files.slice(0, 1).map((digest) => [digest, factsOf(r).taken] as const)))
        const [had, has] = [await takenOf(pair.old.serial), await takenOf(pair.now.serial)]
        let same = 0
        for (const [digest, taken] of has) {
          if (!had.has(digest)) continue
          expect(had.get(digest)).toBe(taken)
          same++
        }
        expect(same).toBeGreaterThan(25)
        const summer = (await photosOf(pair.now.serial)).find((r) => r.card.includes('summer.jpg'))!
        expect(factsOf(summer).taken).toBe(Date.UTC(2026, 6, 9, 11) / 1000)
        const scan = (await photosOf(pair.now.serial)).find((r) => r.card.includes('scan.jpg'))!
        expect(factsOf(scan).taken).toBe(Date.UTC(1987, 7, 1, 9) / 1000)
      }),
  )

  it.concurrent('a phone that dates what it takes by the day it came is found out: lost and left behind, never agreed', () =>
    withPhotos({ count: 8 }, async (pair) => {
      await countIn(shop, pair.number)
      await shop.hand(`phones/${pair.now.serial}/faults`, { faults: [{ point: 'write.record', effect: 'redate', skip: 3, times: 1 }] })
      const ticket = await carried(pair)
      expect(ticket.ledger[0]).toMatchObject({ verdict: 'differs', short: 1, over: 1, fates: { lost: 1 }, new: { leftBehind: 1 } })
    }),
  )

  it.concurrent('a turned picture is turned once only when it is converted, and keeps date and place', () =>
    withPhotos({ to: 'Tamsel M2', count: 2, style: 'traps' }, async (pair) => {
      const counted = await countIn(shop, pair.number)
      const toConvert = reasonsOf(counted)['converted-to-jpeg']!
      expect(toConvert).toBeGreaterThanOrEqual(2)
      expect(counted.plan!.conversions).toMatchObject({ items: toConvert, isMeasured: true })
      expect(counted.plan!.conversions!.growsBytes).toBeGreaterThan(1000)
      const ticket = await carried(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees-with-notes'])
      const turned = (await photosOf(pair.now.serial)).find((r) => /name="TURNED\.jpg"/.test(r.card))!
      const was = (await photosOf(pair.old.serial)).find((r) => r.card.includes('TURNED.HEIC'))!
      expect(factsOf(turned).taken).toBe(factsOf(was).taken)
      expect(factsOf(turned).place!.map((n) => Math.round(n * 1000))).toEqual(factsOf(was).place!.map((n) => Math.round(n * 1000)))
      // wider than high, as it was shown on the old phone
      expect(turned.card).toMatch(/x_width="512" x_height="384"/)
    }),
  )

  it.concurrent('several albums become one where a folder is an album; favourites and albums go to a phone that has them', () =>
    withPhotos({ from: 'Veyra 12', to: 'Orrin 9', count: 16, style: 'traps' }, async (pair) => {
      expect(reasonsOf(await countIn(shop, pair.number))['albums-one-only']).toBe(1)
      const ticket = await carried(pair)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
      expect((await photosOf(pair.now.serial)).some((r) => r.card.includes('x_folder="Pictures/Regatta"'))).toBe(true)
      const hearts = async (serial: string) => (await photosOf(serial)).filter((r) => factsOf(r).favourite).length
      expect(await hearts(pair.now.serial)).toBe(await hearts(pair.old.serial))
    }),
  )
})

describe('photos when something goes wrong', () => {
  const helped = (pair: Pair) => keepHelping(shop, pair.now)
  it.concurrent.each([
    ['file.give', 'cut'],
    ['file.give', 'pull'],
    ['file.mid', 'pull'],
    ['write.mid', 'cut'],
    ['write.after', 'cut'],
    ['write.record', 'half'],
    ['write.record', 'double'],
  ] as const)('%s %s: resumes by file, nothing lost, nothing doubled, no half file left', (point, effect) =>
    withPhotos({ count: 12, style: 'plain', large: 2_000_000 }, async (pair) => {
      await countIn(shop, pair.number)
      const side = point === 'file.give' ? pair.old : pair.now
      await breakAt(shop, side.serial, point, effect, 4)
      const stops = [keepHelping(shop, pair.old), helped(pair)]
      try {
        const ticket = await carried(pair)
        if (effect === 'double') expect(ticket.ledger[0]).toMatchObject({ over: 1, short: 0, verdict: 'differs' })
        else {
          await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
          const files = async (serial: string) => (await photosOf(serial)).flatMap((r) => r.files).sort()
          expect(await files(pair.now.serial)).toEqual(await files(pair.old.serial))
        }
        expect(await looseFiles(pair.now.serial)).toBe(0)
      } finally {
        for (const stop of stops) stop()
      }
    }),
  )

  it.concurrent(
    'storage that fills up in the middle of a file: what was over stays over, the rest waits, and goes on once there is room',
    () =>
      withPhotos({ count: 6, large: 3_000_000 }, async (pair) => {
        await countIn(shop, pair.number)
        await breakAt(shop, pair.now.serial, 'file.mid', 'full', 3)
        await carry(shop, pair.number)
        const waits = await waitFor(shop, pair.number, (t) => t.run?.state === 'paused' && t.run.reason === 'StorageFull', 'a full phone')
        expect(waits.run).toMatchObject({ side: 'new' })
        const row = waits.ledger[0]!
        expect(row.fates.carried + row.fates.changed).toBe(3)
        expect(row.fates.pending).toBe(4)
        expect((await photosOf(pair.now.serial)).length).toBe(3)
        await shop.hand(`phones/${pair.now.serial}/free-space`, {})
        const ticket = await waitFor(shop, pair.number, isChecked, 'check off')
        await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
        expect(await looseFiles(pair.now.serial)).toBe(0)
      }),
  )

  it.concurrent('what cannot fit does not start, and the ways out say what would', () =>
    withPhotos({ count: 40, large: 60_000_000 }, async (pair) => {
      await countIn(shop, pair.number)
      await shop.hand(`phones/${pair.now.serial}/set`, { free_bytes: 2_000_000_000 })
      let ticket = await readTicket(shop.services, pair.number, shop.actor)
      expect(ticket.plan!.space).toMatchObject({ fits: true, reserveBytes: 1_920_000_000 })
      await shop.hand(`phones/${pair.now.serial}/set`, { free_bytes: 1_930_000_000 })
      ticket = await readTicket(shop.services, pair.number, shop.actor)
      expect(ticket.plan!.space).toMatchObject({ fits: false })
      expect(ticket.plan!.space!.shortBytes).toBe(ticket.plan!.chosenBytes + 1_920_000_000 - 1_930_000_000)
      await expect(carry(shop, pair.number)).rejects.toThrow('DoesNotFit')
      expect(ticket.plan!.waysOut).toContainEqual(expect.objectContaining({ way: 'no-large', items: 40, fits: true }))
      await takeWayOut(shop.services, pair.number, { way: 'no-large', sinceYear: null })
      ticket = await readTicket(shop.services, pair.number, shop.actor)
      expect(ticket).toMatchObject({ plan: { space: { fits: true }, waysOut: [] } })
      expect(ticket.ledger[0]!.fates).toMatchObject({ notChosen: 1, pending: 40 })
      await expectAgrees(shop, await carried(pair), { old: pair.old.serial, new: pair.now.serial })
    }),
  )

  it.concurrent('a phone that silently drops what it accepted: lost, named, and carried again', () =>
    withPhotos({ count: 9 }, async (pair) => {
      await countIn(shop, pair.number)
      await breakAt(shop, pair.now.serial, 'write.record', 'drop', 2, 2)
      const ticket = await carried(pair)
      expect(ticket.ledger[0]).toMatchObject({ short: 2, verdict: 'differs', fates: { lost: 2 } })
      await putBackToWait(shop.services, pair.number, { kind: 'photos', fates: ['lost'] })
      await carry(shop, pair.number)
      const again = await waitFor(shop, pair.number, (t) => isChecked(t) && t.ledger[0]!.short === 0, 'a second check')
      await expectAgrees(shop, again, { old: pair.old.serial, new: pair.now.serial })
    }),
  )

  it.concurrent('a file that reads otherwise for a while is tried again at the end, and all agrees', () =>
    withPhotos({ count: 7 }, async (pair) => {
      await countIn(shop, pair.number)
      await breakAt(shop, pair.old.serial, 'file.give', 'other-bytes', 2, 3)
      expect((await carried(pair)).ledger[0]).toMatchObject({ fates: { carried: 7, unreadable: 0 }, verdict: 'agrees' })
    }),
  )

  it.concurrent('a file that reads otherwise each time is one unreadable item, and holds nothing else up', () =>
    withPhotos({ count: 7 }, async (pair) => {
      await countIn(shop, pair.number)
      await breakAt(shop, pair.old.serial, 'file.give', 'other-bytes', 6, 90)
      const ticket = await carried(pair)
      // what it gives at last may not even be a picture: it is named, and never carried as one
      expect(ticket.ledger[0]).toMatchObject({ fates: { carried: 6, pending: 0 }, verdict: 'agrees-with-notes', short: 0 })
      expect(await looseFiles(pair.now.serial)).toBe(0)
    }),
  )

  it.concurrent('a photo taken while the ticket runs is late, and only that one is read anew', () =>
    withPhotos({ count: 10 }, async (pair) => {
      await countIn(shop, pair.number)
      await shop.hand(`phones/${pair.old.serial}/fill`, { kind: 'photos', seed: 777, count: 1 })
      // a fault far away counts how often a file is read
      await breakAt(shop, pair.old.serial, 'file.give', 'cut', 1000)
      await carry(shop, pair.number)
      const ticket = await waitFor(shop, pair.number, isChecked, 'check off')
      expect(ticket.ledger[0]!.old).toMatchObject({ read: 10, late: 1 })
      // the late one is read once to know it, and each of the eleven once to carry it
      const [{ skip }] = (await shop.hand(`phones/${pair.old.serial}`)).faults
      expect(1000 - skip).toBe(12)
      await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial })
    }),
  )

  it.concurrent('a fragile phone’s dearest kind goes before all others when the technician says so', () =>
    withPhotos({ count: 6 }, async (pair) => {
      await shop.hand(`phones/${pair.old.serial}/fill`, { seed: 4, count: 8 })
      const {
        rows: [ticket],
      } = await shop.services.pool.query<{ id: number }>('select id from ticket where number = $1', [pair.number])
      await shop.services.pool.query(`insert into ticket_kind (ticket_id, kind) values ($1, 'contacts')`, [ticket!.id])
      await shop.services.pool.query(`update ticket set wanted = '{contacts,photos}' where id = $1`, [ticket!.id])
      await countIn(shop, pair.number)
      await putFirst(shop.services, pair.number, 'photos')
      await expectAgrees(shop, await carried(pair), { old: pair.old.serial, new: pair.now.serial })
      const { rows } = await shop.services.pool.query<{ kind: string }>('select kind from batch where ticket_id = $1 order by id', [
        ticket!.id,
      ])
      expect([...new Set(rows.map((row) => row.kind))]).toEqual(['photos', 'contacts'])
    }),
  )

  it.concurrent('paused by hand, nothing moves; resumed, it goes on from there', () =>
    withPhotos({ count: 12, large: 4_000_000 }, async (pair) => {
      await countIn(shop, pair.number)
      await shop.hand(`phones/${pair.old.serial}/set`, { cable: 'slow' })
      await carry(shop, pair.number)
      await waitFor(shop, pair.number, (t) => t.run?.type === 'carry' && t.run.step === 'carrying', 'carrying')
      await pauseTicketRun(shop.services, pair.number)
      const paused = await readTicket(shop.services, pair.number, shop.actor)
      expect(paused.run).toMatchObject({ state: 'held' })
      await new Promise((r) => setTimeout(r, 1500))
      const still = await readTicket(shop.services, pair.number, shop.actor)
      expect(still.run!.state).toBe('held')
      expect(still.ledger[0]!.fates).toEqual(paused.ledger[0]!.fates)
      await resumeTicketRun(shop.services, pair.number)
      await shop.hand(`phones/${pair.old.serial}/set`, { cable: 'data' })
      await expectAgrees(shop, await waitFor(shop, pair.number, isChecked, 'check off'), { old: pair.old.serial, new: pair.now.serial })
    }),
  )
})

describe('small pictures and months', () => {
  it.concurrent('are given only while showing is allowed: embedded ones, decoded ones; and never while a run works with the phone', () =>
    withPhotos({ count: 25, style: 'traps' }, async (pair) => {
      await countIn(shop, pair.number)
      const ask = (seq: number) =>
        readThumbnail(shop.services, pair.number, { kind: 'photos', key: `old-${seq}`, filter: 'all', actor: shop.actor })
      await expect(ask(0)).rejects.toThrow('ShowingNotAllowed')
      await show(shop.services, pair.number, { reason: 'choose-items', actor: shop.actor })
      const page = await readEntries(shop.services, pair.number, {
        search: searchBody.parse({ kind: 'photos', limit: 200 }),
        actor: shop.actor,
      })
      const seen = { jpeg: 0, none: 0 }
      for (const row of page.rows) {
        const picture = await ask(row.position - 1)
        if (!picture) seen.none++
        else {
          expect([picture[0], picture[1]]).toEqual([0xff, 0xd8])
          expect(picture.length).toBeLessThan(30_000)
          seen.jpeg++
        }
      }
      expect(seen.jpeg).toBeGreaterThan(20)
      // sealed: nothing of a JPEG is in the table
      const { rows } = await shop.services.pool.query<{ sealed: Buffer }>(
        'select t.sealed from thumbnail t join reading r on r.id = t.reading_id join ticket k on k.holding_id = r.holding_id where k.number = $1 and length(t.sealed) > 0',
        [pair.number],
      )
      expect(rows.length).toBe(seen.jpeg)
      expect(rows.every(({ sealed }) => sealed.indexOf(Buffer.from([0xff, 0xd8, 0xff])) !== 0)).toBe(true)
      await shop.hand(`phones/${pair.old.serial}/set`, { cable: 'slow' })
      await carry(shop, pair.number)
      await shop.services.pool.query(
        'delete from thumbnail where reading_id in (select r.id from reading r join ticket k on k.holding_id = r.holding_id where k.number = $1)',
        [pair.number],
      )
      await expect(ask(1)).rejects.toThrow('PhoneBusy')
      await waitFor(shop, pair.number, isChecked, 'check off')
    }),
  )

  it.concurrent('months add up to the counts, and a gap shows in its month', () =>
    withPhotos({ count: 40 }, async (pair) => {
      await countIn(shop, pair.number)
      await breakAt(shop, pair.now.serial, 'write.record', 'drop', 5, 3)
      const ticket = await carried(pair)
      const { months, isChecked: is } = await readMonths(shop.services, pair.number, { kind: 'photos', actor: shop.actor })
      const sum = (of: 'old' | 'wanted' | 'arrived' | 'now') => months.reduce((all, month) => all + month[of], 0)
      expect(is).toBe(true)
      expect([sum('old'), sum('wanted'), sum('arrived'), sum('now')]).toEqual([40, 40, 37, 37])
      expect(months.filter((m) => m.wanted > m.arrived).reduce((all, m) => all + m.wanted - m.arrived, 0)).toBe(ticket.ledger[0]!.short)
    }),
  )
})
