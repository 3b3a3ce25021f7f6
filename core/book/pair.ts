import type { Departure, Fate, Origin } from './terms.ts'

/** A record as a phone lists it. */
export interface PairRecord {
  readonly seq: number
  readonly nativeId: string
  readonly digest: string
  /** What it says; needed only where a whole record is not found again. */
  readonly atoms: readonly string[]
  /** When it happened, for kinds of which a phone keeps only the newest; milliseconds since 1970. */
  readonly atMs?: number | null
  /** It stands there and can't be read: what became of it is no owner's doing. */
  readonly isUnreadable?: boolean
}

/** An item the new phone took, or that it was found to hold already. */
export interface PairItem {
  readonly seq: number
  readonly fate: 'carried' | 'changed' | 'merged' | 'alreadyThere'
  /** In the form it was to have on the new phone; of one that was there already, the form found there. */
  readonly digest: string
  readonly atoms: readonly string[]
  /** What the new phone called the record it wrote; empty when its answer never came. */
  readonly nativeIds: readonly string[]
  /** Contents of the further records the new phone makes of it: it is found with all of them, or not at all. */
  readonly parts?: readonly string[]
  /** A whole listing held its record as it was written: what reads otherwise since, its owner changed. */
  readonly wasFound?: boolean
  /** It was there already once, and the record it was there as is no more: this one stands in for that content. */
  readonly standsInFor?: string | undefined
  readonly atMs?: number | null
}

/** A record this ticket wrote that is no item's any more: of a former form, or carried again since. */
export interface FormerRecord {
  readonly id: number
  /** Null where no answer ever named it. */
  readonly nativeId: string | null
  readonly digest: string
  /** A second record of one item: it stands in for the item's own where that is no more. */
  readonly isDouble?: boolean
  /** Its own record was seen gone; another that says the same still came by this ticket, whoever wrote it twice. */
  readonly isGone?: boolean
}

export interface PairInput {
  readonly first: readonly PairRecord[]
  readonly last: readonly PairRecord[]
  readonly items: readonly PairItem[]
  readonly formers?: readonly FormerRecord[]
  /** The kind's records may be joined by a phone. */
  readonly joins: boolean
  /** Records of the last count that are whole and paired already: content may stand in them, nothing else changes. */
  readonly settled?: readonly PairRecord[]
  /** Records of the first count that an undo put back. */
  readonly putBack?: ReadonlySet<number>
  /** Of a phone that is full and keeps only its newest: when the oldest it still keeps happened, milliseconds since 1970. */
  readonly pushesOut?: { readonly oldestMs: number } | undefined
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
  /** Which former record a left-behind one is: former's id by record's seq. */
  readonly formerIn: ReadonlyMap<number, number>
}

/**
 * Pairs one to one what should be on the new phone with what it lists: by native id with equal content first, then by
 * equal content, a record used up once paired. Then, for kinds whose records are joined, looks whether content
 * stands whole in another record. What this ticket wrote and no item claims is left behind, whatever it says now.
 * What is left is lost, missing, double or came otherwise; never guessed away.
 */
export function pair(input: PairInput): Pairing {
  const book = createBook(input)
  pairById(input, book)
  pairByContent(input, book)
  pairChanged(input, book)
  settleFormersById(input, book)
  settleWholeInOthers(input, book)
  settlePushedOut(input, book)
  settleRest(input, book)
  settleAlreadyThere(input, book)
  return book
}

type Book = ReturnType<typeof createBook>

