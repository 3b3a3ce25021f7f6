import type { CrossingView, GuideIndexView, GuidePhoneView } from '#contracts/http/ready.ts'
import { formOn } from '#core/kinds/form.ts'
import { kinds as registered } from '#core/kinds/registry.ts'
import { crossingOf, type Crossing } from '#core/phones/crossing.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import { abilityIn } from '#core/phones/resolve-guide.ts'
import type { SidePlatform } from '#core/phones/capability.ts'
import type { KindAbility } from '#core/phones/guide-schema.ts'
import { knownModels } from '#core/phones/guides/index.ts'
import { findModel } from '#core/phones/models.ts'
import type { Services } from '../base/services.ts'
import { guideOf, readGuides } from './guides.ts'

interface Named {
  readonly platform: SidePlatform
  readonly maker: string
  readonly model: string
  readonly version: string
}

/** The models guides name, the shop's own guides, and those of them that are refused with place and rule. */
export function guideIndex(services: Services): GuideIndexView {
  const guides = readGuides(services)
  return {
    models: knownModels(guides.parts).map((m) => ({ ...m, versions: [...m.versions] })),
    own: [...guides.own],
    refused: guides.refused.map(({ file, faults }) => ({ file, faults: [...faults] })),
  }
}

/** Everything known of one phone, for all kinds and both roles. */
export function guidePhone(services: Services, phone: Named): GuidePhoneView {
  const guide = guideOf(readGuides(services), phone)
  const cannot = (ability: KindAbility['read']) => (ability === true ? null : ability.cannot)
  return {
    needs: guide.needs.map(({ code, title, weight, why, seenBy, steps, side, kinds, putBack }) => ({
      code,
      title,
      weight,
      seenBy,
      steps,
      side,
      why: why ?? null,
      kinds: kinds === 'all' ? [...kindCodes] : kinds,
      putBack: putBack ?? null,
    })),
    causes: [...guide.causes],
    kinds: kindCodes.map((kind) => {
      const { read, write, limits, changes } = abilityIn(guide, kind)
      return { kind, read: cannot(read), write: cannot(write), limits, changes }
    }),
    from: [...guide.from],
  }
}

/**
 * For two phones: what crosses whole, what is changed and how, what can't cross and why. Of the kinds this version
 * carries, the changes are those the carrying itself would make.
 */
export function guidePair(services: Services, phones: { old: Named; new: Named }): CrossingView[] {
  const guides = readGuides(services)
  const side = (phone: Named) => ({ guide: guideOf(guides, phone), platform: phone.platform })
  return crossingOf(side(phones.old), side(phones.new)).map((crossing): CrossingView => ({
    ...asCarried(crossing, phones),
    isCarried: registered.some((kind) => kind.code === crossing.kind),
  }))
}

function asCarried(crossing: Crossing, phones: { old: Named; new: Named }) {
  const plain = { ...crossing, changes: [...crossing.changes], limits: { ...crossing.limits } }
  const kind = registered.find((k) => k.code === crossing.kind)
  // what a hand installs on the other platform, carrying does not change: the guide says what becomes of it
  if (!kind || crossing.crosses === 'cannot' || (kind.byHand && phones.old.platform !== phones.new.platform)) return plain
  const result = formOn(kind, kind.sample(findModel(phones.old)), findModel(phones.new))
  if ('cannot' in result) return { ...plain, crosses: 'cannot' as const, rule: result.cannot, changes: [] }
  const changes = result.changes.map(({ code, loss }) => ({ code, loss }))
  return {
    ...plain,
    changes,
    crosses: changes.length > 0 || Object.keys(crossing.limits).length > 0 ? ('changed' as const) : ('whole' as const),
  }
}
