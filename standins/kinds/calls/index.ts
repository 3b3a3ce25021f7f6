import type { PhoneKind } from '../phone-kind.ts'
import { countFurther } from './calls.queries.ts'
import { callLog, callsOf, callWays, giveCall, takeCall, type StoredCall } from './calls.ts'

const without = (body: Buffer, what: RegExp, to: string) => Buffer.from(body.toString('latin1').replace(what, to), 'latin1')
const keeps = { orrin: 500, tamsel: 300, veyra: 500, holt: 20 }

/** The call log: only the newest, and nobody but an Android phone takes one. */
export const calls: PhoneKind<StoredCall> = {
  code: 'calls',
  isAsked: true,
  iosStorage: 'account',
  isOfSeveral: true,
  asksFor: [{ platform: 'ios', writes: false, unless: 'encrypted-reading', question: 'encrypted-reading-on' }],
  on({ platform, dialect }) {
    const way = callWays[dialect]
    return {
      give: (stored) => giveCall(stored, way),
      take: (bytes) => takeCall(bytes, way),
      facts: (stored) => callsOf(stored).map((call) => JSON.stringify(way.durations ? call : { ...call, durationS: null })),
      refuses: () => (platform === 'android' ? null : 'storage-read-only'),
      at: (stored) => stored.atMs,
      keeps: keeps[dialect],
    }
  },
  halve: (stored) => ({ ...stored, name: '', durationS: 0 }),
  alter: (stored) => ({ ...stored, durationS: stored.durationS + 1 }),
  damaged(body, damage) {
    if (damage === 'no-date') return without(body, /X-IRMC-CALL-DATETIME[^\r]*\r\n/, '')
    return damage === 'no-time' ? without(body, /(X-IRMC-CALL-DATETIME[^:\r]*:)[^\r]*/, '$1') : undefined
  },
  contents: (_, request) => callLog(request),
  counted: async (pool, { serial }) => ({ more: await countFurther(pool, serial) }),
}
