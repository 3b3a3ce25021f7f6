import { createHash } from 'node:crypto'
import { createNumberReader } from '#core/kinds/contacts/index.ts'
import type { ReadTools } from '#core/kinds/kind.ts'
import { createInstantReader } from '#core/text/zone.ts'

export interface Place {
  /** ISO 3166: national numbers are read by it. */
  readonly region: string
  readonly zone: string
}

/** What reading needs to know of the phone: its region for national numbers, its zone for local times; and the ticket's day. */
export function readTools({ region, zone }: Place, nowMs: number): ReadTools {
  return {
    nowMs,
    number: createNumberReader(region),
    instant: createInstantReader(zone),
    hash: (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('base64'),
  }
}

/** Tools for each place a run reads in, made once: what they remember of numbers serves the whole run and goes with it. */
export function createToolsFor(nowMs: number): (place: Place) => ReadTools {
  const made = new Map<string, ReadTools>()
  return ({ region, zone }) => {
    const key = `${region} ${zone}`
    const tools = made.get(key) ?? readTools({ region, zone }, nowMs)
    made.set(key, tools)
    return tools
  }
}
