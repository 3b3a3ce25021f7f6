import { describe, expect, it } from 'vitest'
import { agreeTo, stopOf, type StraightFacts, type StraightLimits } from './straight.ts'

const limits: StraightLimits = { foretold: { photos: ['clip-left-out'] }, agreed: [] }
const facts: StraightFacts = {
  looksExchanged: false,
  fits: true,
  kinds: [{ kind: 'photos', losses: [{ code: 'clip-left-out', items: 4 }], onBoth: 0 }],
  overMs: 900,
  byMs: 1000,
}

describe('straight through', () => {
  it('goes on while all is within what was agreed', () => expect(stopOf(limits, facts)).toBeUndefined())

  it.each<[string, Partial<StraightFacts>, string | undefined]>([
    ['phones that look mixed up', { looksExchanged: true, fits: false }, 'roles'],
    ['no room', { fits: false, overMs: 5000 }, 'does-not-fit'],
    ['people on both phones', { kinds: [{ kind: 'contacts', losses: [], onBoth: 3 }] }, 'people-on-both'],
    [
      'a loss nobody foretold',
      { kinds: [{ kind: 'photos', losses: [{ code: 'only-in-cloud', items: 12 }], onBoth: 0 }] },
      'loss-not-foretold',
    ],
    [
      'a loss foretold for another kind',
      { kinds: [{ kind: 'messages', losses: [{ code: 'clip-left-out', items: 1 }], onBoth: 0 }] },
      'loss-not-foretold',
    ],
    ['an end after the promise', { overMs: 1001 }, 'after-promise'],
    ['nothing where no time stands against it', { overMs: 1001, byMs: null }, undefined],
  ])('stops for %s', (_, part, code) => expect(stopOf(limits, { ...facts, ...part })?.code).toBe(code))

  it('names the kinds, the codes and how many items are behind them', () => {
    const losses = [
      { code: 'clip-left-out', items: 4 },
      { code: 'only-in-cloud', items: 12 },
      { code: 'no-picture', items: 1 },
    ]
    expect(stopOf(limits, { ...facts, kinds: [{ kind: 'photos', losses, onBoth: 0 }] })).toEqual({
      code: 'loss-not-foretold',
      of: [
        { kind: 'photos', code: 'only-in-cloud', items: 12 },
        { kind: 'photos', code: 'no-picture', items: 1 },
      ],
    })
  })

  it('a yes holds for what it was said to, and for nothing else', () => {
    const worse: StraightFacts = { ...facts, looksExchanged: true, overMs: 5000 }
    const once = agreeTo(limits, stopOf(limits, worse)!)
    expect(stopOf(once, worse)?.code).toBe('after-promise')
    expect(stopOf(agreeTo(once, stopOf(once, worse)!), worse)).toBeUndefined()
    const cloud = { ...facts, kinds: [{ kind: 'photos', losses: [{ code: 'only-in-cloud', items: 12 }], onBoth: 0 }] }
    const agreed = agreeTo(limits, stopOf(limits, cloud)!)
    expect(stopOf(agreed, cloud)).toBeUndefined()
    expect(stopOf(agreed, { ...cloud, fits: false })?.code).toBe('does-not-fit')
  })

  it('nobody can say yes to what has no room', () => expect(agreeTo(limits, { code: 'does-not-fit', of: [] })).toEqual(limits))
})
