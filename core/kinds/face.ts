import type { KindCapability, PhoneModel } from '../phones/capability.ts'
import type { GuideFileInput, KindAbilityInput } from '../phones/guide-schema.ts'

export type Needs = NonNullable<GuideFileInput['needs']>

/** A shape that may be asked for while masked: told by a mark of an item's shape, by a figure of it, or by its size. */
export type Facet = (
  | { readonly has: string }
  | { readonly figure: string; readonly moreThan: number }
  | { readonly figure: string; readonly is: number }
  | { readonly fromBytes: number }
) & {
  /** Most items have it: a page of them is found at once by walking along the list, and their places are not kept. */
  readonly isCommon?: boolean
}

/** Facets of marks: `sent` is asked for as `message-sent`. */
export const marks = (prefix: string, names: readonly string[], common: readonly string[] = []): Record<string, Facet> =>
  Object.fromEntries(names.map((has) => [`${prefix}-${has}`, { has, ...(common.includes(has) ? { isCommon: true } : {}) }]))

/** What guides, Book in and the forecast know of a kind without its readers and writers: small enough for a browser. */
export interface KindFace {
  readonly code: string
  /** By maker: whether its phones give it, and what they do with what they take. A maker not named has no such kind. */
  readonly phones: Readonly<Record<string, KindCapability<unknown>>>
  /** What the shipped guides say of it, by the guide's id. */
  readonly guides: Readonly<Record<string, KindAbilityInput>>
  /** Needs of the guides that are asked for its sake, by code; those of all kinds are not named here. */
  readonly needs: readonly string[]
  /** Needs no other kind has, by the guide they belong to. */
  readonly ownNeeds?: Readonly<Record<string, Needs>>
  /** Shapes that may be asked for while masked, by name; of all kinds, each once. */
  readonly facets: Readonly<Record<string, Facet>>
  /** What it is called where a phone is asked whether it may be used; a kind without one is never asked for. */
  readonly permission?: string
  /** It is asked for together with another kind. */
  readonly askedWith?: string
  /** What becomes of it between phones of different platforms, whatever the guides say. */
  readonly acrossPlatforms?: readonly { readonly code: string; readonly loss: boolean }[]
  /** Of kinds that stand in a group of the ledger that opens. */
  readonly group?: 'files'
  /** Its bytes count: it is carried after the light kinds, and must fit on the new phone. */
  readonly isMedia?: boolean
  /** Of kinds whose records can be joined: whether that phone lets a record be changed, and joins equal ones by itself. */
  readonly joining?: { amends(phone: PhoneModel): boolean; isByItself(phone: PhoneModel): boolean }
  /** Of the kinds an earlier version took from files: what such a file began with (RFC 6350, RFC 5545). */
  readonly begins?: 'VCARD' | 'VCALENDAR'
}
