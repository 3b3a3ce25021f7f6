import type { TodayView } from '#contracts/http/ticket.ts'

export interface Model {
  readonly maker: string
  readonly model: string
  readonly platform: 'android' | 'ios' | 'keypad'
  readonly versions: readonly string[]
}

export interface PhoneChoice {
  link: 'standin' | 'file'
  maker: string
  model: string
  platform: 'android' | 'ios' | 'keypad' | 'file'
  version: string
  serial: string | null
  upload?: string
  /** For the eye only: what a dropped file holds, by kind. */
  held?: Record<string, number>
}

/** The phone that stands in a port, as Book in names it. */
export function pickOfPort(port: TodayView['ports'][number]): PhoneChoice | null {
  if (!port.phone) return null
  const { maker, model, platform, version, serial } = port.phone
  return { link: 'standin', maker, model, platform: platform as PhoneChoice['platform'], version, serial }
}
