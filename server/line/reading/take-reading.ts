import type { LinkRecord } from '#contracts/link/index.ts'
import type { Kind, ReadTools } from '#core/kinds/kind.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { PhoneModel } from '#core/phones/capability.ts'
import { LinkError, type Source } from '../../endpoints/endpoint.ts'
import { patience } from '../../base/patience.ts'
import { MustWait, type RunContext } from '../../runs/context.ts'
import { orWait } from '../../runs/ticket-of-run.ts'
import type { TicketKeys } from '../../vault/keys.ts'
import { tellTicket } from '../../case/tickets.queries.ts'
import type { Work } from '../step.ts'
import {
  advanceReading,
  closeReading,
  insertReading,
  refreshItemStatistics,
  summarizeReading,
  type ReadingRow,
} from '../../vault/readings.queries.ts'
import { keepPlaces } from '../../book/listing/tags.queries.ts'
import { rawDigest, type KnownFiles } from './known-files.ts'
import { noteFiles } from './note-files.ts'
import { createStowWriter, writeStowed, type Place } from '../../vault/stow.ts'
import type { HoldingId, ReadingId, TicketId } from '../../base/ids.ts'

export interface Wanted {
  readonly source: Source
  readonly keys: TicketKeys
  readonly ticketId: TicketId
  /** What it is sealed for. */
  readonly holding: HoldingId
  readonly side: 'old' | 'new'
  readonly kind: string
  readonly purpose: ReadingRow['purpose']
  readonly target: PhoneModel | null
  readonly tools: ReadTools
  /** Items, or the bytes of a media kind's files. */
  readonly onProgress?: (got: number, all: number, unit: 'items' | 'bytes') => Promise<void>
  /** Notes in a record what a catalogue knows of it. */
  readonly lookUp?: ((record: LinkRecord) => Promise<LinkRecord>) | undefined
  /** Files that need not be read again: nothing of their record changed since they were. */
  readonly known?: KnownFiles
}

/**
 * Reads a kind of a phone whole. A listing that stops early, or does not meet the phone's own count, is torn and
 * taken again; after so many attempts the run waits.
 * @throws MustWait, LeaseLost
 */
export async function takeReading(context: RunContext, wanted: Wanted): Promise<ReadingId> {
  for (let attempt = 1; ; attempt++) {
    const result = await readOnce(context, wanted)
    if (result.isWhole) return result.id
    if (attempt >= patience.listing.attempts) throw new MustWait(result.reason, wanted.side, wanted.kind)
    await context.services.clock.sleep(patience.listing.pauseMs * attempt)
  }
}

/** Reads a kind of the new phone whole. @param how step: what the screen says meanwhile, with figures */
export function readNew(
  { context, ticket, kind, now }: Work,
  { purpose, step, known }: { purpose: ReadingRow['purpose']; step?: string; known?: KnownFiles },
): Promise<ReadingId> {
  return takeReading(context, {
    source: now.source,
    keys: ticket.keys,
    ticketId: ticket.ticket.id,
    holding: ticket.holding,
    side: 'new',
    kind,
    purpose,
    target: null,
    tools: ticket.toolsFor(now.place),
    ...(known ? { known } : {}),
    ...(step ? { onProgress: (got, total, unit) => context.progress(step, got, total, { kind, unit }) } : {}),
  })
}

