import { invariant } from '#core/invariant.ts'
import { takesAsGiven } from '#core/phones/capability.ts'
import { formOn } from '#core/kinds/form.ts'
import { createNumberReader } from '#core/kinds/contacts/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { manyToCarry, oneCarryBytes, settleMade, type EntryContent } from '../../book/entries/carry.queries.ts'
import { nameMissing } from '../../book/entries/named.queries.ts'
import { settleEach } from '../../book/settle.ts'
import { oneKind } from '../../case/tickets.queries.ts'
import { MustWait } from '../../runs/context.ts'
import { attach, orWait } from '../../runs/ticket-of-run.ts'
import { openContents, sealMade, type Made } from '../../vault/contents.ts'
import { contentDigest } from '../../vault/keys.ts'
import { maybeReading } from '../../vault/readings.queries.ts'
import { scopeOf, type Work } from '../step.ts'
import { openBefore } from '../before.ts'
import { recordsGiven } from './as-given.ts'
import { createStillMissing } from '../reading/named-others.ts'
import { createMover, type Moved } from './move-files.ts'

const batchSize = 200

/** What goes over with one call. */
export interface Batch {
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

/** The next batch of what waits behind an item, its files on the new phone already. @throws MustWait, LeaseLost */
export async function makeBatch(work: Work, after: number): Promise<Batch> {
  const { context, kind } = work
  const some = await manyToCarry(context.services.pool, {
    ...scopeOf(work),
    after,
    limit: kindOf(kind).isMedia ? mediaBatchSize : batchSize,
  })
  let bytes = 0
  const end = kindOf(kind).isMedia ? some.findIndex((item) => (bytes += item.size_bytes) > batchBytes) : -1
  const items = end < 0 ? some : some.slice(0, Math.max(1, end))
  return items.length === 0 ? { items, toSend: [], records: [] } : { items, ...(await makeRecords(work, items)) }
}

/** The records as the new phone takes them; what belongs to them is on it already. */
async function makeRecords(work: Work, items: readonly EntryContent[]): Promise<Omit<Batch, 'items'>> {
  const { context, ticket, kind: code, now } = work
  const kind = kindOf(code)
  const bodies = await openContents(context.services.pool, ticket.keys, items)
  const tools = ticket.toolsFor(ticket.old)
  // a national number means another line in another country
  const number = ticket.old.region === ticket.new.region ? undefined : createNumberReader(ticket.old.region)
  const forms = items.map((_, i) => {
    const read = kind.read(bodies[i]!, tools)
    const changed = read.ok ? formOn(kind, read.item, ticket.target) : undefined
    // it was read and changed once already, when it was stowed
    invariant(changed && !('cannot' in changed), 'a waiting item can be read and can cross')
    const { joins, seq } = items[i]!
    if (!joins) return changed.item
    const theirs = kind.read(openBefore(work, seq, joins), ticket.toolsFor(now.place))
    const joined = theirs.ok && kind.join!(changed.item, theirs.item, ticket.target, ticket.toolsFor(now.place))
    invariant(joined && 'item' in joined, 'what was joined once can be joined again')
    return joined.item
  })
  const give = takesAsGiven(ticket.target) ? await recordsGiven(work, items, bodies) : undefined
  const write: WriteForm = (form, i, handles) => give?.(i, handles) ?? kind.write(form, ticket.target, number)
  if (kind.namesOthers && !give) return nameOthers(work, items, { forms, write })
  if (!kind.filesOf || !forms.some((form) => kind.filesOf!(form).length > 0))
    return { toSend: items, records: forms.map((form, i) => write(form, i)) }
  return moveItems(work, items, { forms, bodies, write })
}

/** Of items that name others: each without what did not come over, and that named. */
async function nameOthers(
  work: Work,
  items: readonly EntryContent[],
  { forms, write }: { forms: readonly unknown[]; write: WriteForm },
): Promise<Omit<Batch, 'items'>> {
  const { context, kind: code } = work
  const kind = kindOf(code)
  const missingIn = await createStillMissing(work)
  const toSend: EntryContent[] = []
  const records: Uint8Array[] = []
  for (const [i, item] of items.entries()) {
    const missing = missingIn!(forms[i])
    if (missing.size === 0) {
      toSend.push(item)
      records.push(write(forms[i], i))
      continue
    }
    const made: Made = new Map([...missing].map((place) => [String(place), { digest: '', sizeBytes: 0 }]))
    const form = kind.withMade!(forms[i], made)
    await context.fenced((client) => nameMissing(client, scopeOf(work), item.seq, kind.namesOthers!.lost))
    const settled = await noteMade(work, item, { form, made })
    if (!settled) continue
    toSend.push({ ...settled, has_change: true })
    records.push(write(form, i))
  }
  return { toSend, records }
}

/** One record as the new side takes it. @param handles of its files there, by those of the old side */
type WriteForm = (form: unknown, i: number, handles?: ReadonlyMap<string, string>) => Uint8Array

/** Moves the files of items, one after the other, and makes the records that name them. */
async function moveItems(
  work: Work,
  items: readonly EntryContent[],
  { forms, bodies, write }: { forms: readonly unknown[]; bodies: readonly Uint8Array[]; write: WriteForm },
): Promise<Omit<Batch, 'items'>> {
  const { context, ticket, now } = work
  const kind = kindOf(work.kind)
  const toSend: EntryContent[] = []
  const records: Uint8Array[] = []
  const { pool } = context.services
  const scope = scopeOf(work)
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
      moved = await mover.move(forms[i], bodies[i]!)
    } catch (failure) {
      if (!(failure instanceof MustWait) || records.length === 0) throw failure
      return { toSend, records, failure }
    }
    if (moved.as !== 'moved') {
      const { as, reason } = moved
      // a phone that went on living is looked at again; one that stands still has a bad file
      if (reason === 'reads-differently' && (await hasMovedOn(work))) throw new MustWait('FileChanged', 'old')
      await context.fenced((client) =>
        settleEach(client, scope, [{ seq: item.seq, event: as === 'unreadable' ? 'unread' : 'cannot', reason, written: null }]),
      )
      continue
    }
    const settled = moved.made.size > 0 ? await noteMade(work, item, moved) : item
    if (!settled) continue
    toSend.push(settled)
    records.push(write(moved.form, i, moved.handles))
    await context.checkpoint('file-moved')
  }
  return { toSend, records }
}

async function hasMovedOn({ context, ticket, kind }: Work): Promise<boolean> {
  const row = await oneKind(context.services.pool, ticket.ticket.id, kind)
  const before = await maybeReading(context.services.pool, row.recount_reading ?? row.old_reading)
  const { source } = await attach(context, ticket.old)
  return (await orWait('old', () => source.count(kind))).revision !== before?.phone_revision
}

/** Notes what an item became before it is sent; undefined when the new phone holds that already. */
async function noteMade(
  work: Work,
  item: EntryContent,
  { form, made }: { readonly form: unknown; readonly made: Made },
): Promise<EntryContent | undefined> {
  const { context, ticket } = work
  const { keys } = ticket
  const kind = kindOf(work.kind)
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
