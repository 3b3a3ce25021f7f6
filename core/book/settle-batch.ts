import { containsAll, groupBy } from './pair.ts'

/** An item of a batch that was sent and whose answer is not known. */
export interface SentItem {
  readonly seq: number
  readonly digest: string
  readonly atoms: readonly string[]
  /** How often it has been sent, this time included. */
  readonly sends: number
  /** Contents of the further records the phone makes of it. */
  readonly parts?: readonly string[]
  /** When it happened, milliseconds since 1970; null or missing where it has no time. */
  readonly atMs?: number | null
}

export interface NowRecord {
  readonly nativeId: string
  readonly digest: string
  readonly atoms: readonly string[]
  readonly atMs?: number | null
}

export interface UnknownBatch {
  readonly items: readonly SentItem[]
  /** How many records of each digest the new phone held before the batch, of the digests that matter here. */
  readonly known: ReadonlyMap<string, number>
  /** Native ids that were there before, with the content they had then. */
  readonly knownIds: ReadonlyMap<string, { readonly digest: string; readonly atoms: readonly string[] }>
  /** The records of the fresh listing whose digest is an item's, or whose id was not known, or whose content changed. */
  readonly now: readonly NowRecord[]
  readonly joins: boolean
  readonly mostSends: number
}

export type Settled =
  | { readonly seq: number; readonly as: 'carried'; readonly nativeIds: readonly string[] }
  | { readonly seq: number; readonly as: 'merged'; readonly nativeId: string }
  /** `otherwise`: the record that may be what the phone made of it. It is written by this ticket, and is not what was sent. */
  | { readonly seq: number; readonly as: 'again' | 'refused'; readonly otherwise?: string }

export interface SettledBatch {
  readonly items: readonly Settled[]
  /** Half records to be taken away before their items are sent again. */
  readonly remove: readonly string[]
}

/**
 * Finds out what a phone did with a batch whose answer never came, by counts for each digest: new ones of a digest
 * are what it holds now less what was known; the first that many items of it arrived. Absence is never success.
 */
export function settleUnknownBatch(batch: UnknownBatch): SettledBatch {
  const settled: Settled[] = []
  const nowByDigest = groupBy(batch.now, (record) => record.digest)
  const left: SentItem[] = []
  const arrivedInPart = new Set<number>()
  /** Records of a content beyond those that were known, under ids not known first; none twice. */
  function freshOf(digest: string, records: readonly NowRecord[]): NowRecord[] {
    const free = records
      .filter((record) => !taken.has(record.nativeId))
      .sort((a, b) => Number(batch.knownIds.has(a.nativeId)) - Number(batch.knownIds.has(b.nativeId)))
    return free.slice(0, Math.max(0, free.length - (batch.known.get(digest) ?? 0)))
  }
  /** It arrived when each of its records did; what arrived of one that did not is half, and goes before it is sent again. */
  function settleSplit(item: SentItem): void {
    const mine: NowRecord[] = []
    for (const digest of [item.digest, ...item.parts!]) {
      const next = freshOf(digest, nowByDigest.get(digest) ?? []).find((record) => !mine.includes(record))
      if (next) mine.push(next)
    }
    for (const { nativeId } of mine) taken.add(nativeId)
    if (mine.length === 1 + item.parts!.length) {
      settled.push({ seq: item.seq, as: 'carried', nativeIds: mine.map(({ nativeId }) => nativeId) })
      return
    }
    remove.push(...mine.map(({ nativeId }) => nativeId))
    if (mine.length > 0) arrivedInPart.add(item.seq)
    left.push(item)
  }
  const hasGrown = (record: NowRecord) => {
    const was = batch.knownIds.get(record.nativeId)
    return was !== undefined && was.digest !== record.digest && containsAll(record.atoms, was.atoms)
  }
  const remove: string[] = []
  const taken = new Set<string>()
  // items of several records first: what is left of their contents belongs to nobody else
  for (const item of batch.items.filter((i) => (i.parts?.length ?? 0) > 0)) settleSplit(item)
  for (const [digest, items] of groupBy(
    batch.items.filter((i) => (i.parts?.length ?? 0) === 0),
    (item) => item.digest,
  )) {
    // a known record that grew into this content took something in; it is no new record
    const records = (nowByDigest.get(digest) ?? []).filter((record) => !batch.joins || !hasGrown(record))
    const fresh = freshOf(digest, records)
    const arrived = fresh.length
    items.forEach((item, i) => {
      if (i < arrived) settled.push({ seq: item.seq, as: 'carried', nativeIds: [fresh[i]!.nativeId] })
      else left.push(item)
    })
  }
  const grown = batch.now.filter(hasGrown)
  const expected = new Set(batch.items.flatMap((item) => [item.digest, ...(item.parts ?? [])]))
  // new since, and nothing that was sent: half of an item, or one the phone wrote otherwise
  const halves = batch.now.filter((record) => !batch.knownIds.has(record.nativeId) && !expected.has(record.digest))
  const hostOf = (item: SentItem) => (batch.joins ? grown.find((record) => containsAll(record.atoms, item.atoms)) : undefined)
  const take = (is: (record: NowRecord) => boolean): NowRecord | undefined => {
    const at = halves.findIndex(is)
    return at < 0 ? undefined : halves.splice(at, 1)[0]
  }
  // whose half it is, before anybody's likeness: that is surer
  const halfOf = new Map(
    left
      .filter((item) => !hostOf(item))
      .map((item) => [item, take((record) => record.atoms.length < item.atoms.length && containsAll(item.atoms, record.atoms))] as const),
  )
  for (const item of left) {
    const host = hostOf(item)
    if (host) {
      settled.push({ seq: item.seq, as: 'merged', nativeId: host.nativeId })
      continue
    }
    const half = halfOf.get(item)
    if (half) remove.push(half.nativeId)
    const otherwise = half || arrivedInPart.has(item.seq) ? undefined : take((record) => areAlike(item, record))
    const isOver = item.sends >= batch.mostSends && !half && !arrivedInPart.has(item.seq)
    settled.push({ seq: item.seq, as: isOver ? 'refused' : 'again', ...(otherwise ? { otherwise: otherwise.nativeId } : {}) })
  }
  return { items: settled, remove }
}

/**
 * Whether a record that came while an item was on its way may be that item, written otherwise: at the same second,
 * with half of its facts, or with all but one word of a fact. Too much is an alarm that opens; too little would be a
 * record of ours nobody knows of.
 */
function areAlike(item: SentItem, record: NowRecord): boolean {
  const second = (atMs: number | null | undefined) => (typeof atMs === 'number' ? Math.floor(atMs / 1000) : undefined)
  if (second(item.atMs) !== undefined && second(item.atMs) === second(record.atMs)) return true
  const said = new Set(record.atoms)
  if (2 * item.atoms.filter((atom) => said.has(atom)).length >= Math.max(item.atoms.length, 1)) return true
  return item.atoms.some((atom) => record.atoms.some((other) => differByOneWord(atom.split('\u001f'), other.split('\u001f'))))
}

function differByOneWord(a: readonly string[], b: readonly string[]): boolean {
  return a.length > 2 && a.length === b.length && a[0] === b[0] && a.filter((word, i) => word !== b[i]).length === 1
}
