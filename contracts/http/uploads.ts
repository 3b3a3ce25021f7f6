import { z } from 'zod'
import { otherCodes } from '#core/kinds/not-taken.ts'

export const uploadId = z.string().uuid()
/** Which of an upload's files, from 0. */
export const fileNo = z.coerce.number().int().min(0).max(1_000_000)

/** `POST /api/uploads/begin`: files as their browser knows them. */
export const beginUploadBody = z.object({
  /** An upload they belong to; null for a new one. */
  upload: uploadId.nullable().default(null),
  files: z
    .array(
      z.object({
        path: z.string().min(1).max(2000),
        sizeBytes: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER),
        modifiedMs: z.number().int().min(-8_640_000_000_000_000).max(8_640_000_000_000_000),
        /** SHA-256 of the first 64 kB, in hex. */
        beginning: z.string().regex(/^[0-9a-f]{64}$/),
      }),
    )
    .min(1)
    .max(150_000),
})
/** `POST /api/uploads/{upload}/sort` */
export const sortUploadBody = z.object({ password: z.string().min(1).max(200).nullable().default(null) })

const whyNot = { sizeBytes: z.number(), why: z.enum(otherCodes), n: z.number().int().nullable() }

/** `GET /api/tickets/{number}/not-taken`: what was brought and not taken; what it is called only while showing is allowed. */
export const notTakenView = z.object({
  total: z.number().int(),
  isShowing: z.boolean(),
  /** The first of them. */
  rows: z.array(z.object({ path: z.string().nullable(), ...whyNot })),
})
export type NotTakenView = z.infer<typeof notTakenView>

export const uploadView = z.object({
  upload: z.string(),
  state: z.enum(['taking', 'sorting', 'sorted', 'locked', 'refused']),
  /** Why it can't be sorted, by code. */
  problem: z.string().nullable(),
  sizeBytes: z.number(),
  gotBytes: z.number(),
  files: z.array(z.object({ no: z.number().int(), sizeBytes: z.number(), gotBytes: z.number() })),
  /** By kind. */
  items: z.record(z.string(), z.number().int()),
  unreadable: z.number().int(),
  /** What is not taken, the first of them by name; none once a ticket has them: it names them while showing is allowed. */
  others: z.array(z.object({ path: z.string(), ...whyNot })),
  othersInAll: z.number().int(),
})
export type UploadView = z.infer<typeof uploadView>
