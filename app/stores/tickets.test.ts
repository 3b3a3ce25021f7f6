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
    moment: 1000,
    holds: { below: 9, without: [] },
    customer: 'Ines H.',
    ...change,
  }) as unknown as TicketView
const told = (change: object = {}) =>
  ({
    moment: 1000,
    ports: [{ port: 1 }],
    isBenchSeen: true,
    endingCopies: [],
    unseenStations: [],
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

  it('what an event tells of a ticket as it was before is not kept, and whatever else it says is asked for', async () => {
    const store = useTickets()
    const asked = store.loadTicket('T-1')
    // the run ended while this was on its way to the page
    store.applyBench(told())
    waiting[0]!.answer(ticket({ stage: 'choose', moment: 2000 }))
    await asked
    expect(store.byNumber['T-1']!.stage).toBe('choose')
    expect(waiting.map(({ path }) => path)).toEqual(['/api/tickets/T-1', '/api/tickets/T-1'])
    const listed = store.loadToday()
    waiting[2]!.answer({ moment: 2000, tickets: [ticket({ stage: 'choose' })], ports: [] })
    await listed
    store.applyBench(told())
    expect([store.today!.tickets[0]!.stage, store.today!.ports]).toEqual(['choose', []])
    expect(waiting.slice(3).map(({ path }) => path)).toEqual(['/api/today', '/api/tickets/T-1'])
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
    waiting[0]!.answer({
      tickets: [ticket(), ticket({ number: 'T-2' })],
      ports: [],
      isBenchSeen: false,
      endingCopies: [],
      moment: 1000,
      unseenStations: ['bench'],
    })
    await asked
    store.applyBench(told())
    expect(store.today).toMatchObject({
      isBenchSeen: true,
      endingCopies: [],
      unseenStations: [],
      ports: [{ port: 1 }],
      tickets: [
        { number: 'T-1', stage: 'count-in' },
        { number: 'T-2', stage: 'make-ready' },
      ],
    })
    expect(Object.keys(store.byNumber)).toEqual([])
  })

  describe('and of an act’s own answer', () => {
    const answered = (change: object) => ({ ok: true, ticket: ticket(change) })

    it('the answer is the ticket, and what was asked for before it comes too late', async () => {
      const store = useTickets()
      const asked = store.loadTicket('T-1')
      expect(await store.acting('T-1', async () => answered({ stage: 'choose' }))).toBe(true)
      waiting[0]!.answer(ticket({ stage: 'make-ready' }))
      await asked
      expect(store.byNumber['T-1']!.stage).toBe('choose')
    })

    it('a change that is in it needs no look; one that may not be in it does', async () => {
      const store = useTickets()
      const act = (meanwhile: number) =>
        store.acting('T-1', async () => {
          // told while the answer is on its way: it waits for that
          expect(store.knows('T-1', meanwhile)).toBe(true)
          // another ticket's change, begun before it, takes longer than this look
          return answered({ holds: { below: 9, without: [5] } })
        })
      expect(await act(8)).toBe(true)
      expect(await act(9)).toBe(false)
      expect(await act(5)).toBe(false)
      expect([8, 9, 5, 4, undefined].map((change) => store.knows('T-1', change))).toEqual([true, false, false, true, false])
    })

    it('what the bench told while it was on its way is looked for once more', async () => {
      const store = useTickets()
      const isWhole = await store.acting('T-1', async () => {
        store.applyBench(told())
        return answered({})
      })
      expect(isWhole).toBe(false)
    })

    it('one that fails keeps nothing, and holds nothing back afterwards', async () => {
      const store = useTickets()
      store.byNumber['T-1'] = ticket({ holds: { below: 5, without: [] } })
      await expect(store.acting('T-1', () => Promise.reject(new Error('no')))).rejects.toThrow('no')
      expect(store.knows('T-1', 6)).toBe(false)
    })
  })
})
