import { z } from 'zod'
import { side } from './fields.ts'

/** Everything that is noted in the course of a ticket, by a person or by the house. */
export const actCodes = [
  'booked',
  'edited',
  'kind-added',
  'kind-removed',
  'phone-named',
  'need-ticked',
  'need-waived',
  'need-open',
  'count-in',
  'chosen',
  'first',
  'way-out',
  'joined',
  'undo',
  'counterpart',
  'moved',
  'straight-on',
  'straight-off',
  'straight-stopped',
  'carry',
  'paused-by-hand',
  'resumed-run',
  'stopped',
  'waits',
  'ended',
  'check-off',
  'again',
  'take-away',
  'accepted',
  'not-accepted',
  'put-back',
  'shown',
  'hidden',
  'file-out',
  'taken-home',
  'home-locked',
  'note',
  'told',
  'rested',
  'resumed',
  'handed-over',
  'new-exchanged',
  'called-off',
  'printed',
  'signed',
  'voided',
  'erased',
] as const
export type ActCode = (typeof actCodes)[number]

/** One line of the course of a ticket. It holds no word of the customer's but `words`, which are gone after erasing. */
export const actView = z.object({
  at: z.string(),
  /** Null for what the house did by itself. */
  by: z.string().nullable(),
  what: z.enum(actCodes),
  side: side.nullable(),
  kind: z.string().nullable(),
  /** What of it: a need, a choice, a run, a format, an error's code. */
  code: z.string().nullable(),
  why: z.string().nullable(),
  /** What the guide calls a need or a setting. */
  title: z.string().nullable(),
  to: z.string().nullable(),
  phone: z.string().nullable(),
  n: z.number().int().nullable(),
  of: z.number().int().nullable(),
  words: z.string().nullable(),
  hasWords: z.boolean(),
})
export type ActView = z.infer<typeof actView>

export const courseView = z.object({
  acts: z.array(actView),
  /** Neither signed, called off nor erased. */
  isOpen: z.boolean(),
})
export type CourseView = z.infer<typeof courseView>

/** `POST /api/tickets/{number}/told`: a text for the customer was copied. */
export const toldBody = z.object({ code: z.enum(['ready', 'late', 'needed']) })

/** `POST /api/tickets/{number}/notes` */
export const noteBody = z.object({ words: z.string().trim().min(1, 'words').max(500) })
