import type { CauseView, NeedView, PhoneReady, PutBackView } from '#contracts/http/ready.ts'
import { crossingKinds, crossingOf, type Crossing } from '#core/phones/crossing.ts'
import type { PhoneGuide, Platform } from '#core/phones/guide-schema.ts'
import { computeNeeds, isReady, nextNeed, type NeedState, type Sight } from '#core/phones/needs.ts'
import type { Client } from '../base/db/sql.ts'
import type { BenchPort } from '../endpoints/ports.ts'
import { guideOf, type Guides } from './guides.ts'
import type { PhoneRow, TicketRow } from '../case/tickets.queries.ts'
import { manyMarks, manyPutBacks, manyReports, type MarkRow, type PutBackRow, type ReportRow } from './ready.queries.ts'
import type { TicketId } from '../base/ids.ts'

/** What the tables say of many tickets' phones, read once. */
export interface ReadyRows {
  readonly marks: readonly MarkRow[]
  readonly reports: readonly ReportRow[]
  readonly putBacks: readonly PutBackRow[]
}

export async function readReadyRows(client: Client, ticketIds: readonly TicketId[]): Promise<ReadyRows> {
  return {
    marks: await manyMarks(client, ticketIds),
    reports: await manyReports(client, ticketIds),
    putBacks: await manyPutBacks(client, ticketIds),
  }
}

export interface SideInput {
  readonly ticket: Pick<TicketRow, 'id' | 'wanted'>
  readonly phones: readonly PhoneRow[]
  readonly side: 'old' | 'new'
  readonly ports: readonly BenchPort[]
  readonly guides: Guides
  readonly rows: ReadyRows
}

/** One phone of a ticket: what it needs, how each need stands, and where it is. */
export interface SideReady {
  readonly phone: PhoneRow
  readonly guide: PhoneGuide
  readonly view: BenchPort | undefined
  readonly sight: Sight
  readonly unseenPorts: readonly number[]
  readonly kinds: readonly string[]
  readonly needs: readonly NeedState[]
  readonly isReady: boolean
  readonly next: NeedState | undefined
  readonly putBack: readonly PutBackView[]
}

export function pairCrossings(guides: Guides, phones: readonly PhoneRow[]): Crossing[] {
  const of = (side: 'old' | 'new') => {
    const phone = phones.find((p) => p.side === side)!
    return { guide: guideOf(guides, phone), platform: phone.platform }
  }
  return crossingOf(of('old'), of('new'))
}

export function readSide({ ticket, phones, side, ports, guides, rows }: SideInput): SideReady {
  const phone = phones.find((p) => p.side === side)!
  const other = phones.find((p) => p.side !== side)!
  const guide = guideOf(guides, phone)
  const view = phone.serial ? ports.find((port) => port.phone?.facts.serial === phone.serial) : undefined
  const kinds = crossingKinds(pairCrossings(guides, phones), ticket.wanted)
  const mine = <T extends { ticket_id: TicketId; side: string }>(list: readonly T[]) =>
    list.filter((row) => row.ticket_id === ticket.id && row.side === side)
  const unseenPorts = view?.phone ? [] : ports.flatMap(({ port, drawsPower, phone: seen }) => (drawsPower && !seen ? [port] : []))
  const sight: Sight = !view?.phone ? (unseenPorts.length > 0 ? 'unseen' : 'absent') : view.phone.speaks ? 'speaks' : 'silent'
  // what does not lie on the bench needs nothing of anybody
  const guideHere = phone.place === 'bench' ? guide : { ...guide, needs: [], causes: [] }
  const needs = computeNeeds({
    guide: guideHere,
    side,
    kinds,
    sight,
    marks: mine(rows.marks),
    platform: phone.platform as Platform,
    reported: view?.phone?.readiness ?? [],
    facts: view?.phone?.facts ?? null,
    other: { platform: other.platform, version: other.version },
  })
  return {
    phone,
    guide: guideHere,
    view,
    sight,
    unseenPorts,
    kinds,
    needs,
    isReady: phone.place !== 'bench' || isReady(needs),
    next: nextNeed(needs),
    putBack: putBackOf({
      guide: guideHere,
      reports: mine(rows.reports),
      marks: mine(rows.marks),
      done: mine(rows.putBacks),
      canReport: sight === 'speaks',
    }),
  }
}

interface PutBackInput {
  readonly guide: PhoneGuide
  readonly reports: readonly ReportRow[]
  readonly marks: readonly MarkRow[]
  readonly done: readonly PutBackRow[]
  readonly canReport: boolean
}

/** What was changed for the move, and whether it is as it was again. */
function putBackOf({ guide, reports, marks, done, canReport }: PutBackInput): PutBackView[] {
  return guide.needs.flatMap((need): PutBackView[] => {
    if (!need.putBack) return []
    const fact = reports.find((row) => row.code === need.code)
    const wasChanged =
      need.seenBy === 'phone'
        ? fact !== undefined && !fact.first_met && fact.changed_at !== null
        : marks.some((mark) => mark.code === need.code && mark.how === 'ticked')
    if (!wasChanged) return []
    const said = done.find((row) => row.code === need.code)
    const state = fact && fact.is_met === fact.first_met ? 'restored' : said ? said.how : 'open'
    return [
      { code: need.code, title: need.putBack.title, steps: need.putBack.steps, state, isTickable: need.seenBy === 'person' || !canReport },
    ]
  })
}

/** A side as the ticket's screen shows it. */
export function readyView(side: SideReady, rows: ReadyRows, ticketId: TicketId): PhoneReady {
  const since = (code: string) =>
    rows.reports
      .find((row) => row.ticket_id === ticketId && row.side === side.phone.side && row.code === code && !row.is_met)
      ?.since.getTime() ?? null
  const needs = side.needs.map(({ need, state, weight, reason }): NeedView => ({
    code: need.code,
    title: need.title,
    met: need.met,
    state,
    weight,
    reason,
    why: need.why ?? null,
    seenBy: need.seenBy,
    steps: need.steps,
    sinceMs: since(need.code),
  }))
  const causes = side.guide.causes.filter((cause) =>
    side.sight === 'silent' ? cause.when === 'silent' : side.sight !== 'speaks' && cause.when === 'unseen',
  )
  return {
    side: side.phone.side,
    sight: side.phone.place === 'bench' ? side.sight : 'speaks',
    unseenPorts: [...side.unseenPorts],
    isReady: side.isReady,
    next: side.next?.need.code ?? null,
    asks: side.view?.phone?.asks ?? null,
    needs,
    causes: causes.map(({ code, title, look, steps }): CauseView => ({ code, title, look, steps })),
    putBack: [...side.putBack],
    hasWorkArea: side.view?.phone?.facts.hasWorkArea ?? false,
  }
}
