import { apps } from './apps/index.ts'
import { books } from './books/index.ts'
import { calendar } from './calendar/index.ts'
import { calls } from './calls/index.ts'
import { contacts } from './contacts/index.ts'
import { documents } from './documents/index.ts'
import { messages } from './messages/index.ts'
import { music } from './music/index.ts'
import type { PhoneKind } from './phone-kind.ts'
import { photos } from './photos/index.ts'
import { playlists } from './playlists/index.ts'
import { recordings } from './recordings/index.ts'
import { videos } from './videos/index.ts'
import { voicemail } from './voicemail/index.ts'
import { wallpapers } from './wallpapers/index.ts'

/** What the practice phones know of each kind. One line a kind; permissions are asked for in this order. */
export const phoneKinds: readonly PhoneKind[] = [
  contacts,
  messages,
  calls,
  calendar,
  photos,
  apps,
  videos,
  music,
  recordings,
  voicemail,
  documents,
  books,
  wallpapers,
  playlists,
]

export const phoneKind = (code: string): PhoneKind | undefined => phoneKinds.find((kind) => kind.code === code)

/** Kinds a phone asks its owner about. */
export const askedKinds = phoneKinds.filter(({ isAsked, askedAs }) => isAsked && !askedAs).map(({ code }) => code)

/** As which kind a phone asks its owner about one: films belong to the photos. Undefined where nobody is asked. */
export function askedAs(code: string): string | undefined {
  const kind = phoneKind(code)
  return kind?.isAsked ? (kind.askedAs ?? code) : undefined
}
