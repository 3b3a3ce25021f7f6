import { describe, expect, it } from 'vitest'
import { crossingKinds, crossingOf } from './crossing.ts'
import { kindCodes } from '../kinds/faces.ts'
import { guideNeed, type GuideFile } from './guide-schema.ts'
import { knownModels, shippedGuides } from './guides/index.ts'
import { judgeIntake, intakeQuestions, isIntakeAnswer, type IntakeAnswers } from './intake.ts'
import { findModel, phoneModels } from './models.ts'
import { computeNeeds, countOpenNeeds, isReady, nextNeed, type NeedsInput } from './needs.ts'
import { checkGuide, resolveGuide } from './resolve-guide.ts'
import { majorVersion } from './version.ts'

const models = knownModels(shippedGuides)
const guide = (model: string, version?: string) => {
  const known = models.find((m) => m.model === model)!
  return resolveGuide(shippedGuides, { ...known, version: version ?? known.versions[0]! })
}
const codes = (model: string, change: Partial<NeedsInput> = {}) => computeNeeds({ ...ready(model), ...change }).map(({ need }) => need.code)

/** A phone that reports everything met, with all kinds wanted. */
function ready(model: string, side: 'old' | 'new' = 'new'): NeedsInput {
  const { platform, versions } = models.find((m) => m.model === model)!
  const g = guide(model)
  return {
    guide: g,
    side,
    kinds: [...kindCodes],
    sight: 'speaks',
    platform,
    reported: g.needs.map(({ code }) => ({ need: code, isMet: true })),
    facts: { batteryPercent: 90, isCharging: false, temperatureC: 25, version: versions[0]!, bytesPerSecond: 32e6, freeBytes: 20e9 },
    other: { platform, version: versions[0]! },
    marks: [],
  }
}

describe('guides', () => {
  it('know at least ten models over version ranges, and every model the carrying knows', () => {
    expect(models.length).toBeGreaterThanOrEqual(10)
    expect(models.every((m) => m.versions.length >= 2)).toBe(true)
    expect(models.map((m) => m.model).sort()).toEqual(phoneModels.map((m) => m.model).sort())
    for (const m of models) expect(findModel(m).platform).toBe(m.platform)
  })

  it.each(models.flatMap((m) => m.versions.map((version) => [m.model, version] as const)))(
    'of the %s, version %s, are whole: every need, every kind, the likely causes',
    (model, version) => {
      const g = guide(model, version)
      for (const need of g.needs) expect(guideNeed.safeParse(need).error?.issues ?? []).toEqual([])
      expect(new Set(g.needs.map((n) => n.code)).size).toBe(g.needs.length)
      expect(Object.keys(g.kinds).sort()).toEqual([...kindCodes].sort())
      for (const when of ['unseen', 'silent']) expect(g.causes.filter((c) => c.when === when).length).toBeGreaterThanOrEqual(2)
      for (const kind of kindCodes) expect(g.kinds[kind]!.read).not.toEqual({ cannot: 'not-known' })
    },
  )

  it('makers differ in where their settings stand, and a maker’s guide replaces need by need', () => {
    const steps = (model: string) =>
      guide(model)
        .needs.find((n) => n.code === 'debugging')!
        .steps.map((s) => s.say)
    expect(steps('Orrin 7')).not.toEqual(steps('Tamsel M3'))
    expect(guide('Orrin 7').needs.find((n) => n.code === 'debugging')!.putBack).toBeDefined()
    expect(steps('Orrin 7')).toEqual(steps('Orrin 9'))
  })

  it('developer options take seven taps on the build number', () => {
    for (const model of ['Orrin 4', 'Tamsel M2'])
      expect(guide(model).needs.find((n) => n.code === 'debugging')!.steps[0]).toMatchObject({ act: 'tap-build-number', times: 7 })
  })

  it('a version range speaks for its versions alone', () => {
    expect(guide('Tamsel M1', '9').kinds.calls!.limits.newest).toBe(300)
    expect(guide('Tamsel M3', '14').kinds.calls!.limits.newest).toBe(500)
    const chat = (version: string) => guide('Veyra 10', version).needs.find((n) => n.code === 'chat-off')!.steps[0]!.say
    expect(chat('15')).not.toBe(chat('17'))
  })

  it('the likeliest cause of a maker stands first: a Tamsel falls back to charging only', () => {
    expect(guide('Tamsel M2').causes[0]).toMatchObject({ code: 'charging-only', title: 'It fell back to “charging only”' })
    expect(guide('Holt 3').causes[0]!.code).toBe('bluetooth-hidden')
    expect(guide('Veyra 12').causes.map((c) => c.code)).not.toContain('charging-only')
  })

  it('an unknown model has what its platform and maker have', () => {
    expect(resolveGuide(shippedGuides, { platform: 'android', maker: 'Orrin', model: 'Orrin 77', version: '30' }).from).toEqual([
      'android',
      'orrin',
    ])
    expect(majorVersion('18.2')).toBe(18)
  })
})

