import { invariant } from '#core/invariant.ts'
import { createNumberReader } from '#core/kinds/contacts/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { nativeDigest } from '../seal/keys.ts'
import { OutcomeUnknown } from '../links/link.ts'
import { fitPlan, manyToCarry, oneCarryTotals, settleAlreadyThere, settleEntries, type EntryContent, type Settlement } from '../plan/entries.queries.ts'
import { openContents } from '../readings/contents.ts'
import { recountOld } from '../readings/recount.ts'
import { settleRecount } from '../readings/recount.queries.ts'
import { maybeReading } from '../readings/readings.queries.ts'
import { takeReading } from '../readings/take-reading.ts'
import { MustWait, type RunContext } from '../runs/context.ts'
import { attach, loadRunTicket, orWait, type Attached, type RunTicket } from '../runs/ticket-of-run.ts'
import { oneKind, tellTicket } from '../tickets/tickets.queries.ts'
import { joinChosen, openBefore, undoAsked } from '../joining/join-run.ts'
import { moveJoinings, settleWritten } from '../joining/joining.queries.ts'
import { closeBatches, insertBatch } from './batches.queries.ts'
import { clearOutdated } from './clear-outdated.ts'
import { moveParts } from './move-parts.ts'
import { resolveUnknown } from './resolve.ts'

const batchSize = 200

/** Carries every chosen item of every kind, light kinds first. Ends when none waits. @throws MustWait, LeaseLost */
export async function carryRun(context: RunContext): Promise<void> {
  const ticket = await loadRunTicket(context)
  for (const { kind } of ticket.kinds) {
    await context.progress('beginning', 0, 1)
    // a session of its own for each kind: the last one may have ended with a cable
    const now = await attach(context, ticket.new)
    await resolveUnknown(context, ticket, now, kind)
    await recheckOld(context, ticket, kind)
    await freezeFirst(context, ticket, { kind, now })
    const work = { context, ticket, kind, now }
    await undoAsked(work)
    await joinChosen(work)
    await carryKind(context, ticket, { kind, now: work.now })
    await clearOutdated(context, ticket, kind)
    await context.fenced((client) => settleWritten(client, { ticketId: ticket.ticket.id, kind }))
  }
}

interface KindAt {
  readonly kind: string
  readonly now: Attached
}

/** The old phone goes on living: what changed there since it was read is settled before anything is written. */
async function recheckOld(context: RunContext, ticket: RunTicket, kind: string): Promise<void> {
  const ticketId = ticket.ticket.id
  const readingId = await recountOld(context, ticket, kind)
  if (readingId === null) return
  const row = await oneKind(context.services.pool, ticketId, kind)
  await context.fenced(async (client) => {
    await settleRecount(client, { ticketId, kind, readingId, choice: row.choice })
    const capacity = kindOf(kind).capacity?.(ticket.target)
    // once frozen, what is there is settled; only room is looked at again
    if (row.first_reading && (!row.frozen_at || capacity !== undefined)) await fitPlan(client, { ticketId, kind, firstReading: row.first_reading, capacity })
    await client.query('update ticket_kind set recount_reading = $3 where ticket_id = $1 and kind = $2', [ticketId, kind, readingId])
  })
}

/**
 * Freezes the first count at the first write, on the phone as it is now: when it changed since it was counted, it is
 * counted again. What it holds already is settled then, once; nothing this ticket writes ever counts as that.
 */
async function freezeFirst(context: RunContext, ticket: RunTicket, { kind, now }: KindAt): Promise<void> {
  const { pool } = context.services
  const ticketId = ticket.ticket.id
  const row = await oneKind(pool, ticketId, kind)
  if (row.frozen_at) return
  let firstReading = row.first_reading
  const reading = await maybeReading(pool, firstReading)
  const counted = await orWait('new', () => now.session.count(kind))
  if (counted.revision !== reading?.phone_revision || counted.items !== reading.counted) {
    firstReading = await takeReading(context, {
      session: now.session, keys: ticket.keys, ticketId, side: 'new', kind, purpose: 'first', target: null, tools: ticket.toolsFor(now.facts),
      onProgress: (got, total) => context.progress('counting', got, total),
    })
  }
  await context.fenced(async (client) => {
    if (firstReading !== row.first_reading) await moveJoinings(client, { ticketId, kind }, firstReading!)
    await fitPlan(client, { ticketId, kind, firstReading: firstReading!, capacity: kindOf(kind).capacity?.(ticket.target) })
    await settleAlreadyThere(client, { ticketId, kind })
    await client.query(`update ticket_kind set first_reading = $3, frozen_at = now() where ticket_id = $1 and kind = $2 and frozen_at is null`, [
      ticketId,
      kind,
      firstReading,
    ])
    await client.query(`update ticket set roles_frozen_at = coalesce(roles_frozen_at, now()) where id = $1`, [ticketId])
    await tellTicket(client, ticketId, 'frozen')
  })
}

/**
 * Sends what waits, batch after batch. The next one is made while the phone writes this one: reading, changing and
 * streaming of attachments cost as much time as the phone's own work.
 */
