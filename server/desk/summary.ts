import type { PhoneOnTicket, TicketSummary, TicketView } from '#contracts/http/ticket.ts'
import { isOpenNeed } from '#core/phones/needs.ts'
import type { Services } from '../base/services.ts'
import type { KindRow, TicketRow } from '../case/tickets.queries.ts'
import { readSide, readyView, type ReadyRows, type SideInput, type SideReady } from '../ready/ready.ts'
import type { RunRow } from '../runs/runs.queries.ts'
import { openText, type TicketKeys } from '../vault/keys.ts'
import { runViewOf } from './carry/run-view.ts'
import { iso } from './iso.ts'
import { stageOf } from './stage.ts'
import { findKeys } from '../vault/holdings.ts'
import type { TicketId } from '../base/ids.ts'

interface Customer {
  readonly name: string
  readonly phone: string
  readonly note: string
}

export function openCustomer({ config }: Pick<Services, 'config'>, ticket: TicketRow): Customer | null {
  return customerBy(findKeys(config, ticket.holding), ticket)
}

function customerBy(keys: TicketKeys | null, { customer }: TicketRow): Customer | null {
  return keys && customer ? (JSON.parse(openText(keys, 'customer', customer)) as Customer) : null
}

/** “Ines H.”: the screen faces a queue. */
export function shortName(name: string): string {
  const [first = '', ...rest] = name.trim().split(/\s+/)
  const last = rest.at(-1)
  return last ? `${first} ${[...last][0]!.toUpperCase()}.` : first
}

export interface SummaryInput {
  readonly ticket: TicketRow
  readonly kinds: readonly KindRow[]
  readonly sides: Sides
  readonly ledger: TicketSummary['ledger']
  readonly run: RunRow | null
  readonly rows: ReadyRows
  /** The last note, sealed. */
  readonly note: Buffer | undefined
}

/** How both phones stand. */
export interface Sides {
  readonly old: SideReady
  readonly new: SideReady
}

/** How both phones of a ticket stand, from the ports and the tables. */
export function sidesOf(input: Omit<SideInput, 'side'>): Sides {
  return { old: readSide({ ...input, side: 'old' }), new: readSide({ ...input, side: 'new' }) }
}

export function readyViews(sides: Sides, rows: ReadyRows, ticketId: TicketId): TicketView['ready'] {
  return { old: readyView(sides.old, rows, ticketId), new: readyView(sides.new, rows, ticketId) }
}

/** A ticket in a line: whom it is for, where it stands, its ledger. */
export function summaryOf(services: Services, { ticket, kinds, sides, ledger, run, rows, note }: SummaryInput): TicketSummary {
  const phones = { old: phoneViewOf(sides.old, rows), new: phoneViewOf(sides.new, rows) }
  const keys = findKeys(services.config, ticket.holding)
  const customer = customerBy(keys, ticket)
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
    signedAt: iso(ticket.signed_at),
    erasedAt: iso(ticket.erased_at),
    restingAt: iso(ticket.resting_at),
    heldBy: ticket.held_by_name,
    isLook: ticket.purpose === 'look',
    straight: ticket.straight && {
      since: ticket.straight.since,
      by: ticket.straight.by,
      stop: ticket.straight_stop && { code: ticket.straight_stop.code, of: [...ticket.straight_stop.of] },
    },
    lastNote: note && keys ? openText(keys, 'note', note) : null,
    calledOff: ticket.called_off_at && {
      at: ticket.called_off_at.toISOString(),
      why: keys && ticket.called_off_why ? openText(keys, 'called-off', ticket.called_off_why) : null,
    },
  }
}

function phoneViewOf({ phone, view, needs, isReady, next }: SideReady, rows: ReadyRows): PhoneOnTicket {
  const { side, place, maker, model, platform, version, serial, copy, archive } = phone
  const base = { side, place, maker, model, platform, version, serial, copy, archive }
  const open = { port: null, station: null, waitsSinceMs: null, batteryPercent: null, freeBytes: null, next: null, unmet: [] }
  if (place !== 'bench') return { ...base, ...open, isReady: true }
  if (!view?.phone) return { ...base, ...open, isReady: false, unmet: [serial ? 'plugged' : 'named'], next: serial ? 'plugged' : 'named' }
  const unmet = needs.filter((need) => need.weight === 'must' && isOpenNeed(need)).map(({ need }) => need.code)
  const since =
    rows.reports
      .find((row) => row.ticket_id === phone.ticket_id && row.side === side && row.code === next?.need.code && !row.is_met)
      ?.since.getTime() ?? null
  return {
    ...base,
    port: view.port,
    station: view.station,
    isReady,
    unmet,
    next: isReady ? null : (next?.need.title ?? null),
    waitsSinceMs: since,
    batteryPercent: view.phone.facts.batteryPercent,
    freeBytes: view.phone.facts.freeBytes,
  }
}
