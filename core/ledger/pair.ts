import type { Departure, Fate, Origin } from './terms.ts'

/** A record as a phone lists it. */
export interface PairRecord {
  readonly seq: number
  readonly nativeId: string
  readonly digest: string
  /** What it says; needed only where a whole record is not found again. */
  readonly atoms: readonly string[]
}

/** An item the new phone took, or that it was found to hold already. */
export interface PairItem {
  readonly seq: number
  readonly fate: 'carried' | 'changed' | 'merged' | 'alreadyThere'
  /** In the form it was to have on the new phone. */
  readonly digest: string
  readonly atoms: readonly string[]
  /** What the new phone called the record it wrote; empty when its answer never came. */
  readonly nativeIds: readonly string[]
  /** Contents of the further records the new phone makes of it: it is found with all of them, or not at all. */
  readonly parts?: readonly string[]
}

export interface PairInput {
  readonly first: readonly PairRecord[]
  readonly last: readonly PairRecord[]
  readonly items: readonly PairItem[]
  /** The kind's records may be joined by a phone. */
  readonly joins: boolean
  /** Records of the last count that are whole and paired already: content may stand in them, nothing else changes. */
  readonly settled?: readonly PairRecord[]
}

export interface Pairing {
  readonly origins: ReadonlyMap<number, Origin>
  readonly departures: ReadonlyMap<number, Departure>
  /** What each item's fate is now; `pending` for one that was already there and no longer is. */
  readonly fates: ReadonlyMap<number, Fate>
  /** The record an item was found in: record's seq by item's seq. */
  readonly foundIn: ReadonlyMap<number, number>
  /** Further records of an item: item's seq by record's seq. */
  readonly partOf: ReadonlyMap<number, number>
}

/**
 * Pairs one to one what should be on the new phone with what it lists: by native id with equal content first, then by
 * equal content, a record used up once paired. Then, for kinds whose records are joined, looks whether content
 * stands whole in another record. What is left is lost, missing, double or came otherwise; never guessed away.
 */
