import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import type { LinkRecord, WriteResult } from '#contracts/link/index.ts'
import type { Kind } from '#core/kinds/kind.ts'
import type { Endpoint, Source } from '#server/endpoints/endpoint.ts'
import type { PhoneRow } from '#server/case/tickets.queries.ts'

/** A toy as a phone keeps it: a name and a size. A kind nobody but this file knows. */
interface Toy {
  readonly name: string
  readonly size: number
}

const toys: Kind<Toy> = {
  code: 'toys',
  phones: {},
  guides: {},
  facets: {},
  needs: [],
  canonicalVersion: 1,
  joins: false,
  changes: { 'toy-shrunk': { loss: true } },
  rules: [],
  failures: [],
  issues: [],
  read(bytes) {
    try {
      return { ok: true, item: JSON.parse(Buffer.from(bytes).toString()) as Toy, issues: [] }
    } catch {
      return { ok: false, code: 'broken-toy' }
    }
  },
  atoms: ({ name, size }) => [`toy ${name}`, `size ${size}`],
  canonicalBytes: (atoms) => Buffer.from(atoms.join('\n')),
  matchKeys: () => [],
  change: (toy) =>
    toy.name === 'Ghost'
      ? { cannot: 'no-ghosts' }
      : toy.size > 9
        ? { item: { ...toy, size: 9 }, changes: [{ code: 'toy-shrunk', loss: true }] }
        : { item: toy, changes: [] },
  sample: () => ({ name: 'a', size: 10 }),
  write: (toy) => Buffer.from(JSON.stringify(toy)),
  describe: ({ name }) => ({ title: name, lines: [] }),
  shape: ({ size }) => ({ size }),
  at: ({ size }) => size * 1000,
  leftByDefault: ['shelf'],
}

/** What each phone holds of toys; the rest of it is a real practice phone. */
const boxes = new Map<string, { id: string; storage: string; body: string }[]>()
const box = (serial: string) => {
  if (!boxes.has(serial)) boxes.set(serial, [])
  return boxes.get(serial)!
}
let ids = 0
let loseNext = 0

function withToys(endpoint: Endpoint, serial: string): Endpoint {
  const revision = () => String(box(serial).length)
  return {
    ...endpoint,
    async attach() {
      const session = await endpoint.attach()
      const { source, sink } = session
      return {
        ...session,
        source: {
          ...source,
          count: async (kind) =>
            kind !== 'toys'
              ? source.count(kind)
              : { items: box(serial).length, bytes: 0, derived: 0, derivedOf: {}, revision: revision(), also: {} },
          list: (kind) => (kind !== 'toys' ? source.list(kind) : listToys(serial)),
        },
        sink: {
          ...sink!,
          async write(kind, records) {
            if (kind !== 'toys') return sink!.write(kind, records)
            return records.map((record): WriteResult => {
              const id = `toy-${++ids}`
              if (loseNext-- > 0) return { ids: [id] }
              box(serial).push({ id, storage: 'box', body: Buffer.from(record).toString() })
              return { ids: [id] }
            })
          },
        },
      }
    },
  }
}

async function* listToys(serial: string): ReturnType<Source['list']> {
  const held = [...box(serial)]
  for (const { id, storage, body } of held)
    yield { id, revision: '1', storage, body: Buffer.from(body).toString('base64') } satisfies LinkRecord
  return { count: held.length, revision: String(held.length) }
}

// one line in the registry, and its own place on the phones: nothing else in the product names it
vi.mock('#core/kinds/registry.ts', async (original) => {
  const real = await original<typeof import('#core/kinds/registry.ts')>()
  const kinds = [...real.kinds, toys]
  return { kinds, kindOf: (code: string) => real.kindOf(code, kinds) }
})
vi.mock('#server/endpoints/find-endpoint.ts', async (original) => {
  const real = await original<typeof import('#server/endpoints/find-endpoint.ts')>()
  return {
    ...real,
    findEndpoint: async (services: Parameters<typeof real.findEndpoint>[0], phone: PhoneRow) =>
      withToys(await real.findEndpoint(services, phone), phone.serial!),
  }
})
const { openShop } = await import('../setup/shop.ts')
const { addPhone, bookTicket, carry, countIn, isChecked, waitFor, worker } = await import('../setup/ticket.ts')
const { readEntries } = await import('#server/desk/items/entries.ts')

