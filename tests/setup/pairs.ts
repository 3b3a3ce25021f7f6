import type { TestShop } from './shop.ts'

/** Ports of two phones that no other test of the file uses now. */
export interface Ports {
  readonly old: number
  readonly now: number
  /** Tells this pair's serials from all others. */
  readonly mark: number
}

/** Gives tests that run side by side a pair of ports each, and unplugs and forgets their phones afterwards. */
export function createPairs(shop: () => TestShop) {
  const free = [1, 3, 5, 7]
  let mark = 0
  return async function withPair<T extends { old: { serial: string }; now: { serial: string } }>(
    make: (ports: Ports) => T | Promise<T>,
    work: (pair: T) => Promise<void>,
  ): Promise<void> {
    while (free.length === 0) await new Promise((r) => setTimeout(r, 50))
    const port = free.pop()!
    let pair: T | undefined
    try {
      pair = await make({ old: port, now: port + 1, mark: ++mark })
      await work(pair)
    } finally {
      for (const phone of [pair?.old, pair?.now]) if (phone) await shop().hand(`phones/${phone.serial}`, undefined, 'DELETE')
      free.push(port)
    }
  }
}

/** What a hand does when the screen says that a phone waits for it, every 120 ms, until it is told to stop. */
export function keepHelping(shop: TestShop, { serial, port }: { serial: string; port: number }): () => void {
  const help = async () => {
    const phone = await shop.hand(`phones/${serial}`)
    if (phone.port === null) await shop.hand(`phones/${serial}/plug`, { port })
    if (phone.isLocked) await shop.hand(`phones/${serial}/unlock`, {})
  }
  const timer = setInterval(() => void help().catch(() => undefined), 120)
  return () => clearInterval(timer)
}

/** Has a phone do something wrong at a point, after so many times right. */
export function breakAt(shop: TestShop, serial: string, point: string, effect: string, skip = 0, times = 1): Promise<unknown> {
  return shop.hand(`phones/${serial}/faults`, { faults: [{ point, effect, skip, times }] })
}
