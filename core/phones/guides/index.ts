import { faces } from '../../kinds/faces.ts'
import { guideFile, type GuideFile, type GuideFileInput, type Platform } from '../guide-schema.ts'
import { android } from './android.ts'
import { ios } from './ios.ts'
import { keypad } from './keypad.ts'

/** The guides that ship; a shop's own are added behind them. Parsed once: a mistake of ours is found at the start. */
export const shippedGuides: readonly GuideFile[] = [...android, ...ios, ...keypad].map((part) => guideFile.parse(withKinds(part)))

/** A guide with what the kinds say of its phones: what crosses, and what is asked for their sake alone. */
function withKinds(part: GuideFileInput): GuideFileInput {
  const said = faces.flatMap(({ code, guides }) => {
    const ability = guides[part.id]
    return ability ? [[code, ability] as const] : []
  })
  const own = faces.flatMap(({ ownNeeds }) => ownNeeds?.[part.id] ?? [])
  return { ...part, kinds: Object.fromEntries(said), needs: [...(part.needs ?? []), ...own] }
}

export interface KnownModel {
  readonly maker: string
  readonly model: string
  readonly platform: Platform
  /** Newest first. */
  readonly versions: readonly string[]
}

/** The models that guides name, with the versions they stand for. */
export function knownModels(parts: readonly GuideFile[]): KnownModel[] {
  const models = new Map<string, KnownModel>()
  for (const { match } of parts) {
    if (!match.maker || !match.model) continue
    const { from, to } = match.versions ?? { from: 1, to: 1 }
    const versions = Array.from({ length: to - from + 1 }, (_, i) => String(to - i))
    const before = models.get(`${match.maker} ${match.model}`)
    models.set(`${match.maker} ${match.model}`, {
      maker: match.maker,
      model: match.model,
      platform: match.platform,
      versions: [...new Set([...(before?.versions ?? []), ...versions])].sort((a, b) => Number(b) - Number(a)),
    })
  }
  return [...models.values()].sort((a, b) => a.model.localeCompare(b.model, 'en', { numeric: true }))
}
