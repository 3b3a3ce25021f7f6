import { faces } from '../kinds/faces.ts'
import { takesAsGiven, type SidePlatform } from './capability.ts'
import type { PhoneGuide } from './guide-schema.ts'
import { abilityIn } from './resolve-guide.ts'

export interface Crossing {
  readonly kind: string
  readonly crosses: 'whole' | 'changed' | 'cannot'
  /** Why it can't, by code. */
  readonly rule: string | null
  readonly changes: readonly { readonly code: string; readonly loss: boolean }[]
  readonly limits: Readonly<Record<string, number>>
}

/** What the guides say of a pair: what crosses whole, what is changed and how, what can't cross and why. */
export function crossingOf(
  old: { readonly guide: PhoneGuide; readonly platform: SidePlatform },
  now: { readonly guide: PhoneGuide; readonly platform: SidePlatform },
): Crossing[] {
  return faces.map(({ code: kind, acrossPlatforms }): Crossing => {
    const { read } = abilityIn(old.guide, kind)
    const { write, changes, limits } = abilityIn(now.guide, kind)
    const rule = read !== true ? read.cannot : write !== true ? write.cannot : null
    if (rule) return { kind, crosses: 'cannot', rule, changes: [], limits: {} }
    const all = acrossPlatforms && old.platform !== now.platform && !takesAsGiven(now) ? acrossPlatforms : changes
    return { kind, crosses: all.length > 0 || Object.keys(limits).length > 0 ? 'changed' : 'whole', rule: null, changes: all, limits }
  })
}

/** The wanted kinds that can cross at all: nothing is asked for the others. */
export function crossingKinds(crossings: readonly Crossing[], wanted: readonly string[]): string[] {
  return wanted.filter((kind) => crossings.some((c) => c.kind === kind && c.crosses !== 'cannot'))
}
