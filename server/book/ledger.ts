import type { Figure, LedgerRow } from '#contracts/http/ledger.ts'
import {
  noFates,
  noOrigins,
  overOf,
  shortOf,
  verdictOf,
  type Departure,
  type Fate,
  type LedgerFigures,
  type Origin,
} from '#core/book/index.ts'
import type { Client } from '../base/db/sql.ts'
import type { RunRow } from '../runs/runs.queries.ts'
import type { KindRow, TicketRow } from '../case/tickets.queries.ts'
import { manyFateCounts, manyLedgerReadings, type LedgerReading } from './ledger.queries.ts'
import type { TicketId } from '../base/ids.ts'

export interface LedgerInput {
  readonly tickets: readonly TicketRow[]
  readonly kinds: readonly KindRow[]
  readonly runs: readonly RunRow[]
}

/**
 * The ledgers of many tickets, each row by its kind, from one look at the tables, so that its sums close while work
 * goes on. An erased ticket's is the one that was kept.
 */
export async function readLedgers(client: Client, { tickets, kinds, runs }: LedgerInput): Promise<Map<number, LedgerRow[]>> {
  const ids = tickets.filter((ticket) => !ticket.erased_at).map((ticket) => ticket.id)
  const fateCounts = await manyFateCounts(client, ids)
  const readings = await manyLedgerReadings(client, ids)
  const of = <T extends { ticket_id: TicketId; kind: string }>(rows: readonly T[], kind: KindRow) =>
    rows.filter((row) => row.ticket_id === kind.ticket_id && row.kind === kind.kind)
  return new Map(
    tickets.map((ticket) => {
      if (ticket.erased_at) return [ticket.id, ticket.final_ledger as LedgerRow[]]
      const isRunning = runs.some((run) => run.ticket_id === ticket.id && run.state !== 'paused' && run.state !== 'held')
      const rows = kinds
        .filter((kind) => kind.ticket_id === ticket.id)
        .map((kind) =>
          ledgerRowOf({ kind, isRunning, isLook: ticket.purpose === 'look', fates: of(fateCounts, kind), readings: of(readings, kind) }),
        )
      return [ticket.id, rows]
    }),
  )
}

interface KindCounts {
  readonly kind: KindRow
  readonly isRunning: boolean
  readonly isLook: boolean
  readonly fates: Awaited<ReturnType<typeof manyFateCounts>>
  readonly readings: readonly LedgerReading[]
}

