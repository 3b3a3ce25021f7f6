import { guideKinds, type GuideKind, type PhoneGuide } from './guide-schema.ts'

export interface Crossing {
  readonly kind: GuideKind
  readonly crosses: 'whole' | 'changed' | 'cannot'
  /** Why it can't, by code. */
  readonly rule: string | null
  readonly changes: readonly { readonly code: string; readonly loss: boolean }[]
  readonly limits: Readonly<Record<string, number>>
}

/** What the guides say of a pair: what crosses whole, what is changed and how, what can't cross and why. */
export function crossingOf(
  old: { readonly guide: PhoneGuide; readonly platform: string },
  now: { readonly guide: PhoneGuide; readonly platform: string },
): Crossing[] {
  return guideKinds.map((kind): Crossing => {
    const { read } = old.guide.kinds[kind]
    const { write, changes, limits } = now.guide.kinds[kind]
    const rule = read !== true ? read.cannot : write !== true ? write.cannot : null
    if (rule) return { kind, crosses: 'cannot', rule, changes: [], limits: {} }
    // no app crosses to another platform: its counterpart is installed there by hand, and begins empty
    const all = kind === 'apps' && old.platform !== now.platform ? [{ code: 'counterparts-only', loss: true }] : changes
    return { kind, crosses: all.length > 0 || Object.keys(limits).length > 0 ? 'changed' : 'whole', rule: null, changes: all, limits }
  })
}

/** The wanted kinds that can cross at all: nothing is asked for the others. */
export function crossingKinds(crossings: readonly Crossing[], wanted: readonly string[]): string[] {
  return wanted.filter((kind) => crossings.some((c) => c.kind === kind && c.crosses !== 'cannot'))
}
