import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startCarry } from '#server/desk/carry/act.ts'
import { acceptDifference, putBackToWait, startCheck, takeAway, takeBackAcceptance } from '#server/desk/check-off/act.ts'
import { choose } from '#server/desk/choose/act.ts'
import { decide } from '#server/desk/choose/joinings.ts'
import { callOff, sign } from '#server/desk/hand-back/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { readSheet } from '#server/desk/hand-back/sheet.ts'
import { readToday } from '#server/desk/today/view.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { setPutBack } from '#server/ready/act-ready.ts'
import { stopTicketRun } from '#server/desk/carry/act.ts'
import { breakAt, createPairs } from '../setup/pairs.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, carry, countIn, isChecked, prepareMessages, waitFor, worker } from '../setup/ticket.ts'

let shop: TestShop
let hands: ReturnType<typeof worker>
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
  hands = worker(shop)
})
afterAll(async () => {
  hands.kill()
  await shop.close()
})

interface Pair {
  readonly old: { serial: string; model: string; port: number }
  readonly now: { serial: string; model: string; port: number }
  readonly number: string
}
const pairs = createPairs(() => shop)
interface Wish {
  readonly kind: string
  readonly from?: string
  readonly to?: string
  readonly fill?: (serials: { old: string; now: string }) => Promise<unknown>
  readonly joinsEqual?: boolean
}
const withPair = ({ kind, from = 'Orrin 5', to = 'Orrin 9', fill, joinsEqual = false }: Wish, work: (pair: Pair) => Promise<void>) =>
  pairs(async ({ old: port, now: nowPort, mark }): Promise<Pair> => {
    const old = { serial: `XO-${mark}`, model: from, port }
    const now = { serial: `XN-${mark}`, model: to, port: nowPort, settle_ms: 30, joins_equal: joinsEqual }
    await addPhone(shop, old)
    await addPhone(shop, now)
    await fill?.({ old: old.serial, now: now.serial })
    const number = await bookTicket(shop, old, now, [kind])
    if (kind === 'messages') await prepareMessages(shop, number, { old, now })
    await countIn(shop, number)
    return { old, now, number }
  }, work)

const texts = (serial: string, n: number) =>
  shop.hand(`phones/${serial}/add`, {
    messages: Array.from({ length: n }, (_, i) => ({
      way: 'in',
      from: '+447700900111',
      text: `text ${i}`,
      atMs: Date.now() - (i + 1) * 60_000,
      type: 'sms',
    })),
  })
const people = (serial: string, persons: object[]) => shop.hand(`phones/${serial}/add`, { persons: persons.map((person) => ({ person })) })
const storeOf = async (serial: string, kind: string): Promise<{ id: string; facts: string[] }[]> =>
  (await shop.hand(`phones/${serial}/store?kind=${kind}`)).records
const textsOf = async (serial: string) => (await storeOf(serial, 'messages')).map((r) => JSON.parse(r.facts[0]!).text as string).sort()
const edit = async (serial: string, kind: string, at = 0) =>
  shop.hand(`phones/${serial}/edit-record`, { id: Number((await storeOf(serial, kind))[at]!.id) })
const remove = async (serial: string, kind: string, at = 0) =>
  shop.hand(`phones/${serial}/delete-record`, { id: Number((await storeOf(serial, kind))[at]!.id) })

const quiet = (number: string) => waitFor(shop, number, (t) => t.run === null, 'the end of the run')
const rowOf = async (number: string) => (await readTicket(shop.services, number, shop.actor)).ledger[0]!
async function over(number: string) {
  await carry(shop, number)
  return (await waitFor(shop, number, isChecked, 'check off')).ledger[0]!
}
async function check(number: string) {
  await startCheck(shop.services, number, shop.actor)
  return (await quiet(number)).ledger[0]!
}
async function away(number: string, kind: string, changed = false) {
  await takeAway(shop.services, number, { kind, actor: shop.actor, body: { changed, typed: changed ? number : '' } })
  return (await quiet(number)).ledger[0]!
}
async function putAllBack(number: string) {
  const { ready } = await readTicket(shop.services, number, shop.actor)
  for (const side of ['old', 'new'] as const)
    for (const { code, state } of ready[side].putBack)
      if (state === 'open')
        await setPutBack(shop.services, number, { actor: shop.actor, body: { side, code, how: 'waived', by: 'Ines Harrow' } })
}

