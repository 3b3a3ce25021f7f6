import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import type { KindFace } from '#core/kinds/face.ts'
import type { AnyKind } from '#core/kinds/registry.ts'
import type { KindPack } from '../../app/kinds/kind-pack.ts'
import type { Toy } from '../toy/kind.ts'

// three folders of a kind, and their lines in the registries: nothing else in the product names it
vi.mock('#core/kinds/faces.ts', async (original) => {
  const real = await original<typeof import('#core/kinds/faces.ts')>()
  const { toysFace } = await import('../toy/face.ts')
  ;(real.faces as KindFace[]).push(toysFace)
  ;(real.kindCodes as string[]).push(toysFace.code)
  return real
})
vi.mock('#core/kinds/registry.ts', async (original) => {
  const real = await original<typeof import('#core/kinds/registry.ts')>()
  const { toys } = await import('../toy/kind.ts')
  ;(real.kinds as AnyKind[]).push(toys as AnyKind)
  return real
})
vi.mock('../../app/kinds/registry.ts', async (original) => {
  const real = await original<typeof import('../../app/kinds/registry.ts')>()
  const { toysPack } = await import('../toy/pack.ts')
  ;(real.packs as KindPack[]).push(toysPack)
  return real
})
const { openShop } = await import('../setup/shop.ts')
const { addPhone, bookTicket, carry, countIn, expectAgrees, expectForecastMet, isChecked, waitFor, worker } =
  await import('../setup/ticket.ts')
const { bookInBody } = await import('#contracts/http/ticket.ts')
const { readEntries } = await import('#server/desk/items/entries.ts')
const { show } = await import('#server/desk/items/show.ts')
const { writeFile } = await import('#server/desk/items/write-file.ts')
const { readSheet } = await import('#server/desk/hand-back/sheet.ts')
const { guidePair, guidePhone } = await import('#server/ready/guide-views.ts')
const { setNeed } = await import('#server/ready/act-ready.ts')
const { readTicket } = await import('#server/desk/read-ticket.ts')
const { reasonSections } = await import('../../app/words/sheet-lines.ts')
const { items } = await import('../../app/words/say.ts')
const { words } = await import('../../app/words/words.ts')

let shop: Awaited<ReturnType<typeof openShop>>
let hands: ReturnType<typeof worker>
beforeAll(async () => {
  shop = await openShop({ practicePhones: 'tests/toy/standins.ts' })
  hands = worker(shop)
})
afterAll(async () => {
  hands.kill()
  await shop.close()
})

const search = { filter: 'all', facet: '', storage: '', reason: '', group: '', when: '', text: '', after: null, limit: 60 } as const
const put = (serial: string, ...toys: (Toy & { storage?: string; damage?: string })[]) => shop.hand(`phones/${serial}/add`, { toys })
const toysOn = async (serial: string): Promise<Toy[]> =>
  (await shop.hand(`phones/${serial}/store?kind=toys`)).records.map(({ facts }: { facts: string[] }) => JSON.parse(facts[0]!) as Toy)
/** Two phones with toys on them, booked, made ready and counted. */
async function counted(n: number, [old, now]: [Parameters<typeof put>[1][], Parameters<typeof put>[1][]], kinds: string[]) {
  const [from, to] = [
    { serial: `TOY-O${n}`, model: 'Orrin 5', port: 2 * n - 1, people: { seed: 1, count: 5 } },
    { serial: `TOY-N${n}`, model: 'Veyra 12', port: 2 * n },
  ]
  await addPhone(shop, from)
  await addPhone(shop, to)
  await put(from.serial, ...old)
  await put(to.serial, ...now)
  const number = await bookTicket(shop, from, to, kinds)
  const need = { side: 'new', code: 'box-open', how: 'ticked', reason: null } as const
  expect((await readTicket(shop.services, number, shop.actor)).ready.new.needs.map(({ code }) => code)).toContain(need.code)
  await setNeed(shop.services, number, { body: need, actor: shop.actor })
  return { number, from: from.serial, to: to.serial, ticket: await countIn(shop, number) }
}

