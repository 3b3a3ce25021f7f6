import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TestShop } from './shop.ts'

interface Held {
  readonly id: string
  readonly damage: string | null
  readonly facts: readonly string[]
  readonly files: readonly string[]
}

const digits = (text: string) => text.replace(/\D/g, '').slice(-7)
const parsed = (fact: string) => JSON.parse(fact) as Record<string, never>
const minute = (ms: number) => Math.floor(ms / 60_000)

/**
 * What a person would know a record again by, whatever family of phones keeps it: nothing a change of platform touches.
 * Of the phones' own facts alone; undefined where a phone's own way of keeping tells too little.
 */
const knownBy: Readonly<Record<string, (facts: readonly string[]) => readonly (string | undefined)[]>> = {
  messages: ([fact]) => {
    const { text, atMs, way } = parsed(fact!) as { text?: string; atMs?: number; way?: string }
    return [text && way !== 'draft' ? `${minute((atMs ?? 0) * 1000)} ${text.slice(0, 40)}` : undefined]
  },
  calls: (facts) =>
    facts.map((fact) => {
      const { number } = parsed(fact) as { number?: string }
      return number ? digits(number) : undefined
    }),
  calendar: ([fact]) => {
    const { title } = parsed(fact!) as { title?: string }
    return [title || undefined]
  },
  apps: ([fact]) => [(parsed(fact!) as { bundle?: string }).bundle],
}

/** The numbers of a contact, by their last digits, whichever family of phones keeps it. */
const numbersOf = (facts: readonly string[]) =>
  new Set(
    facts
      .filter((fact) => /^(\["phones"|phones=|number=)/.test(fact))
      .map((fact) => digits((/\+?\d[\d ()./-]{3,}/.exec(fact) ?? [''])[0]))
      .filter((text) => text.length >= 5),
  )

/** How many contacts of the old phone have no record of their own on the new one that holds all of their numbers. */
export function unmetContacts(old: readonly Pick<Held, 'facts'>[], now: readonly Pick<Held, 'facts'>[]): number {
  const free = now.map(({ facts }) => numbersOf(facts))
  // those with most numbers first: a record that holds fewer is no use to them
  const wanted = old.map(({ facts }) => numbersOf(facts)).filter(({ size }) => size > 0)
  let unmet = 0
  for (const numbers of wanted.sort((a, b) => b.size - a.size)) {
    const fits = free.filter((record) => [...numbers].every((text) => record.has(text))).sort((a, b) => a.size - b.size)[0]
    if (fits) free.splice(free.indexOf(fits), 1)
    else unmet++
  }
  return unmet
}

/** How many files of the old phone are not on the new one, byte for byte, each as often. */
function unmetFiles(old: readonly Held[], now: readonly Held[]): number {
  const there = count(now.flatMap(({ files }) => files))
  let unmet = 0
  for (const [digest, n] of count(old.flatMap(({ files }) => files))) unmet += Math.max(0, n - (there.get(digest) ?? 0))
  return unmet
}

const count = (keys: readonly string[]) => {
  const out = new Map<string, number>()
  for (const key of keys) out.set(key, (out.get(key) ?? 0) + 1)
  return out
}

interface Serials {
  readonly old?: string
  readonly new: string
}

interface Store {
  readonly count: number
  readonly records: readonly Held[]
}

interface Stores {
  readonly now: Store
  readonly old: Store | undefined
}

/** What the phones themselves hold of a kind. */
export async function storesOf(shop: TestShop, kind: string, serials: Serials): Promise<Stores> {
  const store = (serial: string): Promise<Store> => shop.hand(`phones/${serial}/store?kind=${kind}`)
  return { now: await store(serials.new), old: serials.old ? await store(serials.old) : undefined }
}

/**
 * What stands against a row that agrees, by the phones' own stores: contents of the old phone that the new one lacks
 * beyond those the row says did not come over or changed, records that say nothing, and files no record names.
 */
export async function againstStores(shop: TestShop, row: LedgerRow, serials: Serials, stores?: Stores): Promise<string[]> {
  const { now: there, old: before } = stores ?? (await storesOf(shop, row.kind, serials))
  const now = there.records
  const against = now.filter(({ facts }) => facts.length === 0).map(({ id }) => `record ${id} says nothing`)
  const { count: loose } = await shop.hand(`phones/${serials.new}/loose`)
  if (loose > 0) against.push(`${loose} files belong to no record`)
  if (!before) return against
  const old = before.records.filter(({ damage }) => !damage)
  const keysOf = knownBy[row.kind]
  const keys = (records: readonly Held[]) => count(records.flatMap(({ facts }) => keysOf!(facts)).filter((key) => key !== undefined))
  let missing = 0
  if (keysOf) {
    const held = keys(now)
    for (const [key, n] of keys(old)) missing += Math.max(0, n - (held.get(key) ?? 0))
  } else if (row.kind === 'contacts') missing = unmetContacts(old, now)
  else if (row.kind !== 'photos') missing = unmetFiles(old, now)
  const { carried: _, alreadyThere: __, ...others } = row.fates
  const excused = Object.values(others).reduce((sum, n) => sum + n, 0)
  if (missing > excused) against.push(`${missing} of the old phone are not there, ${excused} at most may be`)
  return against
}
