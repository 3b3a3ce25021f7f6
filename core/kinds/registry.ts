import { apps } from './apps/index.ts'
import { calendar } from './calendar/index.ts'
import { calls } from './calls/index.ts'
import { contacts } from './contacts/index.ts'
import { messages } from './messages/index.ts'
import { photos } from './photos/index.ts'
import type { Kind } from './kind.ts'

/** A kind whose items only it knows the inside of. */
export type AnyKind = Kind<unknown>

/** Kinds in the order they are carried: light first. One line a kind; the faces stand in the same order. */
export const kinds: readonly AnyKind[] = [contacts, calls, calendar, messages, photos, apps]

/** @throws Error when no such kind is registered: codes are checked where they come in */
export function kindOf(code: string, registered: readonly AnyKind[] = kinds): AnyKind {
  const kind = registered.find((k) => k.code === code)
  if (!kind) throw new Error(`No such kind: ${code}`)
  return kind
}