function createBook(input: PairInput) {
  const free = new Map(input.last.map((record) => [record.seq, record]))
  const origins = new Map<number, Origin>()
  const departures = new Map<number, Departure>()
  const fates = new Map<number, Fate>()
  const foundIn = new Map<number, number>()
  const partOf = new Map<number, number>()
  const formerIn = new Map<number, number>()
  const byId = new Map(input.last.map((record) => [record.nativeId, record]))
  const firstLeft = new Map(input.first.map((record) => [record.seq, record]))
  const taken = input.items.filter((item) => item.fate === 'carried' || item.fate === 'changed')
  const takenLeft = new Map(taken.map((item) => [item.seq, item]))
  const formersLeft = new Map((input.formers ?? []).filter(({ isGone }) => !isGone).map((former) => [former.id, former]))

  const claim = (now: PairRecord, as: Origin) => {
    free.delete(now.seq)
    origins.set(now.seq, as)
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
  return {
    free,
    origins,
    departures,
    fates,
    foundIn,
    partOf,
    formerIn,
    byId,
    firstLeft,
    taken,
    takenLeft,
    formersLeft,
    settleFirst(record: PairRecord, now: PairRecord, as: Origin) {
      firstLeft.delete(record.seq)
      claim(now, as)
    },
    settleItem(item: PairItem, now: PairRecord) {
      const further = findParts(item, now)
      // found in part is not found; its records are left for what else may explain them
      if (!further) return
      for (const record of further) {
        claim(record, 'arrived')
        partOf.set(record.seq, item.seq)
      }
      takenLeft.delete(item.seq)
      claim(now, 'arrived')
      fates.set(item.seq, item.fate)
      foundIn.set(item.seq, now.seq)
    },
    settleFormer(former: FormerRecord, now: PairRecord) {
      formersLeft.delete(former.id)
      claim(now, 'leftBehind')
      formerIn.set(now.seq, former.id)
    },
    settleMerged(joined: readonly PairItem[], now: PairRecord) {
      for (const item of joined) {
        takenLeft.delete(item.seq)
        fates.set(item.seq, 'merged')
        foundIn.set(item.seq, now.seq)
      }
    },
    /** An item's own record, free still, by the ids the phone gave. */
    ownRecord(item: PairItem): PairRecord | undefined {
      return item.nativeIds.map((id) => byId.get(id)).find((record) => record !== undefined && free.has(record.seq))
    },
  }
}

function pairById({ first }: PairInput, book: Book): void {
  for (const record of first) {
    const now = book.byId.get(record.nativeId)
    if (now && book.free.has(now.seq) && now.digest === record.digest) book.settleFirst(record, now, 'kept')
  }
  for (const item of book.taken) {
    const now = book.ownRecord(item)
    if (now?.digest === item.digest) book.settleItem(item, now)
  }
  for (const former of [...book.formersLeft.values()].filter(({ isDouble }) => !isDouble)) {
    const now = former.nativeId === null ? undefined : book.byId.get(former.nativeId)
    if (now && book.free.has(now.seq) && now.digest === former.digest) book.settleFormer(former, now)
  }
}

function pairByContent({ first, items, putBack, formers }: PairInput, book: Book): void {
  const freeByDigest = groupBy([...book.free.values()], (record) => record.digest)
  const nextOf = (digest: string) => freeByDigest.get(digest)?.find((record) => book.free.has(record.seq))
  // what was seen gone, and was carried since, does not stand again under another id: that is what was carried
  const standIns = groupBy(
    book.taken.filter((item) => item.standsInFor !== undefined),
    (item) => item.standsInFor!,
  )
  for (const record of [...book.firstLeft.values()]) {
    if (standIns.get(record.digest)?.shift()) continue
    const now = nextOf(record.digest)
    if (now) book.settleFirst(record, now, putBack?.has(record.seq) ? 'putBack' : 'kept')
  }
  // whose own record its owner changed is that, however many more say what it said; a phone that numbered its records
  // anew has something else under that id, which somebody is looking for
  const sought = new Set([...first, ...items, ...(formers ?? [])].map(({ digest }) => digest))
  for (const item of [...book.takenLeft.values()]) {
    const own = item.wasFound ? book.ownRecord(item) : undefined
    const now = own && !sought.has(own.digest) ? undefined : nextOf(item.digest)
    if (now) book.settleItem(item, now)
  }
  // a record of the first count, or an item's own, is that and no former one, whatever it says now
  const others = new Set([...first.map((record) => record.nativeId), ...items.flatMap((item) => item.nativeIds)])
  for (const former of [...book.formersLeft.values()]) {
    // its own record stands, and reads otherwise: that is it, and no other
    if (former.nativeId !== null && book.byId.has(former.nativeId)) continue
    const now = freeByDigest.get(former.digest)?.find((record) => book.free.has(record.seq) && !others.has(record.nativeId))
    if (now) book.settleFormer(former, now)
  }
  for (const former of (formers ?? []).filter(({ isGone }) => isGone))
    for (const now of freeByDigest.get(former.digest) ?? [])
      if (book.free.has(now.seq) && !others.has(now.nativeId)) book.settleFormer(former, now)
}

/** Records that changed under their own id: by a joining that explains every added fact, or by another hand. */
function pairChanged({ joins, items }: PairInput, book: Book): void {
  const unmatched = () => [...book.takenLeft.values(), ...items.filter((i) => i.fate === 'merged' && !book.fates.has(i.seq))]
  const grow = (was: { readonly atoms: readonly string[] }, now: PairRecord) => {
    const known = new Set(was.atoms)
    if (!containsAll(now.atoms, was.atoms)) return undefined
    const added = now.atoms.filter((atom) => !known.has(atom))
    const joined = unmatched().filter((item) => containsAll(now.atoms, item.atoms))
    const said = new Set(joined.flatMap((item) => item.atoms))
    return added.every((atom) => said.has(atom)) ? joined : undefined
  }
  if (joins) {
    for (const item of [...book.takenLeft.values()]) {
      const now = book.ownRecord(item)
      if (!now || !book.takenLeft.has(item.seq)) continue
      book.takenLeft.delete(item.seq)
      const joined = grow(item, now)
      if (!joined || joined.length === 0) {
        book.takenLeft.set(item.seq, item)
        continue
      }
      book.settleItem(item, now)
      book.settleMerged(joined, now)
    }
  }
  for (const record of [...book.firstLeft.values()]) {
    const now = book.byId.get(record.nativeId)
    if (!now || !book.free.has(now.seq)) continue
    const joined = joins ? grow(record, now) : undefined
    book.settleFirst(record, now, joined && joined.length > 0 ? 'addedTo' : 'altered')
    if (joined) book.settleMerged(joined, now)
  }
  // seen once as it was written, and otherwise since: its owner changed it
  for (const item of [...book.takenLeft.values()]) {
    const now = item.wasFound ? book.ownRecord(item) : undefined
    if (!now || now.isUnreadable) continue
    book.takenLeft.delete(item.seq)
    book.free.delete(now.seq)
    book.origins.set(now.seq, 'editedThere')
    book.fates.set(item.seq, 'editedThere')
    book.foundIn.set(item.seq, now.seq)
  }
}

/** What this ticket wrote and stands under its own id is no stray, whatever it says now. */
function settleFormersById(_: PairInput, book: Book): void {
  for (const former of [...book.formersLeft.values()]) {
    const now = former.nativeId === null ? undefined : book.byId.get(former.nativeId)
    if (now && book.free.has(now.seq)) book.settleFormer(former, now)
  }
  // also of an item that another record stands for by now
  for (const item of book.taken) {
    const now = book.ownRecord(item)
    if (!now) continue
    book.free.delete(now.seq)
    book.origins.set(now.seq, 'leftBehind')
  }
}

/** Content that stands whole in a record that is there. */
function settleWholeInOthers({ joins, items, last, settled = [] }: PairInput, book: Book): void {
  const standing = [...settled, ...last.filter((record) => book.origins.has(record.seq))]
  const holds = ({ atoms }: { readonly atoms: readonly string[] }, of: readonly PairRecord[]) =>
    joins && atoms.length > 0 ? of.find((record) => containsAll(record.atoms, atoms)) : undefined
  const unmatched = [...book.takenLeft.values(), ...items.filter((i) => i.fate === 'merged' && !book.fates.has(i.seq))]
  for (const item of unmatched) {
    // its own record, which reads otherwise than it was written, is no other
    const now = holds(
      item,
      standing.filter((record) => !item.nativeIds.includes(record.nativeId)),
    )
    book.fates.set(item.seq, now ? 'merged' : 'lost')
    if (now) book.foundIn.set(item.seq, now.seq)
  }
  // what is there already and was taken away there by its owner may have been carried since
  const standIns = groupBy(
    items.filter((item) => item.standsInFor !== undefined && ['carried', 'changed', 'merged'].includes(book.fates.get(item.seq) ?? '')),
    (item) => item.standsInFor!,
  )
  const standingNotOurs = standing.filter((record) => book.origins.get(record.seq) !== 'leftBehind')
  for (const record of book.firstLeft.values()) {
    const stands = standIns.get(record.digest)?.shift() ?? holds(record, standingNotOurs)
    book.departures.set(record.seq, stands ? 'absorbed' : 'missing')
  }
}

/** A full phone that keeps only its newest let go as many of the oldest as came to it by other hands; the others stay lost. */
function settlePushedOut({ pushesOut, items, first }: PairInput, book: Book): void {
  if (!pushesOut) return
  let left = book.free.size
  const candidates = [
    ...items.filter((i) => book.fates.get(i.seq) === 'lost').map(({ seq, atMs }) => ({ seq, atMs, isItem: true })),
    ...first.filter((r) => book.departures.get(r.seq) === 'missing').map(({ seq, atMs }) => ({ seq, atMs, isItem: false })),
  ]
  for (const { seq, atMs, isItem } of candidates.sort((a, b) => (a.atMs ?? 0) - (b.atMs ?? 0))) {
    if (left === 0) return
    if (typeof atMs !== 'number' || atMs > pushesOut.oldestMs) continue
    left--
    if (isItem) book.fates.set(seq, 'pushedOut')
    else book.departures.set(seq, 'pushedOut')
  }
}

/** What nothing explains. */
function settleRest({ settled = [], last, items }: PairInput, book: Book): void {
  const ours = new Set([
    ...settled.map((record) => record.digest),
    // what its owner changed stands for what it said: who still says that is one more
    ...items.filter((item) => book.fates.get(item.seq) === 'editedThere').map((item) => item.digest),
    ...last.filter((r) => ['kept', 'addedTo', 'arrived', 'putBack'].includes(book.origins.get(r.seq) ?? '')).map((r) => r.digest),
  ])
  for (const record of book.free.values()) book.origins.set(record.seq, ours.has(record.digest) ? 'double' : 'cameOtherwise')
}

/** An item that was already there must still stand, one record for one item. */
function settleAlreadyThere({ joins, items, last, settled = [] }: PairInput, book: Book): void {
  const stands = (record: PairRecord) => ['kept', 'double', 'putBack'].includes(book.origins.get(record.seq) ?? '')
  const byDigest = groupBy(last.filter(stands), (record) => record.digest)
  const standing = [...settled, ...last.filter((record) => (book.origins.get(record.seq) ?? 'leftBehind') !== 'leftBehind')]
  for (const item of items.filter((i) => i.fate === 'alreadyThere')) {
    const holds = () => (joins && item.atoms.length > 0 ? standing.find((r) => containsAll(r.atoms, item.atoms)) : undefined)
    const now = byDigest.get(item.digest)?.shift() ?? holds()
    book.fates.set(item.seq, now ? 'alreadyThere' : 'pending')
    if (now) book.foundIn.set(item.seq, now.seq)
  }
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
