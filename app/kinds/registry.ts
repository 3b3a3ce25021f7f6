import { apps } from './apps/index.ts'
import { books } from './books/index.ts'
import { calendar } from './calendar/index.ts'
import { calls } from './calls/index.ts'
import { contacts } from './contacts/index.ts'
import { documents } from './documents/index.ts'
import type { KindPack } from './kind-pack.ts'
import { messages } from './messages/index.ts'
import { music } from './music/index.ts'
import { photos } from './photos/index.ts'
import { playlists } from './playlists/index.ts'
import { recordings } from './recordings/index.ts'
import { videos } from './videos/index.ts'
import { voicemail } from './voicemail/index.ts'
import { wallpapers } from './wallpapers/index.ts'

/** What the screens know of each kind, in the order in which they are named to a customer. One line a kind. */
export const packs: readonly KindPack[] = [
  contacts,
  calls,
  calendar,
  messages,
  photos,
  apps,
  videos,
  music,
  playlists,
  recordings,
  voicemail,
  documents,
  books,
  wallpapers,
]

/** What the screens know of a kind; undefined of one they don't know. */
export const packOf = (code: string): KindPack | undefined => packs.find((pack) => pack.code === code)
