import { invariant } from '#core/invariant.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { patience } from '../../base/patience.ts'
import { LinkError, OutcomeUnknown } from '../../endpoints/endpoint.ts'
import { openContents } from '../../vault/contents.ts'
import { stowRecord } from '../../vault/stow.ts'
import { attach, orWait, waitUntilStill } from '../../runs/ticket-of-run.ts'
import { openLists } from '../../vault/blocks.ts'
import { openBefore, sealBefore } from '../before.ts'
import { scopeOf, type Work } from '../step.ts'
import { joinRecords } from './join-records.ts'
import {
  countEqual,
  giveUpJoining,
  keepJoined,
  manyToJoin,
  manyToUndo,
  markSent,
  settleJoined,
  settleUndone,
  writeInstead,
  type ToJoin,
} from '../../book/joining/joining.queries.ts'

/**
 * Joins what was decided to be joined. The record as it was is sealed and stored first. Where the phone can change a
 * record, it is changed in place, and only while it says what it said at the first count; where it can't, the item is
 * written as the joined record by the usual way and theirs goes once that is proved. Killed at any moment, it finds
 * out by looking at the record.
 */
export async function joinChosen(work: Work): Promise<void> {
  const { context, ticket, kind: code } = work
  const scope = scopeOf(work)
  const kind = kindOf(code)
  if (!kind.join) return
  const amends = kind.joining?.amends(ticket.target) === true
  for (const item of await manyToJoin(context.services.pool, scope)) {
    if (item.state === 'sent' && !amends) continue
    const made = await makeJoined(work, item)
    if (!made) {
      await context.fenced((client) => giveUpJoining(client, scope, item.entry_seq))
      continue
    }
    const { before, beforeDigest, joinedDigest, record } = made
    await context.fenced(async (client) => {
      await markSent(client, scope, {
        seq: item.entry_seq,
        before: sealBefore(work, item.entry_seq, before),
        beforeDigest,
        joinedDigest,
      })
      if (!amends) await writeInstead(client, scope, { seq: item.entry_seq, joinedDigest })
    })
    if (!amends) continue
    await context.checkpoint('join-before-send')
    const isJoined = await amendTo(work, { id: await nativeIdOf(work, item), from: beforeDigest, to: joinedDigest, record })
    await context.checkpoint('join-before-commit')
    await context.fenced((client) =>
      isJoined ? settleJoined(client, scope, item.entry_seq) : giveUpJoining(client, scope, item.entry_seq),
    )
  }
}

/** Puts records back as they were before they were joined, exactly; one that somebody changed since stays as it is. */
export async function undoAsked(work: Work): Promise<void> {
  const { context } = work
  const scope = scopeOf(work)
  for (const item of await manyToUndo(context.services.pool, scope)) {
    const before = openBefore(work, item.entry_seq, item.before!)
    await context.checkpoint('undo-before-send')
    const undone: PutBack | undefined =
      item.written === null
        ? (await amendTo(work, {
            id: await nativeIdOf(work, item),
            from: item.joined_digest!,
            to: item.before_digest!,
            record: asWritten(work, before),
          }))
          ? { native: null }
          : undefined
        : await replaceBy(work, { item, record: asWritten(work, before) })
    await context.checkpoint('undo-before-commit')
    await context.fenced((client) =>
      undone ? settleUndone(client, scope, { ...item, ...undone }) : keepJoined(client, scope, item.entry_seq),
    )
  }
}

/** The bytes the phone takes for a record it gave: its own content, in the form it is written in. */
function asWritten({ ticket, kind: code, now }: Work, bytes: Uint8Array): Uint8Array {
  const kind = kindOf(code)
  const read = kind.read(bytes, ticket.toolsFor(now.place))
  invariant(read.ok, 'a record that was joined into could be read')
  return kind.write(read.item, ticket.target)
}

async function makeJoined({ context, ticket, kind: code, now }: Work, item: ToJoin) {
  const kind = kindOf(code)
  const { pool } = context.services
  const [oldTools, newTools] = [ticket.toolsFor(ticket.old), ticket.toolsFor(now.place)]
  const [ours] = await openContents(pool, ticket.keys, [item])
  const [theirs] = await openContents(pool, ticket.keys, [
    { reading_id: item.theirs_reading, block: item.theirs_block, slot: item.theirs_slot },
  ])
  const both = joinRecords(kind, { ours: ours!, theirs: theirs! }, { target: ticket.target, oldTools, newTools })
  if (!both || 'conflicts' in both.joined) return undefined
  const { its, joined } = both
  const digestOf = (value: unknown) => ticket.keys.digest(kind.canonicalBytes(kind.atoms(value, newTools)))
  return {
    before: theirs!,
    beforeDigest: digestOf(its),
    joinedDigest: digestOf(joined.item),
    record: kind.write(joined.item, ticket.target),
  }
}

