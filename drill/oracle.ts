/**
 * What a person who holds both phones would say, from the phones' own stores alone: it shares no code with the
 * product. Contents are counted, not matched: as many of each as there must be.
 */
export interface Seen {
  readonly id: string
  /** All that the record says, as one text. */
  readonly says: string
}

interface OldItem {
  says: string
  /** What it said when the old phone was last read: an edit that is gone before any reading, nobody can know of. */
  read: string
  isChosen: boolean
  /** It came since the old phone was last read. */
  isNew: boolean
  /** It is no longer on the old phone. */
  isGone: boolean
  /** It was on the new phone when it went from the old one: it came over all the same. */
  stoodWhenGone: boolean
}

export interface Judgement {
  readonly agrees: boolean
  /** Contents that stand too seldom or too often, by how many; no words of theirs. */
  readonly because: readonly string[]
}

/** @param holdsMore records of this kind that only gained something still say what they said: a contact with a note more */
export function createOracle(old: readonly Seen[], { holdsMore = false } = {}) {
  const items = new Map<string, OldItem>(
    old.map(({ id, says }) => [id, { says, read: says, isChosen: true, isNew: false, isGone: false, stoodWhenGone: false }]),
  )
  let first = new Map<string, string>()
  /** Records a hand changed on the new phone: what each said before. */
  const editedNew = new Map<string, { from: string; isOurs: boolean }>()
  const addedNew = new Set<string>()
  /** What a whole count of the new phone has seen. */
  const seenWhole = new Map<string, string>()

  function judge(now: readonly Seen[]): Judgement {
    const wanted: string[] = []
    for (const item of items.values()) if (item.isChosen && (!item.isGone || item.stoodWhenGone)) wanted.push(item.says)
    let there = [...now]
    const held = new Map(first)
    const because: string[] = []
    /** What ours said that somebody changed there. */
    const changedThere = new Set<string>()
    for (const [id, { from, isOurs }] of editedNew) {
      // what was changed there and taken away since excuses nothing
      if (isOurs && !now.some((record) => record.id === id)) continue
      const at = wanted.indexOf(from)
      // its owner changed what came over, after it was seen as it came: that is it, and it is where it belongs
      if (isOurs && at < 0) continue
      if (isOurs) {
        wanted.splice(at, 1)
        changedThere.add(from)
      }
      if (!isOurs && holdsMore && at >= 0) {
        there = there.map((record) => (record.id === id ? { id, says: from } : record))
        continue
      }
      held.delete(id)
      there = there.filter((record) => record.id !== id)
    }
    const [need, has] = [count(wanted), count(there.map(({ says }) => says))]
    for (const [says, n] of count([...held.values()])) need.set(says, Math.max(n, need.get(says) ?? 0))
    const holds = (says: string) => {
      const facts = says.split(' | ')
      return there.some((record) => facts.every((fact) => record.says.split(' | ').includes(fact)))
    }
    for (const [says, n] of need) {
      // what stands whole in another of its kind is not missing
      if (holdsMore && (has.get(says) ?? 0) < n && holds(says)) continue
      if ((has.get(says) ?? 0) !== n) because.push(`${has.get(says) ?? 0} for ${n} of ${mark(says)}`)
    }
    for (const { id, says } of there) {
      if (need.has(says)) continue
      // what was changed there stands for what it said: who says that still is one more, whoever put it there
      if (changedThere.has(says)) because.push(`one more of ${mark(says)}`)
      else if (!addedNew.has(id)) because.push(`nobody’s: ${mark(says)}`)
    }
    return { agrees: because.length === 0, because }
  }

  /** Gone from the old phone, and changed or taken away by hand on the new one: nothing is left that could be carried. */
  function letGoOf(said: string, now: readonly Seen[]): void {
    const isLeft = now.some((record) => record.says === said)
    const gone = isLeft ? undefined : [...items.values()].find((item) => item.isGone && item.stoodWhenGone && item.says === said)
    if (gone) gone.stoodWhenGone = false
  }

  return {
    judge,
    /** The old phone as it stands after a hand did something to it; `now` is the new one at that moment. */
    lookAtOld(records: readonly Seen[], now: readonly Seen[]) {
      const there = new Map(records.map(({ id, says }) => [id, says]))
      for (const [id, says] of there) {
        const item = items.get(id)
        if (item) item.says = says
        else items.set(id, { says, read: says, isChosen: true, isNew: true, isGone: false, stoodWhenGone: false })
      }
      for (const [id, item] of items) {
        if (item.isGone || there.has(id)) continue
        item.says = item.read
        // copied and deleted with no reading between: to who reads then, it is the same record under another number
        const same = [...items.values()].find((i) => i.isNew && !i.isGone && i.says === item.says)
        if (same && !item.isNew) {
          Object.assign(same, { isChosen: item.isChosen, isNew: false })
          item.isGone = true
          continue
        }
        const wanted = [...items.values()].filter((i) => i.says === item.says && i.isChosen && !i.isGone).length
        const stands = now.filter(({ says }) => says === item.says).length
        const changedThere = [...editedNew.values()].filter(({ from, isOurs }) => isOurs && from === item.says).length
        item.stoodWhenGone = stands + changedThere >= wanted
        item.isGone = true
      }
    },
    setChosen(position: number, isChosen: boolean) {
      const item = [...items.values()][position]
      if (item) item.isChosen = isChosen
    },
    /** The new phone before anything is written to it. */
    freeze(records: readonly Seen[]) {
      first = new Map(records.map(({ id, says }) => [id, says]))
      // what went from the old phone before anything was carried came over in no way: what stands there is theirs
      for (const item of items.values()) if (item.isGone) item.stoodWhenGone = false
    },
    /** A check is over: both phones were read whole. */
    sawWhole(records: readonly Seen[]) {
      for (const item of items.values()) Object.assign(item, { read: item.says, isNew: false })
      seenWhole.clear()
      for (const { id, says } of records) seenWhole.set(id, says)
    },
    handEditedNew(id: string, from: string, now: readonly Seen[]) {
      const known = editedNew.get(id)
      if (known) return
      if (first.has(id)) {
        editedNew.set(id, { from, isOurs: false })
        letGoOf(from, now)
      } else if (addedNew.has(id)) return
      else if (seenWhole.get(id) === from) editedNew.set(id, { from, isOurs: true })
    },
    handDeletedNew(id: string, says: string, now: readonly Seen[]) {
      // gone from both phones by hand: nothing is left that could be carried; a copy that a hand made stands for it still
      if (!first.has(id) && !addedNew.has(id)) letGoOf(editedNew.get(id)?.from ?? says, now)
      editedNew.delete(id)
      addedNew.delete(id)
    },
    handAddedNew(id: string) {
      addedNew.add(id)
    },
  }
}
export type Oracle = ReturnType<typeof createOracle>

function count(texts: readonly string[]): Map<string, number> {
  const out = new Map<string, number>()
  for (const text of texts) out.set(text, (out.get(text) ?? 0) + 1)
  return out
}

/** Short, to tell contents apart in what is printed. */
function mark(says: string): string {
  let hash = 0
  for (const c of says) hash = (Math.imul(hash, 31) + c.codePointAt(0)!) | 0
  return `#${(hash >>> 0).toString(36)}`
}
