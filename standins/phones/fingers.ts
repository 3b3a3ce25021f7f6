import { askedAs, askedKinds, phoneKinds } from '../kinds/registry.ts'
import type { PhoneRow } from './phone.ts'

type Platform = 'android' | 'ios' | 'keypad'

/** What fingers do on a phone's own screen: where it can be done, what must be so before, and what it changes. */
export interface FingerAct {
  readonly on?: readonly Platform[]
  /** Switches that must be on before. */
  readonly after?: readonly string[]
  /** Works on a phone that is off, at its welcome screen or locked, too. */
  readonly anywhere?: boolean
  readonly sets?: Readonly<Record<string, boolean>>
  readonly columns?: Partial<
    Pick<
      PhoneRow,
      'setup' | 'is_on' | 'is_locked' | 'cable' | 'is_asleep' | 'battery' | 'is_charging' | 'temperature' | 'trust' | 'free_bytes'
    >
  >
  readonly allows?: string
  /** The phone asks about the computer afterwards, when it is plugged in. */
  readonly asksTrust?: boolean
}

const android = ['android'] as const
const ios = ['ios'] as const
const keypad = ['keypad'] as const

export const fingerActs: Readonly<Record<string, FingerAct>> = {
  'turn-on': { anywhere: true, columns: { is_on: true } },
  'turn-off': { anywhere: true, columns: { is_on: false } },
  'finish-welcome': { anywhere: true, columns: { setup: 'set-up', is_locked: false }, asksTrust: true },
  'other-cable': { anywhere: true, columns: { cable: 'data' }, asksTrust: true },
  charge: { anywhere: true, columns: { is_charging: true } },
  'charge-full': { anywhere: true, columns: { battery: 96, is_charging: true } },
  'cool-down': { anywhere: true, columns: { temperature: 27 } },
  'screen-stay-on': { sets: { 'screen-stays-on': true } },
  'screen-as-before': { sets: { 'screen-stays-on': false } },
  'make-copy': { sets: { 'fresh-copy': true } },
  'pause-accounts': { sets: { 'accounts-still': true } },
  'resume-accounts': { sets: { 'accounts-still': false } },
  'keep-messages-forever': { sets: { 'message-keep-time': true } },
  'keep-messages-as-before': { sets: { 'message-keep-time': false } },
  'keep-photos-whole': { sets: { 'photos-whole': true } },
  'keep-photos-as-before': { sets: { 'photos-whole': false } },
  'free-space': { columns: { free_bytes: 12_000_000_000 } },
  'update-waiting': { sets: { 'up-to-date': true } },
  'sign-in': { sets: { 'account-signed-in': true } },
  'flight-mode-on': { sets: { 'flight-mode': true } },
  'flight-mode-off': { sets: { 'flight-mode': false } },
  'forget-computers': { columns: { trust: 'none' } },
  // Android
  'cable-files': { on: android, sets: { 'cable-files': true }, asksTrust: true },
  'cable-charging': { on: android, sets: { 'cable-files': false } },
  'turn-on-debugging': { on: android, after: ['developer-options'], sets: { debugging: true }, asksTrust: true },
  'turn-off-debugging': { on: android, sets: { debugging: false } },
  'turn-off-developer-options': { on: android, sets: { 'developer-options': false, debugging: false } },
  'install-helper': { on: android, sets: { helper: true } },
  'remove-helper': { on: android, sets: { helper: false, 'message-app': false } },
  'message-app-helper': { on: android, after: ['helper'], sets: { 'message-app': true } },
  'message-app-own': { on: android, sets: { 'message-app': false } },
  ...Object.fromEntries(askedKinds.map((kind) => [`allow-${kind}`, { allows: kind } satisfies FingerAct])),
  // iOS
  'encrypted-reading-on': { on: ios, sets: { 'encrypted-reading': true } },
  'encrypted-reading-off': { on: ios, sets: { 'encrypted-reading': false } },
  'anti-theft-off': { on: ios, sets: { 'anti-theft-off': true } },
  'anti-theft-on': { on: ios, sets: { 'anti-theft-off': false } },
  'passcode-off': { on: ios, after: ['anti-theft-off'], sets: { 'passcode-off': true } },
  'passcode-on': { on: ios, sets: { 'passcode-off': false } },
  'chat-off': { on: ios, sets: { 'chat-off': true } },
  'chat-on': { on: ios, sets: { 'chat-off': false } },
  // keypad
  'bluetooth-on': { on: keypad, sets: { bluetooth: true }, asksTrust: true },
  'bluetooth-off': { on: keypad, sets: { bluetooth: false } },
}

