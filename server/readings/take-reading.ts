import { createHash } from 'node:crypto'
import type { LinkRecord } from '#contracts/link/index.ts'
import type { Kind, ReadTools } from '#core/kinds/kind.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { PhoneModel } from '#core/phones/capability.ts'
import { LinkError, type LinkSession } from '../links/link.ts'
import { MustWait, type RunContext } from '../runs/context.ts'
import type { TicketKeys } from '../seal/keys.ts'
import { tellTicket } from '../tickets/tickets.queries.ts'
import { advanceReading, closeReading, insertReading, summarizeReading, type ReadingRow } from './readings.queries.ts'
import { createStageWriter, writeStaged, type Place } from './stage.ts'

const mostAttempts = 3

export interface Wanted {
  readonly session: LinkSession
  readonly keys: TicketKeys
  readonly ticketId: number
  readonly side: 'old' | 'new'
  readonly kind: string
  readonly purpose: ReadingRow['purpose']
  readonly target: PhoneModel | null
  readonly tools: ReadTools
  readonly onProgress?: (got: number, counted: number) => Promise<void>
}

/**
 * Reads a kind of a phone whole. A listing that stops early, or does not meet the phone's own count, is torn and
 * taken again; after three attempts the run waits.
 * @throws MustWait, LeaseLost
 */
export async function takeReading(context: RunContext, wanted: Wanted): Promise<number> {
  for (let attempt = 1; ; attempt++) {
    const result = await readOnce(context, wanted)
    if (result.isWhole) return result.id
    if (attempt >= mostAttempts) throw new MustWait(result.reason, wanted.side)
    await context.wait(300 * attempt)
  }
}

async function readOnce(context: RunContext, wanted: Wanted): Promise<{ isWhole: true; id: number } | { isWhole: false; reason: string }> {
  const { session, keys, ticketId, side, purpose, target } = wanted
  const kind = kindOf(wanted.kind)
  const before = await session.count(wanted.kind)
  const reading = await context.fenced((client) =>
    insertReading(client, { ticketId, side, kind: wanted.kind, purpose, canonicalVersion: kind.canonicalVersion }),
  )
  const stager = { kind, keys, tools: wanted.tools, target }
  let place: Place = { readingId: reading.id, items: 0, blocks: 0 }
  const writer = createStageWriter(stager, async ({ rows, sizeBytes }) => {
    place = await context.fenced(async (client) => {
      const after = await writeStaged(client, keys, place, rows)
      await advanceReading(client, reading.id, {
        got: rows.length,
        unreadable: rows.filter((row) => row.state === 'unreadable').length,
        bytes: sizeBytes,
        counted: before.items,
      })
      await tellTicket(client, ticketId, 'reading')
      return after
    })
    await wanted.onProgress?.(place.items, before.items - before.derived)
  })

  try {
    const listing = session.list(wanted.kind)
    for (;;) {
      const next = await listing.next()
      if (next.done) {
        await writer.end()
        await context.checkpoint(`reading-${purpose}-end`)
        const after = await session.count(wanted.kind)
        const isMet =
          next.value.count === place.items && after.items === place.items + after.derived && next.value.revision === after.revision
        await context.fenced(async (client) => {
          await closeReading(
            client,
            reading.id,
            isMet ? { state: 'whole', counted: after.items, derived: after.derived, derivedOf: after.derivedOf, revision: after.revision, also: after.also } : { state: 'torn' },
          )
          await client.query('select refresh_item_statistics()')
          if (isMet && purpose !== 'probe') await summarizeReading(client, reading.id, kind.figures ?? [])
        })
        return isMet ? { isWhole: true, id: reading.id } : { isWhole: false, reason: 'CountNotMet' }
      }
      await writer.push(next.value.parts ? await noteParts(session, kind, next.value) : next.value)
    }
  } catch (error) {
    if (!(error instanceof LinkError)) throw error
    await writer.end()
    await context.fenced((client) => closeReading(client, reading.id, { state: 'torn' }))
    // a torn listing may be read again at once; what needs a hand or a cable must wait
    if (error.code === 'LinkLost' || error.code === 'LinkProtocol') return { isWhole: false, reason: error.code }
    throw new MustWait(error.code, side)
  }
}

/**
 * Streams what belongs to a record and comes by a handle of its own, and notes in it what it was found to be: its
 * digest and size, never what the phone says of it. What the phone can't give makes the record unreadable.
 * @throws LinkError when the link fails
 */
async function noteParts(session: LinkSession, kind: Kind, record: LinkRecord): Promise<LinkRecord> {
  if (!kind.noteParts || record.unreadable) return record
  const found = new Map<string, { digest: string; sizeBytes: number }>()
  for (const handle of record.parts!) {
    const hash = createHash('sha256')
    let sizeBytes = 0
    try {
      for await (const chunk of session.openPart(kind.code, handle)) {
        hash.update(chunk)
        sizeBytes += chunk.length
      }
    } catch (error) {
      if (error instanceof LinkError && error.code === 'NoSuchRecord') return { ...record, unreadable: 'attachment-missing' }
      throw error
    }
    found.set(handle, { digest: hash.digest('base64url'), sizeBytes })
  }
  return { ...record, body: Buffer.from(kind.noteParts(Buffer.from(record.body, 'base64'), found)).toString('base64') }
}