describe('a kind the product has never heard of', () => {
  it('stands in the guide and can be booked', () => {
    const phone = (model: string, platform: 'android' | 'ios' | 'keypad', version: string) => ({
      maker: model.split(' ')[0]!,
      model,
      platform,
      version,
    })
    const [orrin, veyra, holt] = [phone('Orrin 5', 'android', '13'), phone('Veyra 12', 'ios', '18'), phone('Holt 5', 'keypad', '2')]
    const crossing = (to: typeof orrin) => guidePair(shop.services, { old: orrin, new: to }).find(({ kind }) => kind === 'toys')
    expect(crossing(veyra)).toMatchObject({ crosses: 'changed', changes: [{ code: 'toy-shrunk', loss: true }], limits: { items: 500 } })
    expect(crossing(holt)).toMatchObject({ crosses: 'cannot', rule: 'not-known' })
    const { needs } = guidePhone(shop.services, veyra)
    expect(needs.find(({ code }) => code === 'box-open')).toMatchObject({ kinds: ['toys'] })
    expect(needs.find(({ code }) => code === 'accounts-still')!.kinds).toContain('toys')
    expect(bookInBody.shape.kinds.safeParse(['toys']).success).toBe(true)
    expect(bookInBody.shape.kinds.safeParse(['games']).success).toBe(false)
  })

  it('runs from count in to the sheet beside the others on real practice phones, every fate of it right', async () => {
    const { number, from, to, ticket } = await counted(
      1,
      [
        [
          { name: 'Boat', size: 1 },
          { name: 'Boat', size: 1 },
          { name: 'Whale', size: 40 },
          { name: 'Ghost', size: 1 },
          { name: 'Kite', size: 2 },
          { name: 'Shelf', size: 3, storage: 'shelf' },
          { name: 'Drum', size: 4, damage: 'storage-error' },
          { name: 'Lead soldier', size: 1 },
        ],
        [
          { name: 'Kite', size: 2 },
          { name: 'Doll', size: 5 },
        ],
      ],
      ['contacts', 'toys'],
    )
    expect(ticket.ledger.map((row) => row.kind)).toEqual(['contacts', 'toys'])
    expect(ticket.forecasts[1]).toMatchObject({
      counts: { carried: 3, changed: 1, changedWithLoss: 1, alreadyThere: 1, notChosen: 1, cannotCross: 1, unreadable: 1, expected: 6 },
      changes: [{ code: 'toy-shrunk', loss: true, items: 1 }],
    })
    const page = await readEntries(shop.services, number, { search: { ...search, kind: 'toys', facet: 'toy-large' }, actor: shop.actor })
    expect(page.rows).toMatchObject([{ fate: 'pending', shape: { size: 40 }, at: '1970-01-01T00:00:40.000Z', title: null }])
    await carry(shop, number)
    const checked = await waitFor(shop, number, isChecked, 'check off')
    expect(checked.ledger[1]).toMatchObject({
      verdict: 'agrees-with-notes',
      old: { read: 8 },
      fates: { carried: 2, changed: 1, alreadyThere: 1, notChosen: 1, cannotCross: 1, unreadable: 1, refused: 1 },
      new: { first: 2, last: 5, kept: 2, arrived: 3 },
    })
    await expectAgrees(shop, checked, { old: from, new: to })
    expectForecastMet(ticket, checked)
    expect((await toysOn(to)).map(({ name, size }) => `${name} ${size}`).sort()).toEqual([
      'Boat 1',
      'Boat 1',
      'Doll 5',
      'Kite 2',
      'Whale 9',
    ])
    // the sheet names it in its own words, and it goes out as its own open file
    const sheet = await readSheet(shop.services, number, shop.actor)
    const said = JSON.stringify(reasonSections(sheet))
    for (const code of ['toy-shrunk', 'no-ghosts']) expect([said.includes(code), words.reasons[code]]).toEqual([true, expect.any(String)])
    expect(items('toys', 2)).toBe('2 toys')
    await show(shop.services, number, { reason: 'customer-asks', actor: shop.actor })
    const file = await writeFile(shop.services, number, { kind: 'toys', format: 'toys-txt', actor: shop.actor })
    const pieces: Buffer[] = []
    for await (const piece of file.bytes) pieces.push(piece)
    expect(Buffer.concat(pieces).toString()).toContain('Whale 40\r\n')
  })

  it.each([
    ['drop', 'is lost', { carried: 2, lost: 1 }],
    ['alter', 'is lost, and what stands there instead is left behind', { carried: 2, lost: 1 }],
  ])('one that the new phone takes and would %s %s', async (effect, _, fates) => {
    const n = effect === 'drop' ? 2 : 3
    const three = ['Boat', 'Drum', 'Top'].map((name, i) => ({ name, size: i + 1 }))
    const { number, to } = await counted(n, [three, []], ['toys'])
    await shop.hand(`phones/${to}/faults`, { faults: [{ point: 'write.record', effect, skip: 1 }] })
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    expect(ticket.ledger[0]).toMatchObject({ verdict: 'differs', fates })
    expect(ticket.mayHandOver).toBe(false)
    expect(await toysOn(to)).toHaveLength(effect === 'drop' ? 2 : 3)
  })
})
