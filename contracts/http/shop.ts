import { z } from 'zod'
import { cursor, ticketNumber } from './fields.ts'
import { locales, outcomes } from './sets.ts'

const zone = z
  .string()
  .max(60)
  .refine((name) => name === 'UTC' || Intl.supportedValuesOf('timeZone').includes(name), { message: 'no such zone' })
const text = (most: number) => z.string().trim().max(most)

/** What a shop says of itself, and how long it keeps things. */
const settings = z.object({
  name: text(80).min(1, 'name'),
  address: text(200),
  /** IANA. */
  zone,
  locale: z.enum(locales),
  /** A browser nobody used for so long is signed out: from five minutes to a day. */
  idleMinutes: z.number().int().min(5).max(1440),
  /** Below the receipt. */
  receiptTerms: text(2000),
  /** At the end of the sheet. */
  sheetWords: text(2000),
  /** For how many days a past ticket is found by a phone’s serial. */
  serialDays: z.number().int().min(1).max(3650),
})
/** `PUT /api/shop`: what is not given stays. */
export const shopBody = settings.partial().refine((body) => Object.values(body).some((value) => value !== undefined), {
  message: 'nothing to change',
})
export const shopView = z.object({
  name: z.string(),
  address: z.string(),
  zone: z.string(),
  locale: z.string(),
  idleMinutes: z.number().int(),
  receiptTerms: z.string(),
  sheetWords: z.string(),
  serialDays: z.number().int(),
  /** Names of ports that have one, by number. */
  portNames: z.record(z.string(), z.string()),
})
export type ShopView = z.infer<typeof shopView>

const pin = z.string().regex(/^\d{4,12}$/, 'pin')
const initials = text(3).min(1, 'initials')
const name = text(60).min(1, 'name')
/** `POST /api/staff` */
export const staffBody = z.object({ name, initials, pin })
/** `PUT /api/staff/{id}`: who is not active can’t sign in. */
export const staffChangeBody = z
  .object({ name, initials, pin, isActive: z.boolean() })
  .partial()
  .refine((body) => Object.values(body).some((value) => value !== undefined), { message: 'nothing to change' })
/** `POST /api/first-start`: the shop and its first member of staff, once. */
export const firstStartBody = z.object({ shop: settings.pick({ name: true, address: true, zone: true, locale: true }), staff: staffBody })

export const portNameBody = z.object({ name: text(24) })
const appId = z.string().min(1).max(200)
/** `PUT /api/counterparts`: what stands in for an app from now on; `counterpartId` null for none, left out to forget it. */
export const counterpartWordBody = z.object({
  appId,
  platform: z.enum(['android', 'ios']),
  counterpartId: appId.nullable().optional(),
})

export const settingsView = z.object({
  shop: shopView,
  staff: z.array(z.object({ id: z.number().int(), name: z.string(), initials: z.string(), isActive: z.boolean(), isYou: z.boolean() })),
  /** What the shop remembers of counterparts: names where the catalogue answers. */
  counterparts: z.array(
    z.object({
      appId: z.string(),
      name: z.string().nullable(),
      platform: z.enum(['android', 'ios']),
      counterpartId: z.string().nullable(),
      counterpartName: z.string().nullable(),
      by: z.string(),
      candidates: z.array(z.object({ id: z.string(), name: z.string() })),
    }),
  ),
  /** The last changes of settings, the newest first. */
  changes: z.array(
    z.object({
      at: z.string(),
      by: z.string().nullable(),
      what: z.string(),
      of: z.string().nullable(),
      before: z.string().nullable(),
      after: z.string().nullable(),
    }),
  ),
})
export type SettingsView = z.infer<typeof settingsView>

/** `POST /api/past`: past tickets, and open ones, a page at a time, the newest first. By POST: a serial is nothing for an address. */
export const pastBody = z.object({
  number: z.union([ticketNumber, z.literal('')]).default(''),
  serial: text(64).default(''),
  from: z.union([z.iso.date(), z.literal('')]).default(''),
  to: z.union([z.iso.date(), z.literal('')]).default(''),
  staff: text(60).default(''),
  model: text(60).default(''),
  outcome: z.union([z.enum(outcomes), z.literal('')]).default(''),
  after: cursor,
  limit: z.number().int().min(1).max(200).default(60),
})
export const pastRow = z.object({
  number: z.string(),
  bookedAt: z.string(),
  bookedBy: z.string(),
  handedBackAt: z.string().nullable(),
  old: z.string(),
  new: z.string(),
  outcome: z.enum(outcomes),
  isErased: z.boolean(),
  /** Items of the old phone, and those that came over; null while they can still move. */
  /** Items of the old phone, and those of them that came over: as kept when it was erased, else as it stands. */
  read: z.number().int(),
  cameOver: z.number().int(),
})
export type PastRow = z.infer<typeof pastRow>
export const pastPage = z.object({
  rows: z.array(pastRow),
  /** How many there are in all. */
  total: z.number().int(),
  next: z.string().nullable(),
  /** Nothing of a customer is in it. */
  isShowing: z.literal(false),
})
