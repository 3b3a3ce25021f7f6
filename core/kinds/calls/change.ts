import { asToldLocally } from '../../text/zone.ts'
import type { PhoneModel } from '../../phones/capability.ts'
import type { Change } from '../kind.ts'
import type { Call } from './model.ts'
import { callsOn } from './face.ts'

/** Every change a phone can force on a call. */
export const callChanges = {
  'duration-dropped': { loss: true },
  'rejected-as-missed': { loss: true },
  'repeated-hour': { loss: true },
} as const

/** The form a call takes on a phone, with every change named, or the rule by which it can't cross. */
export function changeCall(call: Call, to: PhoneModel): { item: Call; changes: Change[] } | { cannot: string } {
  const { write } = callsOn(to)
  if ('cannot' in write) return write
  // a log is in order of time: none takes a call that has none, and a time made up would be an untruth
  if (call.atMs === null) return { cannot: 'no-time' }
  const changes: Change[] = []
  const note = (code: keyof typeof callChanges) => changes.push({ code, loss: callChanges[code].loss })
  const hasDuration = call.durationS !== undefined && call.durationS > 0
  if (hasDuration && !write.durations) note('duration-dropped')
  const isUnknown = !write.types.includes(call.type)
  if (isUnknown) note('rejected-as-missed')
  // what it is given is what it will say
  const atMs = write.localTimes && to.zone ? asToldLocally(call.atMs, to.zone) : call.atMs
  if (atMs !== call.atMs) note('repeated-hour')
  return {
    item: { ...call, atMs, type: isUnknown ? 'missed' : call.type, durationS: write.durations ? (call.durationS ?? 0) : undefined },
    changes,
  }
}
