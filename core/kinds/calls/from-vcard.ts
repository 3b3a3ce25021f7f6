import { unescapeValue, type Vcard } from '../../formats/vcard/index.ts'
import { readBasicTime, utcOf } from '../../text/zone.ts'
import type { ReadTools } from '../kind.ts'
import type { Call, CallType } from './model.ts'

const types: Readonly<Record<string, CallType>> = {
  RECEIVED: 'in',
  DIALED: 'out',
  DIALLED: 'out',
  MISSED: 'missed',
  REJECTED: 'rejected',
  BLOCKED: 'blocked',
}

/**
 * The meaning of a call record (Bluetooth phone book access profile, section 3.1.3): `X-IRMC-CALL-DATETIME` with the
 * kind of call as a bare parameter or as TYPE=, in local time or with `Z`; what the profile has no word for
 * (rejected, blocked) stands in `X-CALL-STATE`, how long it took in `X-CALL-DURATION`.
 */
export function callFromVcard(card: Vcard, tools: ReadTools): { call: Call } | { code: string } {
  const isOld = card.version === '2.1'
  const of = (name: string) => card.properties.find((p) => p.name === name)
  const text = (name: string) => unescapeValue(of(name)?.value ?? '', isOld).trim()
  const stamp = of('X-IRMC-CALL-DATETIME')
  const time = stamp && readBasicTime(stamp.value)
  if (!time) return { code: 'no-call-date' }
  const named = [...(stamp.params.TYPE ?? []), text('X-CALL-STATE')]
    .map((type) => types[type.toUpperCase()])
    .filter((type) => type !== undefined)
  const type = named.at(-1)
  if (!type) return { code: 'no-call-type' }
  const duration = /^\d{1,7}$/.exec(text('X-CALL-DURATION'))?.[0]
  const number = text('TEL').replace(/^tel:/i, '')
  const [family = '', given = ''] = text('N').split(';')
  return {
    call: {
      number: /^(withheld|anonymous|private|unknown|-1|-2)$/i.test(number) ? '' : number,
      name: text('FN') || [given, family].filter(Boolean).join(' '),
      type,
      atMs: time.isUtc ? utcOf(time.local) : tools.instant(time.local),
      durationS: duration === undefined ? undefined : Number(duration),
    },
  }
}
