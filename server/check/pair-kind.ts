import { pair, type PairItem } from '#core/ledger/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { ReadTools } from '#core/kinds/kind.ts'
import type { PhoneModel } from '#core/phones/capability.ts'
import type { Client } from '../db/sql.ts'
import { factsOf, openContents, openMade, type WhereSealed } from '../readings/contents.ts'
import type { TicketKeys } from '../seal/keys.ts'
import {
  countOrigins,
  findUnbalanced,
  insertOrigins,
  manyHosts,
  manyUnbalancedEntries,
  manyUnbalancedRecords,
  markOutdated,
  updateFates,
  writeBalanced,
  type OriginRow,
  type PairScope,
} from './pairing.queries.ts'

export interface PairHow {
  readonly keys: TicketKeys
  readonly target: PhoneModel
  readonly oldTools: ReadTools
  readonly newTools: ReadTools
}

/**
 * Pairs a kind within the caller's transaction: what balances by one statement, what does not by the core,
 * record by record with its content. Writes every record's origin and every item's fate.
 */
export async function pairKind(client: Client, scope: PairScope, { keys, target, oldTools, newTools }: PairHow): Promise<void> {
  const { kind } = scope
  await findUnbalanced(client, scope)
  await writeBalanced(client, scope)
  const [first, last, entries, hosts] = [
    await manyUnbalancedRecords(client, scope.firstReading),
    await manyUnbalancedRecords(client, scope.lastReading),
    await manyUnbalancedEntries(client, scope),
    await manyHosts(client, scope),
  ]
  if (first.length + last.length + entries.length > 0) {
    const facts = async (
      places: readonly (WhereSealed & { seq: number; made?: Buffer | null })[],
      how: { tools: ReadTools; target: PhoneModel | null },
    ) =>
      (await openContents(client, keys, places)).map((body, i) =>
        factsOf(kind, body, { ...how, made: openMade(keys, { made: null, ...places[i]! }) }),
      )
    const [firstFacts, lastFacts, hostFacts, entryFacts] = [
      await facts(first, { tools: newTools, target: null }),
      await facts(last, { tools: newTools, target: null }),
      await facts(hosts, { tools: newTools, target: null }),
      await facts(entries, { tools: oldTools, target }),
    ]
    const record = (r: (typeof first)[number], atoms: readonly string[]) => ({
      seq: r.seq,
      nativeId: r.native.toString('hex'),
      digest: r.digest.toString('hex'),
      atoms,
    })
    const result = pair({
      first: first.map((r, i) => record(r, firstFacts[i]!)),
      last: last.map((r, i) => record(r, lastFacts[i]!)),
      settled: hosts.map((r, i) => record(r, hostFacts[i]!)),
      joins: kindOf(kind).joins,
      items: entries.map((e, i): PairItem => ({
        seq: e.seq,
        fate:
          e.fate === 'alreadyThere' ? 'alreadyThere' : e.fate === 'merged' && !e.written ? 'merged' : e.has_change ? 'changed' : 'carried',
        digest: e.digest.toString('hex'),
        atoms: entryFacts[i]!,
        nativeIds: e.written ? [e.written.toString('hex')] : [],
        parts: e.parts.map((part) => part.toString('hex')),
      })),
    })
    const foundFor = new Map([...result.foundIn].map(([entry, record]) => [record, entry]))
    const origins: OriginRow[] = [...result.origins].map(([itemSeq, origin]) => ({
      side: 'last',
      readingId: scope.lastReading,
      itemSeq,
      origin,
      entrySeq: result.partOf.get(itemSeq) ?? foundFor.get(itemSeq) ?? null,
      isPart: result.partOf.has(itemSeq),
    }))
    for (const [itemSeq, origin] of result.departures) {
      origins.push({ side: 'first', readingId: scope.firstReading, itemSeq, origin, entrySeq: null, isPart: false })
    }
    await insertOrigins(client, scope, origins)
    await markOutdated(client, scope)
    await updateFates(
      client,
      scope,
      [...result.fates].map(([seq, fate]) => ({ seq, fate })),
    )
  }
  await countOrigins(client, scope)
  await client.query('drop table unbalanced')
}