let shop: Awaited<ReturnType<typeof openShop>>
let hands: ReturnType<typeof worker>
beforeAll(async () => {
  shop = await openShop()
  hands = worker(shop)
})
afterAll(async () => {
  hands.kill()
  await shop.close()
})

const put = (serial: string, ...held: (Toy & { storage?: string })[]) => {
  for (const { storage = 'box', ...toy } of held) box(serial).push({ id: `own-${++ids}`, storage, body: JSON.stringify(toy) })
}

describe('a kind the product has never heard of', () => {
  it('runs from count in to check off beside the others, every fate of it right, by a line in the registry', async () => {
    const old = { serial: 'TOY-O', model: 'Orrin 5', port: 1, people: { seed: 1, count: 5 } }
    const now = { serial: 'TOY-N', model: 'Veyra 12', port: 2 }
    await addPhone(shop, old)
    await addPhone(shop, now)
    put(
      'TOY-O',
      { name: 'Boat', size: 1 },
      { name: 'Boat', size: 1 },
      { name: 'Whale', size: 40 },
      { name: 'Ghost', size: 1 },
      { name: 'Kite', size: 2 },
      { name: 'Shelf', size: 3, storage: 'shelf' },
    )
    box('TOY-O').push({ id: 'broken', storage: 'box', body: '{' })
    put('TOY-N', { name: 'Kite', size: 2 }, { name: 'Doll', size: 5 })
    const number = await bookTicket(shop, old, now, ['contacts', 'toys'])
    const counted = await countIn(shop, number)
    expect(counted.ledger.map((row) => row.kind)).toEqual(['contacts', 'toys'])
    expect(counted.forecasts[1]).toMatchObject({
      counts: { carried: 2, changed: 1, changedWithLoss: 1, alreadyThere: 1, notChosen: 1, cannotCross: 1, unreadable: 1, expected: 5 },
      changes: [{ code: 'toy-shrunk', loss: true, items: 1 }],
    })
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    expect(ticket.ledger[1]).toMatchObject({
      verdict: 'agrees-with-notes',
      short: 0,
      over: 0,
      old: { read: 7 },
      fates: { carried: 2, changed: 1, alreadyThere: 1, notChosen: 1, cannotCross: 1, unreadable: 1 },
      new: { first: 2, last: 5, kept: 2, arrived: 3 },
    })
    expect(
      box('TOY-N')
        .map(({ body }) => JSON.parse(body) as Toy)
        .filter(({ name }) => name === 'Boat'),
    ).toHaveLength(2)
    const page = await readEntries(shop.services, number, {
      search: { kind: 'toys', filter: 'all', facet: '', storage: '', reason: '', group: '', when: '', text: '', after: null, limit: 60 },
      actor: shop.actor,
    })
    expect(page.rows).toHaveLength(7)
    expect(page.rows.find((row) => row.fate === 'changed')).toMatchObject({ at: '1970-01-01T00:00:40.000Z', reasons: ['toy-shrunk'] })
  })

  it('one that the new phone took and does not hold is short, and never agrees', async () => {
    const [old, now] = [
      { serial: 'TOY-P', model: 'Orrin 5', port: 3 },
      { serial: 'TOY-Q', model: 'Veyra 12', port: 4 },
    ]
    await addPhone(shop, old)
    await addPhone(shop, now)
    put('TOY-P', { name: 'Boat', size: 1 }, { name: 'Drum', size: 2 }, { name: 'Top', size: 3 })
    const number = await bookTicket(shop, old, now, ['toys'])
    await countIn(shop, number)
    loseNext = 1
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    expect(ticket.ledger[0]).toMatchObject({ verdict: 'differs', short: 1, fates: { carried: 2, lost: 1 } })
    expect(ticket.mayHandOver).toBe(false)
  })
})
