import type { Services } from './services.ts'

/** What is remembered of a shop while its process lives: two shops of one process know nothing of each other. */
export function perShop<T>(begin: () => T): (shop: Pick<Services, 'pool'>) => T {
  const known = new WeakMap<Services['pool'], T>()
  return ({ pool }) => {
    const there = known.get(pool)
    if (there !== undefined) return there
    const begun = begin()
    known.set(pool, begun)
    return begun
  }
}
