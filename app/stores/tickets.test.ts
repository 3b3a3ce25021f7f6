import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { BenchEvent } from '#contracts/http/bench.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { useTickets } from './tickets.ts'

/** Answers in the order the test gives them, whatever was asked first. */
const waiting: { path: string; answer: (body: unknown) => void; fail: () => void }[] = []
beforeEach(() => {
  setActivePinia(createPinia())
  waiting.length = 0
  vi.stubGlobal(
    'fetch',
    (path: string) =>
      new Promise((resolve, reject) =>
        waiting.push({
          path,
          answer: (body) => resolve({ ok: true, json: async () => body }),
          fail: () => reject(new TypeError('Failed to fetch')),
        }),
      ),
  )
})
afterEach(() => vi.unstubAllGlobals())

const ticket = (change: object = {}) =>
  ({
    number: 'T-1',
    stage: 'make-ready',
    old: { port: 1 },
    new: { port: 2 },
    ready: { old: {}, new: {} },
    customer: 'Ines H.',
    ...change,
  }) as unknown as TicketView
const told = (change: object = {}) =>
  ({
    ports: [{ port: 1 }],
    isBenchSeen: true,
    tickets: [
      { number: 'T-1', stage: 'count-in', old: { port: 7 }, new: { port: 2 }, ready: { old: { isReady: true }, new: {} }, ...change },
    ],
  }) as unknown as BenchEvent

describe('what the pages keep of tickets', () => {
  it('a late answer never overwrites a newer one', async () => {
    const store = useTickets()
    const [first, second] = [store.loadTicket('T-1'), store.loadTicket('T-1')]
    waiting[1]!.answer(ticket({ stage: 'choose' }))
    await second
    waiting[0]!.answer(ticket({ stage: 'make-ready' }))
    await first
    expect(store.byNumber['T-1']!.stage).toBe('choose')
  })

  it('when the newest question fails, the answer before it is kept', async () => {
    const store = useTickets()
    const [first, second] = [store.loadTicket('T-1'), store.loadTicket('T-1')]
    waiting[1]!.fail()
    await expect(second).rejects.toThrow()
    waiting[0]!.answer(ticket({ stage: 'choose' }))
    await first
    expect(store.byNumber['T-1']!.stage).toBe('choose')
  })

  it('what the event stream told is on the page at once, without a request', () => {
    const store = useTickets()
    store.byNumber['T-1'] = ticket()
    store.applyBench(told())
    expect(store.byNumber['T-1']).toMatchObject({
      stage: 'count-in',
      old: { port: 7 },
      customer: 'Ines H.',
      ready: { old: { isReady: true } },
    })
    expect(waiting).toEqual([])
  })

  it('an answer asked for before an event and come after it does not undo it', async () => {
    const store = useTickets()
    const asked = store.loadTicket('T-1')
    store.applyBench(told())
    waiting[0]!.answer(ticket())
    await asked
    expect(store.byNumber['T-1']).toMatchObject({ stage: 'count-in', old: { port: 7 } })
  })

  it('an answer asked for after an event is newer than it', async () => {
    const store = useTickets()
    store.applyBench(told())
    const asked = store.loadTicket('T-1')
    waiting[0]!.answer(ticket({ stage: 'choose' }))
    await asked
    expect(store.byNumber['T-1']!.stage).toBe('choose')
  })

  it('a list of today follows, too; a ticket nobody looks at is left alone', async () => {
    const store = useTickets()
    const asked = store.loadToday()
    waiting[0]!.answer({ tickets: [ticket(), ticket({ number: 'T-2' })], ports: [], isBenchSeen: false })
    await asked
    store.applyBench(told())
    expect(store.today).toMatchObject({
      isBenchSeen: true,
      ports: [{ port: 1 }],
      tickets: [
        { number: 'T-1', stage: 'count-in' },
        { number: 'T-2', stage: 'make-ready' },
      ],
    })
    expect(Object.keys(store.byNumber)).toEqual([])
  })
})
