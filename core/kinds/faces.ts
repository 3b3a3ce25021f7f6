import { appsFace } from './apps/face.ts'
import { calendarFace } from './calendar/face.ts'
import { callsFace } from './calls/face.ts'
import { contactsFace } from './contacts/face.ts'
import { messagesFace } from './messages/face.ts'
import { photosFace } from './photos/face.ts'
import type { KindFace } from './face.ts'

/** What is known of each kind before it is read, in the order they are carried: light first. One line a kind. */
export const faces: readonly KindFace[] = [contactsFace, callsFace, calendarFace, messagesFace, photosFace, appsFace]

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
