import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import type { Station } from '#server/base/config.ts'
import { card, held, lies, models } from '../setup/memory-bench.ts'

// phones that can be carried from one bench to another
vi.mock('#server/endpoints/transports.ts', async () => {
  const { memoryAt } = await import('../setup/memory-bench.ts')
  return { transportOf: ({ code }: Station) => memoryAt(code) }
})

const { openShop } = await import('../setup/shop.ts')
const { bookTicket, carry, countIn, isChecked, waitFor, worker } = await import('../setup/ticket.ts')
const { keepBench } = await import('#server/ready/keeper.ts')

let shop: Awaited<ReturnType<typeof openShop>>
const hands: ReturnType<typeof worker>[] = []
const ran = { bench: new Set<string>(), window: new Set<string>() }
/** What goes on at the next checkpoint of a carry, once. */
let between: (() => void) | undefined
beforeAll(async () => {
  const one = await openShop()
  const [bench] = one.services.config.stations
  const stations = [bench!, { ...bench!, code: 'window', firstPort: 9 }]
  const services = (code?: string) => ({
    ...one.services,
    config: { ...one.services.config, stations, station: stations.find((s) => s.code === code) ?? null },
  })
  shop = { ...one, services: services() }
  for (const code of ['bench', 'window'] as const)
    hands.push(
      worker({ ...one, services: services(code) }, (name, run) => {
        ran[code].add(run.type)
        if (run.type === 'carry' && name === 'after-answer') between?.()
      }),
    )
})
afterAll(async () => {
  for (const one of hands) one.kill()
  await shop.close()
})

const wish = (serial: string) => ({ serial, model: models[serial]!, port: 1 })

describe('a pair that is carried to another bench in the middle', () => {
  it('is asked to be brought together, then carried on there to counts that agree, nothing doubled', async () => {
    held.set('MEM-O', new Map(Array.from({ length: 900 }, (_, i) => [`o${i}`, card(`Name${i}`, 100 + i)])))
    held.set('MEM-N', new Map())
    for (const serial of held.keys()) lies.set(serial, 'bench')
    const number = await bookTicket(shop, wish('MEM-O'), wish('MEM-N'))
    await countIn(shop, number)
    // the new phone is pulled after its first records and plugged in at the window
    between = () => {
      between = undefined
      lies.set('MEM-N', 'window')
    }
    await carry(shop, number)
    const apart = await waitFor(shop, number, (t) => t.run?.reason === 'AtOtherStation', 'to be told that they are apart')
    expect(apart.run).toMatchObject({ state: 'paused', side: 'new' })
    expect([apart.old.station, apart.new.station]).toEqual(['bench', 'window'])
    expect(held.get('MEM-N')!.size).toBeLessThan(900)
    lies.set('MEM-O', 'window')
    // as the hub does with whatever happens on a bench
    await keepBench(shop.services)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    expect(ticket.ledger[0]).toMatchObject({ verdict: 'agrees', fates: { carried: 900 }, new: { last: 900 } })
    expect(held.get('MEM-N')!.size).toBe(900)
    expect([...ran.bench]).toEqual(['count-in', 'carry'])
    expect([...ran.window]).toEqual(['carry', 'check-off'])
  })

  it('that came together while its run was still looking for it goes on without anybody’s hand', async () => {
    Object.assign(models, { 'MEM-P': 'Orrin 5', 'MEM-Q': 'Orrin 9' })
    held.set('MEM-P', new Map(Array.from({ length: 300 }, (_, i) => [`p${i}`, card(`Name${i}`, 100 + i)])))
    held.set('MEM-Q', new Map())
    for (const serial of ['MEM-P', 'MEM-Q']) lies.set(serial, 'window')
    const number = await bookTicket(shop, wish('MEM-P'), wish('MEM-Q'))
    await countIn(shop, number)
    between = () => {
      between = undefined
      for (const serial of ['MEM-P', 'MEM-Q']) lies.set(serial, 'bench')
    }
    await carry(shop, number)
    // no event of the bench comes: the worker that finds them gone sends the run after them
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    expect(ticket.ledger[0]).toMatchObject({ verdict: 'agrees', fates: { carried: 300 }, new: { last: 300 } })
  })
})
