import { z } from 'zod'

export const platforms = ['android', 'ios', 'keypad'] as const
export type Platform = (typeof platforms)[number]

const code = z.string().regex(/^[a-z][a-z0-9:-]{1,39}$/, 'a code is lower case letters, digits, - and :')
const sentence = z.string().trim().min(2).max(240)

/** One thing fingers do. `act` names it, so that a practice phone can be led by the same steps. */
export const guideStep = z.strictObject({ say: sentence, act: code.optional(), times: z.number().int().min(1).max(20).default(1) })
export type GuideStep = z.infer<typeof guideStep>

const needFields = {
  code,
  /** What is needed, as it is asked for; and as it reads when it is so. */
  title: sentence,
  met: sentence,
  /** The phone that takes, the one that gives, or both. */
  side: z.enum(['both', 'old', 'new']),
  /** Kinds that need it; nothing is asked that the wanted kinds don't need. */
  kinds: z.union([z.literal('all'), z.array(code).min(1)]),
  /** `phone`: it reports this itself; `person`: it can't be seen from here, the technician looks and ticks it. */
  seenBy: z.enum(['phone', 'person']),
  /** must: nothing starts without it, unless it is waived with a reason; warn: said, and starts all the same. */
  weight: z.enum(['must', 'warn']),
  why: sentence.optional(),
  steps: z.array(guideStep).min(1).max(12),
  /** How it is put back when it was changed for the move. */
  putBack: z.strictObject({ title: sentence, steps: z.array(guideStep).min(1).max(8) }).optional(),
}
export const guideNeed = z.strictObject(needFields)
export type GuideNeed = z.infer<typeof guideNeed>

/** A cause why a phone is not seen, or seen and silent; in the order of likelihood for its maker. */
export const guideCause = z.strictObject({
  code,
  when: z.enum(['unseen', 'silent']),
  title: sentence,
  look: sentence,
  steps: z.array(guideStep).min(1).max(8),
})
export type GuideCause = z.infer<typeof guideCause>

const ability = z.union([z.literal(true), z.strictObject({ cannot: code })])
/** What a kind can do on a phone; `changes` are forced on what it takes, by code; `limits` are counts or bytes by name. */
export const kindAbility = z.strictObject({
  read: ability,
  write: ability,
  changes: z.array(z.strictObject({ code, loss: z.boolean() })).default([]),
  limits: z.record(z.string(), z.number().int().positive()).default({}),
})
export type KindAbility = z.infer<typeof kindAbility>
export type KindAbilityInput = z.input<typeof kindAbility>

const versionRange = z.strictObject({ from: z.number().int().min(1).max(99), to: z.number().int().min(1).max(99) })

/** Which phones a guide is for. Nothing named means all of the platform. */
export const guideMatch = z.strictObject({
  platform: z.enum(platforms),
  maker: z.string().min(1).max(40).optional(),
  model: z.string().min(1).max(60).optional(),
  versions: versionRange.optional(),
})
export type GuideMatch = z.infer<typeof guideMatch>

/**
 * One guide, or an amendment of one: a more particular guide replaces, need by need, what a more general one says.
 * A need that amends another gives its code and what differs.
 */
export const guideFile = z.strictObject({
  id: z.string().regex(/^[a-z0-9][a-z0-9-]{1,59}$/, 'an id is lower case letters, digits and -'),
  match: guideMatch,
  needs: z
    .array(
      z
        .strictObject({ ...needFields })
        .partial()
        .required({ code: true }),
    )
    .default([]),
  causes: z.array(guideCause).default([]),
  kinds: z.record(code, kindAbility).default({}),
})
export type GuideFile = z.infer<typeof guideFile>
export type GuideFileInput = z.input<typeof guideFile>

/** What is known of one phone, put together from all guides that match it. */
export interface PhoneGuide {
  readonly needs: readonly GuideNeed[]
  readonly causes: readonly GuideCause[]
  readonly kinds: Readonly<Record<string, KindAbility>>
  /** Ids of the guides it was put together from, the most particular last. */
  readonly from: readonly string[]
}
