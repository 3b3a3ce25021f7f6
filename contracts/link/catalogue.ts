import { z } from 'zod'

/** An app as a catalogue of a platform lists it. */
export const catalogueApp = z.object({
  id: z.string().min(1).max(200),
  platform: z.enum(['android', 'ios']),
  name: z.string().max(120),
  maker: z.string().max(120),
  /** What it is for, by the catalogue's word: the same on both platforms. */
  use: z.string().max(40),
  priceCents: z.number().int().min(0),
  /** ISO 3166 regions it is offered in; none named means everywhere. */
  regions: z.array(z.string().length(2)),
  /** The least version of the platform it runs on. */
  minVersion: z.number().int().min(1),
  sizeBytes: z.number().int().min(0),
  /** Where its own store has it. */
  link: z.url().max(300).optional(),
  /** Bound to one phone: it must be moved by hand before that is wiped. */
  tied: z.enum(['bank', 'codes', 'wallet', 'chat']).nullable(),
})
export type CatalogueApp = z.infer<typeof catalogueApp>

/** What stands in for apps on the other platform. By POST: what a customer has is nothing for an address. */
export const counterpartsRequest = z.object({
  ids: z.array(z.string().max(200)).min(1).max(200),
  from: z.enum(['android', 'ios']),
  to: z.enum(['android', 'ios']),
})
export const counterpartsAnswer = z.object({
  results: z.array(
    z.object({
      id: z.string(),
      /** The app itself; null when the catalogue never heard of it. */
      app: catalogueApp.nullable(),
      /** Of the other platform: by the same maker under the same name, and of the same use. */
      candidates: z.array(catalogueApp).max(40),
      /** It can be used in a browser. */
      hasWebPage: z.boolean(),
    }),
  ),
})
export type Counterparts = z.infer<typeof counterpartsAnswer>['results'][number]
