import { describe, expect, it } from 'vitest'
import { coveringRoads, playRoad } from '../../drill/roads.ts'
import { useShop } from '../setup/ticket.ts'

const shop = useShop({ leaseMs: 500 })
const roads = coveringRoads(2026)

describe('every road ends in counts that agree, equal to what stands at both ends', () => {
  it('each kind comes to every end, and leaves every beginning that has it', () => {
    const pairs = (of: (road: (typeof roads)[number]) => string) =>
      new Set(roads.flatMap((road) => road.kinds.map((kind) => `${of(road)} ${kind}`)))
    const kinds = 13
    expect(pairs(({ now }) => now).size).toBe(4 * kinds - 1)
    // a keypad has six of them, and of two nobody brings a file
    expect(pairs(({ old }) => (old.startsWith('locker') ? 'locker' : old)).size).toBe(3 * kinds + 6 + 11)
  })

  // with few kinds each; all of them with most are the drill's
  it.each(roads)('$old to $now: $kinds', async (road) => expect(await playRoad(shop(), road)).toEqual([]))
})
