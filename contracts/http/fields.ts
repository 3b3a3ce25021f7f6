import { z } from 'zod'
import { kindCodes } from '#core/kinds/faces.ts'

/** A kind that Corvend carries, by its code. */
export const kindCode = z
  .string()
  .max(40)
  .refine((code) => kindCodes.includes(code), { message: 'no such kind' })
/** A kind a customer may want: carried, or done by hand. */
export const wantedKind = kindCode
export const side = z.enum(['old', 'new'])

/** What a side of a ticket can be: a phone on the bench, files, a copy in a locker, files that are taken home; nothing where a copy is only looked into. */
export const placeKinds = ['bench', 'file', 'locker', 'nothing', 'folder'] as const
export type PlaceKind = (typeof placeKinds)[number]
/** A copy in a locker, by its number. */
export const copyId = z.number().int().min(1).max(Number.MAX_SAFE_INTEGER)
/** A customer's passphrase, as it was typed. */
export const passphrase = z.string().min(1).max(200)
export const ticketNumber = z.string().regex(/^[\w-]{1,20}$/)

// the database numbers items of a reading by 32 bits
const isSeq = (digits: string) => Number(digits) <= 2_147_483_647
const keyOf = (pattern: RegExp) =>
  z
    .string()
    .regex(pattern)
    .refine((key) => isSeq(key.slice(4)))
/** An item of the old phone, by the key of its row: `old-12`. */
export const oldKey = keyOf(/^old-\d{1,10}$/)
/** A record of the new phone: `new-12`. */
export const newKey = keyOf(/^new-\d{1,10}$/)
export const eitherKey = keyOf(/^(old|new)-\d{1,10}$/)
/** Where a page goes on: what the page before gave as `next`. */
export const cursor = z
  .string()
  .regex(/^\d{1,10}$/)
  .refine(isSeq)
  .nullable()
  .default(null)
/** Where a page goes on, as so many rows. */
export const offset = z.number().int().min(0).max(2_000_000_000).default(0)
/** A slice of a kind (a conversation, a calendar) by its key, a 64-bit number; empty for any. */
export const sliceKey = z
  .string()
  .regex(/^(-?\d{1,19})?$/)
  // a refinement is asked of what the pattern refused, too
  .refine((key) => !/^-?\d+$/.test(key) || BigInt.asIntN(64, BigInt(key)) === BigInt(key))
  .default('')
/** `2026`, `2026-11`; empty for any. */
export const when = z
  .string()
  .regex(/^((?!0000)\d{4}(-(0[1-9]|1[0-2]))?)?$/)
  .default('')
/** An instant a shop can promise: ISO 8601, of this century. */
export const instant = z.iso.datetime({ offset: true }).refine((text) => {
  const year = new Date(text).getUTCFullYear()
  return year >= 2000 && year < 2100
})
