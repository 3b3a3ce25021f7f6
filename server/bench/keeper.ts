import { crossingKinds } from '#core/phones/crossing.ts'
import type { PortView } from '#contracts/link/index.ts'
import { many, type Client } from '../db/sql.ts'
import { readGuides } from '../guide/guides.ts'
import { standinLink } from '../links/standin-link.ts'
import { pairCrossings } from '../ready/ready.ts'
import { upsertSeen } from '../ready/ready.queries.ts'
import type { Services } from '../services.ts'
import { manyPhones, type PhoneRow } from '../tickets/tickets.queries.ts'
import { readBench } from './ports.ts'

/** Needs the computer itself has the phone ask its owner for. */
const askable = /^(helper|allow:|message-app$|encrypted-reading$)/

interface OpenPhone extends PhoneRow {
  wanted: string[]
}

/**
 * Keeps what the phones of open tickets report: what it was when first seen, and since when it is as it is. Paused
 * work of a ticket whose phone changed is looked at again at once; what a phone must be asked for is asked.
 */
export async function keepBench(services: Services): Promise<void> {
  const { ports, isSeen } = await readBench(services)
  if (!isSeen) return
  const seen = ports.flatMap(({ phone }) => (phone ? [phone] : []))
  const phones = await manyOpenPhones(services.pool, seen.map((phone) => phone.facts.serial))
  for (const phone of phones) {
    const view = seen.find(({ facts }) => facts.serial === phone.serial)!
    const changed = await upsertSeen(services.pool, { ticketId: phone.ticket_id, side: phone.side, facts: view.readiness })
    if (changed > 0) await ringPaused(services.pool, phone.ticket_id)
    await askFor(services, phone, view)
  }
}

function manyOpenPhones(client: Client, serials: readonly string[]): Promise<OpenPhone[]> {
  return many<OpenPhone>(
    client,
    `select p.*, t.wanted
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.is_open and p.serial = any($1::text[]) and t.resting_at is null`,
    [serials],
  )
}

/** What waits for a phone need not wait for its time when the phone changed. */
async function ringPaused(client: Client, ticketId: number): Promise<void> {
  await client.query(`update run set retry_at = now() where ticket_id = $1 and state = 'paused'`, [ticketId])
}

/** Has the phone ask for what the kinds that cross need of it, when it asks nothing now. */
async function askFor(services: Services, phone: OpenPhone, view: NonNullable<PortView['phone']>): Promise<void> {
  if (!services.config.link || !view.speaks || view.asks) return
  const pair = await manyPhones(services.pool, [phone.ticket_id])
  const kinds = crossingKinds(pairCrossings(readGuides(services), pair), phone.wanted)
  const concerns = (need: string) => !need.startsWith('allow:') || kinds.includes(need.slice(6))
  const lacks = view.readiness.some(({ need, isMet }) => !isMet && askable.test(need) && concerns(need) && isFor(need, phone.side, kinds))
  if (lacks) await standinLink(services.config.link, phone.serial!).prepare({ kinds, writes: phone.side === 'new' }).catch(() => undefined)
}

function isFor(need: string, side: 'old' | 'new', kinds: readonly string[]): boolean {
  if (need === 'message-app') return side === 'new' && kinds.includes('messages')
  if (need === 'encrypted-reading') return side === 'old' && (kinds.includes('calls') || kinds.includes('apps'))
  return true
}
