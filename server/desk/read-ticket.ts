import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { PhoneOnTicket, ReadingView, RunView, TicketSummary, TicketView, TodayView, ForecastView } from '#contracts/http/ticket.ts'
import type { PortView } from '#contracts/link/index.ts'
import { kinds as registered } from '#core/kinds/registry.ts'
import { timeLeft } from '#core/book/forecast.ts'
import { isOpenNeed } from '#core/phones/needs.ts'
import { looksExchanged } from '#core/plan/guards.ts'
import { readBench } from '../endpoints/ports.ts'
import { manyNotes } from './course.ts'
import { snapshot, type Client } from '../base/db/sql.ts'
import { readGuides } from '../ready/guides.ts'
import { Problem } from '../base/problem.ts'
import { readLedgers } from '../book/ledger.ts'
import { countTied } from '../book/entries/apps.queries.ts'
import { readLineParts } from './carry/line-parts.ts'
import { readMediaPlan } from './choose/media-plan.ts'
import { manyReasons } from '../book/plan/plan.queries.ts'
import { countLeftBehind } from '../book/batches/batches.queries.ts'
import { readForecasts } from './choose/forecast.ts'
import { pairCrossings, readReadyRows, readSide, readyView, type ReadyRows, type SideInput, type SideReady } from '../ready/ready.ts'
import { maybeNewestReading } from '../vault/readings.queries.ts'
import { manyActiveRuns, maybeActiveRun, maybeLastRun, type RunRow } from '../runs/runs.queries.ts'
import { openText, ticketKeys } from '../vault/keys.ts'
import type { Services } from '../base/services.ts'
import { maybeShowing } from '../vault/showing.queries.ts'
import { mayHandOver, stageOf } from './stage.ts'
import {
  manyKinds,
  manyPhones,
  manyTickets,
  manyTicketsOfSerials,
  manyUnnamed,
  maybeTicket,
  type KindRow,
  type TicketRow,
} from '../case/tickets.queries.ts'

interface Customer {
  readonly name: string
  readonly phone: string
  readonly note: string
}

export function openCustomer({ config }: Services, ticket: TicketRow): Customer | null {
  if (!ticket.key_wrapped || !ticket.customer) return null
  return JSON.parse(openText(ticketKeys(config.masterKey, ticket.key_wrapped), 'customer', ticket.customer)) as Customer
}

/** “Ines H.”: the screen faces a queue. */
export function shortName(name: string): string {
  const [first = '', ...rest] = name.trim().split(/\s+/)
  const last = rest.at(-1)
  return last ? `${first} ${[...last][0]!.toUpperCase()}.` : first
}

/** Everything the ticket's screen shows, from one look at the tables. @throws Problem `TicketNotFound` */
export async function readTicket(services: Services, number: string, staffId: number): Promise<TicketView> {
  const { ports } = await readBench(services)
  return snapshot(services.pool, async (client) => {
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    const kinds = await manyKinds(client, [ticket.id])
    const phones = await manyPhones(client, [ticket.id])
    const run = (await maybeActiveRun(client, ticket.id)) ?? null
    const lastRun = (await maybeLastRun(client, ticket.id)) ?? null
    const ledger = (await readLedgers(client, { tickets: [ticket], kinds, runs: run ? [run] : [] })).get(ticket.id)!
    const guides = readGuides(services)
    const rows = await readReadyRows(client, [ticket.id])
    const sides = sidesOf({ ticket, phones, ports, guides, rows })
    const summary = summaryOf(services, { ticket, kinds, sides, ledger, run, rows })
    const crossings = pairCrossings(guides, phones)
    const keys = ticket.key_wrapped ? ticketKeys(services.config.masterKey, ticket.key_wrapped) : null
    const showing = await maybeShowing(client, ticket.id, staffId)
    const forecasts = ticket.erased_at ? [] : await readForecasts(client, kinds)
    const [oldItems, newItems] = [
      ledger.reduce((sum, row) => sum + row.old.read, 0),
      ledger.reduce((sum, row) => sum + (row.new.first ?? 0), 0),
    ]
    const plan =
      forecasts.length === kinds.length && forecasts.length > 0
        ? await readMediaPlan(client, kinds, {
            forecasts,
            phones: { old: sides.old.view?.phone?.facts ?? null, new: sides.new.view?.phone?.facts ?? null },
          })
        : null
    for (const forecast of forecasts)
      addForecast(
        ledger.find((r) => r.kind === forecast.kind)!,
        forecast,
      )
    const { exchange_answered_at: answered, roles_frozen_at: frozen } = ticket
    return {
      ...summary,
      stageNotes: {},
      bookedBy: ticket.booked_by_name,
      kinds: kinds.map((kind) => kind.kind),
      byHand: ticket.wanted.filter((kind) => !registered.some((k) => k.code === kind)),
      cannot: Object.fromEntries(crossings.flatMap(({ kind, rule }) => (rule && ticket.wanted.includes(kind) ? [[kind, rule]] : []))),
      ready: readyViews(sides, rows, ticket.id),
      notes: await manyNotes(client, ticket.id, keys),
      intake: ticket.intake,
      areRolesFrozen: frozen !== null,
      needsExchangeAnswer: !frozen && !answered && ledger.every((row) => row.new.first !== null) && looksExchanged(oldItems, newItems),
      readings: ticket.erased_at ? [] : await readingsOf(client, ticket, kinds),
      lastRun: lastRun && runViewOf(lastRun),
      parts: run?.type === 'carry' ? await readLineParts(client, { kinds, first: ticket.first_kind, run: runViewOf(run), plan }) : [],
      plan,
      firstKind: ticket.first_kind,
      tied: ticket.erased_at ? { all: 0, open: 0 } : await countTied(client, ticket.id),
      forecasts,
      reasons: ticket.erased_at ? [] : await reasonsOf(client, kinds),
      mayHandOver: mayHandOver(ledger),
      signedAt: iso(ticket.signed_at),
      isSignedOpen: ticket.signed_open,
      leftBehind: ticket.erased_at ? [] : await leftBehindOf(client, kinds),
      signedBy: keys && ticket.signed_by ? openText(keys, 'signed', ticket.signed_by) : null,
      handedBackAt: iso(ticket.handed_back_at),
      erasedAt: iso(ticket.erased_at),
      accepted: kinds.flatMap((kind) =>
        kind.accepted_at && kind.accepted_by && keys
          ? [
              {
                kind: kind.kind,
                by: openText(keys, 'accepted', kind.accepted_by),
                short: kind.accepted_short!,
                over: kind.accepted_over!,
                at: kind.accepted_at.toISOString(),
              },
            ]
          : [],
      ),
      showingUntil: iso(showing?.until_at ?? null),
    }
  })
}

