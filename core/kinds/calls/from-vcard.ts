import { unescapeValue, type Vcard } from '../../formats/vcard/index.ts'
import { binaryBytes, binaryText } from '../../text/bytes.ts'
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

const stampName = 'X-IRMC-CALL-DATETIME'
/** Our own note in a record that holds several calls: which of them it stands for. */
const placeName = 'X-CORVEND-CALL'
const isNoted = new RegExp(`^${placeName}:`, 'm')

/**
 * A record of several calls with one number, which the profile allows, as one for each: the card with a note which of
 * its times is meant. Undefined for a record of one call, and for one that has its note already: it stands for one.
 */
export function eachCall(bytes: Uint8Array): Uint8Array[] | undefined {
  const text = binaryText(bytes)
  const n = text.match(/^(?:[\w-]+\.)?X-IRMC-CALL-DATETIME[;:]/gim)?.length ?? 0
  const end = text.search(/^END:VCARD\s*$/im)
  if (n < 2 || end < 0 || isNoted.test(text)) return undefined
  return Array.from({ length: n }, (_, i) => binaryBytes(`${text.slice(0, end)}${placeName}:${i}\r\n${text.slice(end)}`))
}

/**
 * The meaning of a call record (Bluetooth phone book access profile, section 3.1.3): `X-IRMC-CALL-DATETIME` with the
 * kind of call as a bare parameter or as TYPE=, in local time or with `Z`; what the profile has no word for
 * (rejected, blocked) stands in `X-CALL-STATE`, how long it took in `X-CALL-DURATION`.
 */
export function callFromVcard(card: Vcard, tools: ReadTools): { call: Call } | { code: string } {
  const isOld = card.version === '2.1'
  const all = (name: string) => card.properties.filter((p) => p.name === name)
  const unescaped = (value: string | undefined) => unescapeValue(value ?? '', isOld).trim()
  const text = (name: string) => unescaped(all(name)[0]?.value)
  const stamps = all(stampName)
  const place = Number(text(placeName)) || 0
  const stamp = stamps[place]
  /** Said of each call where it stands as often as calls do; of several together it says nothing of one. */
  const ofCall = (name: string) => (all(name).length === stamps.length ? unescaped(all(name)[place]?.value) : '')
  // the stamp may be empty where the phone's clock was not set: the kind of call stands all the same
  const isTimeless = stamp?.value.trim() === ''
  const time = stamp && readBasicTime(stamp.value)
  if (!stamp || (!time && !isTimeless)) return { code: 'no-call-date' }
  const named = [...(stamp.params.TYPE ?? []), ofCall('X-CALL-STATE')]
    .map((type) => types[type.toUpperCase()])
    .filter((type) => type !== undefined)
  const type = named.at(-1)
  if (!type) return { code: 'no-call-type' }
  const duration = /^\d{1,7}$/.exec(ofCall('X-CALL-DURATION'))?.[0]
  const number = text('TEL').replace(/^tel:/i, '')
  const [family = '', given = ''] = text('N').split(';')
  return {
    call: {
      number: /^(withheld|anonymous|private|unknown|-1|-2)$/i.test(number) ? '' : number,
      name: text('FN') || [given, family].filter(Boolean).join(' '),
      type,
      atMs: time ? (time.isUtc ? utcOf(time.local) : tools.instant(time.local)) : null,
      durationS: duration === undefined ? undefined : Number(duration),
    },
  }
}
