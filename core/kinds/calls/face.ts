import { capabilityOf, type PhoneModel } from '../../phones/capability.ts'
import { marks, type KindFace } from '../face.ts'

/** What a phone does with its call log. */
export interface CallsAbility {
  readonly vcard: '2.1' | '3.0'
  /** Kinds of call its log has a word for. */
  readonly types: readonly string[]
  readonly durations: boolean
  /** How many it keeps, the newest. */
  readonly newest: number
  /** It gives local times alone: of the hour that comes twice it tells the first. */
  readonly localTimes: boolean
}

const android: CallsAbility = {
  vcard: '2.1',
  types: ['in', 'out', 'missed', 'rejected', 'blocked'],
  durations: true,
  newest: 500,
  localTimes: true,
}
const tamsel: CallsAbility = { ...android, types: ['in', 'out', 'missed'], durations: false, newest: 300 }

/** What that phone does with its call log. */
export const callsOn = (phone: PhoneModel) => capabilityOf<CallsAbility>(phone, 'calls')

export const callsFace: KindFace = {
  code: 'calls',
  phones: {
    Orrin: { read: true, write: android },
    Tamsel: { read: true, write: tamsel },
    Veyra: { read: true, write: { cannot: 'platform-takes-no-calls' } },
    Holt: { read: true, write: { cannot: 'phone-takes-no-calls' } },
    File: { read: true, write: { cannot: 'file-is-read-only' } },
  },
  guides: {
    android: { read: true, write: true, limits: { newest: 500 } },
    'tamsel-to-11': { read: true, write: true, limits: { newest: 300 } },
    ios: { read: true, write: { cannot: 'platform-takes-no-calls' } },
    keypad: { read: true, write: { cannot: 'phone-takes-no-calls' }, limits: { newest: 20 } },
  },
  facets: marks('call', ['in', 'out', 'missed', 'rejected', 'blocked', 'withheld'], ['in', 'out', 'missed']),
  needs: ['flight-mode', 'encrypted-reading'],
  permission: 'the call log',
}