async function nativeIdOf({ context, ticket }: Work, item: ToJoin): Promise<string> {
  const lists = await openLists(context.services.pool, ticket.keys, item.theirs_reading, [item.theirs_block])
  return lists.get(item.theirs_block)![item.theirs_slot]!.nativeId
}

/** Changes a record from one content to another; false when it says neither. @throws MustWait */
async function amendTo(
  work: Work,
  { id, from, to, record }: { id: string; from: Buffer; to: Buffer; record: Uint8Array },
): Promise<boolean> {
  const { kind } = work
  for (let attempt = 0; ; attempt++) {
    const there = await orWait('new', () =>
      work.now.sink.open(kind, id).catch((error: unknown) => {
        if (error instanceof LinkError && error.code === 'NoSuchRecord') return undefined
        throw error
      }),
    )
    const says = there && digestOfRecord(work, id, there.body)
    if (says?.equals(to)) return true
    if (!there || !says?.equals(from)) return false
    try {
      await work.now.sink.amend(kind, id, there.revision, record)
    } catch (error) {
      // an answer that was lost, or a record that moved on: what it says now tells
      if (!(error instanceof LinkError) || attempt + 1 >= patience.amending.attempts || error.code === 'StorageFull')
        await orWait('new', () => Promise.reject(error as Error))
      work.now = await attach(work.context, work.ticket.new)
    }
  }
}

function digestOfRecord({ ticket, kind, now }: Work, id: string, body: string): Buffer {
  return stowRecord(
    { kind: kindOf(kind), keys: ticket.keys, tools: ticket.toolsFor(now.place), target: null },
    { id, revision: '', storage: '', body },
  ).digest
}

/**
 * On a phone that can't change a record in place: writes the former record again, proves it by a fresh listing, and
 * only then takes the joined one away. Looks before it writes, so that a second turn writes nothing twice.
 */
async function replaceBy(work: Work, { item, record }: { item: ToJoin; record: Uint8Array }): Promise<PutBack | undefined> {
  const { context, kind, now } = work
  const wanted = await countEqual(context.services.pool, item)
  const found = await look(work, item)
  // an earlier turn may have come this far
  if (found.joined === undefined) return found.former.length >= wanted ? putBackAs(found.former) : undefined
  if (found.former.length < wanted) {
    await orWait('new', () =>
      now.sink
        .write(kind, [record])
        .catch((error: unknown) => Promise.reject(error instanceof OutcomeUnknown ? new LinkError('LinkLost') : error)),
    )
    await waitUntilStill(context, now, kind)
  }
  const proved = await look(work, item)
  if (proved.former.length < wanted) return undefined
  if (proved.joined !== undefined) await orWait('new', () => now.sink.remove(kind, [proved.joined!]))
  return putBackAs(proved.former)
}

/** What the new phone calls the record that stands in for theirs now; null where it has its own id still. */
export interface PutBack {
  readonly native: Buffer | null
}

/** The one written last is the one that was put back. */
const putBackAs = (former: readonly Buffer[]): PutBack => ({ native: former.at(-1) ?? null })

/** The records that say what the former one said, in the phone's order, and the one that was written as joined while it still says that. */
async function look(work: Work, item: ToJoin): Promise<{ former: readonly Buffer[]; joined: string | undefined }> {
  const { ticket, kind, now } = work
  const stowing = { kind: kindOf(kind), keys: ticket.keys, tools: ticket.toolsFor(now.place), target: null }
  const former: Buffer[] = []
  let joined: string | undefined
  await orWait('new', async () => {
    for await (const record of now.source.list(kind)) {
      const { native, digest } = stowRecord(stowing, record)
      if (digest.equals(item.before_digest!)) former.push(native)
      if (native.equals(item.written!) && digest.equals(item.joined_digest!)) joined = record.id
    }
  })
  return { former, joined }
}
