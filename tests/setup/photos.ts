import { expect } from 'vitest'
import type { TestShop } from './shop.ts'

/** A photo as a practice phone's own memory has it, with the digests of its files. */
export interface StoredRecord {
  readonly id: string
  readonly storage: string
  readonly damage: string | null
  readonly facts: readonly string[]
  readonly card: string
  readonly files: readonly string[]
}

export interface PhotoFacts {
  readonly taken: number
  readonly place: readonly number[] | null
  readonly favourite: boolean
  readonly hidden: boolean
  readonly albums: readonly string[]
  readonly cloud: boolean
  readonly files: readonly { readonly role: string; readonly size: number }[]
}

export const photosOf = async (shop: TestShop, serial: string): Promise<StoredRecord[]> =>
  (await shop.hand(`phones/${serial}/store?kind=photos`)).records
export const factsOf = (record: StoredRecord): PhotoFacts => JSON.parse(record.facts[0]!) as PhotoFacts
export const sizesOf = (record: StoredRecord): number[] => factsOf(record).files.map((file) => file.size)

/**
 * Every file of the old phone that should be over is on the new one, byte for byte; what was converted is not, and
 * something was made of it; nothing is there half, and nothing twice.
 * @param own files the new phone held before
 */
export async function expectFilesOver(
  shop: TestShop,
  serials: { old: string; new: string },
  { own, converted }: { own: number; converted: number },
): Promise<void> {
  const [had, has] = [await photosOf(shop, serials.old), await photosOf(shop, serials.new)]
  const wanted = had
    .filter((r) => r.storage !== 'deleted' && !r.damage && r.files.length > 0 && !sizesOf(r).includes(0) && !r.card.includes('no picture'))
    .flatMap((r) => r.files)
  const there = new Map<string, number>()
  for (const digest of has.flatMap((r) => r.files)) there.set(digest, (there.get(digest) ?? 0) + 1)
  let missing = 0
  for (const digest of wanted) {
    const n = there.get(digest) ?? 0
    if (n === 0) missing++
    else there.set(digest, n - 1)
  }
  expect(missing).toBe(converted)
  expect([...there.values()].reduce((sum, n) => sum + n, 0)).toBe(own + converted)
}
