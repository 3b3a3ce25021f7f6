import { z } from 'zod'

/** Codes a phone may refuse a single record with; anything else is a `LinkProtocol` failure. */
export const refusalCodes = [
  'not-understood',
  'name-too-long',
  'photo-too-large',
  'attachment-too-large',
  'storage-full',
  'storage-read-only',
  'not-now',
] as const
export const refusalCode = z.enum(refusalCodes)

export const linkFailures = [
  'LinkLost',
  'PhoneLocked',
  'TrustNeeded',
  'TrustRefused',
  'PermissionMissing',
  'DebuggingOff',
  'HelperMissing',
  'StorageFull',
  'TooHot',
  'NotPlugged',
  'ConnectionTaken',
  'RevisionChanged',
  'NoSuchRecord',
  'LinkProtocol',
] as const
export const linkFailure = z.enum(linkFailures)
export type LinkFailure = z.infer<typeof linkFailure>

export const maxWrite = 200

/** Platforms of phones; `file` is a dropped file that stands in for one. */
export const linkPlatform = z.enum(['android', 'ios', 'keypad', 'file'])

export const phoneFacts = z.object({
  serial: z.string().min(1).max(64),
  maker: z.string(),
  model: z.string(),
  platform: linkPlatform,
  version: z.string(),
  /** ISO 3166 */
  region: z.string().length(2),
  /** IANA: the zone of the local times it gives. */
  zone: z.string().max(60).default('Europe/London'),
  batteryPercent: z.number().int().min(0).max(100),
  isCharging: z.boolean(),
  freeBytes: z.number().int().min(0),
  totalBytes: z.number().int().min(0),
  temperatureC: z.number(),
  /** How long its own count may go on moving after a write. */
  settleMs: z.number().int().min(0).max(600_000),
  /** What its cable carries. */
  bytesPerSecond: z.number().int().min(0).default(0),
  /** An area run by an employer or a school: it is named and never read. */
  hasWorkArea: z.boolean().default(false),
})
export type PhoneFacts = z.infer<typeof phoneFacts>

/** What the phone reports of itself, by the need it meets (`unlocked`, `debugging`, `allow:contacts`, …). */
export const readinessFact = z.object({ need: z.string().min(1).max(40), isMet: z.boolean() })
export type ReadinessFact = z.infer<typeof readinessFact>

/** What stands in a port, as far as the link can see it without a connection. */
export const portView = z.object({
  port: z.number().int().min(1).max(8),
  /** Something draws current from it, seen or not. */
  drawsPower: z.boolean().default(false),
  phone: z
    .object({
      facts: phoneFacts,
      readiness: z.array(readinessFact),
      /** What the phone's screen asks now, and since when (milliseconds since 1970). */
      asks: z.object({ question: z.string().min(1).max(40), sinceMs: z.number() }).nullable(),
      /** It is trusted and unlocked, and answers; else it is seen and silent. */
      speaks: z.boolean().default(true),
    })
    .nullable(),
})
export type PortView = z.infer<typeof portView>

/** Asks the phone for what these kinds need of it: the helper, permissions, the message app role. */
export const prepareRequest = z.object({ kinds: z.array(z.string().max(40)).max(30), writes: z.boolean() })
/** Makes the phone show a mark for 20 seconds. */
export const markRequest = z.object({ text: z.string().max(12) })

/** The phone's own count: `items` is what it says it holds, `derived` how many of those are no stored records. */
export const phoneCount = z.object({
  items: z.number().int().min(0),
  bytes: z.number().int().min(0),
  derived: z.number().int().min(0),
  /** What the derived entries are, by name: `ownCard` and the like. */
  derivedOf: z.record(z.string(), z.number().int()).default({}),
  revision: z.string().min(1),
  /** Second figures, such as how many persons its own list shows. */
  also: z.record(z.string(), z.number()).default({}),
})
export type PhoneCount = z.infer<typeof phoneCount>

export const linkRecord = z.object({
  id: z.string().min(1).max(200),
  revision: z.string(),
  /** SIM, phone or an account. */
  storage: z.string().max(40),
  /** Base64 of what the phone gives: a vCard in its own dialect. Empty with `unreadable`. */
  body: z.string(),
  /** Handles of what belongs to it and is streamed apart: attachments. */
  files: z.array(z.string().min(1).max(200)).max(500).optional(),
  /** It belongs to the record of that id and is no item of its own: a clip that a phone keeps apart from its picture. */
  belongsTo: z.string().min(1).max(200).optional(),
  /** The phone itself could not give this record. */
  unreadable: z.string().max(60).optional(),
})
export type LinkRecord = z.infer<typeof linkRecord>

/** A line of a listing; the listing is whole only when it ends in exactly one `end`. */
export const listLine = z.union([
  z.object({ rec: linkRecord }),
  z.object({ end: z.object({ count: z.number().int().min(0), revision: z.string() }) }),
  z.object({ fail: z.object({ code: z.string() }) }),
])

export const writeRequest = z.object({ records: z.array(z.string()).min(1).max(maxWrite) })
export const writeResult = z.union([
  z.object({ ids: z.array(z.string()).min(1), joinedInto: z.string().optional() }),
  z.object({ joinedInto: z.string() }),
  z.object({ refused: refusalCode }),
])
export type WriteResult = z.infer<typeof writeResult>
export const writeAnswer = z.object({ results: z.array(writeResult) })

export const removeRequest = z.object({ ids: z.array(z.string()).min(1).max(maxWrite), ifRevision: z.string() })
export const removeAnswer = z.object({ removed: z.array(z.string()) })
export const openAnswer = z.object({ body: z.string(), revision: z.string() })
export const amendAnswer = z.object({ revision: z.string() })
export const amendRequest = z.object({ id: z.string(), ifRevision: z.string(), record: z.string() })

/** A file that was taken: what a record written afterwards names it by. One that no record names goes with the connection. */
export const fileAnswer = z.object({ handle: z.string().min(1).max(200), sizeBytes: z.number().int().min(0) })

/** A small picture the phone has of a file by itself, a JPEG in Base64; null where it has none. */
export const previewAnswer = z.object({ picture: z.string().max(400_000).nullable() })

export const attachAnswer = z.object({ connection: z.string() })

export const watchEvent = z.object({
  event: z.enum(['plugged', 'pulled', 'locked', 'unlocked', 'asked', 'answered', 'changed', 'here']),
  port: z.number().int().min(1).max(8).optional(),
  serial: z.string().optional(),
})
export type WatchEvent = z.infer<typeof watchEvent>
