import pg from 'pg'
import type { BenchEvent } from '#contracts/http/bench.ts'
import { readBenchEvent, type Told } from './bench-event.ts'
import { transportOf } from '../endpoints/transports.ts'
import { keepBench } from '../ready/keeper.ts'
import { listenToTickets } from '../base/shop.queries.ts'
import type { Station } from '../base/config.ts'
import type { Services } from '../base/services.ts'

export interface PageEvent {
  /** Number of the ticket's event; none for the bench. */
  readonly seq: number | null
  readonly ticket: string | null
  /** The transaction that made the change; none where a page looks whatever it has. */
  readonly change?: number
  readonly what: 'ticket' | 'bench'
  /** `run`: something that runs by itself ended, or waits. */
  readonly of?: string
  /** What changed on the bench; without it a page looks for itself. */
  readonly bench?: BenchEvent
}

const subscribers = new Set<(event: PageEvent) => void>()
let isListening = false

export function subscribe(tell: (event: PageEvent) => void): () => void {
  subscribers.add(tell)
  return () => subscribers.delete(tell)
}

function publish(event: PageEvent): void {
  for (const tell of subscribers) tell(event)
}

/** Listens to the database and to the bench for as long as the process lives, through restarts of both. */
export function startHub(services: Services): void {
  if (isListening) return
  isListening = true
  void keepUp(() => listenToDatabase(services))
  const keep = benchKeeper(services)
  for (const station of services.config.stations) void keepUp(() => listenToStation(station, keep))
}

async function keepUp(listen: () => Promise<void>): Promise<never> {
  for (;;) {
    await listen().catch(() => undefined)
    await new Promise((resolve) => setTimeout(resolve, 1000))
  }
}

async function listenToDatabase({ config }: Services): Promise<void> {
  const client = new pg.Client({ connectionString: config.databaseUrl, application_name: 'corvend-events' })
  const ended = new Promise<void>((resolve) => {
    client.on('end', resolve)
    client.on('error', () => resolve())
  })
  await client.connect()
  client.on('notification', ({ payload }) => {
    const { ticket, seq, change, of } = JSON.parse(payload ?? '{}') as { ticket: string; seq: number; change: number; of: string }
    publish({ ticket, seq, change, of, what: 'ticket' })
  })
  await listenToTickets(client)
  // whatever was missed while away: every page looks again
  publish({ ticket: null, seq: null, what: 'bench' })
  await ended
  await client.end().catch(() => undefined)
}

/** Whatever happens on the bench is kept first, and told then: who looks sees it already. */
function benchKeeper(services: Services): (serial: string | undefined) => void {
  let isKeeping = false
  let isAsked = false
  const told: Told = new Map()
  let touched = new Set<string>()
  const keep = async () => {
    isAsked = true
    if (isKeeping) return
    isKeeping = true
    while (isAsked) {
      isAsked = false
      const now = touched
      touched = new Set()
      await keepBench(services).catch(() => undefined)
      const bench = await readBenchEvent(services, told, now).catch(() => undefined)
      publish({ ticket: null, seq: null, what: 'bench', ...(bench ? { bench } : {}) })
    }
    isKeeping = false
  }
  return (serial) => {
    if (serial) touched.add(serial)
    void keep()
  }
}

/** Hears what happens at a station for as long as it answers; that it went silent is told, too. */
async function listenToStation(station: Station, keep: (serial: string | undefined) => void): Promise<void> {
  let isHeard = false
  try {
    for await (const { event, serial } of transportOf(station).watch(new AbortController().signal)) {
      // looked at once what happens is heard: nothing falls between
      if (event === 'here' && isHeard) continue
      isHeard = true
      keep(serial)
    }
  } finally {
    publish({ ticket: null, seq: null, what: 'bench' })
  }
}
