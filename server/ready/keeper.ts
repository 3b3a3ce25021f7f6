import { crossingKinds } from '#core/phones/crossing.ts'
import { needsFor } from '#core/phones/needs.ts'
import type { PortView } from '#contracts/link/index.ts'
import { guideOf, readGuides } from './guides.ts'
import { benchOf } from '../endpoints/transports.ts'
import { pairCrossings } from './ready.ts'
import { upsertSeen } from './ready.queries.ts'
import type { Services } from '../base/services.ts'
import { manyPhones } from '../case/tickets.queries.ts'
import { manyOpenPhones, ringPaused, type OpenPhone } from './keeper.queries.ts'
import { readBench } from '../endpoints/ports.ts'

/** Needs the computer itself has the phone ask its owner for. */
const askable = /^(helper|allow:|message-app$|encrypted-reading$)/

/**
 * Keeps what the phones of open tickets report: what it was when first seen, and since when it is as it is. Paused
 * work of a ticket whose phone changed is looked at again at once; what a phone must be asked for is asked.
 */
export async function keepBench(services: Services): Promise<void> {
  const { ports, isSeen } = await readBench(services)
  if (!isSeen) return
  const seen = ports.flatMap(({ phone }) => (phone ? [phone] : []))
  const phones = await manyOpenPhones(
    services.pool,
    seen.map((phone) => phone.facts.serial),
  )
  for (const phone of phones) {
    const view = seen.find(({ facts }) => facts.serial === phone.serial)!
    const changed = await upsertSeen(services.pool, { ticketId: phone.ticket_id, side: phone.side, facts: view.readiness })
    if (changed > 0) await ringPaused(services.pool, phone.ticket_id)
    await askFor(services, phone, view)
  }
}

/** Has the phone ask for what the kinds that cross need of it, when it asks nothing now. */
async function askFor(services: Services, phone: OpenPhone, view: NonNullable<PortView['phone']>): Promise<void> {
  const body = benchOf(services.config)?.endpoint(phone.serial!).body
  if (!body || !view.speaks || view.asks) return
  const guides = readGuides(services)
  const pair = await manyPhones(services.pool, [phone.ticket_id])
  const kinds = crossingKinds(pairCrossings(guides, pair), phone.wanted)
  const lacks = needsFor(guideOf(guides, phone), phone.side, kinds).some(
    ({ code }) => askable.test(code) && view.readiness.some(({ need, isMet }) => need === code && !isMet),
  )
  if (lacks) await body.prepare({ kinds, writes: phone.side === 'new' }).catch(() => undefined)
}
