import type { BenchEvent } from '#contracts/http/bench.ts'
import { snapshot } from '../db/sql.ts'
import { readGuides } from '../guide/guides.ts'
import { readReadyRows, readSide, readyView } from '../ready/ready.ts'
import type { Services } from '../services.ts'
import { readTodayFrom } from '../tickets/read-ticket.ts'
import { manyPhones, manyTickets } from '../tickets/tickets.queries.ts'
import { readBench } from './ports.ts'

/** What was told of each ticket last: only what changed is told again. */
export type Told = Map<string, string>

/** The bench as pages show it, from one look at the ports; tickets only where something of them changed. */
export async function readBenchEvent(services: Services, told: Told): Promise<BenchEvent> {
  const bench = await readBench(services)
  return snapshot(services.pool, async (client) => {
    const today = await readTodayFrom(client, services, bench)
    const open = (await manyTickets(client)).filter((ticket) => !ticket.handed_back_at)
    const ids = open.map((ticket) => ticket.id)
    const phones = await manyPhones(client, ids)
    const rows = await readReadyRows(client, ids)
    const guides = readGuides(services)
    const tickets = open.flatMap((ticket): BenchEvent['tickets'] => {
      const summary = today.tickets.find((t) => t.number === ticket.number)!
      const mine = phones.filter((phone) => phone.ticket_id === ticket.id)
      const [old, now] = (['old', 'new'] as const).map((side) => readyView(readSide({ ticket, phones: mine, side, ports: bench.ports, guides, rows }), rows, ticket.id))
      const part = { number: ticket.number, stage: summary.stage, old: summary.old, new: summary.new, ready: { old: old!, new: now! } }
      const text = JSON.stringify(part)
      if (told.get(ticket.number) === text) return []
      told.set(ticket.number, text)
      return [part]
    })
    return { ports: today.ports, isBenchSeen: bench.isSeen, tickets }
  })
}
