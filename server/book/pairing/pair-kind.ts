import { pair, type BookEvent, type Fate, type PairItem } from '#core/book/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { ReadTools } from '#core/kinds/kind.ts'
import { takesAsGiven, type PhoneModel } from '#core/phones/capability.ts'
import type { Client } from '../../base/db/sql.ts'
import { factsOf, openContents, openMade, type WhereSealed } from '../../vault/contents.ts'
import type { TicketKeys } from '../../vault/keys.ts'
import { letGo } from '../entries/entries.queries.ts'
import { settle, settleEach } from '../settle.ts'
import {
  claimDoubles,
  countOrigins,
  dropUnbalanced,
  findUnbalanced,
  insertOrigins,
  manyFormers,
  manyHosts,
  manyPutBack,
  manyTakenAway,
  manyUnbalancedEntries,
  manyUnbalancedRecords,
  noteWritten,
  oneOldest,
  writeBalanced,
  type OriginRow,
  type PairScope,
  type UnbalancedEntry,
} from './pairing.queries.ts'

export interface PairHow {
  readonly keys: TicketKeys
  readonly target: PhoneModel
  readonly oldTools: ReadTools
  readonly newTools: ReadTools
}

/** By which event a check gives an item its fate; none where it stays as it is. */
const eventOf: Partial<Record<Fate, BookEvent>> = {
  carried: 'found',
  changed: 'foundChanged',
  merged: 'foundJoined',
  lost: 'notFound',
  editedThere: 'foundEdited',
  pushedOut: 'foundPushedOut',
}

/**
 * Pairs a kind within the caller's transaction: what balances by one statement, what does not by the core,
 * record by record with its content. Writes every record's origin and every item's fate.
 */
export async function pairKind(client: Client, scope: PairScope, how: PairHow): Promise<void> {
  const { kind } = scope
  await findUnbalanced(client, scope)
  await writeBalanced(client, scope)
  const [first, last, entries, hosts, formers] = [
    await manyUnbalancedRecords(client, scope.firstReading),
    await manyUnbalancedRecords(client, scope.lastReading),
    await manyUnbalancedEntries(client, scope),
    await manyHosts(client, scope),
    await manyFormers(client, scope),
  ]
  if (first.length + last.length + entries.length > 0) {
    const { target, oldTools, newTools } = how
    const read = createReader(client, kind, how)
    const [firstFacts, lastFacts, hostFacts] = [await read(first, newTools), await read(last, newTools), await read(hosts, newTools)]
    const entryFacts = await read(entries, oldTools, target)
    const record = (r: (typeof hosts)[number], atoms: readonly string[]) => ({
      seq: r.seq,
      nativeId: r.native.toString('hex'),
      digest: r.digest.toString('hex'),
      atoms,
      atMs: r.at?.getTime() ?? null,
    })
    const result = pair({
      first: first.map((r, i) => record(r, firstFacts[i]!)),
      last: last.map((r, i) => ({ ...record(r, lastFacts[i]!), isUnreadable: r.is_unreadable })),
      settled: hosts.map((r, i) => record(r, hostFacts[i]!)),
      joins: kindOf(kind).joins,
      items: entries.map((e, i) => itemOf(e, entryFacts[i]!, target)),
      formers: formers.map(({ id, native, expected, is_gone: isGone, is_double: isDouble }) => ({
        isGone,
        isDouble,
        id,
        nativeId: native?.toString('hex') ?? null,
        digest: expected.toString('hex'),
      })),
      putBack: await manyPutBack(client, scope),
      pushesOut: await pushesOut(client, scope, target),
    })
    const foundFor = new Map([...result.foundIn].map(([entry, record]) => [record, entry]))
    const origins: OriginRow[] = [...result.origins].map(([itemSeq, origin]) => ({
      side: 'last',
      readingId: scope.lastReading,
      itemSeq,
      origin,
      entrySeq: result.partOf.get(itemSeq) ?? foundFor.get(itemSeq) ?? null,
      isPart: result.partOf.has(itemSeq),
      writtenId: result.formerIn.get(itemSeq) ?? null,
    }))
    for (const [itemSeq, origin] of result.departures) {
      origins.push({ side: 'first', readingId: scope.firstReading, itemSeq, origin, entrySeq: null, isPart: false, writtenId: null })
    }
    await insertOrigins(client, scope, origins)
    const takenAway = await findTakenAway(client, scope, { entries, entryFacts, result, read: (away) => read(away, oldTools, target) })
    const fateBefore = new Map(entries.map((e) => [e.seq, e.fate]))
    const moved = [...result.fates].flatMap(([seq, fate]) => {
      const event = takenAway.has(seq) ? 'takenAway' : fate === fateBefore.get(seq) ? undefined : eventOf[fate]
      return event ? [{ seq, event, reason: null, written: null }] : []
    })
    await settleEach(client, scope, moved)
    await settle(client, scope, 'noLongerThere', {
      where: 'e.seq = any($4::int[])',
      // what it was there as is no more: its own record stands in for that
      set: `sends = 0, stands_in = true`,
      values: [[...result.fates].flatMap(([seq, fate]) => (fate === 'pending' ? [seq] : []))],
    })
    await letGo(client, scope)
    await claimDoubles(client, scope)
  }
  await noteWritten(client, scope)
  await countOrigins(client, scope)
  await dropUnbalanced(client)
}

