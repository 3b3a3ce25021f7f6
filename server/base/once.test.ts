import { describe, expect, it } from 'vitest'
import { together } from './once.ts'

const settle = () => new Promise((resolve) => setTimeout(resolve, 1))

describe('one computation for many', () => {
  it('two hundred at once share one; who asks while it runs shares the next, which began after they asked', async () => {
    const began: (() => void)[] = []
    let n = 0
    const ask = together(async (_: null) => {
      const mine = ++n
      await new Promise<void>((resolve) => began.push(resolve))
      return mine
    })
    const first = Array.from({ length: 200 }, () => ask(null))
    await settle()
    const late = Array.from({ length: 200 }, () => ask(null))
    await settle()
    expect(n).toBe(1)
    began[0]!()
    expect(new Set(await Promise.all(first))).toEqual(new Set([1]))
    await settle()
    began[1]!()
    expect(new Set(await Promise.all(late))).toEqual(new Set([2]))
  })

  it('a computation that fails fails for those who shared it, and the next one is made anew', async () => {
    let n = 0
    const ask = together(async (_: null) => {
      if (++n === 1) throw new Error('away')
      return n
    })
    await expect(Promise.all([ask(null), ask(null)])).rejects.toThrow('away')
    expect(await ask(null)).toBe(2)
  })
})
