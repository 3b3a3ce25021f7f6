import { describe, expect, it } from 'vitest'
import type { TicketSummary } from '#contracts/http/ticket.ts'
import { createNews, noticeOf, progressTitle } from './use-notice.ts'

const run = (state: string, part: object = {}) =>
  ({ state, unit: 'items', done: 10, total: 90, leftLowS: null, leftHighS: null, ...part }) as never
describe('what is noticed', () => {
  it.each<[string, object, string | undefined]>([
    ['the end of the last run', { stage: 'hand-back' }, 'over'],
    ['nothing while carrying is followed by its check', { run: run('waiting') }, undefined],
    ['nothing while straight through goes on', { straight: { stop: null }, stage: 'choose' }, undefined],
    ['a run that waits for a hand', { run: run('paused') }, 'waits'],
    ['nothing for what is paused by hand', { run: run('held') }, undefined],
    ['straight through that somebody must decide on', { straight: { stop: { code: 'roles' } }, stage: 'choose' }, 'waits'],
    ['straight through that is over', { straight: { stop: null }, stage: 'hand-back' }, 'over'],
  ])('%s', (_, part, what) => expect(noticeOf({ run: null, straight: null, stage: 'carry-over', ...part } as never)).toBe(what))
})

describe('what is news', () => {
  const ticket = (part: object) => ({ number: 'T-1', run: null, straight: null, stage: 'hand-back', ...part }) as never
  it('every end, also the second of one ticket; a wait once for what it waits for', () => {
    const isNews = createNews()
    const waits = (reason: string) => ticket({ run: run('paused', { reason }) })
    expect([ticket({}), ticket({})].map(isNews)).toEqual([true, true])
    expect([waits('PhoneLocked'), waits('PhoneLocked'), waits('TooHot'), ticket({}), waits('TooHot')].map(isNews)).toEqual([
      true,
      false,
      true,
      true,
      true,
    ])
  })
})

describe('the tab’s title', () => {
  const of = (...runs: unknown[]) => progressTitle(runs.map((r, i) => ({ number: `T-${i}`, run: r }) as TicketSummary))
  it('says nothing while nothing runs', () => expect(of(null, run('paused'))).toBe(''))
  it('says how far it is', () => expect(of(run('running'))).toBe('T-0 10 of 90'))
  it('or the time left', () => expect(of(run('running', { leftLowS: 60, leftHighS: 150 }))).toBe('T-0 1 to 3 min left'))
  it('of several, how many', () => expect(of(run('running'), run('running'))).toBe('2 run'))
})
