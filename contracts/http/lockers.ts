import { z } from 'zod'
import { copyId, passphrase } from './fields.ts'
import { destroyReasons } from './sets.ts'

export const copyView = z.object({
  id: z.number().int(),
  /** Whose it is, in initials; null once it is destroyed, or where its key can't be reached. */
  customer: z.string().nullable(),
  /** The ticket that made it. */
  ticket: z.string().nullable(),
  askedBy: z.string(),
  phone: z.object({ maker: z.string(), model: z.string(), platform: z.string(), version: z.string() }),
  /** Its owner’s passphrase alone opens it: the shop has its counts. */
  isClosed: z.boolean(),
  madeAt: z.string(),
  /** When it was last read back whole. */
  asOf: z.string().nullable(),
  keepUntil: z.string(),
  kinds: z.array(
    z.object({
      kind: z.string(),
      items: z.number().int(),
      bytes: z.number(),
      /** Of these, what an earlier copy of the phone had stored already. */
      savedBytes: z.number(),
      /** Beside them, records that could not be read, kept as they were given. */
      unread: z.number().int(),
      /** Of the phone's items, what became of them, as it was checked. */
      fates: z.record(z.string(), z.number().int()),
      /** Of these, why, by all reasons of an item together; none of copies made before it was noted. */
      whys: z.array(z.object({ fate: z.string(), codes: z.array(z.string()), items: z.number().int() })),
    }),
  ),
  items: z.number().int(),
  bytes: z.number(),
  savedBytes: z.number(),
  destroyed: z
    .object({
      at: z.string(),
      how: z.enum(['date', 'asked', 'unfinished']),
      why: z.enum(destroyReasons).nullable(),
      by: z.string().nullable(),
    })
    .nullable(),
})
export type CopyView = z.infer<typeof copyView>

/** `POST /api/lockers/find`: copies that are kept, or those destroyed, a page at a time, the newest first. By POST: a serial is nothing for an address. */
export const lockersBody = z.object({
  isDestroyed: z.boolean().default(false),
  /** A copy's number, a ticket's, a model, or the serial of the phone; empty for any. */
  find: z.string().trim().max(64).default(''),
  /** Where a page goes on: what the page before gave as `next`. */
  after: copyId.nullable().default(null),
  limit: z.number().int().min(1).max(200).default(50),
})
export const lockersView = z.object({
  copies: z.array(copyView),
  /** How many answer in all. */
  total: z.number().int(),
  next: z.number().int().nullable(),
  /** Nothing of a customer but initials is in it. */
  isShowing: z.literal(false),
  /** Bytes of all that is kept, equal records of a phone's copies counted once. */
  storedBytes: z.number(),
})
export type LockersView = z.infer<typeof lockersView>

/** `POST /api/lockers/{id}/look`: beside what, where two are compared: another copy, or a phone in a port. */
export const lookBody = z.object({
  beside: z
    .union([z.object({ copy: copyId }), z.object({ serial: z.string().min(1).max(64) })])
    .nullable()
    .default(null),
})
/** `PUT /api/lockers/{id}`: until when it is kept, the day included. */
export const keepBody = z.object({ keepUntil: z.iso.date() })
/** `POST /api/lockers/{id}/close`: nobody can recover it. */
export const closeBody = z.object({ passphrase: passphrase.refine((text) => text.trim().length >= 8, { message: 'passphrase' }) })
/** `POST /api/lockers/{id}/destroy`: `typed` is the copy's number. */
export const destroyBody = z.object({ why: z.enum(destroyReasons), typed: z.string().trim().max(20) })
