import type { TicketSummary, TicketView, TodayView } from '#contracts/http/ticket.ts'
import { snapshot, type Client } from '../../base/db/sql.ts'
import type { Services } from '../../base/services.ts'
import { readLedgers } from '../../book/ledger.ts'
import { manyLastNotes } from '../../case/acts.queries.ts'
import { manyKinds, manyOfToday, manyPhones, manyTickets, manyTicketsOfSerials, manyUnnamed } from '../../case/tickets.queries.ts'
import { oneShop, readSeen } from '../../base/shop.queries.ts'
import { serialHash } from '../../vault/holdings.ts'
import { readBench, type Bench, type BenchPort } from '../../endpoints/ports.ts'
import { readGuides } from '../../ready/guides.ts'
import { readReadyRows } from '../../ready/ready.ts'
import { manyActiveRuns, type RunRow } from '../../runs/runs.queries.ts'
import { readEnding } from '../lockers/view.ts'
import { readyViews, sidesOf, summaryOf } from '../summary.ts'

/** The bench, what waits for a finger, and the tickets by promise. */
export async function readToday(services: Services): Promise<TodayView> {
  const bench = await readBench(services)
  return snapshot(services.pool, async (client) => (await readTodayFrom(client, services, bench)).today)
}

/** The same, from a look at the ports that was taken already; beside it how each ticket's phones stand, by its number. */
export async function readTodayFrom(
  client: Client,
  services: Services,
  { ports, seen }: Bench,
): Promise<{ today: TodayView; ready: ReadonlyMap<string, TicketView['ready']> }> {
  const tickets = await manyTickets(client)
  const ids = tickets.map((ticket) => ticket.id)
  const kinds = await manyKinds(client, ids)
  const guides = readGuides(services)
  const rows = await readReadyRows(client, ids)
  const unnamed = await manyUnnamed(client)
  const phones = await manyPhones(client, ids)
  const runs = await manyActiveRuns(client, ids)
  const ledgers = await readLedgers(client, { tickets, kinds, runs })
  const notes = await manyLastNotes(client, ids)
  const owners = await manyTicketsOfSerials(
    client,
    ports.flatMap(({ phone }) => (phone ? [phone.facts.serial] : [])),
  )
  const hashes = new Map(
    ports.flatMap(({ phone }) =>
      phone && !owners.some(({ serial }) => serial === phone.facts.serial)
        ? [[phone.facts.serial, serialHash(services.config, phone.facts.serial)] as const]
        : [],
    ),
  )
  const past = hashes.size > 0 ? await manyOfToday(client, [...hashes.values()], (await oneShop(client)).zone) : []
  const ready = new Map<string, TicketView['ready']>()
  const summaries = tickets.map((ticket) => {
    const sides = sidesOf({ ticket, phones: phones.filter((phone) => phone.ticket_id === ticket.id), ports, guides, rows })
    ready.set(ticket.number, readyViews(sides, rows, ticket.id))
    return summaryOf(services, {
      ticket,
      kinds: kinds.filter((kind) => kind.ticket_id === ticket.id),
      sides,
      ledger: ledgers.get(ticket.id)!,
      run: runs.find((run) => run.ticket_id === ticket.id) ?? null,
      rows,
      note: notes.find((note) => note.ticket_id === ticket.id)?.words,
    })
  })
  const today: TodayView = {
    moment: (await readSeen(client)).moment,
    isBenchSeen: seen.length > 0,
    endingCopies: await readEnding(client, services),
    unseenStations: services.config.stations.map(({ code }) => code).filter((code) => !seen.includes(code)),
    tickets: summaries,
    ports: ports.map((view): TodayView['ports'][number] => {
      const owner = owners.find((o) => o.serial === view.phone?.facts.serial)
      const run = owner && runs.find((r) => r.ticket_id === owner.ticket_id && r.state === 'running')
      const summary = owner && summaries.find((t) => t.number === owner.number)
      const hash = view.phone && hashes.get(view.phone.facts.serial)
      const seenToday = hash ? (past.findLast((row) => row.serial_hash.equals(hash))?.number ?? null) : null
      return { ...portOf(view, { owner, run, summary, offers: unnamed }), seenToday }
    }),
  }
  return { today, ready }
}

interface PortContext {
  readonly owner: { number: string; side: 'old' | 'new' } | undefined
  readonly run: RunRow | undefined
  readonly summary: TicketSummary | undefined
  readonly offers: readonly { ticket: string; side: 'old' | 'new'; maker: string; model: string }[]
}

function portOf(
  { port, station, phone, drawsPower }: BenchPort,
  { owner, run, summary, offers }: PortContext,
): Omit<TodayView['ports'][number], 'seenToday'> {
  const none = {
    batteryPercent: null,
    isCharging: false,
    temperatureC: null,
    freeBytes: null,
    hasWorkArea: false,
    ticket: null,
    side: null,
    touch: null,
    offers: [],
  }
  if (!phone) return { ...none, port, station, phone: null, state: drawsPower ? 'unseen' : 'free' }
  const { maker, model, platform, version, serial, batteryPercent, isCharging, temperatureC, freeBytes, hasWorkArea } = phone.facts
  const mine = summary && (owner!.side === 'old' ? summary.old : summary.new)
  const waits = mine ? !mine.isReady : phone.asks !== null
  const works = run && (run.type === 'carry' && owner!.side === 'new' ? 'taking' : 'giving')
  // a question on the screen comes first; else what the guide has the technician see to
  const touch = phone.asks
    ? { say: phone.asks.question, sinceMs: phone.asks.sinceMs }
    : mine && !mine.isReady && mine.next
      ? { say: mine.next, sinceMs: mine.waitsSinceMs ?? 0 }
      : null
  return {
    port,
    station,
    batteryPercent,
    isCharging,
    temperatureC,
    freeBytes,
    hasWorkArea,
    touch,
    phone: { maker, model, platform, version, serial },
    ticket: owner?.number ?? null,
    side: owner?.side ?? null,
    state: waits ? 'waits' : (works ?? 'ready'),
    offers: owner ? [] : offers.filter((o) => o.maker === maker && o.model === model).map(({ ticket, side }) => ({ ticket, side })),
  }
}
