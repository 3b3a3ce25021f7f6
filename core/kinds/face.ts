import type { KindCapability, PhoneModel } from '../phones/capability.ts'
import type { GuidePartInput, KindAbilityInput } from '../phones/guide-schema.ts'

export type Needs = NonNullable<GuidePartInput['needs']>

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
  /** What it is called where a phone is asked whether it may be used; a kind without one is never asked for. */
  readonly permission?: string
  /** What becomes of it between phones of different platforms, whatever the guides say. */
  readonly acrossPlatforms?: readonly { readonly code: string; readonly loss: boolean }[]
  /** Its bytes count: it is carried after the light kinds, and must fit on the new phone. */
  readonly isMedia?: boolean
  /** Of kinds whose records can be joined: whether that phone lets a record be changed, and joins equal ones by itself. */
  readonly joining?: { amends(phone: PhoneModel): boolean; isByItself(phone: PhoneModel): boolean }
  /** Of kinds that come in open files: how such a file begins (RFC 6350, RFC 5545). */
  readonly begins?: string
}
