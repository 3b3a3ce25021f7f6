import { apps } from './apps/index.ts'
import { books } from './books/index.ts'
import { calendar } from './calendar/index.ts'
import { calls } from './calls/index.ts'
import { contacts } from './contacts/index.ts'
import { documents } from './documents/index.ts'
import type { Kind } from './kind.ts'
import { messages } from './messages/index.ts'
import { music } from './music/index.ts'
import { photos } from './photos/index.ts'
import { playlists } from './playlists/index.ts'
import { recordings } from './recordings/index.ts'
import { videos } from './videos/index.ts'
import { voicemail } from './voicemail/index.ts'
import { wallpapers } from './wallpapers/index.ts'

/** A kind whose items only it knows the inside of. */
export type AnyKind = Kind<unknown>

/** Kinds in the order they are carried: light first. One line a kind; the faces stand in the same order. */
export const kinds: readonly AnyKind[] = [
  contacts,
  calls,
  calendar,
  messages,
  photos,
  apps,
  wallpapers,
  voicemail,
  recordings,
  books,
  documents,
  music,
  videos,
  playlists,
]

/** @throws Error when no such kind is registered: codes are checked where they come in */
export function kindOf(code: string, registered: readonly AnyKind[] = kinds): AnyKind {
  const kind = registered.find((k) => k.code === code)
  if (!kind) throw new Error(`No such kind: ${code}`)
  return kind
}
