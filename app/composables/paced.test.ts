import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { paced } from './paced.ts'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

/** When it was looked, in ms from the start; each look takes as long as it is told. */
function looking(takesMs = 0) {
  const began = Date.now()
  const at: number[] = []
  const again = paced(async () => {
    at.push(Date.now() - began)
    if (takesMs > 0) await new Promise((done) => setTimeout(done, takesMs))
  })
  return { at, again }
}

describe('looking again', () => {
  it('is done at once, and once more for all that was asked for meanwhile', async () => {
    const { at, again } = looking()
    for (let i = 0; i < 5; i++) void again()
    await vi.advanceTimersByTimeAsync(1000)
    expect(at).toEqual([0, 150])
    void again()
    expect(at).toEqual([0, 150, 1000])
  })

  it('comes less often while there is always something new, and soon again after a quiet while', async () => {
    const { at, again } = looking()
    for (let ms = 0; ms < 3000; ms += 50) {
      void again()
      await vi.advanceTimersByTimeAsync(50)
    }
    expect(at.length).toBeLessThanOrEqual(7)
    expect(Math.max(...at.slice(1).map((ms, i) => ms - at[i]!))).toBeLessThanOrEqual(700)
    await vi.advanceTimersByTimeAsync(2000)
    const before = at.length
    void again()
    void again()
    await vi.advanceTimersByTimeAsync(200)
    expect(at.length).toBe(before + 2)
  })

  it('does not wait for what must not wait, also where that came while it looked', async () => {
    const { at, again } = looking(100)
    void again()
    await vi.advanceTimersByTimeAsync(120)
    void again({ atOnce: true })
    await vi.advanceTimersByTimeAsync(0)
    expect(at).toEqual([0, 120])
    await vi.advanceTimersByTimeAsync(50)
    void again({ atOnce: true })
    await vi.advanceTimersByTimeAsync(51)
    expect(at).toEqual([0, 120, 221])
  })

  it('goes on after a look that failed', async () => {
    let n = 0
    const again = paced(() => (n++ === 0 ? Promise.reject(new Error('away')) : Promise.resolve()))
    void again()
    void again()
    await vi.advanceTimersByTimeAsync(1000)
    expect(n).toBe(2)
  })
})
