import { kindCodes } from '../kinds/faces.ts'
import { guideNeed, guideFile, type GuideNeed, type GuideFile, type KindAbility, type PhoneGuide, type Platform } from './guide-schema.ts'
import { majorVersion } from './version.ts'

export interface GuidedPhone {
  readonly platform: Platform
  readonly maker: string
  readonly model: string
  readonly version: string
}

/** Puts together what is known of a phone, the general first. An unknown model has what its platform and maker have. */
export function resolveGuide(parts: readonly GuideFile[], phone: GuidedPhone): PhoneGuide {
  const fitting = parts.filter((part) => fits(part, phone)).sort((a, b) => particularity(a) - particularity(b))
  const needs = new Map<string, Partial<GuideNeed>>()
  let causes: PhoneGuide['causes'] = []
  const kinds: Record<string, KindAbility> = Object.fromEntries(kindCodes.map((kind) => [kind, unknownAbility]))
  for (const part of fitting) {
    for (const need of part.needs) needs.set(need.code, { ...needs.get(need.code), ...need })
    // a more particular list stands before what it leaves over of the general one
    if (part.causes.length > 0) causes = [...part.causes, ...causes.filter((old) => !part.causes.some((c) => c.code === old.code))]
    for (const [kind, ability] of Object.entries(part.kinds)) kinds[kind] = ability
  }
  return { needs: [...needs.values()] as GuideNeed[], causes, kinds, from: fitting.map((part) => part.id) }
}

const unknownAbility: KindAbility = { read: { cannot: 'not-known' }, write: { cannot: 'not-known' }, changes: [], limits: {} }

/** What a guide says of a kind; nothing is promised of one it does not know. */
export const abilityIn = ({ kinds }: PhoneGuide, kind: string): KindAbility => kinds[kind] ?? unknownAbility

function fits({ match }: GuideFile, phone: GuidedPhone): boolean {
  const major = majorVersion(phone.version)
  return (
    match.platform === phone.platform &&
    (match.maker === undefined || match.maker === phone.maker) &&
    (match.model === undefined || match.model === phone.model) &&
    (match.versions === undefined || (major >= match.versions.from && major <= match.versions.to))
  )
}

function particularity({ match }: GuideFile): number {
  return (match.maker ? 1 : 0) + (match.model ? 2 : 0) + (match.versions ? 1 : 0)
}

export interface GuideFault {
  /** Where in the file: `needs.2.steps.0.say`. */
  readonly place: string
  readonly rule: string
}

/**
 * Checks a shop's guide against the schema and the guides it stands on: a need it adds must be whole. All faults are
 * gathered in one pass; a faulty guide is not used at all.
 */
export function checkGuide(json: unknown, shipped: readonly GuideFile[]): { part: GuideFile } | { faults: GuideFault[] } {
  const parsed = guideFile.safeParse(json)
  if (!parsed.success)
    return { faults: parsed.error.issues.map((issue) => ({ place: issue.path.join('.') || 'the file', rule: issue.message })) }
  const part = parsed.data
  const { platform, maker = '', model = '', versions } = part.match
  const faults: GuideFault[] = []
  if (versions && versions.from > versions.to) faults.push({ place: 'match.versions', rule: 'from is not after to' })
  if (shipped.some((other) => other.id === part.id)) faults.push({ place: 'id', rule: 'another guide has this id' })
  const isKnown = (kind: string) => kindCodes.includes(kind)
  const noKind = (place: string, kind: string) => faults.push({ place, rule: `there is no kind “${kind}”: ${kindCodes.join(', ')}` })
  for (const kind of Object.keys(part.kinds)) if (!isKnown(kind)) noKind(`kinds.${kind}`, kind)
  part.needs.forEach(({ kinds }, i) => {
    if (kinds && kinds !== 'all') for (const kind of kinds) if (!isKnown(kind)) noKind(`needs.${i}.kinds`, kind)
  })
  const below = resolveGuide(shipped, { platform, maker, model, version: String(versions?.from ?? '') })
  part.needs.forEach((need, i) => {
    const known = below.needs.find((other) => other.code === need.code)
    const whole = guideNeed.safeParse({ ...known, ...need })
    if (!whole.success)
      for (const issue of whole.error.issues)
        faults.push({
          place: `needs.${i}.${issue.path.join('.')}`,
          rule: known ? issue.message : `a new need must be whole: ${issue.message}`,
        })
  })
  return faults.length > 0 ? { faults } : { part }
}