function ledgerRowOf({ kind, isRunning, isLook, fates: fateRows, readings }: KindCounts): LedgerRow {
  const at = (id: number | null) => (id === null ? undefined : readings.find((r) => r.id === id))
  const growing = (side: 'old' | 'new') => readings.find((r) => r.place === side && r.purpose === 'first' && r.state === 'open')
  const old = at(kind.old_reading)
  const first = at(kind.first_reading)
  const isChecked = kind.checked_writes !== null && kind.checked_writes === kind.writes
  const last = isChecked ? at(kind.last_reading) : undefined

  const fates = noFates()
  let late = 0
  let withLoss = 0
  // written as one record with theirs, which goes
  let inPlace = 0
  let byHand = 0
  for (const row of fateRows) {
    fates[row.fate as Fate] += row.n
    late += row.late
    withLoss += row.with_loss
    inPlace += row.in_place_of_theirs
    byHand += row.by_hand
  }
  // while it is read, what was read so far waits, and the sums close all the same
  const reading = old ? undefined : growing('old')
  if (reading) {
    fates.pending = reading.got - reading.unreadable
    fates.unreadable = reading.unreadable
  }
  const now = noOrigins()
  if (isChecked) for (const [origin, n] of Object.entries(kind.origins)) if (origin in now) now[origin as Origin | Departure] += n
  const parts = isChecked ? (kind.origins.part ?? 0) : 0
  const entries = Object.values(fates).reduce((sum, n) => sum + n, 0)
  const figures: LedgerFigures = {
    old: { read: old ? entries - late : 0, late, bytes: old?.bytes ?? 0, own: old?.counted ?? null, derived: old?.derived ?? 0 },
    fates,
    new: {
      ...now,
      first: first?.got ?? null,
      last: last ? last.got - parts : null,
      own: last?.counted ?? null,
      parts,
      derived: last?.derived ?? 0,
    },
    changedWithLoss: withLoss,
    twins: isChecked ? (kind.origins.twin ?? 0) : 0,
    isRunning,
    isChecked,
    isRecounted: kind.recounted_at !== null && isChecked,
    acceptedBy: null,
  }
  const short = shortOf(figures)
  const over = overOf(figures)
  // an acceptance holds for the difference it was given for, and for no other
  const isAccepted = kind.accepted_at !== null && kind.accepted_short === short && kind.accepted_over === over
  const taken = fates.carried + fates.changed
  return {
    kind: kind.kind,
    old: {
      ...figures.old,
      read: old ? figures.old.read : (reading?.got ?? 0),
      counting: reading?.counted ? reading.counted - reading.derived : null,
    },
    fates,
    new: {
      ...figures.new,
      // of two that are compared nothing is checked: what one alone holds, and what was changed, is counted all the same
      ...(isLook ? { altered: kind.origins.altered ?? 0, cameOtherwise: kind.origins.cameOtherwise ?? 0 } : {}),
      first: first ? figures.new.first : (growing('new')?.got ?? null),
      twins: figures.twins,
      // what the new phone took is expected on it, found again or not
      expected: first ? first.got + taken + fates.lost + fates.editedThere + fates.pushedOut - inPlace : null,
    },
    toCarry: 0,
    toChange: 0,
    toInstall: byHand,
    changedWithLoss: withLoss,
    notYetChecked: first && !isChecked ? taken : 0,
    short,
    over,
    verdict: verdictOf({ ...figures, acceptedBy: isAccepted ? 'customer' : null }),
    agreesButInstall: byHand > 0 && agreesWithout(figures, byHand),
    also: [...figuresOf('old', old), ...figuresOf('first', first), ...figuresOf('last', last)],
  }
}

/** All else agrees when what waits to be installed by hand is set aside. */
function agreesWithout(figures: LedgerFigures, toInstall: number): boolean {
  const { fates } = figures
  const settled = { ...fates, pending: fates.pending - toInstall, notChosen: fates.notChosen + toInstall }
  return verdictOf({ ...figures, fates: settled }).startsWith('agrees')
}

/** What the sum of a shape opens to. */
const facetOfSum: Readonly<Record<string, string>> = {
  attachments: 'message-attachments',
  occurrences: 'event-occurs',
  files: 'photo-files',
  fileBytes: 'photo-files',
  tied: 'app-tied',
}

/** Second figures of a reading: what it counts beside its items, groups, sums of shapes, what its own screen shows. */
function figuresOf(side: Figure['side'], reading: LedgerReading | undefined): Figure[] {
  if (!reading) return []
  const { derived_of: derived, figures, also } = reading
  const all = (of: Record<string, number>, code: Figure['code'], opens: (name: string) => Figure['opens']): Figure[] =>
    Object.entries(of).map(([name, n]) => ({ code, of: name, side, n, opens: opens(name) }))
  return [
    ...all(derived, 'derived', (name) => (name === 'clipsApart' ? { as: 'facet', name: 'photo-moving' } : { as: 'own', name: null })),
    ...all(figures.groups === undefined ? {} : { groups: figures.groups }, 'groups', () => ({ as: 'groups', name: null })),
    ...all(figures.sums ?? {}, 'sum', (name) => (Object.hasOwn(facetOfSum, name) ? { as: 'facet', name: facetOfSum[name]! } : null)),
    ...all(also, 'shows', () => null),
  ]
}
