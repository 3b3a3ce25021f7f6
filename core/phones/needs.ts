import type { GuideNeed, PhoneGuide, Platform } from './guide-schema.ts'
import { majorVersion } from './version.ts'

/** What the link sees of a phone: nothing in any port, a port that draws current, a phone that says nothing, or one that speaks. */
export type Sight = 'absent' | 'unseen' | 'silent' | 'speaks'

export interface NeedMark {
  readonly code: string
  readonly how: 'ticked' | 'waived'
  readonly reason: string | null
}

export interface NeedsInput {
  readonly guide: PhoneGuide
  readonly side: 'old' | 'new'
  /** Kinds that are wanted and can cross for this pair. */
  readonly kinds: readonly string[]
  readonly sight: Sight
  readonly reported: readonly { readonly need: string; readonly isMet: boolean }[]
  readonly facts: {
    readonly batteryPercent: number
    readonly isCharging: boolean
    readonly temperatureC: number
    readonly version: string
    readonly bytesPerSecond: number
    readonly freeBytes: number
  } | null
  /** The other phone of the pair. */
  readonly other: { readonly platform: string; readonly version: string }
  readonly platform: Platform
  readonly marks: readonly NeedMark[]
}

export interface NeedState {
  readonly need: GuideNeed
  /**
   * met: the phone reports it. unmet: it reports that it is not so. later: it can't say yet, what stands before comes
   * first. ask: it can't be seen from here, the technician looks and ticks it. ticked, waived: said by a person.
   */
  readonly state: 'met' | 'unmet' | 'later' | 'ask' | 'ticked' | 'waived'
  readonly weight: 'must' | 'warn'
  readonly reason: string | null
}

/** The order in which needs can be met. What is not named follows in the guide's own order, and last what only warns. */
const order = ['seen', 'cable-files', 'set-up', 'unlocked', 'debugging', 'trusted', 'helper', 'allow']

const hotC = 40
const stopC = 45
const fastBytesPerSecond = 20_000_000
const enoughFreeBytes = 1_000_000_000

/** What a guide asks of a phone in its role, for the kinds that will cross. */
export function needsFor(guide: PhoneGuide, side: 'old' | 'new', kinds: readonly string[]): GuideNeed[] {
  return guide.needs.filter(
    (need) => (need.side === 'both' || need.side === side) && (need.kinds === 'all' || need.kinds.some((kind) => kinds.includes(kind))),
  )
}

/** What a phone needs for the kinds that will cross, each with how it stands now. */
export function computeNeeds(input: NeedsInput): NeedState[] {
  const { guide, side, kinds, marks } = input
  const asked = needsFor(guide, side, kinds).filter((need) => isForPair(need, input))
  return asked
    .sort((a, b) => rank(a) - rank(b))
    .map((need): NeedState => {
      const weight = need.code === 'cool' && input.facts && input.facts.temperatureC < stopC ? 'warn' : need.weight
      const stated = stateOf(need, input)
      const mark = marks.find((m) => m.code === need.code)
      if (stated !== 'met' && mark?.how === 'waived') return { need, state: 'waived', weight, reason: mark.reason }
      if (stated === 'ask' && mark?.how === 'ticked') return { need, state: 'ticked', weight, reason: null }
      return { need, state: stated, weight, reason: null }
    })
}

/** Neither met nor said by a person: it is still to be seen to, now or later. */
export function isOpenNeed({ state }: { readonly state: NeedState['state'] }): boolean {
  return state === 'unmet' || state === 'ask' || state === 'later'
}

/**
 * What must still be so, of one or both phones: what can be seen to now, and what only shows once that is done.
 */
export function countOpenNeeds(needs: readonly Pick<NeedState, 'weight' | 'state'>[]): { now: number; later: number } {
  const open = needs.filter((need) => need.weight === 'must' && isOpenNeed(need))
  const later = open.filter(({ state }) => state === 'later').length
  return { now: open.length - later, later }
}

/** Everything that must be so is so, was ticked, or was waived with a reason. */
export function isReady(needs: readonly NeedState[]): boolean {
  return needs.every((need) => need.weight === 'warn' || !isOpenNeed(need))
}

/** The need to see to next: the first that must be met, else the first that only warns. */
export function nextNeed(needs: readonly NeedState[]): NeedState | undefined {
  const open = needs.filter(isOpenNeed)
  return (
    open.find(({ weight, state }) => weight === 'must' && state !== 'later') ??
    open.find(({ weight }) => weight === 'must') ??
    open.find(({ state }) => state !== 'later')
  )
}

function rank({ code, weight }: GuideNeed): number {
  const at = order.indexOf(code.split(':')[0]!)
  return at >= 0 ? at : order.length + (weight === 'must' ? 0 : 1)
}

/** Versions are compared between phones of one platform alone. */
function isForPair(need: GuideNeed, { platform, other }: NeedsInput): boolean {
  return need.code !== 'version-order' || platform === other.platform
}

function stateOf(need: GuideNeed, { sight, reported, facts, other }: NeedsInput): 'met' | 'unmet' | 'later' | 'ask' {
  const is = (met: boolean) => (met ? 'met' : 'unmet')
  if (need.code === 'seen') return is(sight === 'silent' || sight === 'speaks')
  if (need.seenBy === 'person') return 'ask'
  if (sight === 'absent' || sight === 'unseen' || !facts) return 'later'
  switch (need.code) {
    case 'charge':
      return is(facts.batteryPercent >= 20 || facts.isCharging)
    case 'charge-ample':
      return is(facts.batteryPercent >= 80)
    case 'cool':
      return is(facts.temperatureC < hotC)
    case 'cable-fast':
      return is(facts.bytesPerSecond >= fastBytesPerSecond)
    case 'free-space':
      return is(facts.freeBytes >= enoughFreeBytes)
    case 'version-order':
      return is(!(majorVersion(facts.version) < majorVersion(other.version)))
    default: {
      const fact = reported.find((r) => r.need === need.code)
      return fact ? is(fact.isMet) : 'later'
    }
  }
}
