import type { WriteResult } from '#contracts/link/index.ts'
import { mostRetries } from '#core/book/index.ts'
import { invariant } from '#core/invariant.ts'
import { createNumberReader } from '#core/kinds/contacts/index.ts'
import type { Kind } from '#core/kinds/kind.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { lineParts } from '#core/plan/order.ts'
import { contentDigest, nativeDigest, type TicketKeys } from '../../vault/keys.ts'
import { OutcomeUnknown } from '../../endpoints/link.ts'
import { manyToCarry, oneCarryBytes, oneCarryTotals, settleMade, type EntryContent } from '../../book/entries/carry.queries.ts'
import { fitPlan, settleAlreadyThere } from '../../book/plan/plan.queries.ts'
import { retryPassing } from '../../book/entries/entries.queries.ts'
import { settleEach, type Settlement } from '../../book/settle.ts'
import { openContents, sealMade, type Made } from '../../vault/contents.ts'
import { recountOld } from '../reading/recount.ts'
import { settleRecount, settleVanished } from '../../book/recount/recount.queries.ts'
import { maybeReading } from '../../vault/readings.queries.ts'
import { takeReading } from '../reading/take-reading.ts'
import { MustWait, type RunContext } from '../../runs/context.ts'
import { attach, loadRunTicket, orWait, type Attached, type RunTicket } from '../../runs/ticket-of-run.ts'
import { freeze, oneKind, setReading, tellTicket } from '../../case/tickets.queries.ts'
import { joinChosen, openBefore, undoAsked } from './join-run.ts'
import { moveJoinings, settleWritten } from '../../book/joining/joining.queries.ts'
import { closeBatches, insertBatch, type Outcome } from '../../book/batches/batches.queries.ts'
import { clearLeft } from './clear.ts'
import { createMover, type Moved } from '../moving/move-parts.ts'
import { resolveUnknown } from './resolve.ts'

const batchSize = 200

/** Carries every chosen item of every kind, light kinds first and media after, unless one was put before all. Ends when none waits. @throws MustWait, LeaseLost */
export async function carryRun(context: RunContext): Promise<void> {
  const ticket = await loadRunTicket(context)
  const inOrder = lineParts(
    ticket.kinds.map(({ kind }) => ({ kind, isMedia: kindOf(kind).isMedia === true })),
    ticket.ticket.first_kind,
  ).flatMap((part) => part.kinds)
  for (const kind of inOrder) {
    await context.progress('beginning', 0, 1, { kind })
    // a session of its own for each kind: the last one may have ended with a cable
    const now = await attach(context, ticket.new)
    await resolveUnknown(context, ticket, now, kind)
    await recheckOld(context, ticket, kind)
    await freezeFirst(context, ticket, { kind, now })
    const work = { context, ticket, kind, now }
    await undoAsked(work)
    await joinChosen(work)
    await sendWaiting(context, ticket, { kind, now: work.now })
    await tryAgain(context, ticket, { kind, now: work.now }, mostRetries.carry)
    await clearLeft(context, ticket, kind)
    await context.fenced((client) => settleWritten(client, { ticketId: ticket.ticket.id, kind }))
  }
}

/**
 * Once more what was refused, or could not be given, for a reason that may pass: a phone that was busy for a moment, a
 * file that stalled. Nothing else goes over with it.
 */
export async function tryAgain(context: RunContext, ticket: RunTicket, { kind, now }: KindAt, most: number): Promise<void> {
  const scope = { ticketId: ticket.ticket.id, kind }
  if ((await oneCarryTotals(context.services.pool, scope)).waiting > 0) return
  const { tried, toRead } = await context.fenced((client) => retryPassing(client, scope, most))
  if (tried === 0) return
  const again = toRead.map(({ native }) => native)
  await recheckOld(context, ticket, kind, again)
  await sendWaiting(context, ticket, { kind, now })
}

export interface KindAt {
  readonly kind: string
  readonly now: Attached
}

