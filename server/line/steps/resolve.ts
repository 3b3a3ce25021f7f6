import { settleUnknownBatch } from '#core/book/index.ts'
import type { ReadTools } from '#core/kinds/kind.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { manyEntryContents } from '../../book/entries/carry.queries.ts'
import { settleEach, type Settlement } from '../../book/settle.ts'
import { manyPlaces } from '../../vault/blocks.queries.ts'
import { factsOf, openContents, openMade } from '../../vault/contents.ts'
import { knownFiles } from '../reading/known-files.ts'
import { readNew } from '../reading/take-reading.ts'
import { supersede } from '../../vault/readings.queries.ts'
import { patience } from '../../base/patience.ts'
import { orWait, waitUntilStill } from '../../runs/ticket-of-run.ts'
import { scopeOf, type Work } from '../step.ts'
import { openLists } from '../../vault/blocks.ts'
import { oneKind, tellTicket } from '../../case/tickets.queries.ts'
import {
  closeBatches,
  manyBatchItems,
  manyKnownCounts,
  manyRecordsOfInterest,
  manySentBatches,
  writtenDigests,
  type Outcome,
} from '../../book/batches/batches.queries.ts'
import type { ReadingId } from '../../base/ids.ts'

/**
 * Finds out what the new phone did with batches whose answer never came: waits until its count stands still, lists
 * it afresh and compares counts for each digest. All is settled in one transaction of the run's owner.
 */
export async function resolveUnknown(work: Work): Promise<void> {
  const { context, ticket, kind, now } = work
  const { pool } = context.services
  const { ticketId } = scopeOf(work)
  const batches = await manySentBatches(pool, ticketId, kind)
  if (batches.length === 0) return
  await context.progress('looking', 0, 1)
  await waitUntilStill(context, now, kind)
  const { first_reading: firstReading } = await oneKind(pool, ticketId, kind)
  const { place, sink } = now
  const probe = await readNew(work, {
    purpose: 'probe',
    ...(kindOf(kind).isMedia
      ? { known: await knownFiles(pool, ticket.keys, firstReading, { written: await writtenDigests(pool, { ticketId, kind }) }) }
      : {}),
  })
  const batchIds = batches.map((batch) => batch.id)
  const items = await manyBatchItems(pool, batchIds)
  const entries = await manyEntryContents(pool, { ticketId, kind, seqs: items.map((item) => item.entry_seq) })
  const digests = [...items.map((item) => item.expected), ...entries.flatMap((entry) => entry.parts)]
  const scope = { ticketId, kind, firstReading: firstReading!, digests, probe }
  const known = await manyKnownCounts(pool, { ...scope, batchIds })
  const records = await manyRecordsOfInterest(pool, scope)

  const tools = ticket.toolsFor(place)
  const oldTools = ticket.toolsFor(ticket.old)
  const bodies = await openContents(
    pool,
    ticket.keys,
    records.map((r) => ({ reading_id: probe, block: r.block, slot: r.slot })),
  )
  const entryBodies = await openContents(pool, ticket.keys, entries)
  const was = await contentsBefore(work, { oldTools, tools, records })
  const lists = await openLists(
    pool,
    ticket.keys,
    probe,
    records.map((r) => r.block),
  )
  const nativeIdOf = (r: { block: number; slot: number }) => lists.get(r.block)![r.slot]!.nativeId

  const result = settleUnknownBatch({
    items: entries.map((entry, i) => ({
      seq: entry.seq,
      digest: entry.expected.toString('hex'),
      atoms: factsOf(kind, entryBodies[i]!, { tools: oldTools, target: ticket.target, made: openMade(ticket.keys, entry) }),
      sends: entry.sends,
      parts: entry.parts.map((part) => part.toString('hex')),
      atMs: entry.at?.getTime() ?? null,
    })),
    known: new Map(known.map(({ digest, n }) => [digest.toString('hex'), n])),
    knownIds: new Map(
      records.flatMap((r, i) => (r.was ? [[nativeIdOf(r), { digest: r.was.toString('hex'), atoms: was[i]! }] as const] : [])),
    ),
    now: records.map((r, i) => ({
      nativeId: nativeIdOf(r),
      digest: r.digest.toString('hex'),
      atoms: factsOf(kind, bodies[i]!, { tools, target: null }),
      atMs: r.at?.getTime() ?? null,
    })),
    joins: kindOf(kind).joins,
    mostSends: patience.sending.sendsOfOne,
  })

  await context.checkpoint('resolve-before-remove')
  if (result.remove.length > 0) await orWait('new', () => sink.remove(kind, result.remove))
  await context.checkpoint('resolve-before-commit')
  const nativeHash = new Map(records.map((r) => [nativeIdOf(r), r.native]))
  const entryOf = new Map(entries.map((entry) => [entry.seq, entry]))
  await context.fenced(async (client) => {
    const settlements = result.items.flatMap((item): Settlement[] => {
      const one = { seq: item.seq, reason: null, written: null }
      if (item.as === 'carried') {
        const event = entryOf.get(item.seq)!.has_change ? 'takenChanged' : 'taken'
        return [{ ...one, event, written: nativeHash.get(item.nativeIds[0]!)! }]
      }
      if (item.as === 'merged') return [{ ...one, event: 'joinedByPhone', reason: 'joined-by-phone' }]
      return item.as === 'refused' ? [{ ...one, event: 'refused', reason: 'no-trace' }] : []
    })
    await settleEach(client, { ticketId, kind }, settlements)
    const outcomes = result.items.map((item): Outcome => {
      if (item.as === 'carried') return { seq: item.seq, natives: item.nativeIds.map((id) => nativeHash.get(id)!), ended: null }
      if (item.as === 'merged') return { seq: item.seq, natives: [], ended: 'joined' }
      // what may have become of it is left behind until somebody takes it away
      return { seq: item.seq, natives: item.otherwise === undefined ? [] : [nativeHash.get(item.otherwise)!], ended: 'no-trace' }
    })
    await closeBatches(client, batchIds, outcomes)
    await supersede(client, probe)
    await tellTicket(client, ticketId, 'progress')
  })
}

interface Known {
  readonly was: Buffer | null
  readonly was_reading: ReadingId | null
  readonly was_seq: number | null
  readonly was_entry: number | null
  readonly digest: Buffer
}

/** What the records that changed said before. */
async function contentsBefore(
  { context, ticket, kind }: Work,
  { oldTools, tools, records }: { oldTools: ReadTools; tools: ReadTools; records: readonly Known[] },
): Promise<string[][]> {
  const { pool } = context.services
  const out: string[][] = []
  for (const r of records) {
    if (!r.was || r.was.equals(r.digest)) {
      out.push([])
      continue
    }
    const places = await manyPlaces(pool, r.was_reading!, [r.was_seq!])
    const [body] = await openContents(pool, ticket.keys, places)
    out.push(factsOf(kind, body!, r.was_entry === null ? { tools, target: null } : { tools: oldTools, target: ticket.target }))
  }
  return out
}