export function pair(input: PairInput): Pairing {
  const free = new Map(input.last.map((record) => [record.seq, record]))
  const origin = new Map<number, Origin>()
  const departure = new Map<number, Departure>()
  const fate = new Map<number, Fate>()
  const foundIn = new Map<number, number>()
  const partOf = new Map<number, number>()
  const byId = new Map(input.last.map((record) => [record.nativeId, record]))

  const firstLeft = new Map(input.first.map((record) => [record.seq, record]))
  const taken = input.items.filter((item) => item.fate === 'carried' || item.fate === 'changed')
  const takenLeft = new Map(taken.map((item) => [item.seq, item]))

  const settleFirst = (record: PairRecord, now: PairRecord, as: Origin) => {
    firstLeft.delete(record.seq)
    free.delete(now.seq)
    origin.set(now.seq, as)
  }
  /** Free records for the further contents of an item; undefined when one is missing. Contents alone tell: nothing named them. */
  const findParts = (item: PairItem, taken: PairRecord): PairRecord[] | undefined => {
    const found: PairRecord[] = []
    for (const digest of item.parts ?? []) {
      const now = [...free.values()].find((record) => record.digest === digest && record !== taken && !found.includes(record))
      if (!now) return undefined
      found.push(now)
    }
    return found
  }
  const settleItem = (item: PairItem, now: PairRecord) => {
    const further = findParts(item, now)
    // found in part is not found; its records are left for what else may explain them
    if (!further) return
    for (const record of further) {
      free.delete(record.seq)
      origin.set(record.seq, 'arrived')
      partOf.set(record.seq, item.seq)
    }
    takenLeft.delete(item.seq)
    free.delete(now.seq)
    origin.set(now.seq, 'arrived')
    fate.set(item.seq, item.fate)
    foundIn.set(item.seq, now.seq)
  }

  // 1. native id and equal content
  for (const record of input.first) {
    const now = byId.get(record.nativeId)
    if (now && free.has(now.seq) && now.digest === record.digest) settleFirst(record, now, 'kept')
  }
  for (const item of taken) {
    const now = item.nativeIds.map((id) => byId.get(id)).find((r) => r && free.has(r.seq) && r.digest === item.digest)
    if (now) settleItem(item, now)
  }

  // 2. equal content under another id
  const freeByDigest = groupBy([...free.values()], (record) => record.digest)
  for (const record of [...firstLeft.values()]) {
    const now = freeByDigest.get(record.digest)?.shift()
    if (now) settleFirst(record, now, 'kept')
  }
  for (const item of [...takenLeft.values()]) {
    const now = freeByDigest.get(item.digest)?.find((record) => free.has(record.seq))
    if (now) settleItem(item, now)
  }

  // 3. records that changed under their own id: by a joining that explains every added fact, or by another hand
  const unmatched = () => [...takenLeft.values(), ...input.items.filter((i) => i.fate === 'merged' && !fate.has(i.seq))]
  const grow = (was: { readonly atoms: readonly string[] }, now: PairRecord) => {
    const known = new Set(was.atoms)
    if (!containsAll(now.atoms, was.atoms)) return undefined
    const added = now.atoms.filter((atom) => !known.has(atom))
    const joined = unmatched().filter((item) => containsAll(now.atoms, item.atoms))
    const said = new Set(joined.flatMap((item) => item.atoms))
    return added.every((atom) => said.has(atom)) ? joined : undefined
  }
  if (input.joins) {
    for (const item of [...takenLeft.values()]) {
      const now = item.nativeIds.map((id) => byId.get(id)).find((r) => r && free.has(r.seq))
      if (!now || !takenLeft.has(item.seq)) continue
      takenLeft.delete(item.seq)
      const joined = grow(item, now)
      if (!joined || joined.length === 0) {
        takenLeft.set(item.seq, item)
        continue
      }
      settleItem(item, now)
      settleMerged(joined, now)
    }
  }
  for (const record of [...firstLeft.values()]) {
    const now = byId.get(record.nativeId)
    if (!now || !free.has(now.seq)) continue
    const joined = input.joins ? grow(record, now) : undefined
    settleFirst(record, now, joined && joined.length > 0 ? 'addedTo' : 'altered')
    if (joined) settleMerged(joined, now)
  }

  function settleMerged(joined: readonly PairItem[], now: PairRecord) {
    for (const item of joined) {
      takenLeft.delete(item.seq)
      fate.set(item.seq, 'merged')
      foundIn.set(item.seq, now.seq)
    }
  }

  // 4. content that stands whole in a record that is there
  const standing = [...(input.settled ?? []), ...input.last.filter((record) => origin.has(record.seq))]
  const holds = (atoms: readonly string[]) =>
    input.joins && atoms.length > 0 ? standing.find((record) => containsAll(record.atoms, atoms)) : undefined
  for (const item of unmatched()) {
    const now = holds(item.atoms)
    fate.set(item.seq, now ? 'merged' : 'lost')
    if (now) foundIn.set(item.seq, now.seq)
  }
  for (const record of firstLeft.values()) departure.set(record.seq, holds(record.atoms) ? 'absorbed' : 'missing')

  // 5. what nothing explains
  const ours = new Set(
    [...(input.settled ?? []), ...input.last.filter((r) => ['kept', 'addedTo', 'arrived'].includes(origin.get(r.seq) ?? ''))].map(
      (record) => record.digest,
    ),
  )
  for (const record of free.values()) origin.set(record.seq, ours.has(record.digest) ? 'double' : 'cameOtherwise')

  // 6. an item that was already there must still stand, one record for one item
  const keptByDigest = groupBy(
    input.last.filter((record) => origin.get(record.seq) === 'kept' || origin.get(record.seq) === 'double'),
    (record) => record.digest,
  )
  for (const item of input.items.filter((i) => i.fate === 'alreadyThere')) {
    const now = keptByDigest.get(item.digest)?.shift() ?? holds(item.atoms)
    fate.set(item.seq, now ? 'alreadyThere' : 'pending')
    if (now) foundIn.set(item.seq, now.seq)
  }
  return { origins: origin, departures: departure, fates: fate, foundIn, partOf }
}

export function containsAll(outer: readonly string[], inner: readonly string[]): boolean {
  const set = new Set(outer)
  return inner.every((atom) => set.has(atom))
}

export function groupBy<T>(values: readonly T[], key: (value: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>()
  for (const value of values) {
    const group = groups.get(key(value))
    if (group) group.push(value)
    else groups.set(key(value), [value])
  }
  return groups
}
