import { describe, expect, it } from 'vitest'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketSummary } from '#contracts/http/ticket.ts'
import { noFates, phone, row, run, summary } from '../../tests/setup/view.ts'
import { ago, bytes, items, number, promise, range, untilPromise } from './say.ts'
import { countNotOver } from '#core/book/index.ts'
import { columns } from '../features/ticket/ledger-columns.ts'
import { differenceOf, leftLine, runLine, standingOf, verdictTone, verdictWord } from './standing.ts'

describe('a ticket’s one line', () => {
  it.each<[string, Partial<TicketSummary>, string, string]>([
    [
      'locked',
      { stage: 'make-ready', old: phone('old', { isReady: false, unmet: ['unlocked'], next: 'Unlocked, with its screen on' }) },
      'Not yet: the phones are not ready.',
      'OLD Orrin 5, port 3: Unlocked, with its screen on',
    ],
    ['not counted', { stage: 'count-in' }, 'Not yet: the phones are not counted.', 'Next: count both phones in'],
    ['to be chosen', {}, 'Not yet: nothing is carried over.', 'Next: choose and carry over'],
    ['carrying', { stage: 'carry-over', run: run() }, 'Not yet: carrying, 12 of 40.', '20 to 40 s left'],
    [
      'paused',
      { stage: 'carry-over', run: run({ state: 'paused', reason: 'PhoneLocked', side: 'new' }) },
      'Not yet: NEW Veyra 12, port 4: The phone is locked. Unlock it and keep its screen on.',
      'It goes on by itself.',
    ],
    [
      'carrying photos, by their bytes',
      {
        stage: 'carry-over',
        run: run({ kind: 'photos', unit: 'bytes', done: 5_000_000, total: 190_600_000, leftLowS: 0, leftHighS: 100 }),
      },
      'Not yet: carrying photos, 5.0 MB of 190.6 MB.',
      'up to 2 min left',
    ],
    [
      'paused by hand',
      { stage: 'carry-over', run: run({ state: 'held' }) },
      'Not yet: Paused. What came over stays; it goes on from here when you resume.',
      'Next: resume',
    ],
    [
      'agreeing but for what is installed by hand',
      {
        stage: 'hand-back',
        ledger: [
          row({ verdict: 'agrees' }),
          row({ kind: 'apps', toInstall: 12, agreesButInstall: true, fates: { ...noFates, pending: 12 } }),
        ],
      },
      'May be handed over: the counts agree. 12 apps are left to the customer’s list.',
      'Next: have the sheet signed',
    ],
    [
      'with apps to install, and something to carry',
      {
        stage: 'check-off',
        ledger: [row({ fates: { ...noFates, pending: 1 } }), row({ kind: 'apps', toInstall: 12, fates: { ...noFates, pending: 12 } })],
      },
      'Not yet: 1 contact still to be carried.',
      'Next: carry them',
    ],
    [
      'short',
      { stage: 'check-off', ledger: [row({ verdict: 'differs', short: 17 })] },
      'Not yet: contacts 17 short.',
      'Next: open the difference',
    ],
    [
      'short and over',
      { stage: 'check-off', ledger: [row({ verdict: 'differs', short: 1, over: 2 })] },
      'Not yet: contacts 1 short, 2 over.',
      'Next: open the difference',
    ],
    [
      'late',
      { stage: 'check-off', ledger: [row({ fates: { ...noFates, pending: 2 } })] },
      'Not yet: 2 contacts still to be carried.',
      'Next: carry them',
    ],
    ['unchecked', { stage: 'check-off' }, 'Not yet: the new phone must be counted afresh.', 'Next: check off'],
    [
      'agreeing',
      { stage: 'hand-back', ledger: [row({ verdict: 'agrees' })] },
      'May be handed over: the counts agree.',
      'Next: have the sheet signed',
    ],
    [
      'accepted',
      { stage: 'hand-back', ledger: [row({ verdict: 'accepted', short: 1 })] },
      'May be handed over: the customer accepts contacts 1 short.',
      'Next: have the sheet signed',
    ],
    [
      'accepted, and over',
      { stage: 'hand-back', ledger: [row({ verdict: 'accepted', over: 2 })] },
      'May be handed over: the customer accepts contacts 2 over.',
      'Next: have the sheet signed',
    ],
    [
      'in the middle of carrying',
      { stage: 'carry-over', ledger: [row({ fates: { ...noFates, carried: 1161, pending: 1198 } })] },
      'Not yet: 1,161 of 2,359 carried.',
      'Next: carry the other 1,198',
    ],
    ['erased', { stage: 'hand-back', erasedAt: 'x' }, 'Handed back. The data is erased; these counts remain.', ''],
  ])('%s', (_, change, line, next) => {
    expect(standingOf(summary(change))).toMatchObject({ line, next })
  })

  it('accepted never reads as agreeing', () => {
    const accepted = row({ verdict: 'accepted', short: 3 })
    expect(verdictWord(accepted)).toBe('Accepted: 3 short')
    expect(verdictTone(accepted)).not.toBe('good')
    expect(standingOf(summary({ stage: 'hand-back', ledger: [accepted] })).line).not.toContain('agree.')
  })

  it('apps that wait to be installed are named so, and never as agreeing', () => {
    const apps = row({ kind: 'apps', new: { ...row().new, last: 5 }, toInstall: 3, fates: { ...noFates, pending: 3 } })
    expect([verdictWord(apps), verdictTone(apps)]).toEqual(['3 to install', 'plain'])
    expect(verdictWord(row({ ...apps, fates: { ...noFates, pending: 4 } }))).toBe('4 waiting')
  })

  it('short and over are never netted', () => {
    expect(differenceOf(row({ short: 2, over: 2 }))).toBe('2 short, 2 over')
    expect(differenceOf(row())).toBe('the phone’s own count is not met')
  })

  it.each([
    ['settling', 'waiting until the new phone’s count stands still'],
    ['pairing', 'comparing item by item'],
  ])('a step without figures says what it does: %s', (step, line) => {
    expect(runLine(run({ step, total: 1 }), summary())).toBe(line)
  })

  it('says no time before it knows one', () => {
    expect(leftLine(run({ leftLowS: null, leftHighS: null }))).toBe('')
  })
})