async function readOnce(
  context: RunContext,
  wanted: Wanted,
): Promise<{ isWhole: true; id: ReadingId } | { isWhole: false; reason: string }> {
  const { source, keys, ticketId, holding, side, purpose, target } = wanted
  const kind = kindOf(wanted.kind)
  const before = await orWait(side, () => source.count(wanted.kind), wanted.kind)
  const { clock } = context.services
  const startedMs = clock.now()
  const apart = createApart()
  /** Items beyond the first of records that hold several: the phone's own list shows each of them. */
  let more = 0
  let streamed = 0
  const alive = (bytes: number) =>
    wanted.onProgress?.((streamed += bytes), before.bytes, 'bytes') ??
    context.progress('streaming', (streamed += bytes), before.bytes, { unit: 'bytes' })
  const reading = await context.fenced((client) =>
    insertReading(client, { holding, place: side, kind: wanted.kind, purpose, canonicalVersion: kind.canonicalVersion }),
  )
  const stowing = { kind, keys, tools: wanted.tools, target }
  let place: Place = { readingId: reading.id, items: 0, blocks: 0 }
  const writer = createStowWriter(stowing, async ({ rows, sizeBytes }) => {
    place = await context.fenced(async (client) => {
      const after = await writeStowed(client, keys, place, rows)
      await advanceReading(client, reading.id, {
        got: rows.length,
        unreadable: rows.filter((row) => row.state === 'unreadable').length,
        bytes: kind.sizeBytes ? rows.reduce((sum, row) => sum + row.sizeBytes, 0) : sizeBytes,
        counted: before.items,
      })
      await tellTicket(client, ticketId, 'reading')
      return after
    })
    if (!kind.isMedia) await wanted.onProgress?.(place.items, before.items - before.derived, 'items')
  })

  try {
    const listing = source.list(wanted.kind)
    for (;;) {
      const next = await listing.next()
      if (next.done) {
        await writer.end()
        await context.checkpoint(`reading-${purpose}-end`)
        const after = await source.count(wanted.kind)
        const derived = after.derived + apart.count
        const isMet =
          next.value.count === place.items + apart.count - more &&
          after.items === place.items + derived &&
          next.value.revision === after.revision &&
          apart.haveOwners()
        await refreshItemStatistics(context.services.pool, place.items)
        await context.fenced(async (client) => {
          await closeReading(
            client,
            reading.id,
            isMet
              ? {
                  state: 'whole',
                  counted: after.items,
                  derived,
                  derivedOf: { ...after.derivedOf, ...(apart.count > 0 ? { clipsApart: apart.count } : {}) },
                  revision: after.revision,
                  also: after.also,
                  tookMs: clock.now() - startedMs,
                }
              : { state: 'torn' },
          )
          if (isMet && purpose !== 'probe') {
            await keepPlaces(client, reading.id, kind.code)
            await summarizeReading(client, reading.id, kind.figures ?? [])
          }
        })
        return isMet ? { isWhole: true, id: reading.id } : { isWhole: false, reason: 'CountNotMet' }
      }
      const record = wanted.lookUp ? await wanted.lookUp(next.value) : next.value
      // what belongs to another record is no item: it is read with that
      if (record.belongsTo !== undefined) {
        apart.add(record.belongsTo)
        continue
      }
      if (kind.isMedia) apart.own(record.id)
      if (!record.files) {
        const pieces = severalOf(kind, record)
        more += pieces.length - 1
        for (const piece of pieces) await writer.push(piece)
        continue
      }
      const raw = rawDigest(keys, record)
      const digest = wanted.known?.digestOf(record)
      const noted = digest ? record : await noteFiles(source, { kind, side, before: await wanted.known?.noted(record, raw), alive }, record)
      await writer.push(noted, { digest, raw })
    }
  } catch (error) {
    if (!(error instanceof LinkError)) throw error
    await writer.end()
    await context.fenced((client) => closeReading(client, reading.id, { state: 'torn' }))
    // a torn listing may be read again at once; what needs a hand or a cable must wait
    if (error.code === 'LinkLost' || error.code === 'LinkProtocol') return { isWhole: false, reason: error.code }
    throw new MustWait(error.code, side, wanted.kind)
  }
}

/** A record that holds several items as one for each, under the phone's own name for the first. */
function severalOf(kind: Kind, record: LinkRecord): readonly LinkRecord[] {
  const bodies = record.unreadable === undefined ? kind.several?.(Buffer.from(record.body, 'base64')) : undefined
  if (!bodies) return [record]
  return bodies.map((body, i) => ({
    ...record,
    id: i === 0 ? record.id : `${record.id}#${i + 1}`,
    body: Buffer.from(body).toString('base64'),
  }))
}

/** Counts records that belong to others, and knows whether those were listed: an orphan is nobody's. */
function createApart() {
  const wanted = new Set<string>()
  const listed = new Set<string>()
  let count = 0
  return {
    get count() {
      return count
    },
    add(owner: string) {
      count++
      if (!listed.has(owner)) wanted.add(owner)
    },
    own(id: string) {
      listed.add(id)
      wanted.delete(id)
    },
    haveOwners: () => wanted.size === 0,
  }
}
