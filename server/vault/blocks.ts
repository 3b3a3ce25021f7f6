import type { Client } from '../base/db/sql.ts'
import { manyBlocks } from './blocks.queries.ts'
import { open, seal, type TicketKeys } from './keys.ts'
import type { ReadingId } from '../base/ids.ts'

export const mostInBlock = 1000
export const mostBlockBytes = 1_000_000

/** What a list shows of an item; sealed with up to 999 others. */
export interface ListSlot {
  readonly nativeId: string
  readonly title: string
  readonly search: string
  /** What its slice is called. */
  readonly group?: string
}

export function sealList(keys: TicketKeys, readingId: ReadingId, no: number, slots: readonly ListSlot[]): Buffer {
  return seal(keys.seal, bound('list', readingId, no), Buffer.from(JSON.stringify(slots)))
}

export function sealBodies(keys: TicketKeys, readingId: ReadingId, no: number, bodies: readonly Uint8Array[]): Buffer {
  const heads = Buffer.alloc(4 + bodies.length * 4)
  heads.writeUInt32BE(bodies.length, 0)
  bodies.forEach((body, i) => heads.writeUInt32BE(body.length, 4 + i * 4))
  return seal(keys.seal, bound('body', readingId, no), Buffer.concat([heads, ...bodies]))
}

/** Opens the list slots of the blocks wanted, and no others. */
export async function openLists(
  client: Client,
  keys: TicketKeys,
  readingId: ReadingId,
  nos: readonly number[],
): Promise<Map<number, ListSlot[]>> {
  const rows = await manyBlocks(client, { readingId, family: 'list', nos })
  return new Map(
    rows.map(({ no, sealed }) => [no, JSON.parse(open(keys.seal, bound('list', readingId, no), sealed).toString('utf8')) as ListSlot[]]),
  )
}

/** Opens what the phone gave of the items of the blocks wanted. */
export async function openBodies(
  client: Client,
  keys: TicketKeys,
  readingId: ReadingId,
  nos: readonly number[],
): Promise<Map<number, Buffer[]>> {
  const rows = await manyBlocks(client, { readingId, family: 'body', nos })
  return new Map(rows.map(({ no, sealed }) => [no, cutBodies(open(keys.seal, bound('body', readingId, no), sealed))]))
}

function cutBodies(bytes: Buffer): Buffer[] {
  const n = bytes.readUInt32BE(0)
  let at = 4 + n * 4
  return Array.from({ length: n }, (_, i) => {
    const size = bytes.readUInt32BE(4 + i * 4)
    at += size
    return bytes.subarray(at - size, at)
  })
}

function bound(family: string, readingId: ReadingId, no: number): string {
  return `block ${family} ${readingId} ${no} v1`
}
