import { describe, expect, it } from 'vitest'
import { playRoad, roadsOf } from '../../drill/roads.ts'
import { useShop } from '../setup/ticket.ts'

const shop = useShop({ leaseMs: 500 })

describe('every road ends in counts that agree, equal to what stands at both ends', () => {
  it.each(roadsOf(2026))('$old to $now: $kinds', async (road) => expect(await playRoad(shop(), road)).toEqual([]), 90_000)
})
