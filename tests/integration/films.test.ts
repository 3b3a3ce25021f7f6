import { describe, expect, it } from 'vitest'
import { searchBody } from '#contracts/http/ticket.ts'
import { callOff } from '#server/desk/hand-back/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { readEntries } from '#server/desk/items/entries.ts'
import { show } from '#server/desk/items/show.ts'
import { readThumbnail } from '#server/desk/items/thumbnails.ts'
import { codeOf } from '../setup/codes.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, useShop, waitFor } from '../setup/ticket.ts'

const shop = useShop({ leaseMs: 500 })
const keepUntil = new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10)
const filesOf = async (serial: string, kind: string): Promise<string[]> =>
  (await shop().hand(`phones/${serial}/store?kind=${kind}`)).records.flatMap((record: { files: string[] }) => record.files).sort()

/** Photos and films on an old phone, and a film on the new one. */
async function phones(mark: string, to: string) {
  const [old, now] = [
    { serial: `FO-${mark}`, model: 'Orrin 5', port: 1 },
    { serial: `FN-${mark}`, model: to, port: 2 },
  ]
  for (const phone of [old, now]) await addPhone(shop(), phone)
  await shop().hand(`phones/${old.serial}/fill`, { kind: 'photos', seed: 3, count: 5 })
  await shop().hand(`phones/${old.serial}/fill`, { kind: 'videos', seed: 4, count: 4 })
  await shop().hand(`phones/${now.serial}/fill`, { kind: 'videos', seed: 5, count: 1 })
  return { old, now, pull: () => Promise.all([old, now].map(({ serial }) => shop().hand(`phones/${serial}`, undefined, 'DELETE'))) }
}

async function checked(number: string) {
  await countIn(shop(), number)
  await carry(shop(), number)
  return waitFor(shop(), number, isChecked, 'check off')
}

async function end(number: string): Promise<void> {
  const { services, actor } = shop()
  await callOff(services, number, { body: { why: 'done', takeAway: false, typed: number }, actor })
  await handBackAndErase(services, number, number)
}

describe('films have left the photos', () => {
  it('a film shows the first frame its phone has, while showing is allowed; one that is broken has none', async () => {
    const { services, actor } = shop()
    const { old, now, pull } = await phones('P', 'Orrin 9')
    await shop().hand(`phones/${old.serial}/fill`, { kind: 'videos', seed: 9, count: 0, style: 'traps' })
    const number = await bookTicket(shop(), old, now, ['videos'])
    await countIn(shop(), number)
    const { rows } = await readEntries(services, number, { search: searchBody.parse({ kind: 'videos', limit: 100 }), actor })
    const ask = (key: string) => readThumbnail(services, number, { kind: 'videos', key, filter: 'all', actor })
    expect(await codeOf(ask(rows[0]!.key))).toBe('ShowingNotAllowed')
    await show(services, number, { reason: 'choose-items', actor })
    const picture = await ask(rows[0]!.key)
    expect([picture![0], picture![1]]).toEqual([0xff, 0xd8])
    // and again from what is sealed
    expect(await ask(rows[0]!.key)).toEqual(picture)
    const broken = rows.filter(({ shape }) => shape.damaged)
    expect(broken.length).toBeGreaterThan(0)
    for (const { key } of broken) expect(await ask(key)).toBeUndefined()
    await end(number)
    await pull()
  })

  it.each(['Veyra 12', 'Orrin 9'])('a ticket that was counted before keeps them under photos to its end: to %s', async (to) => {
    const { old, now, pull } = await phones(to.slice(0, 1), to)
    const number = await bookTicket(shop(), old, now, ['photos'])
    await shop().services.pool.query(
      'update ticket_phone set films_in_photos = true where ticket_id = (select id from ticket where number = $1)',
      [number],
    )
    const ticket = await checked(number)
    const [row] = ticket.ledger
    expect(row).toMatchObject({ kind: 'photos', old: { read: 9, own: 9 }, new: { first: 1, last: 10, kept: 1, arrived: 9 } })
    expect(row!.verdict).toMatch(/^agrees/)
    // no second row for what stands on the first
    expect(ticket.canAdd).not.toContain('videos')
    expect((await filesOf(now.serial, 'videos')).filter((digest) => digest)).toEqual(
      expect.arrayContaining(await filesOf(old.serial, 'videos')),
    )
    expect(await filesOf(now.serial, 'photos')).toEqual(await filesOf(old.serial, 'photos'))
    await end(number)
    await pull()
  })

  it('a copy that was made before is put back with its films among the photos, and each is found again', async () => {
    const { old, now, pull } = await phones('C', 'Orrin 9')
    const first = await bookTicket(shop(), old, { keepUntil }, ['photos'])
    await shop().services.pool.query(
      `with t as (select id from ticket where number = $1), p as (update ticket_phone set films_in_photos = true where ticket_id in (select id from t) returning copy_id)
       update locker_copy set films_in_photos = true where id in (select copy_id from p)`,
      [first],
    )
    const copied = await checked(first)
    expect(copied.ledger[0]).toMatchObject({ verdict: 'agrees', new: { last: 9 } })
    await end(first)
    const number = await bookTicket(shop(), { copy: copied.new.copy!.id }, now, ['photos'])
    const ticket = await checked(number)
    expect(ticket.ledger[0]).toMatchObject({ kind: 'photos', old: { read: 9 }, new: { last: 10, arrived: 9 } })
    expect(ticket.ledger[0]!.verdict).toMatch(/^agrees/)
    await end(number)
    // of a copy made since, films have their own row
    const later = await bookTicket(shop(), old, now, ['photos', 'videos'])
    const whole = await checked(later)
    expect(whole.ledger.map(({ kind, old: { read } }) => [kind, read])).toEqual([
      ['photos', 5],
      ['videos', 4],
    ])
    await expectAgrees(shop(), whole, { old: old.serial, new: now.serial })
    await end(later)
    await pull()
  })
})
