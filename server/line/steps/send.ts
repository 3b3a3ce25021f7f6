import type { WriteResult } from '#contracts/link/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { closeBatches, insertBatch, type Outcome } from '../../book/batches/batches.queries.ts'
import { oneCarryBytes, oneCarryTotals, type EntryContent } from '../../book/entries/carry.queries.ts'
import { settleEach, type Settlement } from '../../book/settle.ts'
import { patience } from '../../base/patience.ts'
import { OutcomeUnknown } from '../../endpoints/endpoint.ts'
import { MustWait } from '../../runs/context.ts'
import { attach } from '../../runs/ticket-of-run.ts'
import { nativeDigest, type TicketKeys } from '../../vault/keys.ts'
import { makeBatch, type Batch } from '../moving/make-batch.ts'
import { scopeOf, type Work } from '../step.ts'
import { resolveUnknown } from './resolve.ts'

/**
 * Sends what waits, batch after batch. The next one is made while the phone writes this one: reading, changing and
 * streaming of attachments cost as much time as the phone's own work.
 */
export async function sendWaiting(work: Work): Promise<void> {
  const { context, ticket } = work
  let unknown = 0
  let after = -1
  const ahead = () => quiet(makeBatch(work, after))
  let next = ahead()
  try {
    for (;;) {
      await showProgress(work)
      const batch = await next
      if (batch.items.length === 0 && after < 0) return
      // from the beginning again: some may have gone back to waiting
      after = batch.items.at(-1)?.seq ?? -1
      next = ahead()
      if (batch.items.length === 0) continue
      try {
        if (batch.toSend.length > 0) await sendBatch(work, batch)
        unknown = 0
        if (batch.failure) throw batch.failure
      } catch (error) {
        if (!(error instanceof OutcomeUnknown)) throw error
        // what was made ahead goes with the connection it was made for
        await next.catch(() => undefined)
        // answers that keep failing: the phone needs a hand, or a rest
        if (isForHands(error.code) || ++unknown > patience.sending.unknownInARow) throw new MustWait(error.code, 'new')
        work.now = await attach(context, ticket.new)
        await resolveUnknown(work)
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
async function showProgress(work: Work): Promise<void> {
  const { context, kind } = work
  const { isMedia } = kindOf(kind)
  const { waiting, done } = await (isMedia ? oneCarryBytes : oneCarryTotals)(context.services.pool, scopeOf(work))
  await context.progress('carrying', done, done + waiting, { kind, unit: isMedia ? 'bytes' : 'items' })
}

function isForHands(code: string): boolean {
  return !['LinkLost', 'LinkProtocol', 'ConnectionTaken'].includes(code)
}

async function sendBatch(work: Work, { toSend: items, records }: Batch): Promise<void> {
  const { context, ticket, kind, now } = work
  const scope = scopeOf(work)
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
  const results = await now.sink.write(kind, records)
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
