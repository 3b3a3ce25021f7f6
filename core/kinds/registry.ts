import { apps } from './apps/index.ts'
import { calendar } from './calendar/index.ts'
import { calls } from './calls/index.ts'
import { contacts } from './contacts/index.ts'
import { messages } from './messages/index.ts'
import { photos } from './photos/index.ts'
import type { Kind } from './kind.ts'

/** Kinds in the order they are carried: light first. One line a kind, and its code in `codes.ts`. */
export const kinds: readonly Kind<any>[] = [contacts, calls, calendar, messages, photos, apps]

/** @throws Error when no such kind is registered: codes are checked where they come in */
export function kindOf(code: string, registered: readonly Kind<any>[] = kinds): Kind<any> {
  const kind = registered.find((k) => k.code === code)
  if (!kind) throw new Error(`No such kind: ${code}`)
  return kind
}