describe('a shop’s own guide', () => {
  const own = (change: object = {}) => ({ id: 'ours', match: { platform: 'android', maker: 'Orrin', model: 'Orrin 9' }, ...change })
  const faults = (json: unknown) => {
    const result = checkGuide(json, shippedGuides)
    return 'faults' in result ? result.faults.map((f) => `${f.place}: ${f.rule}`) : []
  }

  it('amends one need and leaves the others', () => {
    const result = checkGuide(own({ needs: [{ code: 'charge', why: 'The Orrin 9 of our batch goes off at 30%.' }] }), shippedGuides)
    if (!('part' in result)) throw new Error(JSON.stringify(result))
    const g = resolveGuide([...shippedGuides, result.part as GuideFile], {
      platform: 'android',
      maker: 'Orrin',
      model: 'Orrin 9',
      version: '15',
    })
    expect(g.needs.find((n) => n.code === 'charge')).toMatchObject({ title: 'Charge it', why: 'The Orrin 9 of our batch goes off at 30%.' })
    expect(g.needs.length).toBe(guide('Orrin 9').needs.length)
  })

  it.each<[string, unknown, RegExp]>([
    ['no JSON object', 'hello', /^the file: /],
    ['no match', { id: 'x-y' }, /^match: /],
    ['an id that is taken', own({ id: 'android' }), /^id: another guide has this id/],
    ['a field nobody knows', own({ needz: [] }), /^the file: .*needz/],
    ['an unknown platform', own({ match: { platform: 'windows' } }), /^match\.platform: /],
    ['a range turned round', own({ match: { platform: 'ios', versions: { from: 18, to: 16 } } }), /^match\.versions: from is not after to/],
    [
      'a new need that is not whole',
      own({ needs: [{ code: 'stand-upright', title: 'Stand it upright' }] }),
      /^needs\.0\.\w+: a new need must be whole/,
    ],
    ['a step without words', own({ needs: [{ code: 'charge', steps: [{ say: '' }] }] }), /^needs\.0\.steps\.0\.say: /],
    ['a kind nobody knows', own({ kinds: { stickers: { read: true, write: true } } }), /^kinds/],
  ])('with %s is refused with the place and the rule', (_, json, expected) => {
    expect(faults(json).join('\n')).toMatch(expected)
  })

  it('has all its faults named in one pass', () => {
    expect(
      faults(
        own({
          id: 'android',
          needs: [
            { code: 'aa', title: 'x y' },
            { code: 'bb', title: 'x y' },
          ],
        }),
      ).length,
    ).toBeGreaterThan(4)
  })
})