/**
 * Items a phone had joined into another of this ticket's, which was taken away since on request: they went with it, and
 * are not lost.
 */
async function findTakenAway(
  client: Client,
  scope: PairScope,
  {
    entries,
    entryFacts,
    result,
    read,
  }: {
    entries: readonly UnbalancedEntry[]
    entryFacts: readonly (readonly string[])[]
    result: ReturnType<typeof pair>
    read: (away: Places) => Promise<string[][]>
  },
): Promise<ReadonlySet<number>> {
  const orphans = entries.flatMap((e, i) =>
    e.fate === 'merged' && !e.written && result.fates.get(e.seq) === 'lost' ? [{ seq: e.seq, atoms: entryFacts[i]! }] : [],
  )
  if (orphans.length === 0) return new Set()
  const hosts = (
    await read(
      await manyTakenAway(
        client,
        scope,
        orphans.map(({ seq }) => seq),
      ),
    )
  ).map((atoms) => new Set(atoms))
  return new Set(orphans.filter(({ atoms }) => hosts.some((host) => atoms.every((atom) => host.has(atom)))).map(({ seq }) => seq))
}

type Places = readonly (WhereSealed & { seq: number; made?: Buffer | null; is_own_form?: boolean })[]

/** Opens records and tells their facts, in the form they take on a phone where one is given. */
function createReader(client: Client, kind: string, { keys }: PairHow) {
  return async (places: Places, tools: ReadTools, target: PhoneModel | null = null): Promise<string[][]> =>
    (await openContents(client, keys, places)).map((body, i) => {
      const place = places[i]!
      return factsOf(kind, body, { tools, target: place.is_own_form ? null : target, made: openMade(keys, { made: null, ...place }) })
    })
}

function itemOf(e: UnbalancedEntry, atoms: readonly string[], target: PhoneModel): PairItem {
  return {
    seq: e.seq,
    fate: e.fate === 'alreadyThere' ? 'alreadyThere' : e.fate === 'merged' && !e.written ? 'merged' : e.has_change ? 'changed' : 'carried',
    digest: e.digest.toString('hex'),
    atoms,
    nativeIds: e.written ? [e.written.toString('hex')] : [],
    parts: e.parts.map((part) => part.toString('hex')),
    // nobody but this house writes to a place that takes as given: what reads otherwise there is damaged
    wasFound: e.was_found && !takesAsGiven(target),
    standsInFor: e.stands_in_for?.toString('hex'),
    atMs: e.at?.getTime() ?? null,
  }
}

/** Of a phone that keeps only its newest and is full: when the oldest it keeps happened. */
async function pushesOut(client: Client, { kind, lastReading }: PairScope, target: PhoneModel): Promise<{ oldestMs: number } | undefined> {
  const capacity = kindOf(kind).capacity?.(target)
  if (capacity === undefined) return undefined
  const { at, n } = await oneOldest(client, lastReading)
  return at && n >= capacity ? { oldestMs: at.getTime() } : undefined
}