describe.concurrent('edits and second thoughts', () => {
  it('a write whose answer is lost, of what its owner deleted there, stands once', () => {
    const one = { way: 'in', from: '+447700900111', text: 'both have it', atMs: Date.now() - 60_000, type: 'sms' }
    // one after the other: a phone numbers what is put into it as it comes
    const fill = async ({ old, now }: { old: string; now: string }) => {
      for (const serial of [old, now]) await shop.hand(`phones/${serial}/add`, { messages: [one] })
      await texts(old, 3)
    }
    return withPair({ kind: 'messages', fill }, async ({ old, now, number }) => {
      expect((await over(number)).verdict).toBe('agrees')
      await breakAt(shop, now.serial, 'write.after', 'one-answer-less', 0, 1)
      const at = (await storeOf(now.serial, 'messages')).findIndex((r) => r.facts[0]!.includes('both have it'))
      await remove(now.serial, 'messages', at)
      await over(number)
      await over(number)
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
      expect((await check(number)).verdict).toMatch(/^agrees/)
    })
  })

  it('copied on the old phone, counted, and the first one deleted: it is the same under another number, and stands once', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 3) }, async ({ old, now, number }) => {
      expect((await over(number)).verdict).toBe('agrees')
      const [first] = await storeOf(old.serial, 'messages')
      await shop.hand(`phones/${old.serial}/copy-record`, { id: Number(first!.id) })
      await check(number)
      await shop.hand(`phones/${old.serial}/delete-record`, { id: Number(first!.id) })
      await over(number)
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
      expect((await check(number)).verdict).toMatch(/^agrees/)
      // and it stays so, however often it is carried and counted
      await over(number)
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
    }))

  it('edited alike on both phones, and altered on its way: the altered one goes, and the item stays where its owner wrote it', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 4) }, async ({ old, now, number }) => {
      expect((await over(number)).verdict).toBe('agrees')
      await breakAt(shop, now.serial, 'write.record', 'alter', 0, 1)
      await edit(old.serial, 'messages')
      const at = (await storeOf(now.serial, 'messages')).findIndex((r) => r.facts[0]!.includes('text 0'))
      await edit(now.serial, 'messages', at)
      // what stands there says it already, and what was sent beside it reads otherwise
      expect(await over(number)).toMatchObject({ verdict: 'differs', over: 1, short: 0 })
      const after = await away(number, 'messages', true)
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
      expect(after).toMatchObject({ verdict: 'agrees', fates: { carried: 4, undone: 0 } })
      // and nothing is left of it that could be taken away once more
      expect(after.new.leftBehind).toBe(0)
      // its owner takes that one away, too: it is short, and never a note
      await remove(
        now.serial,
        'messages',
        (await storeOf(now.serial, 'messages')).findIndex((r) => r.facts[0]!.includes('edited')),
      )
      expect((await check(number)).verdict).toBe('differs')
      expect((await over(number)).verdict).toBe('differs')
    }))

  it('edited twice while taking away fails: every former text is known, and goes', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 4) }, async ({ old, now, number }) => {
      expect((await over(number)).verdict).toBe('agrees')
      await edit(old.serial, 'messages')
      await check(number)
      await breakAt(shop, now.serial, 'remove', 'cut', 0, 50)
      await carry(shop, number)
      await waitFor(shop, number, (t) => t.run?.state === 'paused', 'a run that can’t take away')
      await stopTicketRun(shop.services, number)
      await edit(old.serial, 'messages')
      const between = await check(number)
      expect(between.verdict).not.toMatch(/^agrees/)
      await shop.hand(`phones/${now.serial}/faults`, {}, 'DELETE')
      expect((await over(number)).verdict).toBe('agrees')
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
    }))

  it.each([
    ['edited on the old phone', edit],
    ['deleted on the old phone', remove],
  ])('written twice by the phone, then %s: it agrees only once the second is gone', (how, change) =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 3) }, async ({ old, now, number }) => {
      await breakAt(shop, now.serial, 'write.record', 'double', 0, 1)
      expect(await over(number)).toMatchObject({ verdict: 'differs', over: 1, new: { double: 0, leftBehind: 1 } })
      await change(old.serial, 'messages')
      for (const row of [await over(number), await check(number), await check(number)]) {
        expect(row.verdict).not.toMatch(/^agrees/)
      }
      // carried once more, it is not forgotten either
      expect((await over(number)).verdict).not.toMatch(/^agrees/)
      if (how.startsWith('deleted')) return
      await away(number, 'messages')
      expect((await over(number)).verdict).toBe('agrees')
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
    }),
  )

  it('altered by the phone, and taken away before it is carried again: it is lost still, and no note', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 3) }, async ({ old, now, number }) => {
      await breakAt(shop, now.serial, 'write.record', 'alter', 0, 1)
      expect(await over(number)).toMatchObject({ short: 1, over: 1 })
      expect(await away(number, 'messages', true)).toMatchObject({ verdict: 'differs', short: 1, over: 0, fates: { lost: 1, undone: 0 } })
      await putBackToWait(shop.services, number, { kind: 'messages', fates: ['lost'] })
      expect((await over(number)).verdict).toBe('agrees')
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
    }))

  it('one of two equal people was there already, and is edited: what was carried for the other is not one too many', () =>
    withPair(
      {
        kind: 'contacts',
        fill: async ({ old, now }) => {
          const twin = { given: 'Twice', family: 'Told', phones: [{ v: '+447700900603', t: 'cell' }] }
          await people(old, [twin, twin])
          await people(now, [twin])
        },
      },
      async ({ old, now, number }) => {
        expect(await over(number)).toMatchObject({ verdict: 'agrees', fates: { alreadyThere: 1, carried: 1 } })
        for (const at of [0, 1]) {
          await edit(old.serial, 'contacts', at)
          expect((await over(number)).verdict).toMatch(/^agrees/)
          const [there, here] = [await storeOf(now.serial, 'contacts'), await storeOf(old.serial, 'contacts')]
          // theirs stands beside what came over, once
          expect(there).toHaveLength(at === 0 ? here.length : here.length + 1)
        }
      },
    ))

  it('altered by the phone, then carried again: what it altered is left behind until it is taken away, typed', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 4) }, async ({ old, now, number }) => {
      await breakAt(shop, now.serial, 'write.record', 'alter', 0, 2)
      expect(await over(number)).toMatchObject({ verdict: 'differs', short: 2, over: 2, fates: { lost: 2 } })
      expect(await putBackToWait(shop.services, number, { kind: 'messages', fates: ['lost'] })).toBe(2)
      expect(await over(number)).toMatchObject({ verdict: 'differs', short: 0, over: 2, new: { leftBehind: 2, cameOtherwise: 0 } })
      expect((await textsOf(now.serial)).length).toBe(6)
      const { leftBehind } = await readTicket(shop.services, number, shop.actor)
      expect(leftBehind).toEqual([{ kind: 'messages', asWritten: 0, changed: 2 }])
      // one press is not enough for what reads otherwise
      await expect(away(number, 'messages')).rejects.toThrow('NothingLeftBehind')
      expect(await away(number, 'messages', true)).toMatchObject({ verdict: 'agrees', over: 0, new: { leftBehind: 0 } })
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
    }))

  it.each([0, 1])(
    'written twice, then one of the two is changed there by its owner (%i): that is it, and the other is one too many',
    (which) =>
      withPair({ kind: 'messages', fill: ({ old }) => texts(old, 4) }, async ({ old, now, number }) => {
        await breakAt(shop, now.serial, 'write.record', 'double', 2, 1)
        expect(await over(number)).toMatchObject({ verdict: 'differs', over: 1, new: { leftBehind: 1 } })
        const all = await storeOf(now.serial, 'messages')
        const twice = all.filter(({ facts: [says] }) => all.filter(({ facts }) => facts[0] === says).length > 1)
        expect(twice).toHaveLength(2)
        await shop.hand(`phones/${now.serial}/edit-record`, { id: Number(twice[which]!.id) })
        expect(await check(number)).toMatchObject({ verdict: 'differs', short: 0, over: 1 })
        await away(number, 'messages', true)
        expect(await storeOf(now.serial, 'messages')).toHaveLength((await storeOf(old.serial, 'messages')).length)
        expect((await check(number)).verdict).toMatch(/^agrees/)
      }),
  )

  it('there already, deleted there, carried, and written twice: one of the two is one too many', () =>
    withPair(
      {
        kind: 'messages',
        fill: async ({ old, now }) => {
          await shop.hand(`phones/${old}/fill`, { kind: 'messages', seed: 808, count: 4 })
          await shop.hand(`phones/${now}/fill`, { kind: 'messages', seed: 808, count: 3 })
        },
      },
      async ({ old, now, number }) => {
        expect(await over(number)).toMatchObject({ verdict: 'agrees', fates: { alreadyThere: 3, carried: 1 } })
        await remove(now.serial, 'messages', 1)
        expect(await check(number)).toMatchObject({ verdict: 'differs', fates: { pending: 1 } })
        await breakAt(shop, now.serial, 'write.record', 'double', 0, 1)
        expect(await over(number)).toMatchObject({ verdict: 'differs', short: 0, over: 1, new: { leftBehind: 1, absorbed: 1 } })
        expect(await away(number, 'messages')).toMatchObject({ verdict: 'agrees', over: 0 })
        expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
      },
    ))

  it('written twice, then its own record is deleted there by its owner: the second stands for it', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 4) }, async ({ old, now, number }) => {
      await breakAt(shop, now.serial, 'write.record', 'double', 2, 1)
      await over(number)
      const all = await storeOf(now.serial, 'messages')
      await remove(
        now.serial,
        'messages',
        all.findIndex(({ facts: [says] }) => all.filter(({ facts }) => facts[0] === says).length > 1),
      )
      expect(await check(number)).toMatchObject({ verdict: 'agrees', short: 0, over: 0 })
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
    }))

  it.each(['contacts', 'messages', 'calls', 'calendar'])(
    'altered by the phone, and its answer never came: %s it wrote otherwise are left behind, and no note',
    (kind) =>
      withPair(
        { kind, fill: ({ old }) => shop.hand(`phones/${old}/fill`, { kind: kind === 'contacts' ? undefined : kind, seed: 17, count: 4 }) },
        async ({ old, now, number }) => {
          await breakAt(shop, now.serial, 'write.record', 'alter', 1, 1)
          await breakAt(shop, now.serial, 'write.mid', 'cut', 1, 1)
          expect(await over(number)).toMatchObject({ verdict: 'differs', short: 0, over: 1, new: { leftBehind: 1, cameOtherwise: 0 } })
          expect(await away(number, kind, true)).toMatchObject({ verdict: 'agrees', over: 0 })
          expect(await storeOf(now.serial, kind)).toHaveLength((await storeOf(old.serial, kind)).length)
        },
      ),
  )

  it('altered, carried again, and joined by the phone into what it altered: no loss for ever', () =>
    withPair(
      {
        kind: 'contacts',
        joinsEqual: true,
        fill: ({ old }) => people(old, [{ given: 'Joined', family: 'Again', phones: [{ v: '+447700900601', t: 'cell' }] }]),
      },
      async ({ now, number }) => {
        await breakAt(shop, now.serial, 'write.record', 'alter', 0, 1)
        expect(await over(number)).toMatchObject({ verdict: 'differs', short: 1, over: 1 })
        await putBackToWait(shop.services, number, { kind: 'contacts', fates: ['lost'] })
        expect(await over(number)).toMatchObject({ short: 0, over: 1, fates: { merged: 1 } })
        await away(number, 'contacts', true)
        await putBackToWait(shop.services, number, { kind: 'contacts', fates: ['lost'] })
        expect(await over(number)).toMatchObject({ verdict: 'agrees', short: 0, over: 0 })
        expect(await storeOf(now.serial, 'contacts')).toHaveLength(1)
      },
    ))

  it.each(['deleted', 'unchosen'])('edited after its turn, then %s: its former record goes by one press', (how) =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 3) }, async ({ old, now, number }) => {
      await over(number)
      await edit(old.serial, 'messages')
      await check(number)
      if (how === 'deleted') await remove(old.serial, 'messages')
      else
        await choose(shop.services, number, {
          kind: 'messages',
          body: { mode: 'add', choice: 'some', set: [{ key: 'old-0', isChosen: false }], slice: null },
        })
      expect(await check(number)).toMatchObject({ verdict: 'differs', over: 1, new: { leftBehind: 1 } })
      expect((await away(number, 'messages')).verdict).toBe(how === 'deleted' ? 'agrees-with-notes' : 'agrees')
      expect(await textsOf(now.serial)).toEqual(['text 1', 'text 2'])
    }),
  )

  it('there already, deleted on the new phone by its owner, and carried: nothing is missing for ever', () =>
    withPair(
      {
        kind: 'contacts',
        fill: async ({ old, now }) => {
          const both = [{ given: 'Both', family: 'Know', phones: [{ v: '+447700900602', t: 'cell' }] }]
          await people(old, both)
          await people(now, both)
        },
      },
      async ({ now, number }) => {
        expect(await over(number)).toMatchObject({ verdict: 'agrees', fates: { alreadyThere: 1 } })
        await remove(now.serial, 'contacts')
        expect(await check(number)).toMatchObject({ fates: { pending: 1 }, new: { missing: 1 } })
        expect(await over(number)).toMatchObject({ verdict: 'agrees', short: 0, new: { missing: 0, absorbed: 1, arrived: 1 } })
      },
    ))

  it('deleted on the new phone and on the old one: tried again, it is gone, and does not come back', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 3) }, async ({ old, now, number }) => {
      expect((await over(number)).verdict).toBe('agrees')
      await remove(now.serial, 'messages', 2)
      await remove(old.serial, 'messages', 2)
      expect(await check(number)).toMatchObject({ verdict: 'differs', short: 1, fates: { lost: 1 } })
      await putBackToWait(shop.services, number, { kind: 'messages', fates: ['lost'] })
      expect((await over(number)).fates).toMatchObject({ carried: 2, gone: 1, lost: 0, pending: 0 })
      expect(await textsOf(now.serial)).toEqual(await textsOf(old.serial))
    }))

  it('its owner changes what came over: changed there, a note and no alarm', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 3) }, async ({ now, number }) => {
      await over(number)
      await edit(now.serial, 'messages')
      const row = await check(number)
      expect(row).toMatchObject({ verdict: 'agrees-with-notes', short: 0, over: 0, fates: { editedThere: 1 }, new: { editedThere: 1 } })
      // and stays so
      expect(await check(number)).toMatchObject({ verdict: 'agrees-with-notes', fates: { editedThere: 1 } })
    }))

  it('an app that is there with other data is not installed a second time; theirs stays, and that is said before', () =>
    withPair(
      {
        kind: 'apps',
        fill: async ({ old, now }) => {
          await shop.hand(`phones/${old}/fill`, { kind: 'apps', seed: 3, count: 5 })
          await shop.hand(`phones/${now}/fill`, { kind: 'apps', seed: 3, count: 5 })
          // used since: its data is another
          const [first] = (await storeOf(now, 'apps')).filter((r) => JSON.parse(r.facts[0]!).data !== null)
          await shop.hand(`phones/${now}/use-app`, { id: Number(first!.id) })
        },
      },
      async ({ now, number }) => {
        const { forecasts, ledger } = await readTicket(shop.services, number, shop.actor)
        expect(ledger[0]!.fates).toMatchObject({ cannotCross: 1 })
        expect(forecasts[0]!.rules).toEqual([{ code: 'other-data-there', fate: 'cannotCross', items: 1 }])
        expect((await over(number)).verdict).toBe('agrees-with-notes')
        const bundles = (await storeOf(now.serial, 'apps')).map((r) => JSON.parse(r.facts[0]!).bundle as string)
        expect(new Set(bundles).size).toBe(bundles.length)
      },
    ))

  it('an equal person on two phones of one model is one, though a label of hers would be changed', () =>
    withPair(
      {
        kind: 'contacts',
        fill: async ({ old, now }) => {
          const her = [{ given: 'Odd', family: 'Label', phones: [{ v: '+447700900603', t: 'isdn' }] }]
          await people(old, her)
          await people(now, her)
        },
      },
      async ({ now, number }) => {
        expect(await over(number)).toMatchObject({ verdict: 'agrees', fates: { alreadyThere: 1 } })
        expect(await storeOf(now.serial, 'contacts')).toHaveLength(1)
        // and it stays so at another count
        expect(await check(number)).toMatchObject({ verdict: 'agrees', fates: { alreadyThere: 1 } })
      },
    ))

  it.each(['Orrin 9', 'Veyra 12'])('a joined person edited on the old phone stays one person on a %s', (to) =>
    withPair(
      {
        kind: 'contacts',
        to,
        fill: async ({ old, now }) => {
          await people(old, [
            { given: 'One', family: 'Person', phones: [{ v: '+447700900604', t: 'cell' }], emails: [{ v: 'one@example.org', t: 'home' }] },
          ])
          await people(now, [{ given: 'One', family: 'Person', phones: [{ v: '+447700900604', t: 'cell' }], company: 'Harbour office' }])
        },
      },
      async ({ old, now, number }) => {
        await decide(shop.services, number, { kind: 'contacts', body: { rule: 'sure' } })
        await over(number)
        expect(await storeOf(now.serial, 'contacts')).toHaveLength(1)
        await edit(old.serial, 'contacts')
        await check(number)
        const row = await over(number)
        expect(row.verdict).toMatch(/^agrees/)
        const [record, ...more] = await storeOf(now.serial, 'contacts')
        expect(more).toEqual([])
        const says = record!.facts.join(' ')
        for (const fact of ['one@example.org', 'Harbour office', 'edited']) expect(says).toContain(fact)
      },
    ),
  )
})