describe('needs', () => {
  it('nothing is asked that the wanted kinds don’t need', () => {
    expect(codes('Orrin 9', { kinds: ['contacts'] }).filter((c) => c.startsWith('allow:'))).toEqual(['allow:contacts'])
    expect(codes('Orrin 9', { kinds: ['contacts'] })).not.toContain('message-app')
    expect(codes('Orrin 9', { kinds: ['messages'] })).toContain('message-app')
    expect(codes('Orrin 9', { kinds: ['messages'], side: 'old' })).not.toContain('message-app')
    expect(codes('Veyra 12', { kinds: ['contacts'] })).not.toContain('anti-theft-off')
    expect(codes('Veyra 12', { kinds: ['messages'] })).toEqual(
      expect.arrayContaining(['anti-theft-off', 'passcode-off', 'message-keep-time']),
    )
    expect(codes('Veyra 12', { kinds: ['calls'], side: 'old' })).toContain('encrypted-reading')
  })

  it('come in the order in which they can be met', () => {
    const order = codes('Orrin 9', { kinds: ['contacts'] })
    expect(order.slice(0, 8)).toEqual(['seen', 'cable-files', 'set-up', 'unlocked', 'debugging', 'trusted', 'helper', 'allow:contacts'])
  })

  it.each<[string, Partial<NeedsInput>, string, string]>([
    ['in no port', { sight: 'absent', facts: null, reported: [] }, 'seen', 'unmet'],
    ['plugged in and not seen', { sight: 'unseen', facts: null, reported: [] }, 'trusted', 'later'],
    ['silent', { sight: 'silent', reported: [{ need: 'trusted', isMet: false }] }, 'helper', 'later'],
    ['locked again', { reported: [{ need: 'unlocked', isMet: false }] }, 'unlocked', 'unmet'],
    ['under 20% and not charging', { facts: { ...ready('Orrin 9').facts!, batteryPercent: 19 } }, 'charge', 'unmet'],
    ['under 20% and charging', { facts: { ...ready('Orrin 9').facts!, batteryPercent: 5, isCharging: true } }, 'charge', 'met'],
    ['at 79%', { facts: { ...ready('Orrin 9').facts!, batteryPercent: 79 } }, 'charge-ample', 'unmet'],
    ['nearly full', { facts: { ...ready('Orrin 9').facts!, freeBytes: 9e8 } }, 'free-space', 'unmet'],
    ['on a slow cable', { facts: { ...ready('Orrin 9').facts!, bytesPerSecond: 3e6 } }, 'cable-fast', 'unmet'],
    ['older than the old phone, like to like', { other: { platform: 'android', version: '99' } }, 'version-order', 'unmet'],
    ['what can’t be seen from here', {}, 'screen-stays-on', 'ask'],
    ['ticked by a person', { marks: [{ code: 'screen-stays-on', how: 'ticked', reason: null }] }, 'screen-stays-on', 'ticked'],
    ['waived with a reason', { reported: [], marks: [{ code: 'helper', how: 'waived', reason: 'customer-knows' }] }, 'helper', 'waived'],
    ['waived, and met after all', { marks: [{ code: 'helper', how: 'waived', reason: 'customer-knows' }] }, 'helper', 'met'],
  ])('a phone %s', (_, change, code, state) => {
    expect(computeNeeds({ ...ready('Orrin 9'), ...change }).find(({ need }) => need.code === code)?.state).toBe(state)
  })

  it('versions are not compared across platforms', () => {
    expect(codes('Orrin 9', { other: { platform: 'ios', version: '99' } })).not.toContain('version-order')
  })

  it.each([
    [39, 'met', 'warn'],
    [40, 'unmet', 'warn'],
    [44.9, 'unmet', 'warn'],
    [45, 'unmet', 'must'],
  ])('at %s °C cooling down is %s, weight %s', (temperatureC, state, weight) => {
    const needs = computeNeeds({ ...ready('Orrin 9'), facts: { ...ready('Orrin 9').facts!, temperatureC } })
    expect(needs.find(({ need }) => need.code === 'cool')).toMatchObject({ state, weight })
  })

  it('of what is open, only what can be seen to now counts as that', () => {
    const asked = computeNeeds({ ...ready('Orrin 9'), sight: 'silent', reported: [{ need: 'trusted', isMet: false }] })
    const { now, later } = countOpenNeeds(asked)
    expect(asked.filter(({ weight, state }) => weight === 'must' && (state === 'unmet' || state === 'ask'))).toHaveLength(now)
    expect(now).toBeGreaterThan(0)
    expect(later).toBeGreaterThan(2)
    expect(countOpenNeeds(computeNeeds(ready('Orrin 9')))).toEqual({ now: 0, later: 0 })
  })

  it('is ready when every must is met, ticked or waived; what only warns holds nothing up', () => {
    const needs = computeNeeds({ ...ready('Veyra 12'), kinds: ['messages'] })
    expect(isReady(needs)).toBe(false)
    expect(nextNeed(needs)?.need.code).toBe('second-step')
    const ticked = computeNeeds({
      ...ready('Veyra 12'),
      kinds: ['messages'],
      marks: [{ code: 'second-step', how: 'ticked', reason: null }],
    })
    expect(isReady(ticked)).toBe(true)
    expect(nextNeed(ticked)?.need.code).toBe('screen-stays-on')
  })
})

