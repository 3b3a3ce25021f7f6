import { describe, expect, it } from 'vitest'
import { kindCodes } from '#core/kinds/faces.ts'
import { knownModels, shippedGuides } from '#core/phones/guides/index.ts'
import { intakeQuestions } from '#core/phones/intake.ts'
import { resolveGuide } from '#core/phones/resolve-guide.ts'
import { kinds } from '#core/kinds/registry.ts'
import { fingerActs } from '#standins/phones/fingers.ts'
import { isHandAct } from '#standins/phones/hand.ts'
import { standinModels } from '#standins/phones/models.ts'
import { words } from '../../app/words/words.ts'

const guides = knownModels(shippedGuides).flatMap((m) =>
  m.versions.map((version) => ({ ...m, version, guide: resolveGuide(shippedGuides, { ...m, version }) })),
)

describe('what the guides name exists', () => {
  it('every step’s hand action, on a phone of that platform', () => {
    for (const { guide, platform, model } of guides) {
      const steps = [...guide.needs.flatMap((n) => [...n.steps, ...(n.putBack?.steps ?? [])]), ...guide.causes.flatMap((c) => c.steps)]
      for (const { act } of steps) {
        if (!act) continue
        expect([model, act, isHandAct(act)]).toEqual([model, act, true])
        const { on } = fingerActs[act] ?? {}
        expect([model, act, !on || on.includes(platform)]).toEqual([model, act, true])
      }
    }
  })

  it('a practice phone of every model', () => {
    expect(standinModels.map((m) => m.model).sort()).toEqual([...new Set(guides.map((g) => g.model))].sort())
  })

  it('a word for every rule, change, limit and question', () => {
    for (const { guide, model } of guides) {
      for (const kind of kindCodes) {
        const { read, write, changes, limits } = guide.kinds[kind]!
        const rules = [read, write].flatMap((ability) => (ability === true ? [] : [ability.cannot]))
        for (const code of [...rules, ...changes.map((c) => c.code)])
          expect([model, code, words.reasons[code]]).toEqual([model, code, expect.any(String)])
        for (const name of Object.keys(limits)) expect([name, words.limits[name]]).toEqual([name, expect.stringContaining('{n}')])
      }
    }
    for (const kind of kinds)
      for (const code of Object.keys(kind.changes)) expect([code, words.reasons[code]]).toEqual([code, expect.any(String)])
    for (const { answers } of intakeQuestions)
      for (const answer of answers) expect([answer, words.intake[answer]]).toEqual([answer, expect.any(String)])
  })
})
