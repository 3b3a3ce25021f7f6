import { describe, expect, it } from 'vitest'
import { waitUntilStill } from './ticket-of-run.ts'

/** A phone whose count is what a function of the time says; time passes only while somebody sleeps. */
function still(itemsAt: (ms: number) => number, settleMs: number) {
  let ms = 0
  const looks: number[] = []
  const clock = {
    now: () => ms,
    sleep: async (wait: number) => {
      ms += wait
    },
  }
  const count = async () => {
    looks.push(ms)
    return { items: itemsAt(ms), bytes: 0, derived: 0, derivedOf: {}, revision: String(itemsAt(ms)), also: {} }
  }
  const waited = waitUntilStill(
    { progress: async () => undefined, services: { clock } },
    { source: { count }, place: { settleMs } },
    'contacts',
  )
  return { waited, looks, ended: () => ms }
}

describe('a phone that settles', () => {
  it('is waited for until its count stood still for its settling time, and no longer', async () => {
    const { waited, ended } = still((ms) => Math.min(10, Math.floor(ms / 300)), 2000)
    await waited
    // the last item shows after three seconds
    expect(ended()).toBeGreaterThanOrEqual(5000)
    expect(ended()).toBeLessThanOrEqual(5500)
  })

  it('that never comes to rest makes the run wait, after ten such times', async () => {
    const { waited, ended } = still((ms) => Math.floor(ms / 900), 2000)
    await expect(waited).rejects.toMatchObject({ code: 'StillSettling', side: 'new' })
    expect(ended()).toBeGreaterThan(25_000)
    expect(ended()).toBeLessThan(25_500)
  })

  it('that is at rest is looked at for that time alone, however short it says it is', async () => {
    const { waited, looks, ended } = still(() => 4, 0)
    await waited
    expect(ended()).toBeGreaterThanOrEqual(50)
    expect(ended()).toBeLessThan(80)
    expect(looks.length).toBeGreaterThan(3)
  })
})