/** The old phone goes on living: what changed there since it was read is settled before anything is written. */
async function recheckOld(context: RunContext, ticket: RunTicket, kind: string, again: readonly Buffer[] = []): Promise<void> {
  const ticketId = ticket.ticket.id
  const readingId = await recountOld(context, ticket, kind, { again })
  const row = await oneKind(context.services.pool, ticketId, kind)
  await context.fenced(async (client) => {
    if (readingId === null) {
      // nothing moved on the phone, but what was put back to wait may have left it before
      if (row.recount_reading !== null) await settleVanished(client, { ticketId, kind }, row.recount_reading)
      return
    }
    await settleRecount(client, { ticketId, kind, readingId, choice: row.choice })
    await setReading(client, { ticketId, kind }, 'recount_reading', readingId)
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
  const firstReading = row.frozen_at ? row.first_reading! : await firstAsItIs(context, ticket, { kind, now }, row.first_reading)
  const { capacity, hasIdentity = false } = kindOf(kind)
  await context.fenced(async (client) => {
    const scope = { ticketId, kind }
    if (firstReading !== row.first_reading) await moveJoinings(client, scope, firstReading)
    // after the freeze, too: what was chosen since may be among what the first count held
    await fitPlan(client, { ...scope, firstReading, capacity: capacity?.(ticket.target), hasIdentity })
    await settleAlreadyThere(client, scope)
    if (row.frozen_at) return
    await freeze(client, scope, firstReading)
    await tellTicket(client, ticketId, 'frozen')
  })
}

/** The first count, taken again when the phone moved on since. */
async function firstAsItIs(context: RunContext, ticket: RunTicket, { kind, now }: KindAt, firstReading: number | null): Promise<number> {
  const reading = await maybeReading(context.services.pool, firstReading)
  const counted = await orWait('new', () => now.session.count(kind))
  if (reading && counted.revision === reading.phone_revision && counted.items === reading.counted) return reading.id
  return takeReading(context, {
    session: now.session,
    keys: ticket.keys,
    ticketId: ticket.ticket.id,
    side: 'new',
    kind,
    purpose: 'first',
    target: null,
    tools: ticket.toolsFor(now.facts),
    onProgress: (got, total, unit) => context.progress('counting', got, total, { kind, unit }),
  })
}

/**
 * Sends what waits, batch after batch. The next one is made while the phone writes this one: reading, changing and
 * streaming of attachments cost as much time as the phone's own work.
 */
export async function sendWaiting(context: RunContext, ticket: RunTicket, { kind, now }: KindAt): Promise<void> {
  const scope = { ticketId: ticket.ticket.id, kind }
  let unknown = 0
  let after = -1
  const ahead = () => quiet(makeBatch(context, ticket, { kind, now, after }))
  let next = ahead()
  try {
    for (;;) {
      await showProgress(context, scope)
      const batch = await next
      if (batch.items.length === 0 && after < 0) return
      // from the beginning again: some may have gone back to waiting
      after = batch.items.at(-1)?.seq ?? -1
      next = ahead()
      if (batch.items.length === 0) continue
      try {
        if (batch.toSend.length > 0) await sendBatch(context, ticket, { kind, now, items: batch.toSend, records: batch.records })
        unknown = 0
        if (batch.failure) throw batch.failure
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

/** Media by their bytes, all else by items. */
async function showProgress(context: RunContext, scope: { ticketId: number; kind: string }): Promise<void> {
  const { isMedia } = kindOf(scope.kind)
  const { waiting, done } = await (isMedia ? oneCarryBytes : oneCarryTotals)(context.services.pool, scope)
  await context.progress('carrying', done, done + waiting, { kind: scope.kind, unit: isMedia ? 'bytes' : 'items' })
}

interface Batch {
  /** What the batch looked at; those that could not be made into a record are settled already. */
  readonly items: readonly EntryContent[]
  readonly toSend: readonly EntryContent[]
  readonly records: readonly Uint8Array[]
  /** Why it ends before its last item: what went before it is sent first. */
  readonly failure?: unknown
}

/** Files of so many bytes at most wait on the new phone for their records: as much is sent again after a broken cable. */
const batchBytes = 48_000_000
/** And so many photos at most, so that the count moves while they go over. */
const mediaBatchSize = 40

async function makeBatch(context: RunContext, ticket: RunTicket, { kind, now, after }: KindAt & { after: number }): Promise<Batch> {
  const some = await manyToCarry(context.services.pool, {
    ticketId: ticket.ticket.id,
    kind,
    after,
    limit: kindOf(kind).isMedia ? mediaBatchSize : batchSize,
  })
  let bytes = 0
  const end = kindOf(kind).isMedia ? some.findIndex((item) => (bytes += item.size_bytes) > batchBytes) : -1
  const items = end < 0 ? some : some.slice(0, Math.max(1, end))
  return items.length === 0 ? { items, toSend: [], records: [] } : { items, ...(await makeRecords(context, ticket, { kind, now, items })) }
}

function isForHands(code: string): boolean {
  return !['LinkLost', 'LinkProtocol', 'SessionTaken'].includes(code)
}

async function sendBatch(
  context: RunContext,
  ticket: RunTicket,
  { kind, now, items, records }: KindAt & Pick<Batch, 'items' | 'records'>,
): Promise<void> {
  const scope = { ticketId: ticket.ticket.id, kind }
  await context.checkpoint('before-decide')
  const batchId = await context.fenced((client) =>
    insertBatch(client, {
      ...scope,
      runId: context.run.id,
      epoch: context.run.epoch,
      items,
    }),
  )
  await context.checkpoint('before-send')
  const results = await now.session.write(kind, records)
  await context.checkpoint('after-answer')
  const isFull = results.some((result) => 'refused' in result && result.refused === 'storage-full')
  await context.fenced(async (client) => {
    await settleEach(
      client,
      scope,
      results.flatMap((result, i) => settlementOf(items[i]!, result, ticket.keys)),
    )
    await closeBatches(
      client,
      [batchId],
      results.map((result, i) => outcomeOf(items[i]!.seq, result, ticket.keys)),
    )
  })
  if (isFull) throw new MustWait('StorageFull', 'new')
}

/** What a phone's answer makes of an item; nothing of one that waits until there is room. */
function settlementOf({ seq, has_change: hasChange }: EntryContent, result: WriteResult, keys: TicketKeys): Settlement[] {
  const one = { seq, reason: null, written: null }
  // a full phone refuses for now, not for good: the item waits until there is room
  if ('refused' in result) return result.refused === 'storage-full' ? [] : [{ ...one, event: 'refused', reason: result.refused }]
  if (!('ids' in result)) return [{ ...one, event: 'joinedByPhone', reason: 'joined-by-phone' }]
  return [{ ...one, event: hasChange ? 'takenChanged' : 'taken', written: nativeDigest(keys, result.ids[0]!) }]
}

function outcomeOf(seq: number, result: WriteResult, keys: TicketKeys): Outcome {
  if ('refused' in result) return { seq, natives: [], ended: 'refused' }
  if (!('ids' in result)) return { seq, natives: [], ended: 'joined' }
  return { seq, natives: result.ids.map((id) => nativeDigest(keys, id)), ended: null }
}

/** The records as the new phone takes them; what belongs to them is on it already. */
async function makeRecords(
  context: RunContext,
  ticket: RunTicket,
  { kind: code, now, items }: KindAt & { items: readonly EntryContent[] },
): Promise<Omit<Batch, 'items'>> {
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
  if (!kind.parts || !forms.some((form) => kind.parts!(form).length > 0))
    return { toSend: items, records: forms.map((form) => kind.write(form, ticket.target, number)) }
  return moveItems(context, ticket, { kind, now, items, forms })
}

/** Moves the files of items, one after the other, and makes the records that name them. */
async function moveItems(
  context: RunContext,
  ticket: RunTicket,
  { kind, now, items, forms }: { kind: Kind; now: Attached; items: readonly EntryContent[]; forms: readonly unknown[] },
): Promise<Omit<Batch, 'items'>> {
  const toSend: EntryContent[] = []
  const records: Uint8Array[] = []
  const { pool } = context.services
  const scope = { ticketId: ticket.ticket.id, kind: kind.code }
  const before = kind.isMedia ? await oneCarryBytes(pool, scope) : undefined
  let bytes = 0
  const mover = await createMover(context, ticket, {
    kind,
    now,
    onBytes: async (n) => {
      bytes += n
      // what is on its way counts: a film of some minutes must not look like a standstill
      if (before)
        await context.progress('carrying', Math.min(before.done + bytes, before.done + before.waiting), before.done + before.waiting, {
          kind: kind.code,
          unit: 'bytes',
        })
    },
  })
  for (const [i, item] of items.entries()) {
    let moved: Moved<unknown>
    try {
      moved = await mover.move(forms[i])
    } catch (failure) {
      if (!(failure instanceof MustWait) || records.length === 0) throw failure
      return { toSend, records, failure }
    }
    if (moved.as !== 'moved') {
      const { as, reason } = moved
      // a phone that went on living is looked at again; one that stands still has a bad file
      if (reason === 'reads-differently' && (await hasMovedOn(context, ticket, kind.code))) throw new MustWait('PartChanged', 'old')
      await context.fenced((client) =>
        settleEach(client, scope, [{ seq: item.seq, event: as === 'unreadable' ? 'unread' : 'cannot', reason, written: null }]),
      )
      continue
    }
    const settled = moved.made.size > 0 ? await noteMade(context, ticket, { kind, item, form: moved.form, made: moved.made }) : item
    if (!settled) continue
    toSend.push(settled)
    records.push(kind.write(moved.form, ticket.target))
    await context.checkpoint('file-moved')
  }
  return { toSend, records }
}

async function hasMovedOn(context: RunContext, ticket: RunTicket, kind: string): Promise<boolean> {
  const row = await oneKind(context.services.pool, ticket.ticket.id, kind)
  const before = await maybeReading(context.services.pool, row.recount_reading ?? row.old_reading)
  const { session } = await attach(context, ticket.old)
  return (await orWait('old', () => session.count(kind))).revision !== before?.phone_revision
}

/** Notes what an item became before it is sent; undefined when the new phone holds that already. */
async function noteMade(
  context: RunContext,
  ticket: RunTicket,
  { kind, item, form, made }: { kind: Kind; item: EntryContent; form: unknown; made: Made },
): Promise<EntryContent | undefined> {
  const { keys } = ticket
  const tools = ticket.toolsFor(ticket.old)
  const [first, ...more] = kind.split ? kind.split(form, ticket.target) : [form]
  const digestOf = (record: unknown) => contentDigest(keys, kind.canonicalBytes(kind.atoms(record, tools)))
  const expected = digestOf(first)
  const parts = more.map(digestOf)
  const isThere = await context.fenced(async (client) => {
    const { first_reading: firstReading } = await oneKind(client, ticket.ticket.id, kind.code)
    return settleMade(
      client,
      { ticketId: ticket.ticket.id, kind: kind.code, firstReading: firstReading! },
      { seq: item.seq, expected, parts, made: sealMade(keys, item.seq, made), sizeBytes: kind.sizeBytes?.(form) ?? item.size_bytes },
    )
  })
  return isThere ? undefined : { ...item, expected, parts }
}
