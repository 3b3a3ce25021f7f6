import { settleUnknownBatch } from '#core/ledger/index.ts'
import type { ReadTools } from '#core/kinds/kind.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { manyEntryContents, settleEntries, type Settlement } from '../plan/entries.queries.ts'
import { factsOf, manyPlaces, openContents, openMade } from '../readings/contents.ts'
import { knownFiles } from '../readings/known-files.ts'
import { takeReading } from '../readings/take-reading.ts'
import { maybeReading } from '../readings/readings.queries.ts'
import type { RunContext } from '../runs/context.ts'
import { orWait, waitUntilStill, type Attached, type RunTicket } from '../runs/ticket-of-run.ts'
import { openLists } from '../seal/blocks.ts'
import { oneKind, tellTicket } from '../tickets/tickets.queries.ts'
import { closeBatches, manyBatchItems, manyKnownCounts, manyRecordsOfInterest, manySentBatches, writtenDigests } from './batches.queries.ts'

const mostSends = 3

/**
 * Finds out what the new phone did with batches whose answer never came: waits until its count stands still, lists
 * it afresh and compares counts for each digest. All is settled in one transaction of the run's owner.
 */
export async function resolveUnknown(context: RunContext, ticket: RunTicket, attached: Attached, kind: string): Promise<void> {
  const { pool } = context.services
  const ticketId = ticket.ticket.id
  const batches = await manySentBatches(pool, ticketId, kind)
  if (batches.length === 0) return
  await context.progress('looking', 0, 1)
  await waitUntilStill(context, attached, kind)
  const { first_reading: firstReading } = await oneKind(pool, ticketId, kind)
  const { facts, session } = attached
  const probe = await takeReading(context, {
    session,
    keys: ticket.keys,
    ticketId,
    side: 'new',
    kind,
    purpose: 'probe',
    target: null,
    tools: ticket.toolsFor(facts),
    ...(kindOf(kind).isMedia
      ? { known: await knownFiles(pool, ticket.keys, firstReading, await writtenDigests(pool, { ticketId, kind })) }
      : {}),
  })
  const batchIds = batches.map((batch) => batch.id)
  const items = await manyBatchItems(pool, batchIds)
  const entries = await manyEntryContents(pool, { ticketId, kind, seqs: items.map((item) => item.entry_seq) })
  const digests = [...items.map((item) => item.expected), ...entries.flatMap((entry) => entry.parts)]
  const scope = { ticketId, kind, firstReading: firstReading!, digests }
  const known = await manyKnownCounts(pool, { ...scope, batchIds })
  const records = await manyRecordsOfInterest(pool, { ...scope, probe })

  const tools = ticket.toolsFor(facts)
  const oldTools = ticket.toolsFor(ticket.old)
  const bodies = await openContents(
    pool,
    ticket.keys,
    records.map((r) => ({ reading_id: probe, block: r.block, slot: r.slot })),
  )
  const entryBodies = await openContents(pool, ticket.keys, entries)
  const was = await contentsBefore(context, ticket, { kind, oldTools, tools, records })
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
    })),
    known: new Map(known.map(({ digest, n }) => [digest.toString('hex'), n])),
    knownIds: new Map(
      records.flatMap((r, i) => (r.was ? [[nativeIdOf(r), { digest: r.was.toString('hex'), atoms: was[i]! }] as const] : [])),
    ),
    now: records.map((r, i) => ({
      nativeId: nativeIdOf(r),
      digest: r.digest.toString('hex'),
      atoms: factsOf(kind, bodies[i]!, { tools, target: null }),
    })),
    joins: kindOf(kind).joins,
    mostSends,
  })

  await context.checkpoint('resolve-before-remove')
  if (result.remove.length > 0) {
    const reading = await maybeReading(pool, probe)
    await orWait('new', () => session.remove(kind, result.remove, reading!.phone_revision!))
  }
  await context.checkpoint('resolve-before-commit')
  const nativeHash = new Map(records.map((r) => [nativeIdOf(r), r.native]))
  const changed = new Map(entries.map((entry) => [entry.seq, entry.has_change]))
  await context.fenced(async (client) => {
    const settlements = result.items.map((item): Settlement => {
      if (item.as === 'carried') {
        return { seq: item.seq, fate: changed.get(item.seq) ? 'changed' : 'carried', reason: null, written: nativeHash.get(item.nativeId)! }
      }
      if (item.as === 'merged') return { seq: item.seq, fate: 'merged', reason: 'joined-by-phone', written: null }
      if (item.as === 'refused') return { seq: item.seq, fate: 'refused', reason: 'no-trace', written: null }
      return { seq: item.seq, fate: 'pending', reason: null, written: null }
    })
    await settleEntries(client, { ticketId, kind }, settlements)
    await closeBatches(client, batchIds)
    await client.query(`update reading set state = 'superseded' where id = $1`, [probe])
    await tellTicket(client, ticketId, 'progress')
  })
}

interface Known {
  readonly was: Buffer | null
  readonly was_reading: number | null
  readonly was_seq: number | null
  readonly was_entry: number | null
  readonly digest: Buffer
}

/** What the records that changed said before. */
async function contentsBefore(
  context: RunContext,
  ticket: RunTicket,
  { kind, oldTools, tools, records }: { kind: string; oldTools: ReadTools; tools: ReadTools; records: readonly Known[] },
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
