import { describe, expect, it } from 'vitest'
import { playRoad, roadsOf } from '../../drill/roads.ts'
import { useShop } from '../setup/ticket.ts'

const shop = useShop({ leaseMs: 500 })

describe('every road ends in counts that agree, equal to what stands at both ends', () => {
  // each road carries some of what it can; all of them with most of it are the drill's
  it.each(roadsOf(2026, { share: 0.35 }))('$old to $now: $kinds', async (road) => expect(await playRoad(shop(), road)).toEqual([]), 90_000)
})