/** A phone whose owner prepared everything: what a test or a script gets unless it asks for one in its box. */
export function preparedSwitches(platform: Platform): Record<string, boolean> {
  const common = {
    'fresh-copy': true,
    'accounts-still': true,
    'message-keep-time': true,
    'photos-whole': true,
    'up-to-date': true,
    'account-signed-in': true,
  }
  if (platform === 'android') return { ...common, 'cable-files': true, 'developer-options': true, debugging: true, helper: true }
  return platform === 'ios' ? common : { bluetooth: true }
}

/** The link sees it on its port: it is on, its cable or its Bluetooth carries data. */
export function isVisible(phone: PhoneRow, platform: Platform): boolean {
  if (phone.port === null || !phone.is_on || phone.is_asleep) return false
  if (platform === 'keypad') return phone.switches.bluetooth === true
  return phone.cable !== 'charge-only' && (platform === 'ios' || phone.switches['cable-files'] === true)
}

/** It may ask whether the computer is trusted, and answers what it is asked. */
export function canAsk(phone: PhoneRow, platform: Platform): boolean {
  return isVisible(phone, platform) && phone.setup === 'set-up' && (platform !== 'android' || phone.switches.debugging === true)
}

/** The question on its screen now, and since when; none when nothing waits. */
export function questionOf(phone: PhoneRow, platform: Platform): { question: string; since: Date } | null {
  if (phone.port === null || !phone.is_on || phone.setup !== 'set-up') return null
  if (phone.is_locked) return { question: 'unlock', since: phone.asked_since ?? phone.touched_at }
  if (!canAsk(phone, platform)) return null
  if (phone.trust === 'asked') return { question: 'trust', since: phone.asked_since ?? phone.touched_at }
  if (phone.trust !== 'trusted' || !phone.wants || !phone.wants_since) return null
  const question = wantedNow(phone, platform)
  return question ? { question, since: phone.wants_since } : null
}

/** What the computer asked for and did not get yet: one question at a time. */
function wantedNow(phone: PhoneRow, platform: Platform): string | null {
  const { kinds, writes } = phone.wants!
  if (platform === 'android' && !phone.switches.helper) return 'install-helper'
  if (platform !== 'keypad') {
    const kind = kinds.map(askedAs).find((k) => k !== undefined && !phone.allows.includes(k))
    if (kind) return `allow-${kind}`
  }
  const asks = phoneKinds.filter(({ code }) => kinds.includes(code)).flatMap(({ asksFor = [] }) => asksFor)
  return asks.find((ask) => ask.platform === platform && ask.writes === writes && !phone.switches[ask.unless])?.question ?? null
}

/** What a phone reports of itself. Before the computer is trusted it says little. */
export function reportOf(phone: PhoneRow, platform: Platform): { need: string; isMet: boolean }[] {
  if (!isVisible(phone, platform)) return []
  const facts = [
    { need: 'set-up', isMet: phone.setup === 'set-up' },
    { need: 'unlocked', isMet: phone.setup === 'set-up' && !phone.is_locked },
    { need: 'trusted', isMet: phone.trust === 'trusted' },
  ]
  const fact = (need: string) => facts.push({ need, isMet: phone.switches[need] === true })
  if (platform === 'android') {
    fact('cable-files')
    fact('debugging')
  }
  if (!canAsk(phone, platform) || phone.trust !== 'trusted') return facts
  if (platform === 'android') {
    fact('helper')
    fact('message-app')
  }
  if (platform !== 'keypad') for (const kind of askedKinds) facts.push({ need: `allow:${kind}`, isMet: phone.allows.includes(kind) })
  if (platform === 'ios') for (const need of ['encrypted-reading', 'anti-theft-off', 'passcode-off']) fact(need)
  if (platform !== 'keypad')
    for (const need of ['fresh-copy', 'accounts-still', 'message-keep-time', 'photos-whole', 'up-to-date', 'account-signed-in']) fact(need)
  return facts
}
