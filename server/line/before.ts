import { open, seal } from '../vault/keys.ts'
import type { WorkAlone } from './step.ts'

/** What a sealed *before* belongs to: none can be put back in another's place. */
const bound = ({ ticket, kind }: WorkAlone, seq: number) => `joining ${ticket.ticket.id} ${kind} ${seq}`

/** The record of the new phone that an item is written into one with, sealed. */
export function sealBefore(work: WorkAlone, seq: number, before: Buffer): Buffer {
  return seal(work.ticket.keys.seal, bound(work, seq), before)
}

/** The same, opened. */
export function openBefore(work: WorkAlone, seq: number, before: Buffer): Buffer {
  return open(work.ticket.keys.seal, bound(work, seq), before)
}
