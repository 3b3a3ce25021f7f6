import { beforeAll, describe, expect, it } from 'vitest'
import { chooseCounterpart, markMoved, readApps, readCandidates } from '#server/desk/choose/apps.ts'
import { readInstallList, readInstallPage } from '#server/desk/choose/install-list.ts'
import { show } from '#server/desk/items/show.ts'
import { sign } from '#server/desk/hand-back/act.ts'
import { startCheck } from '#server/desk/check-off/act.ts'
import { setNeed, setPutBack } from '#server/ready/act-ready.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { createPairs } from '../setup/pairs.ts'
import type { TestShop } from '../setup/shop.ts'
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
  type PhoneWish,
} from '../setup/ticket.ts'

const opened = useShop()
let shop: TestShop
beforeAll(() => {
  shop = opened()
})
const withPair = createPairs(() => shop)

async function ready(from: string, to: string, { old, now, mark }: { old: number; now: number; mark: number }, count = 24) {
  const pair = {
    old: { serial: `AO-${mark}`, model: from, port: old } as PhoneWish,
    now: { serial: `AN-${mark}`, model: to, port: now, version: '18' } as PhoneWish,
  }
  await addPhone(shop, pair.old)
  await addPhone(shop, pair.now)
  await shop.hand(`phones/${pair.old.serial}/fill`, { kind: 'apps', seed: 3, count })
  await shop.hand(`phones/${pair.now.serial}/sign-in`, {})
  if (from.startsWith('Veyra')) await shop.hand(`phones/${pair.old.serial}/encrypted-reading-on`, {})
  const number = await bookTicket(shop, pair.old, pair.now, ['apps'])
  for (const side of ['old', 'new'] as const)
    if (pair[side === 'old' ? 'old' : 'now'].model.startsWith('Veyra'))
      await setNeed(shop.services, number, { body: { side, code: 'second-step', how: 'ticked', reason: null }, actor: shop.actor })
  return { ...pair, number }
}
const storeOf = async (serial: string): Promise<{ bundle: string }[]> =>
  (await shop.hand(`phones/${serial}/store?kind=apps`)).records.map((r: { facts: string[] }) => JSON.parse(r.facts[0]!))
const row = (ticket: Awaited<ReturnType<typeof countIn>>) => ticket.ledger[0]!

describe('apps on one platform', () => {
  it.concurrent(
    'Android to Android: packages are there byte for byte, data where the app lets it go, what came with the phone is nobody’s',
    () =>
      withPair(
        (ports) => ready('Orrin 5', 'Orrin 9', ports),
        async (pair) => {
          const counted = await countIn(shop, pair.number)
          expect(row(counted)).toMatchObject({ old: { read: 24, own: 47 } })
          expect(figureOf(row(counted), 'derived', 'old', 'preinstalled')).toBe(23)
          await carry(shop, pair.number)
          const ticket = await waitFor(shop, pair.number, isChecked, 'check off')
          await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees-with-notes'])
          expectForecastMet(counted, ticket)
          const files = async (serial: string) =>
            (await shop.hand(`phones/${serial}/store?kind=apps`)).records.flatMap((r: { files: string[] }) => r.files).sort()
          expect(await files(pair.now.serial)).toEqual(await files(pair.old.serial))
          expect(ticket.reasons.find((r) => r.code === 'app-data-stays')!.items).toBeGreaterThan(2)
        },
      ),
  )

  it.concurrent('iOS to iOS: the phone’s own store installs them; what no store has is refused and named', () =>
    withPair(
      (ports) => ready('Veyra 12', 'Veyra 14', ports),
      async (pair) => {
        await countIn(shop, pair.number)
        await carry(shop, pair.number)
        const ticket = await waitFor(shop, pair.number, isChecked, 'check off')
        await expectAgrees(shop, ticket, { old: pair.old.serial, new: pair.now.serial }, ['agrees-with-notes'])
        expect(row(ticket).fates.refused).toBe(1)
        expect(row(ticket).new.arrived).toBe(23)
      },
    ),
  )
})

/** What the catalogue calls an app of a list: the end of its address there. */
const idOf = ({ link }: { link: string | null }) => link!.split('/').at(-1)!

