import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'

export interface NoteLine {
  readonly kind: string
  readonly opens: EntryFilter
  /** The reason its items share; none where the count itself says it. */
  readonly code: string
  readonly n: number
  readonly weight: 'difference' | 'stayed' | 'changed'
}

/** What a verdict counts against a kind: what is short, and what is over. */
const differences = ['lost', 'missing', 'leftBehind', 'double'] as const
const unsaid: readonly string[] = ['pending', 'notChosen', 'alreadyThere']
const changed: readonly string[] = ['changed', 'merged']
const weights: readonly NoteLine['weight'][] = ['difference', 'stayed', 'changed']

/** Every difference and every note of every kind: what is short or over first, then what stayed, then what changed; the largest before. */
export function worstFirst(ledger: readonly LedgerRow[], reasons: TicketView['reasons']): readonly NoteLine[] {
  const counted = ledger.flatMap(({ kind, fates, new: now }) =>
    differences.map((opens): NoteLine => ({ kind, opens, code: '', n: opens === 'lost' ? fates.lost : now[opens], weight: 'difference' })),
  )
  const noted = reasons
    // those that are lost stand above, as one count
    .filter(({ fate }) => !unsaid.includes(fate) && fate !== 'lost')
    .map(({ kind, fate, code, items }): NoteLine => {
      return { kind, opens: fate as EntryFilter, code, n: items, weight: changed.includes(fate) ? 'changed' : 'stayed' }
    })
  return [...counted, ...noted].filter(({ n }) => n > 0).sort((a, b) => weights.indexOf(a.weight) - weights.indexOf(b.weight) || b.n - a.n)
}
