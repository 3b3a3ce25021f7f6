import type { BenchEvent } from '#contracts/http/bench.ts'
import { snapshot } from '../base/db/sql.ts'
import type { Services } from '../base/services.ts'
import { readTodayFrom } from '../desk/today/view.ts'
import { readBench } from '../endpoints/ports.ts'

/** What was told of each ticket last: only what changed is told again. */
export type Told = Map<string, string>

/**
 * The bench as pages show it, from one look at the ports; tickets only where something of them changed.
 * @param touched serials of phones that said something since: theirs are told though they are again as they were told
 *   last, for a page may have looked in between
 */
export async function readBenchEvent(services: Services, told: Told, touched: ReadonlySet<string> = new Set()): Promise<BenchEvent> {
  const bench = await readBench(services)
  const { today, ready } = await snapshot(services.pool, (client) => readTodayFrom(client, services, bench))
  const tickets = today.tickets.flatMap(({ number, stage, old, new: now, handedBackAt }): BenchEvent['tickets'] => {
    if (handedBackAt) return []
    const part = { number, stage, old, new: now, ready: ready.get(number)! }
    const text = JSON.stringify(part)
    const isTouched = [old.serial, now.serial].some((serial) => serial !== null && touched.has(serial))
    if (!isTouched && told.get(number) === text) return []
    told.set(number, text)
    return [part]
  })
  const { moment, ports, isBenchSeen, unseenStations } = today
  return { moment, ports, isBenchSeen, unseenStations, tickets }
}
