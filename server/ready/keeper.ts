import { crossingKinds } from '#core/phones/crossing.ts'
import { needsFor } from '#core/phones/needs.ts'
import { guideOf, readGuides } from './guides.ts'
import { pairCrossings } from './ready.ts'
import { upsertReport } from './ready.queries.ts'
import type { Services } from '../base/services.ts'
import { manyPhones } from '../case/tickets.queries.ts'
import { manyOpenPhones, manyPausable, moveRun, ringPaused, type OpenPhone } from './keeper.queries.ts'
import { findOnBench, readBench, stationOf, type Bench, type BenchPort } from '../endpoints/ports.ts'

/** Needs the computer itself has the phone ask its owner for. */
const askable = /^(helper|allow:|message-app$|encrypted-reading$)/

/**
 * Keeps what the phones of open tickets report: what it was when first seen, and since when it is as it is. Paused
 * work of a ticket whose phone changed is looked at again at once; what a phone must be asked for is asked. Work whose
 * phones lie at another station now goes on there.
 */
export async function keepBench(services: Services): Promise<void> {
  const bench = await readBench(services)
  const seen = bench.ports.flatMap(({ phone }) => (phone ? [phone] : []))
  const phones = await manyOpenPhones(
    services.pool,
    seen.map((phone) => phone.facts.serial),
  )
  for (const phone of phones) {
    const view = seen.find(({ facts }) => facts.serial === phone.serial)!
    const changed = await upsertReport(services.pool, { ticketId: phone.ticket_id, side: phone.side, facts: view.readiness })
    if (changed > 0) await ringPaused(services.pool, phone.ticket_id)
    await askFor(services, phone, view)
  }
  await moveRuns(services, bench)
}

/** What nobody works on now goes to the station where all its phones are; the worker of that one takes it up. */
async function moveRuns({ pool }: Services, bench: Bench): Promise<void> {
  if (bench.seen.length === 0) return
  for (const { id, station, serials } of await manyPausable(pool)) {
    const stations = new Set(serials.map((serial) => stationOf(bench, serial)))
    const [there] = stations
    if (stations.size === 1 && there !== undefined && there !== station) await moveRun(pool, id, there)
  }
}

/** Has the phone ask for what the kinds that cross need of it, when it asks nothing now. */
async function askFor(services: Services, phone: OpenPhone, view: NonNullable<BenchPort['phone']>): Promise<void> {
  if (!view.speaks || view.asks) return
  const guides = readGuides(services)
  const pair = await manyPhones(services.pool, [phone.ticket_id])
  const kinds = crossingKinds(pairCrossings(guides, pair), phone.wanted)
  const lacks = needsFor(guideOf(guides, phone), phone.side, kinds).some(
    ({ code }) => askable.test(code) && view.readiness.some(({ need, isMet }) => need === code && !isMet),
  )
  if (!lacks) return
  const endpoint = await findOnBench(services, phone.serial!).catch(() => undefined)
  await endpoint?.body?.prepare({ kinds, writes: phone.side === 'new' }).catch(() => undefined)
}