describe('what crosses for a pair', () => {
  const pair = (from: string, to: string) => {
    const of = (model: string) => ({ guide: guide(model), platform: models.find((m) => m.model === model)!.platform })
    return crossingOf(of(from), of(to))
  }
  it.each([
    ['Orrin 5', 'Veyra 12', 'calls', 'cannot', 'platform-takes-no-calls'],
    ['Veyra 12', 'Orrin 5', 'calls', 'changed', null],
    ['Orrin 5', 'Veyra 12', 'apps', 'changed', null],
    ['Veyra 9', 'Orrin 9', 'apps', 'changed', null],
    ['Holt 3', 'Orrin 9', 'apps', 'cannot', 'has-no-apps'],
    ['Orrin 9', 'Holt 3', 'messages', 'cannot', 'phone-takes-no-messages'],
    ['Orrin 5', 'Tamsel M3', 'calendar', 'whole', null],
  ] as const)('%s to %s: %s %s', (from, to, kind, crosses, rule) => {
    expect(pair(from, to).find((c) => c.kind === kind)).toMatchObject({ crosses, rule })
  })

  it('to another platform no app comes over, and nothing says that one does', () => {
    expect(pair('Orrin 5', 'Veyra 12').find((c) => c.kind === 'apps')!.changes).toEqual([{ code: 'counterparts-only', loss: true }])
    expect(pair('Orrin 5', 'Orrin 9').find((c) => c.kind === 'apps')!.changes).toEqual([{ code: 'app-data-stays', loss: true }])
  })

  it('only kinds that cross are made ready for', () => {
    expect(crossingKinds(pair('Orrin 5', 'Veyra 12'), ['contacts', 'calls', 'apps'])).toEqual(['contacts', 'apps'])
  })
})

describe('can we take it?', () => {
  const plain = Object.fromEntries(intakeQuestions.map((q) => [q.code, q.answers[0]])) as IntakeAnswers
  it('goes when nothing stands against it', () => {
    expect(judgeIntake(plain)).toEqual({ verdict: 'go', because: [], open: [] })
    expect(judgeIntake({}).open).toHaveLength(intakeQuestions.length)
  })
  it.each<[IntakeAnswers, string]>([
    [{ screen: 'no' }, 'no'],
    [{ touch: 'partly' }, 'limit'],
    [{ passcode: 'nobody' }, 'no'],
    [{ password: 'no' }, 'limit'],
    [{ 'owner-lock': 'old-locked-other' }, 'no'],
    [{ 'run-by': 'partly' }, 'limit'],
    [{ 'run-by': 'whole' }, 'no'],
    [{ child: 'parent-here' }, 'limit'],
    [{ child: 'parent-not-here' }, 'no'],
    [{ lost: 'yes' }, 'no'],
    [{ power: 'new-not', touch: 'partly' }, 'no'],
  ])('%o: %s, with a sentence for the customer', (answers, verdict) => {
    const result = judgeIntake({ ...plain, ...answers })
    expect(result.verdict).toBe(verdict)
    for (const { sentence } of result.because) expect(sentence).toMatch(/^[A-Z].*\.$/)
  })
  it('every answer is plain or has a meaning, and no other is taken', () => {
    for (const q of intakeQuestions)
      for (const a of q.answers.slice(1)) expect([q.code, a, judgeIntake({ ...plain, [q.code]: a }).because.length]).toEqual([q.code, a, 1])
    expect(isIntakeAnswer('screen', 'yes')).toBe(true)
    expect(isIntakeAnswer('screen', 'blue')).toBe(false)
    expect(isIntakeAnswer('colour', 'yes')).toBe(false)
  })
})
