import type { BenchEvent } from '#contracts/http/bench.ts'
import { snapshot } from '../db/sql.ts'
import type { Services } from '../services.ts'
import { readTodayFrom } from '../tickets/read-ticket.ts'
import { readBench } from './ports.ts'

/** What was told of each ticket last: only what changed is told again. */
export type Told = Map<string, string>

/** The bench as pages show it, from one look at the ports; tickets only where something of them changed. */
export async function readBenchEvent(services: Services, told: Told): Promise<BenchEvent> {
  const bench = await readBench(services)
  const { today, ready } = await snapshot(services.pool, (client) => readTodayFrom(client, services, bench))
  const tickets = today.tickets.flatMap(({ number, stage, old, new: now, handedBackAt }): BenchEvent['tickets'] => {
    if (handedBackAt) return []
    const part = { number, stage, old, new: now, ready: ready.get(number)! }
    const text = JSON.stringify(part)
    if (told.get(number) === text) return []
    told.set(number, text)
    return [part]
  })
  return { ports: today.ports, isBenchSeen: bench.isSeen, tickets }
}
