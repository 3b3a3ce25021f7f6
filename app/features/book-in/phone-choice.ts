import type { PlaceKind } from '#contracts/http/fields.ts'
import type { SidePlatform } from '#core/phones/capability.ts'
import type { CopyView } from '#contracts/http/lockers.ts'
import type { TodayView } from '#contracts/http/ticket.ts'

export interface Model {
  readonly maker: string
  readonly model: string
  readonly platform: 'android' | 'ios' | 'keypad'
  readonly versions: readonly string[]
}

export interface PhoneChoice {
  place: PlaceKind
  maker: string
  model: string
  platform: SidePlatform
  version: string
  serial: string | null
  upload?: string
  /** A copy that is put back. */
  copy?: number
  /** Opens a copy that is closed by its owner. */
  passphrase?: string
  /** For the eye only: it is closed. */
  isClosed?: boolean
  /** What the files that are taken home are locked with. */
  password?: string
  /** Until when the copy is kept that is made (ISO 8601 day). */
  keepUntil?: string
  /** For the eye only: what a dropped file holds, by kind. */
  held?: Record<string, number>
}

/** The phone that stands in a port, as Book in names it. */
export function pickOfPort(port: TodayView['ports'][number]): PhoneChoice | null {
  if (!port.phone) return null
  const { maker, model, platform, version, serial } = port.phone
  return { place: 'bench', maker, model, platform: platform as PhoneChoice['platform'], version, serial }
}

/** A copy in a locker in place of the phone it was made of. */
export function pickOfCopy({ id, phone, isClosed }: CopyView): PhoneChoice {
  return { ...phone, place: 'locker', platform: phone.platform as PhoneChoice['platform'], serial: null, copy: id, isClosed }
}

/** Open files in place of the new phone. */
export function filesHome(password = ''): PhoneChoice {
  const files = { place: 'folder', maker: 'Files', model: 'Files', platform: 'folder', version: '', serial: null } as const
  return password ? { ...files, password } : files
}

type Port = TodayView['ports'][number]

export interface ListedPort {
  readonly port: Port
  /** It was listed and can't be taken any more: its cable was pulled, or a ticket names it by now. */
  readonly isGone: boolean
}

const same = (a: Port, b: Port) => a.phone?.serial === b.phone?.serial

/**
 * The ports to choose from, so that nothing moves under a hand that is about to press: what was listed stays where
 * it is, gone or not, at whatever port it is by now, and what came since stands below.
 */
export function keepPlaces(before: readonly ListedPort[], now: readonly Port[]): ListedPort[] {
  const kept = before.map(({ port }) => {
    const found = now.find((other) => same(other, port))
    return { port: found ?? port, isGone: !found }
  })
  return [...kept, ...now.filter((port) => !before.some((listed) => same(listed.port, port))).map((port) => ({ port, isGone: false }))]
}