async function carryKind(context: RunContext, ticket: RunTicket, { kind, now }: KindAt): Promise<void> {
  const scope = { ticketId: ticket.ticket.id, kind }
  let unknown = 0
  let after = -1
  const ahead = () => quiet(makeBatch(context, ticket, { kind, now, after }))
  let next = ahead()
  try {
    for (;;) {
      const { waiting, done } = await oneCarryTotals(context.services.pool, scope)
      await context.progress('carrying', done, done + waiting)
      const batch = await next
      if (batch.items.length === 0 && after < 0) return
      // from the beginning again: some may have gone back to waiting
      after = batch.items.at(-1)?.seq ?? -1
      next = ahead()
      if (batch.items.length === 0) continue
      try {
        await sendBatch(context, ticket, { kind, now, ...batch })
        unknown = 0
      } catch (error) {
        if (!(error instanceof OutcomeUnknown)) throw error
        // what was made ahead goes with the session it was made for
        await next.catch(() => undefined)
        // answers that keep failing: the phone needs a hand, or a rest
        if (isForHands(error.code) || ++unknown > 2) throw new MustWait(error.code, 'new')
        now = await attach(context, ticket.new)
        await resolveUnknown(context, ticket, now, kind)
        after = -1
        next = ahead()
      }
    }
  } finally {
    await next.catch(() => undefined)
  }
}

/** A promise whose failure is met by whoever awaits it, later. */
function quiet<T>(promise: Promise<T>): Promise<T> {
  promise.catch(() => undefined)
  return promise
}

interface Batch {
  readonly items: readonly EntryContent[]
  readonly records: readonly Uint8Array[]
}

async function makeBatch(context: RunContext, ticket: RunTicket, { kind, now, after }: KindAt & { after: number }): Promise<Batch> {
  const items = await manyToCarry(context.services.pool, { ticketId: ticket.ticket.id, kind, after, limit: batchSize })
  return { items, records: items.length === 0 ? [] : await makeRecords(context, ticket, { kind, now, items }) }
}

function isForHands(code: string): boolean {
  return !['LinkLost', 'LinkProtocol', 'SessionTaken'].includes(code)
}

async function sendBatch(context: RunContext, ticket: RunTicket, { kind, now, items, records }: KindAt & Batch): Promise<void> {
  const scope = { ticketId: ticket.ticket.id, kind }
  await context.checkpoint('before-decide')
  const batchId = await context.fenced((client) =>
    insertBatch(client, {
      ...scope, runId: context.run.id, epoch: context.run.epoch,
      items: items.map((item) => ({ entry_seq: item.seq, expected: item.expected })),
    }),
  )
  await context.checkpoint('before-send')
  const results = await now.session.write(kind, records)
  await context.checkpoint('after-answer')
  const isFull = results.some((result) => 'refused' in result && result.refused === 'storage-full')
  await context.fenced(async (client) => {
    const settlements = results.map((result, i): Settlement => {
      const item = items[i]!
      if ('refused' in result) {
        // a full phone refuses for now, not for good: the item waits until there is room
        if (result.refused === 'storage-full') return { seq: item.seq, fate: 'pending', reason: null, written: null }
        return { seq: item.seq, fate: 'refused', reason: result.refused, written: null }
      }
      if (!('ids' in result)) return { seq: item.seq, fate: 'merged', reason: 'joined-by-phone', written: null }
      return { seq: item.seq, fate: item.has_change ? 'changed' : 'carried', reason: null, written: nativeDigest(ticket.keys, result.ids[0]!) }
    })
    await settleEntries(client, scope, settlements)
    await closeBatches(client, [batchId])
  })
  if (isFull) throw new MustWait('StorageFull', 'new')
}

/** The records as the new phone takes them; what belongs to them is on it already. */
async function makeRecords(context: RunContext, ticket: RunTicket, { kind: code, now, items }: KindAt & { items: readonly EntryContent[] }): Promise<Uint8Array[]> {
  const kind = kindOf(code)
  const bodies = await openContents(context.services.pool, ticket.keys, items)
  const tools = ticket.toolsFor(ticket.old)
  // a national number means another line in another country
  const number = ticket.old.region === ticket.new.region ? undefined : createNumberReader(ticket.old.region)
  const forms = items.map((_, i) => {
    const read = kind.read(bodies[i]!, tools)
    const changed = read.ok ? kind.change(read.item, ticket.target) : undefined
    // it was read and changed once already, when it was staged
    invariant(changed && !('cannot' in changed), 'a waiting item can be read and can cross')
    const { joins, seq } = items[i]!
    if (!joins) return changed.item
    const theirs = kind.read(openBefore(ticket, { kind: code, seq, before: joins }), ticket.toolsFor(now.facts))
    const joined = theirs.ok && kind.join!(changed.item, theirs.item, ticket.target, ticket.toolsFor(now.facts))
    invariant(joined && 'item' in joined, 'what was joined once can be joined again')
    return joined.item
  })
  const moved = await moveParts(context, ticket, { kind, now, forms })
  return moved.map((form) => kind.write(form, ticket.target, number))
}