describe('apps across platforms', () => {
  it('the page behind a code ends with its date, is nobody’s without the code, and is not to be tried for', async () => {
    const { services } = shop
    const none = 'ABCDEFGHJKLM'
    await expect(readInstallPage(services, none, 'one')).rejects.toMatchObject({ code: 'NotFound' })
    for (let i = 0; i < 19; i++) await readInstallPage(services, none, 'one').catch(() => undefined)
    await expect(readInstallPage(services, none, 'one')).rejects.toMatchObject({ code: 'TooManyLists' })
    // another address is not held back
    await expect(readInstallPage(services, none, 'two')).rejects.toMatchObject({ code: 'NotFound' })
  })

  it.concurrent(
    'a counterpart waits on the install list, is changed once the phone reports it, and what is left at hand back is the customer’s',
    () =>
      withPair(
        (ports) => ready('Orrin 5', 'Veyra 12', ports),
        async (pair) => {
          const counted = await countIn(shop, pair.number)
          expect(row(counted).fates.pending).toBeGreaterThan(10)
          await carry(shop, pair.number)
          let ticket = await waitFor(shop, pair.number, isChecked, 'check off')
          // nothing was sent, and nothing is claimed
          expect(row(ticket)).toMatchObject({ new: { arrived: 0, last: 0 }, verdict: 'waiting' })
          const waiting = row(ticket).toInstall
          expect(waiting).toBe(row(ticket).fates.pending)
          const list = await readInstallList(shop.services, pair.number, shop.actor)
          expect(list).toMatchObject({
            apps: waiting,
            link: expect.stringMatching(/^http:\/\/127\.0\.0\.1:1\/list\/[A-Z2-9]{12}$/),
            qr: expect.stringContaining('<svg'),
          })
          // printed once, the code stays what it is
          expect((await readInstallList(shop.services, pair.number, shop.actor)).link).toBe(list.link)
          const page = await readInstallPage(shop.services, list.link!.split('/').at(-1)!, 'a')
          expect(page).toMatchObject({ model: 'Veyra 12', shop: 'Saltmere Phones' })
          expect(JSON.stringify(page)).not.toMatch(/Harrow|VN-|T-\d/)
          const ids = page.apps.map(idOf)
          // nothing of it stands in clear, and the code is kept nowhere
          const { rows: kept } = await shop.services.pool.query(
            'select encode(sealed, $1) as sealed, encode(code_hash, $1) as hash from install_page',
            ['escape'],
          )
          expect(JSON.stringify(kept)).not.toContain(page.apps[0]!.name)
          expect(JSON.stringify(kept)).not.toContain(list.link!.split('/').at(-1)!)
          // without a public address it is on paper, and its code holds it as text
          const onPaper = { ...shop.services, config: { ...shop.services.config, publicUrl: null } }
          expect(await readInstallList(onPaper, pair.number, shop.actor)).toMatchObject({
            apps: waiting,
            link: null,
            qr: expect.stringContaining('<svg'),
            list: page.apps,
          })
          expect(ids.length).toBeGreaterThan(8)
          // the customer installs three, one of them is thought better of
          for (const id of ids.slice(0, 3)) await shop.hand(`phones/${pair.now.serial}/install`, { id })
          await startCheck(shop.services, pair.number, shop.actor)
          ticket = await waitFor(shop, pair.number, (t) => isChecked(t) && row(t).new.last === 3, 'a second check')
          expect(row(ticket)).toMatchObject({ fates: { changed: 3 }, new: { arrived: 3 } })
          await shop.hand(`phones/${pair.now.serial}/uninstall`, { id: ids[0] })
          await startCheck(shop.services, pair.number, shop.actor)
          ticket = await waitFor(shop, pair.number, (t) => isChecked(t) && row(t).new.last === 2, 'a third check')
          expect(row(ticket)).toMatchObject({ fates: { changed: 2, lost: 1 }, verdict: 'differs', short: 1 })
          await shop.hand(`phones/${pair.now.serial}/install`, { id: ids[0] })
          await startCheck(shop.services, pair.number, shop.actor)
          ticket = await waitFor(shop, pair.number, (t) => isChecked(t) && row(t).new.last === 3, 'a fourth check')
          expect(ticket.mayHandOver).toBe(true)
          await sign(shop.services, pair.number, { by: 'Ines Harrow', actor: shop.actor }).catch((error: Error) =>
            expect(error.message).toBe('PutBackOpen'),
          )
        },
      ),
  )

  it.concurrent('what is not installed at hand back is not chosen, with its reason', () =>
    withPair(
      (ports) => ready('Orrin 5', 'Veyra 12', ports, 10),
      async (pair) => {
        await countIn(shop, pair.number)
        await carry(shop, pair.number)
        const before = await waitFor(shop, pair.number, isChecked, 'check off')
        const waiting = row(before).fates.pending
        for (const side of ['old', 'new'] as const)
          for (const { code } of before.ready[side].putBack)
            await setPutBack(shop.services, pair.number, { body: { side, code, how: 'waived', by: 'Ines Harrow' }, actor: shop.actor })
        await sign(shop.services, pair.number, { by: 'Ines Harrow', actor: shop.actor })
        const ticket = await readTicket(shop.services, pair.number, shop.actor)
        expect(row(ticket)).toMatchObject({ fates: { pending: 0, notChosen: waiting } })
        expect(row(ticket).verdict).toMatch(/^agrees/)
        expect(ticket.reasons).toContainEqual(expect.objectContaining({ code: 'to-install-by-hand', items: waiting }))
      },
    ),
  )

  it.concurrent('the technician corrects a counterpart, and the shop remembers it for the next ticket', () =>
    withPair(
      (ports) => ready('Orrin 5', 'Veyra 12', ports),
      async (pair) => {
        const counted = await countIn(shop, pair.number)
        await expect(readCandidates(shop.services, pair.number, { key: 'old-0', actor: shop.actor })).rejects.toThrow('ShowingNotAllowed')
        expect(
          (await readApps(shop.services, pair.number, shop.actor)).rows.every((app) => app.name === null && app.counterpart === null),
        ).toBe(true)
        await show(shop.services, pair.number, { reason: 'choose-items', actor: shop.actor })
        const { rows } = await readApps(shop.services, pair.number, shop.actor)
        const one = rows.find((app) => app.how === 'same-maker' && app.candidates > 2)!
        const { candidates, chosen } = await readCandidates(shop.services, pair.number, { key: one.key, actor: shop.actor })
        const other = candidates.find((candidate) => candidate.id !== chosen && candidate.canInstall)!
        await chooseCounterpart(shop.services, pair.number, { body: { key: one.key, counterpartId: other.id }, actor: shop.actor })
        const after = (await readApps(shop.services, pair.number, shop.actor)).rows.find((app) => app.key === one.key)!
        expect(after).toMatchObject({ isShops: true, counterpart: other.name, fate: 'pending' })
        await chooseCounterpart(shop.services, pair.number, { body: { key: one.key, counterpartId: null }, actor: shop.actor })
        const none = await readTicket(shop.services, pair.number, shop.actor)
        expect(row(none).fates.cannotCross).toBe(row(counted).fates.cannotCross + 1)
        // installed on the phone, it counts as what the shop said it is
        await chooseCounterpart(shop.services, pair.number, { body: { key: one.key, counterpartId: other.id }, actor: shop.actor })
        await carry(shop, pair.number)
        await waitFor(shop, pair.number, isChecked, 'check off')
        await shop.hand(`phones/${pair.now.serial}/install`, { id: other.id })
        await startCheck(shop.services, pair.number, shop.actor)
        const ticket = await waitFor(shop, pair.number, (t) => isChecked(t) && row(t).new.last === 1, 'a second check')
        expect(row(ticket).fates.changed).toBe(1)
        await withPair(
          (ports) => ready('Orrin 7', 'Veyra 14', ports),
          async (second) => {
            await countIn(shop, second.number)
            await show(shop.services, second.number, { reason: 'choose-items', actor: shop.actor })
            expect((await readApps(shop.services, second.number, shop.actor)).rows.find((app) => app.name === one.name)).toMatchObject({
              isShops: true,
              counterpart: other.name,
            })
          },
        )
      },
    ),
  )

  it.concurrent('tied apps are found by what they are for, and stay open until each was moved by hand', () =>
    withPair(
      (ports) => ready('Veyra 12', 'Orrin 9', ports),
      async (pair) => {
        const counted = await countIn(shop, pair.number)
        expect(counted.tied.all).toBeGreaterThanOrEqual(4)
        expect(counted.tied.open).toBe(counted.tied.all)
        const tied = (await readApps(shop.services, pair.number, shop.actor)).rows.filter((app) => app.tied)
        expect(new Set(tied.map((app) => app.tied)).size).toBeGreaterThan(0)
        await markMoved(shop.services, pair.number, { body: { key: tied[0]!.key, isMoved: true }, actor: shop.actor })
        expect((await readTicket(shop.services, pair.number, shop.actor)).tied.open).toBe(counted.tied.all - 1)
      },
    ),
  )

  it.concurrent('what is installed already is there already, and not put on the list', () =>
    withPair(
      (ports) => ready('Orrin 5', 'Veyra 12', ports),
      async (pair) => {
        await countIn(shop, pair.number)
        const { link } = await readInstallList(shop.services, pair.number, shop.actor)
        const { apps: listed } = await readInstallPage(shop.services, link!.split('/').at(-1)!, 'b')
        await shop.hand(`phones/${pair.now.serial}/install`, { id: idOf(listed[0]!) })
        const counted = await countIn(shop, pair.number)
        expect(counted.forecasts[0]!.counts.alreadyThere).toBe(1)
        expect((await readInstallList(shop.services, pair.number, shop.actor)).apps).toBe(row(counted).fates.pending - 1)
        // named anew, it is known at once that it is there
        const { key } = (await readApps(shop.services, pair.number, shop.actor)).rows.find((app) => app.fate === 'alreadyThere')!
        await chooseCounterpart(shop.services, pair.number, { body: { key, counterpartId: null }, actor: shop.actor })
        expect((await readTicket(shop.services, pair.number, shop.actor)).forecasts[0]!.counts.alreadyThere).toBe(0)
        await chooseCounterpart(shop.services, pair.number, { body: { key, counterpartId: idOf(listed[0]!) }, actor: shop.actor })
        expect((await readTicket(shop.services, pair.number, shop.actor)).forecasts[0]!.counts.alreadyThere).toBe(1)
        await carry(shop, pair.number)
        const ticket = await waitFor(shop, pair.number, isChecked, 'check off')
        expect(row(ticket)).toMatchObject({ fates: { alreadyThere: 1 }, new: { kept: 1, last: 1 } })
        expect(await storeOf(pair.now.serial)).toHaveLength(1)
      },
    ),
  )
})
