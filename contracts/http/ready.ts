import { z } from 'zod'
import { sidePlatforms } from '#core/phones/capability.ts'
import { side } from './fields.ts'
import { waiveReasons } from './sets.ts'

/** What fingers do, in words; `act` names it for a practice phone. */
const step = z.object({ say: z.string(), act: z.string().optional(), times: z.number().int() })

export const needView = z.object({
  code: z.string(),
  title: z.string(),
  met: z.string(),
  /** met, unmet: the phone reports it; later: it can't say yet; ask: a person looks and ticks it; ticked, waived: said by a person. */
  state: z.enum(['met', 'unmet', 'later', 'ask', 'ticked', 'waived']),
  weight: z.enum(['must', 'warn']),
  reason: z.string().nullable(),
  why: z.string().nullable(),
  seenBy: z.enum(['phone', 'person']),
  steps: z.array(step),
  /** Since when the phone reports that it is not so; milliseconds since 1970. */
  sinceMs: z.number().nullable(),
})
export type NeedView = z.infer<typeof needView>

export const causeView = z.object({ code: z.string(), title: z.string(), look: z.string(), steps: z.array(step) })
export type CauseView = z.infer<typeof causeView>

export const putBackView = z.object({
  code: z.string(),
  title: z.string(),
  steps: z.array(step),
  /** restored: the phone reports it as it was; ticked, waived: said by a person. */
  state: z.enum(['open', 'restored', 'ticked', 'waived']),
  /** The phone can't report it now, so that a person may tick it. */
  isTickable: z.boolean(),
})
export type PutBackView = z.infer<typeof putBackView>

export const phoneReady = z.object({
  side,
  sight: z.enum(['absent', 'unseen', 'silent', 'speaks']),
  /** Ports that draw current from something that is not seen. */
  unseenPorts: z.array(z.number().int()),
  isReady: z.boolean(),
  /** Code of the need to see to next. */
  next: z.string().nullable(),
  asks: z.object({ question: z.string(), sinceMs: z.number() }).nullable(),
  needs: z.array(needView),
  /** Why it may be unseen or silent, the likeliest first. */
  causes: z.array(causeView),
  putBack: z.array(putBackView),
  /** Named, and never read. */
  hasWorkArea: z.boolean(),
})
export type PhoneReady = z.infer<typeof phoneReady>

/** `POST …/needs`: ticks a need that can't be seen from here, waives one with a reason, or takes that back. */
export const needBody = z.object({
  side,
  code: z.string().min(1).max(40),
  how: z.enum(['ticked', 'waived', 'open']),
  reason: z.enum(waiveReasons).nullable().default(null),
})

/** `POST …/put-back`: ticks what the phone can't report, or waives it by name. */
export const putBackBody = z
  .object({ side, code: z.string().min(1).max(40), how: z.enum(['ticked', 'waived']), by: z.string().trim().max(120).default('') })
  .refine(({ how, by }) => how !== 'waived' || by.length > 0, { path: ['by'], message: 'name' })

export const noteView = z.object({
  what: z.enum(['rested', 'resumed', 'handed-over', 'new-exchanged', 'called-off', 'note']),
  by: z.string(),
  to: z.string().nullable(),
  words: z.string().nullable(),
  phone: z.string().nullable(),
  at: z.string(),
})
export type NoteView = z.infer<typeof noteView>

export const restBody = z.object({ words: z.string().trim().max(500).default('') })
export const handOverBody = z.object({ to: z.string().trim().min(1).max(60), words: z.string().trim().max(500).default('') })
export const exchangeBody = z.object({ serial: z.string().min(1).max(64), words: z.string().trim().max(500).default('') })
export const markPortBody = z.object({ text: z.string().trim().min(1).max(12) })

export const crossingView = z.object({
  kind: z.string(),
  crosses: z.enum(['whole', 'changed', 'cannot']),
  rule: z.string().nullable(),
  changes: z.array(z.object({ code: z.string(), loss: z.boolean() })),
  limits: z.record(z.string(), z.number()),
  /** This version carries it; else it is done by hand. */
  isCarried: z.boolean(),
})
export type CrossingView = z.infer<typeof crossingView>

const guidePhone = z.object({
  platform: z.enum(sidePlatforms),
  maker: z.string().max(40),
  model: z.string().max(60),
  version: z.string().max(20),
})
/** `POST /api/guide/phone`: everything known of one phone, for all kinds. */
export const guidePhoneBody = guidePhone
export const guidePairBody = z.object({ old: guidePhone, new: guidePhone })

export const guidePhoneView = z.object({
  needs: z.array(
    needView.pick({ code: true, title: true, weight: true, why: true, seenBy: true, steps: true }).extend({
      side: z.enum(['both', 'old', 'new']),
      kinds: z.array(z.string()),
      putBack: z.object({ title: z.string(), steps: z.array(step) }).nullable(),
    }),
  ),
  causes: z.array(causeView.extend({ when: z.enum(['unseen', 'silent']) })),
  kinds: z.array(
    z.object({
      kind: z.string(),
      read: z.string().nullable(),
      write: z.string().nullable(),
      limits: z.record(z.string(), z.number()),
      changes: z.array(z.object({ code: z.string(), loss: z.boolean() })),
    }),
  ),
  from: z.array(z.string()),
})
export type GuidePhoneView = z.infer<typeof guidePhoneView>

export const guideIndexView = z.object({
  models: z.array(
    z.object({ maker: z.string(), model: z.string(), platform: z.enum(['android', 'ios', 'keypad']), versions: z.array(z.string()) }),
  ),
  own: z.array(z.string()),
  refused: z.array(z.object({ file: z.string(), faults: z.array(z.object({ place: z.string(), rule: z.string() })) })),
})
export type GuideIndexView = z.infer<typeof guideIndexView>
