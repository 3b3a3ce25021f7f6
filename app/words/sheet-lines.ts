import type { SheetView, TicketView } from '#contracts/http/ticket.ts'
import { isLeftOut } from '#core/book/index.ts'
import { itemsAndReasons, number, reason } from './say.ts'
import { words } from './words.ts'

type Reason = TicketView['reasons'][number]

export interface ReasonSection {
  readonly head: string
  readonly groups: readonly { readonly kind: string; readonly sums: string; readonly reasons: readonly Reason[] }[]
  /** Whether each line says what became of its items. */
  readonly saysFate: boolean
  /** What is said where there is no line. */
  readonly none: string
}

const changedFates: readonly string[] = ['changed', 'merged']
const stayedFates: readonly string[] = ['cannotCross', 'refused', 'unreadable', 'lost', 'pending', 'gone', 'undone', 'pushedOut']

/** What an item that still waits would change on its way is no reason why it waits. */
function reasonsWhy({ forecasts, reasons }: TicketView): TicketView['reasons'] {
  const changes = new Set(forecasts.flatMap((forecast) => forecast.changes.map(({ code }) => `${forecast.kind} ${code}`)))
  return reasons.filter(({ kind, fate, code }) => fate !== 'pending' || !changes.has(`${kind} ${code}`))
}

/** “4 items, 5 reasons”: an item with several reasons stands under each. Empty where the lines add up to the items. */
function sumsOf({ ledger }: TicketView, reasons: TicketView['reasons'], kind: string, fates: readonly string[]): string {
  const row = ledger.find((one) => one.kind === kind)
  const items = fates.reduce((sum, fate) => sum + (row?.fates[fate as keyof typeof row.fates] ?? 0), 0)
  const named = reasons.filter((r) => r.kind === kind && fates.includes(r.fate)).reduce((sum, r) => sum + r.items, 0)
  return itemsAndReasons(items, named)
}

/** What changed on the way, and what did not come over: by kind, so that equal reasons of two kinds are told apart. */
export function reasonSections({ ticket, isErased, signed }: SheetView): readonly ReasonSection[] {
  const why = reasonsWhy(ticket)
  const byKind = (fates: readonly string[]) =>
    ticket.kinds
      .map((kind) => ({
        kind,
        sums: sumsOf(ticket, why, kind, fates),
        reasons: why.filter((r) => r.kind === kind && fates.includes(r.fate)),
      }))
      .filter(({ reasons }) => reasons.length > 0)
  // erased, and signed before sheets were kept: only the counts remain
  const lost = isErased && !signed ? 'The reasons were erased with the data; the counts above remain.' : undefined
  return [
    { head: 'What changed on the way', groups: byKind(changedFates), saysFate: false, none: lost ?? 'Nothing.' },
    {
      head: 'What did not come over, and why',
      groups: byKind(stayedFates),
      saysFate: true,
      none: lost ?? 'Everything chosen came over.',
    },
  ]
}

/** What the new phone holds more than it should, or holds otherwise: named, though all else agrees. */
export function moreThanExpected({ ticket }: SheetView): readonly { readonly kind: string; readonly n: number; readonly filter: string }[] {
  return ticket.ledger.flatMap(({ kind, new: now }) =>
    (['double', 'leftBehind', 'cameOtherwise', 'editedThere'] as const)
      .filter((what) => now[what] > 0)
      .map((what) => ({ kind, n: now[what], filter: what === 'editedThere' ? 'editedNow' : what })),
  )
}

/** What is no row of the table, or was left by choice. */
export function leftAndByHand({ ticket }: SheetView): readonly string[] {
  return [
    ...ticket.ledger
      .filter(({ fates }) => fates.notChosen > 0)
      .flatMap((row) => {
        const byDefault = ticket.reasons.filter(({ kind, fate }) => kind === row.kind && fate === 'notChosen')
        const chosen = row.fates.notChosen - byDefault.reduce((sum, { items }) => sum + items, 0)
        const name = words.kinds[row.kind]
        if (isLeftOut(row) && byDefault.length === 0)
          return [`${name}: left on the old phone as a whole, by choice (${number(row.fates.notChosen)})`]
        return [
          ...(chosen > 0 ? [`${name}: ${number(chosen)} left on the old phone by choice`] : []),
          // nobody chose that
          ...byDefault.map(({ code, items }) => `${name}: ${number(items)} left, ${reason(code)}`),
        ]
      }),
    ...ticket.byHand.filter((kind) => !(kind in ticket.cannot)).map((kind) => `${words.kinds[kind]}: carried by hand, not counted here`),
    ...Object.entries(ticket.cannot)
      .filter(([kind]) => !ticket.kinds.includes(kind))
      .map(([kind, rule]) => `${words.kinds[kind]}: can’t cross, ${reason(rule)}`),
  ]
}

/** Points that stand open: differences nobody accepted, and a phone that was not there any more for a last look. */
export function openPoints({ ticket, isErased, signed }: SheetView): readonly string[] {
  const accepted = new Set(ticket.accepted.map(({ kind }) => kind))
  return [
    ...ticket.ledger
      .filter(({ kind, verdict }) => verdict === 'differs' && !accepted.has(kind))
      .map(({ kind, short, over }) => {
        const what = [short > 0 ? `${number(short)} short` : '', over > 0 ? `${number(over)} over` : ''].filter(Boolean).join(', ')
        return `${words.kinds[kind]}: ${what || 'the phone’s own count is not met'}, accepted by nobody`
      }),
    // what was kept at signing says where the phones were then
    ...(isErased && !signed ? [] : [ticket.old, ticket.new])
      .filter(({ place, port }) => place === 'bench' && port === null)
      .map(({ side, model }) => `The ${side} ${model} was not plugged in any more: what changed on it since it was read last is not known`),
  ]
}
