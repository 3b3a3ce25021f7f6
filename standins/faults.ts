import type pg from 'pg'
import { useFault } from './faults.queries.ts'

/** Every place where a fault can happen, the operation it belongs to, and what can happen there. */
export const faultPoints = [
  { point: 'attach', operation: 'attach', effects: ['cut', 'pull', 'unknown-code'] },
  { point: 'facts', operation: 'facts', effects: ['cut', 'pull', 'unknown-code'] },
  { point: 'count', operation: 'count', effects: ['cut', 'pull', 'unknown-code', 'one-more', 'restless'] },
  { point: 'list.start', operation: 'list', effects: ['cut', 'pull', 'lock', 'fail', 'unknown-code'] },
  { point: 'list.mid', operation: 'list', effects: ['cut', 'pull', 'lock', 'fail', 'not-json'] },
  { point: 'list.end', operation: 'list', effects: ['no-end', 'leave-out-one', 'cut'] },
  { point: 'open', operation: 'open', effects: ['cut', 'pull', 'unknown-code'] },
  { point: 'write.before', operation: 'write', effects: ['cut', 'pull', 'lock', 'unknown-code', 'refuse-one', 'cut-quietly'] },
  { point: 'write.mid', operation: 'write', effects: ['cut', 'pull', 'lock'] },
  { point: 'write.record', operation: 'write', effects: ['half', 'drop', 'double', 'alter', 'join-quietly', 'later', 'redate'] },
  { point: 'write.after', operation: 'write', effects: ['cut', 'pull', 'one-answer-less', 'stall'] },
  { point: 'file.give', operation: 'file', effects: ['cut', 'pull', 'unknown-code', 'stall', 'other-bytes'] },
  { point: 'file.take', operation: 'file', effects: ['cut', 'pull', 'unknown-code'] },
  { point: 'file.mid', operation: 'file', effects: ['cut', 'pull', 'full', 'stall'] },
  { point: 'amend.before', operation: 'amend', effects: ['cut', 'pull', 'lock', 'unknown-code'] },
  { point: 'amend.after', operation: 'amend', effects: ['cut', 'pull'] },
  { point: 'remove', operation: 'remove', effects: ['cut', 'pull', 'unknown-code'] },
] as const

export type FaultPoint = (typeof faultPoints)[number]['point']

/** Tells what happens at a point now, and uses the fault up. `null` means nothing. */
export async function faultAt(pool: pg.Pool, serial: string, point: FaultPoint): Promise<string | null> {
  const next = await useFault(pool, serial, point)
  return next?.happens ? next.effect : null
}
