import type pg from 'pg'
import { deleteFaults, hasFault, insertFault, useFault, type FaultRow } from './faults.queries.ts'

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

/** Phones that wait for no fault, of each database: this process alone sets faults, so it need not look anew at every step. */
const calm = new WeakMap<pg.Pool, Set<string>>()
let timesSet = 0

function calmOf(pool: pg.Pool): Set<string> {
  const known = calm.get(pool) ?? new Set<string>()
  calm.set(pool, known)
  return known
}

/** Sets faults to come, after those that wait or in their stead. */
export async function setFaults(
  pool: pg.Pool,
  serial: string,
  faults: readonly FaultRow[],
  { inStead }: { readonly inStead: boolean },
): Promise<void> {
  if (inStead) await deleteFaults(pool, serial)
  for (const fault of faults) await insertFault(pool, serial, fault)
  // who looked before they were there must not keep that it saw none
  timesSet++
  calmOf(pool).delete(serial)
}

/** Tells what happens at a point now, and uses the fault up. `null` means nothing. */
export async function faultAt(pool: pg.Pool, serial: string, point: FaultPoint): Promise<string | null> {
  if (calmOf(pool).has(serial)) return null
  const before = timesSet
  const { effect, waits } = await useFault(pool, serial, point)
  if (!waits && timesSet === before) calmOf(pool).add(serial)
  return effect
}

/** Whether something may happen at one of the points. */
export async function mayFault(pool: pg.Pool, serial: string, points: readonly FaultPoint[]): Promise<boolean> {
  return !calmOf(pool).has(serial) && hasFault(pool, serial, points)
}