describe.concurrent('what a phone’s own dialect can’t tell apart', () => {
  const twice = [Date.UTC(2026, 9, 25, 0, 30), Date.UTC(2026, 9, 25, 1, 30), Date.UTC(2026, 9, 25, 2, 30)]
  it.each([
    ['Orrin 5', 'Tamsel M2'],
    ['Veyra 12', 'Tamsel M3'],
  ])('texts of the hour that comes twice, from %s to %s: said in the forecast, and never short', (from, to) =>
    withPair(
      {
        kind: 'messages',
        from,
        to,
        fill: async ({ old }) =>
          shop.hand(`phones/${old}/add`, {
            messages: twice.map((atMs, i) => ({ way: 'in', from: '+447700900112', text: `autumn ${i}`, atMs, type: 'sms' })),
          }),
      },
      async ({ number }) => {
        const { forecasts } = await readTicket(shop.services, number, shop.actor)
        expect(forecasts[0]!.changes).toEqual([{ code: 'repeated-hour', loss: true, items: 1 }])
        expect(await over(number)).toMatchObject({ verdict: 'agrees-with-notes', short: 0, over: 0, fates: { changed: 1, carried: 2 } })
      },
    ),
  )
})

describe.concurrent('every ticket has an end', () => {
  const fill = ({ old }: { old: string }) => shop.hand(`phones/${old}/fill`, { kind: 'calls', seed: 4, count: 6 })

  it('nothing crosses: it is carried, checked, signed and erased all the same', () =>
    withPair({ kind: 'calls', to: 'Veyra 12', fill }, async ({ number }) => {
      expect(await over(number)).toMatchObject({ verdict: 'agrees-with-notes', fates: { cannotCross: 6 } })
      await putAllBack(number)
      await sign(shop.services, number, { by: 'Ines Harrow', actor: shop.actor })
      await handBackAndErase(shop.services, number, number)
    }))

  it('nothing is chosen any more', () =>
    withPair({ kind: 'calls', fill }, async ({ number }) => {
      await choose(shop.services, number, { kind: 'calls', body: { mode: 'add', choice: 'none', set: [], slice: null } })
      expect(await over(number)).toMatchObject({ verdict: 'agrees', fates: { notChosen: 6 } })
    }))

  it('all that waits is to be joined', () =>
    withPair(
      {
        kind: 'contacts',
        fill: async ({ old, now }) => {
          await people(old, [{ given: 'Only', family: 'One', phones: [{ v: '+447700900605', t: 'cell' }] }])
          await people(now, [{ given: 'Only', family: 'One', phones: [{ v: '+447700900605', t: 'cell' }], company: 'Quay' }])
        },
      },
      async ({ number }) => {
        await decide(shop.services, number, { kind: 'contacts', body: { rule: 'all' } })
        expect(await over(number)).toMatchObject({ verdict: 'agrees', fates: { merged: 1 } })
      },
    ))

  it('the new phone is full after the first send: what has not gone over can be left behind, and it agrees', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 8) }, async ({ now, number }) => {
      await shop.hand(`phones/${now.serial}/set`, { free_bytes: 900 })
      await carry(shop, number)
      await waitFor(shop, number, (t) => t.run?.reason === 'StorageFull', 'a full phone')
      await stopTicketRun(shop.services, number)
      const before = await rowOf(number)
      expect(before.fates.pending).toBeGreaterThan(0)
      await choose(shop.services, number, { kind: 'messages', body: { mode: 'add', choice: 'none', set: [], slice: null } })
      const after = await rowOf(number)
      expect(after.fates).toMatchObject({ pending: 0, notChosen: before.fates.pending, carried: before.fates.carried })
      expect((await over(number)).verdict).toBe('agrees')
      // and what was left behind can be chosen again, on the same ledger
      await shop.hand(`phones/${now.serial}/set`, { free_bytes: 1_000_000 })
      await choose(shop.services, number, { kind: 'messages', body: { mode: 'add', choice: 'all', set: [], slice: null } })
      expect(await over(number)).toMatchObject({ verdict: 'agrees', fates: { carried: 8 } })
    }))

  it('a difference nobody accepts: it is signed with what stands, which is named, and erased', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 4) }, async ({ old, now, number }) => {
      await breakAt(shop, now.serial, 'write.record', 'drop', 0, 1)
      await over(number)
      await texts(old.serial, 1)
      expect(await check(number)).toMatchObject({ verdict: 'differs', short: 1, fates: { pending: 1 } })
      await putAllBack(number)
      await expect(sign(shop.services, number, { by: 'Ines Harrow', actor: shop.actor })).rejects.toThrow('NotAgreed')
      await sign(shop.services, number, { by: 'Ines Harrow', actor: shop.actor, withWhatStands: true })
      const signed = await readTicket(shop.services, number, shop.actor)
      expect(signed).toMatchObject({
        isSignedOpen: true,
        stage: 'hand-back',
        ledger: [{ verdict: 'differs', fates: { pending: 0, notChosen: 1 } }],
      })
      expect(signed.reasons).toContainEqual({ kind: 'messages', fate: 'notChosen', code: 'open-at-signing', items: 1 })
      await handBackAndErase(shop.services, number, number)
    }))

  it('called off, with what was written taken away: the new phone is as it was, and the data can be erased', () =>
    withPair(
      {
        kind: 'contacts',
        fill: async ({ old, now }) => {
          await shop.hand(`phones/${old}/fill`, { seed: 8, count: 450 })
          await people(now, [{ given: 'Theirs', family: 'Alone', phones: [{ v: '+447700900606', t: 'cell' }] }])
        },
      },
      async ({ now, number }) => {
        const before = (await storeOf(now.serial, 'contacts')).map((r) => r.facts)
        // more than one call may take
        expect((await over(number)).fates.carried).toBe(450)
        await expect(
          callOff(shop.services, number, { actor: shop.actor, body: { why: 'Bought another', takeAway: true, typed: 'T-1' } }),
        ).rejects.toThrow('NumberNotTyped')
        await callOff(shop.services, number, { actor: shop.actor, body: { why: 'Bought another', takeAway: true, typed: number } })
        const ticket = await quiet(number)
        expect(ticket).toMatchObject({
          calledOff: { why: 'Bought another' },
          ledger: [{ fates: { undone: 450, carried: 0 }, new: { kept: 1, leftBehind: 0 } }],
        })
        expect((await storeOf(now.serial, 'contacts')).map((r) => r.facts)).toEqual(before)
        await expect(startCarry(shop.services, number, { actor: shop.actor, body: { stamps: {}, confirmRoles: false } })).rejects.toThrow(
          'TicketCalledOff',
        )
        await handBackAndErase(shop.services, number, number)
      },
    ))

  it('called off with all taken away, of people the phone had joined by itself: what stood in what went is not lost', () => {
    const twice = { given: 'Morwenna', family: 'Twice', phones: [{ v: '+447700900717', t: 'cell' }] }
    const fill = ({ old }: { old: string }) =>
      people(old, [twice, twice, { given: 'Alone', family: 'Here', phones: [{ v: '+447700900718', t: 'cell' }] }])
    return withPair({ kind: 'contacts', fill, joinsEqual: true }, async ({ now, number }) => {
      expect((await over(number)).fates).toMatchObject({ carried: 2, merged: 1 })
      await callOff(shop.services, number, { actor: shop.actor, body: { why: 'Bought another', takeAway: true, typed: number } })
      const row = (await quiet(number)).ledger[0]!
      expect(row.fates).toMatchObject({ undone: 3, lost: 0, merged: 0 })
      expect([row.short, row.over]).toEqual([0, 0])
      expect(await storeOf(now.serial, 'contacts')).toEqual([])
    })
  })

  it('called off before anything was carried', () =>
    withPair({ kind: 'calls', fill }, async ({ number }) => {
      await callOff(shop.services, number, { actor: shop.actor, body: { why: 'No time', takeAway: false, typed: number } })
      await handBackAndErase(shop.services, number, number)
      expect(await readTicket(shop.services, number, shop.actor)).toMatchObject({
        calledOff: { why: null },
        erasedAt: expect.any(String),
      })
    }))

  it('what the customer accepts is what was there: another difference asks again', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 3) }, async ({ now, number }) => {
      await breakAt(shop, now.serial, 'write.record', 'drop', 0, 1)
      expect((await over(number)).verdict).toBe('differs')
      await acceptDifference(shop.services, number, { kind: 'messages', by: 'Ines Harrow' })
      expect((await rowOf(number)).verdict).toBe('accepted')
      await takeBackAcceptance(shop.services, number, 'messages')
      expect((await rowOf(number)).verdict).toBe('differs')
      expect((await readTicket(shop.services, number, shop.actor)).accepted).toEqual([])
      await acceptDifference(shop.services, number, { kind: 'messages', by: 'Ines Harrow' })
      await remove(now.serial, 'messages')
      expect((await check(number)).verdict).toBe('differs')
    }))

  it('all, and none, and all again is the same as all: what somebody else keeps is left until it is chosen itself', () =>
    withPair(
      { kind: 'calendar', fill: ({ old }) => shop.hand(`phones/${old}/fill`, { kind: 'calendar', seed: 3, count: 5, style: 'traps' }) },
      async ({ number }) => {
        const choice = (what: 'all' | 'none') =>
          choose(shop.services, number, { kind: 'calendar', body: { mode: 'add', choice: what, set: [], slice: null } })
        const { fates } = await rowOf(number)
        expect(fates.notChosen).toBeGreaterThan(0)
        await choice('none')
        expect((await rowOf(number)).fates.pending).toBe(0)
        await choice('all')
        expect((await rowOf(number)).fates).toEqual(fates)
      },
    ))

  it('what was signed is kept as it was, read again after erasing without a word of the customer’s, and void once figures move', () =>
    withPair({ kind: 'messages', fill: ({ old }) => texts(old, 3) }, async ({ old, number }) => {
      await over(number)
      await putAllBack(number)
      const before = await readSheet(shop.services, number, shop.actor)
      await sign(shop.services, number, { by: 'Ines Harrow', actor: shop.actor })
      const signed = await readSheet(shop.services, number, shop.actor)
      expect({ ...signed, signed: null, madeAt: '' }).toMatchObject({
        customer: before.customer,
        ticket: { ledger: before.ticket.ledger, reasons: before.ticket.reasons, signedAt: null },
      })
      expect(signed.signed).toMatchObject({ by: 'Ines Harrow', isVoid: false })
      await texts(old.serial, 1)
      await check(number)
      const voided = await readSheet(shop.services, number, shop.actor)
      expect(voided.signed).toBeNull()
      expect(voided.former).toMatchObject([{ digest: signed.signed!.digest }])
      // nothing is signed any more: what came late can be carried, or left, as before the signature
      const open = await readTicket(shop.services, number, shop.actor)
      expect(open).toMatchObject({ signedAt: null, signedBy: null, printedAt: null, voidedAt: voided.former[0]!.voidedAt })
      await expect(handBackAndErase(shop.services, number, number)).rejects.toMatchObject({ code: 'SheetNotSigned' })
      await sign(shop.services, number, { by: 'Ines Harrow', withWhatStands: true, actor: shop.actor })
      const again = await readSheet(shop.services, number, shop.actor)
      expect(again.signed).toMatchObject({ isVoid: false })
      expect(again.former).toEqual(voided.former)
      expect(again.ticket.ledger[0]!.old.late).toBe(1)
      // once is enough
      await expect(sign(shop.services, number, { by: 'Ines Harrow', withWhatStands: true, actor: shop.actor })).rejects.toMatchObject({
        code: 'TicketSigned',
      })
      await check(number)
      expect((await readSheet(shop.services, number, shop.actor)).signed).toMatchObject({ isVoid: false, digest: again.signed!.digest })
      await handBackAndErase(shop.services, number, number)
      const erased = await readSheet(shop.services, number, shop.actor)
      expect([erased.isErased, erased.customer, erased.signed!.by, erased.signed!.digest]).toEqual([true, null, null, again.signed!.digest])
      expect(erased.ticket.ledger).toEqual(again.ticket.ledger)
      expect(JSON.stringify(erased)).not.toMatch(/Harrow/)
      // a phone that comes again today is known by a hash of its serial, and no serial is kept
      const { ports } = await readToday(shop.services)
      expect(ports.find(({ phone }) => phone?.serial === old.serial)).toMatchObject({ ticket: null, seenToday: number })
      const kept = await shop.services.pool.query(
        'select p.* from ticket_phone p join ticket t on t.id = p.ticket_id where t.number = $1',
        [number],
      )
      expect(kept.rows.map(({ serial }) => serial)).toEqual([null, null])
      expect(JSON.stringify(kept.rows)).not.toContain(old.serial)
      const { rows } = await shop.services.pool.query(
        'select count(*)::int as n from sheet s join ticket t on t.id = s.ticket_id where t.number = $1',
        [number],
      )
      expect(rows[0].n).toBe(2)
    }))
})