/** The bench, what waits for a finger, and the tickets by promise. */
export async function readToday(services: Services): Promise<TodayView> {
  const bench = await readBench(services)
  return snapshot(services.pool, async (client) => (await readTodayFrom(client, services, bench)).today)
}

/** The same, from a look at the ports that was taken already; beside it how each ticket's phones stand, by its number. */
export async function readTodayFrom(
  client: Client,
  services: Services,
  { ports, isSeen }: { ports: readonly PortView[]; isSeen: boolean },
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
  const owners = await manyTicketsOfSerials(
    client,
    ports.flatMap(({ phone }) => (phone ? [phone.facts.serial] : [])),
  )
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
    })
  })
  const today: TodayView = {
    isBenchSeen: isSeen,
    tickets: summaries,
    ports: ports.map((view): TodayView['ports'][number] => {
      const owner = owners.find((o) => o.serial === view.phone?.facts.serial)
      const run = owner && runs.find((r) => r.ticket_id === owner.ticket_id && r.state === 'running')
      const summary = owner && summaries.find((t) => t.number === owner.number)
      return portOf(view, { owner, run, summary, offers: unnamed })
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

function portOf({ port, phone, drawsPower }: PortView, { owner, run, summary, offers }: PortContext): TodayView['ports'][number] {
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
  if (!phone) return { ...none, port, phone: null, state: drawsPower ? 'unseen' : 'free' }
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

/** What the new phone will hold is its first count, what is over, and what is still to come. */
function addForecast(row: LedgerRow, { counts }: ForecastView): void {
  if (row.new.expected === null) return
  row.toCarry = counts.carried
  // what a hand installs is named apart
  row.toChange = Math.max(0, counts.changed - row.toInstall)
  row.new.expected += counts.carried + counts.changed
}

interface SummaryInput {
  readonly ticket: TicketRow
  readonly kinds: readonly KindRow[]
  readonly sides: Sides
  readonly ledger: TicketSummary['ledger']
  readonly run: RunRow | null
  readonly rows: ReadyRows
}

interface Sides {
  readonly old: SideReady
  readonly new: SideReady
}

function sidesOf(input: Omit<SideInput, 'side'>): Sides {
  return { old: readSide({ ...input, side: 'old' }), new: readSide({ ...input, side: 'new' }) }
}

function readyViews(sides: Sides, rows: ReadyRows, ticketId: number): TicketView['ready'] {
  return { old: readyView(sides.old, rows, ticketId), new: readyView(sides.new, rows, ticketId) }
}

function summaryOf(services: Services, { ticket, kinds, sides, ledger, run, rows }: SummaryInput): TicketSummary {
  const phones = { old: phoneViewOf(sides.old, rows), new: phoneViewOf(sides.new, rows) }
  const customer = openCustomer(services, ticket)
  return {
    number: ticket.number,
    customer: customer && shortName(customer.name),
    stage: stageOf({ ticket, kinds, phones: [phones.old, phones.new], ledger, run }),
    promisedAt: ticket.promised_at.toISOString(),
    waitsInShop: ticket.waits_in_shop,
    ...phones,
    ledger,
    run: run && runViewOf(run),
    handedBackAt: iso(ticket.handed_back_at),
    erasedAt: iso(ticket.erased_at),
    restingAt: iso(ticket.resting_at),
    heldBy: ticket.held_by_name,
    calledOff: ticket.called_off_at && {
      at: ticket.called_off_at.toISOString(),
      why:
        ticket.key_wrapped && ticket.called_off_why
          ? openText(ticketKeys(services.config.masterKey, ticket.key_wrapped), 'called-off', ticket.called_off_why)
          : null,
    },
  }
}

function phoneViewOf({ phone, view, needs, isReady, next }: SideReady, rows: ReadyRows): PhoneOnTicket {
  const { side, link, maker, model, platform, version, serial } = phone
  const base = { side, link, maker, model, platform, version, serial }
  const open = { waitsSinceMs: null, batteryPercent: null, freeBytes: null, next: null, unmet: [] }
  if (link === 'file') return { ...base, ...open, port: null, isReady: true }
  if (!view?.phone)
    return { ...base, ...open, port: null, isReady: false, unmet: [serial ? 'plugged' : 'named'], next: serial ? 'plugged' : 'named' }
  const unmet = needs.filter((need) => need.weight === 'must' && isOpenNeed(need)).map(({ need }) => need.code)
  const since =
    rows.seen
      .find((row) => row.ticket_id === phone.ticket_id && row.side === side && row.code === next?.need.code && !row.is_met)
      ?.since.getTime() ?? null
  return {
    ...base,
    port: view.port,
    isReady,
    unmet,
    next: isReady ? null : (next?.need.title ?? null),
    waitsSinceMs: since,
    batteryPercent: view.phone.facts.batteryPercent,
    freeBytes: view.phone.facts.freeBytes,
  }
}

export function runViewOf(run: RunRow): RunView {
  const elapsedS = run.step_since ? (Date.now() - run.step_since.getTime()) / 1000 : 0
  const doneNow = Math.max(0, run.done - run.step_from)
  const isCounting = run.state === 'running' && ['carrying', 'counting', 'reading', 'recounting'].includes(run.step)
  const left = isCounting ? timeLeft(doneNow, run.total - run.step_from, elapsedS) : undefined
  return {
    id: String(run.id),
    type: run.type,
    state: run.state,
    reason: run.reason,
    side: run.side,
    done: run.done,
    total: run.total,
    unit: run.unit,
    kind: run.kind,
    step: run.step,
    startedAt: run.started_at.toISOString(),
    endedAt: iso(run.ended_at),
    leftLowS: left?.lowS ?? null,
    leftHighS: left?.highS ?? null,
    perSecond: isCounting && elapsedS > 0.5 && doneNow > 0 ? Math.round((doneNow / elapsedS) * 10) / 10 : null,
  }
}

async function leftBehindOf(client: Client, kinds: readonly KindRow[]): Promise<TicketView['leftBehind']> {
  const out: TicketView['leftBehind'] = []
  for (const { ticket_id: ticketId, kind, origins } of kinds) {
    if (!origins.leftBehind) continue
    const { as_written: asWritten, changed } = await countLeftBehind(client, { ticketId, kind })
    out.push({ kind, asWritten, changed })
  }
  return out
}

async function reasonsOf(client: Client, kinds: readonly KindRow[]): Promise<TicketView['reasons']> {
  const out: TicketView['reasons'] = []
  for (const { ticket_id: ticketId, kind } of kinds) {
    for (const { fate, code, items } of await manyReasons(client, { ticketId, kind })) out.push({ kind, fate, code, items })
  }
  return out
}

async function readingsOf(client: Client, ticket: TicketRow, kinds: readonly KindRow[]): Promise<ReadingView[]> {
  const out: ReadingView[] = []
  for (const { kind } of kinds) {
    for (const side of ['old', 'new'] as const) {
      for (const purpose of ['first', 'recount', 'last'] as const) {
        const r = await maybeNewestReading(client, ticket.id, { side, kind, purpose })
        if (r)
          out.push({
            side,
            kind,
            purpose,
            state: r.state,
            got: r.got,
            counted: r.counted === null ? null : r.counted - r.derived,
            unreadable: r.unreadable,
          })
      }
    }
  }
  return out
}

function iso(date: Date | null): string | null {
  return date ? date.toISOString() : null
}
