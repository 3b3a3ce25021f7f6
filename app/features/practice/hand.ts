import { fingerWords, phoneScreen as said, trustQuestions } from '../../words/practice.ts'

/** What goes with an act of the hand. */
export type HandBody = Readonly<Record<string, unknown>>

export interface HandPhone {
  readonly serial: string
  readonly maker: string
  readonly model: string
  readonly platform: 'android' | 'ios' | 'keypad'
  readonly version: string
  readonly port: number | null
  readonly setup: 'in-box' | 'welcome' | 'set-up'
  readonly isOn: boolean
  readonly isLocked: boolean
  readonly trust: 'none' | 'asked' | 'trusted' | 'refused'
  readonly question: string | null
  readonly allows: readonly string[]
  readonly switches: Readonly<Record<string, boolean>>
  readonly cable: 'data' | 'slow' | 'charge-only'
  readonly isAsleep: boolean
  readonly fallsBack: boolean
  readonly isLive: boolean
  readonly hasWorkArea: boolean
  readonly syncLeft: number
  readonly isMarked: boolean
  readonly markedText: string
  readonly battery: number
  readonly isCharging: boolean
  readonly freeBytes: number
  readonly totalBytes: number
  readonly temperature: number
  readonly settleMs: number
  readonly dropsWhenFull: boolean
  readonly joinsEqual: boolean
  readonly contacts: number
  readonly persons: number
  readonly derived: number
  readonly faults: readonly { point: string; effect: string; skip: number; times: number }[]
}

export interface FaultPoint {
  readonly point: string
  readonly operation: string
  readonly effects: readonly string[]
}

export interface FingerAct {
  readonly name: string
  /** Platforms it can be done on; null for all. */
  readonly on: readonly string[] | null
}

/** What the phone's screen shows now. */
export function screenOf(phone: HandPhone): { head: string; text: string } {
  if (!phone.isOn) return { head: '', text: '' }
  if (phone.isMarked) return { head: phone.markedText, text: '' }
  if (phone.setup !== 'set-up') return { head: said.hello, text: said.welcome }
  if (phone.isLocked) return { head: '', text: said.locked }
  if (phone.question)
    return {
      head: '?',
      text: phone.question === 'trust' ? trustQuestions[phone.platform] : (fingerWords[phone.question] ?? phone.question),
    }
  return { head: String(phone.contacts), text: phone.persons === phone.contacts ? said.contacts : said.contactsShown(phone.persons) }
}
