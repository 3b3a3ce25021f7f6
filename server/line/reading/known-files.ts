import type { LinkRecord } from '#contracts/link/index.ts'
import type { Client } from '../../base/db/sql.ts'
import { manyRaw } from '../../vault/blocks.queries.ts'
import { openBodies } from '../../vault/blocks.ts'
import { nativeDigest, type TicketKeys } from '../../vault/keys.ts'
import type { ReadingId } from '../../base/ids.ts'

/** What is known of files from before, for records of which nothing changed since. */
export interface KnownFiles {
  /** The digest of a record this ticket wrote, which Check off reads again and others need not; undefined to read it. */
  digestOf(record: LinkRecord): Buffer | undefined
  /** The record as it was noted when its files were last read; undefined to read them. @param raw of the record now */
  noted(record: LinkRecord, raw: Buffer): Promise<string | undefined>
}

/** A keyed hash of a record as the phone gave it, its revision included. */
export function rawDigest(keys: TicketKeys, { id, revision, body }: LinkRecord): Buffer {
  return keys.native(Buffer.from(`raw ${id} ${revision} ${body}`)).subarray(0, 16)
}

/**
 * What an earlier reading of the same phone found in its files: a phone of which one photo is new is not read whole
 * again. Never for a last count: that is read afresh.
 * @param how written: digests by the keyed id of what this ticket wrote; except: keyed ids of what is read anew all the same
 */
export async function knownFiles(
  client: Client,
  keys: TicketKeys,
  readingId: ReadingId | null,
  { written = new Map(), except = new Set() }: { written?: ReadonlyMap<string, Buffer>; except?: ReadonlySet<string> } = {},
): Promise<KnownFiles> {
  const rows = readingId === null ? [] : await manyRaw(client, readingId)
  const places = new Map(rows.map((row) => [row.native.toString('hex'), row]))
  // records come in the order they came in before, so the last block opened is mostly the one wanted
  let opened: { no: number; bodies: Buffer[] } | undefined
  return {
    digestOf: (record) => written.get(nativeDigest(keys, record.id).toString('hex')),
    async noted(record, raw) {
      const id = nativeDigest(keys, record.id).toString('hex')
      const place = except.has(id) ? undefined : places.get(id)
      if (!place || !place.raw.equals(raw)) return undefined
      if (opened?.no !== place.block)
        opened = { no: place.block, bodies: (await openBodies(client, keys, readingId!, [place.block])).get(place.block)! }
      return opened.bodies[place.slot]!.toString('base64')
    },
  }
}
