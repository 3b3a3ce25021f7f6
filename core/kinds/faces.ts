import { appsFace } from './apps/face.ts'
import { booksFace } from './books/face.ts'
import { calendarFace } from './calendar/face.ts'
import { callsFace } from './calls/face.ts'
import { contactsFace } from './contacts/face.ts'
import { documentsFace } from './documents/face.ts'
import type { KindFace } from './face.ts'
import { messagesFace } from './messages/face.ts'
import { musicFace } from './music/face.ts'
import { photosFace } from './photos/face.ts'
import { playlistsFace } from './playlists/face.ts'
import { recordingsFace } from './recordings/face.ts'
import { videosFace } from './videos/face.ts'
import { voicemailFace } from './voicemail/face.ts'
import { wallpapersFace } from './wallpapers/face.ts'

/** What is known of each kind before it is read, in the order they are carried: light first. One line a kind. */
export const faces: readonly KindFace[] = [
  contactsFace,
  callsFace,
  calendarFace,
  messagesFace,
  photosFace,
  appsFace,
  wallpapersFace,
  voicemailFace,
  recordingsFace,
  booksFace,
  documentsFace,
  musicFace,
  videosFace,
  playlistsFace,
]

/** The kinds by their codes, in that order. */
export const kindCodes: readonly string[] = faces.map(({ code }) => code)

/** @throws Error when no such kind is registered: codes are checked where they come in */
export function faceOf(code: string): KindFace {
  const face = faces.find((one) => one.code === code)
  if (!face) throw new Error(`No such kind: ${code}`)
  return face
}

/** Which kinds ask for a need of the guides. */
export function askedBy(need: string): string[] {
  return faces.filter(({ needs }) => needs.includes(need)).map(({ code }) => code)
}