describe('the ledger’s columns', () => {
  it('add up by eye: the count is the sum of all columns up to Did not come, whatever the fates', () => {
    const fates = Object.fromEntries(Object.keys(noFates).map((fate, i) => [fate, 2 ** i])) as LedgerRow['fates']
    const total = Object.values(fates).reduce((a, b) => a + b)
    const full = row({ fates, old: { ...row().old, read: total - 5, late: 5 } })
    const parts = columns.filter((c) =>
      ['notChosen', 'cannotCross', 'pending', 'carried', 'changed', 'merged', 'alreadyThere', 'editedThere', 'notOver'].includes(c.key),
    )
    expect(parts).toHaveLength(9)
    expect(parts.reduce((sum, c) => sum + c.of(full)!, 0)).toBe(columns[0]!.of(full))
    expect(countNotOver(full)).toBe(fates.refused + fates.unreadable + fates.gone + fates.lost + fates.pushedOut + fates.undone)
  })

  it('show nothing as known before it is counted', () => {
    const blank = row({ old: { ...row().old, read: 0, own: null }, new: { ...row().new, first: null } })
    expect(columns.filter((c) => ['count', 'first', 'expected', 'last'].includes(c.key)).map((c) => c.of(blank))).toEqual([
      null,
      null,
      null,
      null,
    ])
  })
})

describe('saying figures', () => {
  const zone = 'Europe/London'
  const noon = Date.parse('2026-11-24T12:00:00Z')
  it.each([
    [number(1204), '1,204'],
    [number(-3), '−3'],
    [items('contacts', 1), '1 contact'],
    [items('contacts', 2318), '2,318 contacts'],
    [bytes(999), '999 B'],
    [bytes(21_400_000_000), '21.4 GB'],
    [bytes(517_152), '517 kB'],
    [range(1, 3), 'a few seconds'],
    [range(70, 130), '1 to 3 min'],
    [range(60, 60), '1 min'],
    [range(0, 100), 'up to 2 min'],
    [range(5, 60), 'about a minute'],
    [promise('2026-11-24T16:30:00Z', zone, noon), '16:30'],
    [promise('2026-11-25T10:00:00Z', zone, noon), 'Wed 10:00'],
    [untilPromise('2026-11-24T13:12:00Z', noon), '1 h 12 min left'],
    [untilPromise('2026-11-24T11:55:00Z', noon), '5 min late'],
    [ago(noon - 30_000, noon), 'just now'],
    [ago(noon - 6 * 60_000, noon), 'waiting 6 min'],
  ])('%s', (said, expected) => {
    expect(said).toBe(expected)
  })
})
