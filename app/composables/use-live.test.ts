import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useLive } from './use-live.ts'

beforeEach(() => {
  vi.useFakeTimers()
  // what an earlier test said is long ago
  vi.setSystemTime(Date.now() + 60_000)
})
afterEach(() => vi.useRealTimers())

describe('what is said aloud', () => {
  it('is said at once, and however fast it moves, once in 10 s: what stands then', () => {
    const { said, say } = useLive()
    say('1 of 3')
    vi.advanceTimersByTime(1)
    expect(said.value).toBe('1 of 3')
    say('2 of 3')
    say('3 of 3')
    vi.advanceTimersByTime(9_000)
    expect(said.value).toBe('1 of 3')
    vi.advanceTimersByTime(1_000)
    expect(said.value).toBe('3 of 3')
  })

  it.each(['before', 'after'])('a touch does not wait, and what stands is said, too, whether it came %s', (order) => {
    const { said, say } = useLive()
    if (order === 'before') say('Not yet')
    say('Touch now', { now: true })
    if (order === 'after') say('Not yet')
    expect(said.value).toBe('Touch now')
    vi.advanceTimersByTime(9_000)
    expect(said.value).toBe('Touch now')
    vi.advanceTimersByTime(1_100)
    expect(said.value).toBe('Not yet')
  })
})
