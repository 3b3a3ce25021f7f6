/** What was agreed when a ticket was set to run straight through: a forecast within it counts as seen. */
export interface StraightLimits {
  /** Codes of changes and rules that were foretold, by kind. */
  readonly foretold: Readonly<Record<string, readonly string[]>>
  /** What else somebody has said yes to. */
  readonly agreed: readonly AgreedCode[]
}
export type AgreedCode = 'roles' | 'people-on-both' | 'after-promise'

/** What is known once both phones are read. */
export interface StraightFacts {
  readonly looksExchanged: boolean
  readonly fits: boolean
  readonly kinds: readonly {
    readonly kind: string
    /** Changes with a loss, and rules by which items can't cross. */
    readonly losses: readonly { readonly code: string; readonly items: number }[]
    /** People on both phones of whom nobody said what becomes of them. */
    readonly onBoth: number
  }[]
  /** When it is over at the latest, in milliseconds since 1970. */
  readonly overMs: number
  /** It is promised by then; null when no time stands against it. */
  readonly byMs: number | null
}

export const stopCodes = ['roles', 'does-not-fit', 'people-on-both', 'loss-not-foretold', 'after-promise'] as const
export interface StraightStop {
  readonly code: (typeof stopCodes)[number]
  /** Each with how many items are behind it; an item may be behind several. `code` is empty for people on both phones. */
  readonly of: readonly { readonly kind: string; readonly code: string; readonly items: number }[]
}

/** What somebody must decide before it goes on, the gravest first; undefined when all is within what was agreed. */
export function stopOf(limits: StraightLimits, facts: StraightFacts): StraightStop | undefined {
  const plain = (code: StraightStop['code']): StraightStop => ({ code, of: [] })
  if (facts.looksExchanged && !limits.agreed.includes('roles')) return plain('roles')
  if (!facts.fits) return plain('does-not-fit')
  const both = facts.kinds.filter(({ onBoth }) => onBoth > 0)
  if (both.length > 0 && !limits.agreed.includes('people-on-both'))
    return { code: 'people-on-both', of: both.map(({ kind, onBoth }) => ({ kind, code: '', items: onBoth })) }
  const unforetold = facts.kinds.flatMap(({ kind, losses }) =>
    losses.filter(({ code }) => !limits.foretold[kind]?.includes(code)).map(({ code, items }) => ({ kind, code, items })),
  )
  if (unforetold.length > 0) return { code: 'loss-not-foretold', of: unforetold }
  if (facts.byMs !== null && facts.overMs > facts.byMs && !limits.agreed.includes('after-promise')) return plain('after-promise')
  return undefined
}

/** What was agreed, and with it what it stopped for: a yes to that. */
export function agreeTo(limits: StraightLimits, stop: StraightStop): StraightLimits {
  if (stop.code === 'does-not-fit') return limits
  if (stop.code !== 'loss-not-foretold') return { ...limits, agreed: [...new Set([...limits.agreed, stop.code])] }
  const foretold = { ...limits.foretold }
  for (const { kind, code } of stop.of) foretold[kind] = [...new Set([...(foretold[kind] ?? []), code])]
  return { ...limits, foretold }
}
