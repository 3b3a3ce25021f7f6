// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import type { GroupRow, JoiningRow, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { eachAnew, show, type Shown } from '../../../tests/setup/mount.ts'
import { forecast, noFates, phone, row, run, ticket } from '../../../tests/setup/view.ts'
import { useSession, type Session } from '../../stores/session.ts'
import AccountTable from './AccountTable.vue'
import CallOffDialog from './CallOffDialog.vue'
import CarryQuestions from './CarryQuestions.vue'
import FilesOut from './FilesOut.vue'
import GroupLine from './GroupLine.vue'
import JoiningLine from './JoiningLine.vue'
import LedgerTable from './LedgerTable.vue'
import OwnCountPanel from './OwnCountPanel.vue'
import ForecastTable from './panels/ForecastTable.vue'
import SpaceBox from './panels/SpaceBox.vue'
import StraightBox from './StraightBox.vue'
import TicketHead from './TicketHead.vue'
import TouchNow from './TouchNow.vue'

eachAnew()
const at = '2026-11-27T14:05:00.000Z'
const whole: LedgerRow = row({
  old: { ...row().old, read: 10, late: 1, own: 12, derived: 2 },
  fates: { ...noFates, carried: 6, changed: 2, alreadyThere: 1, lost: 2 },
  new: { ...row().new, first: 3, last: 11, own: 12, kept: 3, arrived: 8, derived: 1, expected: 13 },
  also: [
    { code: 'derived', side: 'old', n: 2, of: 'ownCard', opens: null },
    { code: 'derived', side: 'last', n: 1, of: 'ownCard', opens: null },
  ] as unknown as LedgerRow['also'],
  verdict: 'differs',
  short: 2,
})
/** Figures of the tables shown, a table each: label and number. */
const linesOf = ({ wrapper }: Shown) =>
  wrapper.findAll('table').map((table) => table.findAll('tbody tr').map((line) => line.findAll('th, td').map((cell) => cell.text().trim())))

describe('the account of a kind', () => {
  const account = (canOpen = true, change: Partial<LedgerRow> = {}) => show(AccountTable, { row: { ...whole, ...change }, canOpen })
  it('its tables are sums that close, and a part of none is not told', () => {
    const [old, expected, now] = linesOf(account()) as [string[][], string[][], string[][]]
    const n = (lines: string[][], label: RegExp) => Number(lines.find(([text]) => label.test(text!))![1])
    expect(n(old, /read.*late/i)).toBe(old.slice(0, 4).reduce((sum, [, figure]) => sum + Number(figure), 0))
    expect(old.map(([label]) => label)).not.toContain('Refused')
    expect(n(expected, /Expected/)).toBe(13)
    expect(n(now, /Last count/)).toBe(11)
  })
  it('its fates stand in one order, whatever order they were kept in', () => {
    const shuffled = Object.fromEntries(Object.entries(whole.fates).reverse()) as LedgerRow['fates']
    expect(linesOf(account(true, { fates: shuffled }))).toEqual(linesOf(account()))
  })
  it('each figure opens to what it counts; nothing opens once it is erased', async () => {
    const shown = account()
    await shown.wrapper.findAll('tbody button')[0]!.trigger('click')
    expect(shown.emitted('open')[0]).toEqual(['carried'])
    await shown.wrapper.find('[data-own=old]').trigger('click')
    expect(shown.emitted('own')).toEqual([['old']])
    expect(account(false).wrapper.findAll('tbody button')).toHaveLength(0)
  })
  it('before the new phone is counted its tables are not there', () => {
    const none = { new: { ...row().new, first: null, last: null } }
    expect(linesOf(account(true, none))).toHaveLength(1)
  })
})

describe('the head of a ticket', () => {
  const head = (change: Partial<TicketView>) =>
    show(TicketHead, { ticket: ticket({ promisedAt: at, ...change }), zone: 'Europe/London', now: Date.parse(at), busy: '' })
  it('says of a phone what is known of it, and of one that is in no port no more than its version', () => {
    expect(head({}).text()).toContain('iOS 18, 80%')
    const gone = { port: null, station: null, batteryPercent: null, freeBytes: null, isReady: false }
    const erased = head({
      old: phone('old', gone),
      new: phone('new', gone),
      stage: 'hand-back',
      handedBackAt: at,
      erasedAt: at,
      customer: null,
    }).text()
    expect(erased).toContain('iOS 18')
    expect(erased).not.toMatch(/null|%/)
  })
})

describe('the ledger', () => {
  const ledger = (rows: LedgerRow[], canOpen = true) => show(LedgerTable, { rows, opened: null, canOpen, picked: 'contacts' })
  it('a figure nobody knows yet is no nought, and opens nothing', () => {
    const shown = ledger([row()])
    const cell = shown.wrapper.find('[data-count=last]')
    expect([cell.text(), cell.attributes('disabled')]).toEqual(['—', ''])
  })
  it('only what agrees gets the double rule', () => {
    const of = (verdict: LedgerRow['verdict']) =>
      ledger([{ ...whole, verdict }])
        .wrapper.find('.double-rule')
        .exists()
    expect([of('agrees'), of('agrees-with-notes'), of('differs'), of('accepted'), of('waiting')]).toEqual([true, true, false, false, false])
  })
  it('all kinds are summed where there are several, and a number opens its items', async () => {
    const shown = ledger([whole, { ...whole, kind: 'calls' }])
    expect(shown.wrapper.find('tfoot').text()).toContain('22')
    await shown.wrapper.find('[data-kind=calls] [data-count=carried]').trigger('click')
    expect(shown.emitted('open')[0]![0]).toBe('calls')
    expect(ledger([whole]).wrapper.find('tfoot').exists()).toBe(false)
  })
})

describe('what a phone’s own count is made of', () => {
  it('what it listed and what nobody stored are its sum, further records on the new phone alone', () => {
    const of = (side: 'old' | 'new', change: Partial<LedgerRow> = {}) =>
      linesOf(show(OwnCountPanel, { ticket: ticket(), row: { ...whole, ...change }, side }))[0]!.map(([, n]) => Number(n))
    expect(of('old')).toEqual([10, 2, 12])
    expect(of('new')).toEqual([11, 1, 12])
    expect(of('new', { new: { ...whole.new, parts: 4, own: 16 } })).toEqual([11, 4, 1, 16])
    expect(of('old', { new: { ...whole.new, parts: 4 } })).toEqual([10, 2, 12])
  })
})

describe('the forecast of a kind', () => {
  const table = (counts: Parameters<typeof forecast>[0], more: Partial<TicketView> = {}, change: Partial<LedgerRow> = {}) =>
    show(ForecastTable, { ticket: ticket(more), row: row(change), forecast: forecast(counts) })
  it('sums to what the old phone holds; what is none is not told', () => {
    const [lines] = linesOf(table({ counts: { carried: 5, changed: 3, cannotCross: 2, expected: 8 } })) as [string[][]]
    const figures = lines.map(([, n]) => n)
    expect(figures.slice(0, 4)).toEqual(['5', '3', '2', '10'])
  })
  it('each change says whether it is a loss, and opens to its items', async () => {
    const shown = table({
      counts: { carried: 5, changed: 3, cannotCross: 2 },
      changes: [
        { code: 'label-lost', loss: true, items: 2 },
        { code: 'name-order', loss: false, items: 1 },
      ],
      rules: [{ code: 'no-such-kind', fate: 'cannotCross', items: 2 }],
    })
    const tones = shown.wrapper.findAll('li').map((li) => li.find('span').text())
    expect(new Set(tones).size).toBe(3)
    await shown.wrapper.findAll('li button')[2]!.trigger('click')
    expect(shown.emitted('open')).toEqual([['cannotCross', 'no-such-kind']])
  })
  it('what is on the new phone already opens to what will be there before, and to what was found there after the first write', async () => {
    const opens = async (areRolesFrozen: boolean) => {
      const shown = table({ counts: { carried: 0, alreadyThere: 3 } }, { areRolesFrozen })
      await shown.wrapper.find('tbody button').trigger('click')
      return shown.emitted('open')[0]![0]
    }
    expect([await opens(false), await opens(true)]).toEqual(['willBeThere', 'alreadyThere'])
  })
  it('apps installed by hand stand apart from what is changed', () => {
    const [lines] = linesOf(table({ counts: { carried: 0, changed: 5 } }, {}, { toInstall: 2 })) as [string[][]]
    expect(lines.slice(0, 2).map(([, n]) => n)).toEqual(['3', '2'])
  })
})

describe('space and time', () => {
  const plan = (fits: boolean, waysOut: readonly object[] = []) => ({
    ...{ chosenBytes: 9e9, growsBytes: 0, freeBytes: 1e9, measuredBytesPerSecond: null, conversions: null, waysOut },
    space: { neededBytes: 9e9, reserveBytes: 5e8, leftBytes: 3e8, shortBytes: 8e9, fits },
    duration: { lowS: 60, highS: 120, restsS: 0 },
  })
  const box = (fits: boolean, canChoose = true) =>
    show(SpaceBox, {
      plan: plan(fits, fits ? [] : [{ way: 'since-year', sinceYear: 2024, kind: null, items: 40, bytes: 4e9, fits: true }]),
      ...{ model: 'Veyra 12', canChoose, busy: '' },
    })
  it('says what is free afterwards, or what is missing and the ways out', async () => {
    expect(box(true).wrapper.find('[data-testid=ways-out]').exists()).toBe(false)
    expect(box(true).text()).toContain('300.0 MB')
    const shown = box(false)
    expect(shown.text()).toContain('8.0 GB')
    await shown.wrapper.find('[data-testid=ways-out] button').trigger('click')
    expect(shown.emitted('wayOut')[0]).toEqual([{ way: 'since-year', sinceYear: 2024, kind: null }])
    expect(box(false, false).barred()).toHaveLength(1)
  })
})

describe('what runs by itself', () => {
  const of = (n: number) => Array.from({ length: n }, (_, i) => ({ kind: 'contacts', code: `change-${i}`, items: i + 1 }))
  const box = (straight: Partial<NonNullable<TicketView['straight']>>, more: Partial<TicketView> = {}) =>
    show(StraightBox, { ticket: ticket({ straight: { since: at, by: 'Rowan', stop: null, ...straight }, ...more }), busy: '' })

  it('is shown until its check has run, and can be ended', async () => {
    const shown = box({})
    await shown.press(/by itself/)
    expect(shown.emitted('act')[0]).toMatchObject(['straight', { body: { on: false, agree: false } }])
    for (const over of [{ stage: 'check-off' }, { signedAt: at }, { calledOff: { at, why: '' } }] as Partial<TicketView>[])
      expect(box({}, over).text()).toBe('')
  })
  it('what it stopped for opens to its items, three at once, and somebody says yes', async () => {
    const shown = box(
      { stop: { code: 'losses', of: of(5) } as never },
      { reasons: [{ kind: 'contacts', fate: 'cannotCross', code: 'change-0', items: 1 }] },
    )
    expect(shown.wrapper.findAll('li')).toHaveLength(3)
    await shown.wrapper.findAll('li button')[0]!.trigger('click')
    await shown.wrapper.findAll('li button')[1]!.trigger('click')
    expect(shown.emitted('open')).toEqual([
      ['cannotCross', 'change-0', 'contacts'],
      ['toCome', 'change-1', 'contacts'],
    ])
    await shown.press(/all 5|5/i)
    expect(shown.wrapper.findAll('li')).toHaveLength(5)
    await shown.press('Go on with these losses')
    expect(shown.emitted('act')[0]).toMatchObject(['straight', { body: { on: true, agree: true } }])
  })
  it('what does not fit has no yes: something must be chosen', async () => {
    const shown = box({ stop: { code: 'does-not-fit', of: [] } as never })
    expect(shown.buttons()).toHaveLength(2)
    await shown.wrapper.findAll('button')[0]!.trigger('click')
    expect(shown.emitted('stage')).toEqual([['choose']])
  })
  it('people on both phones open to who they are', async () => {
    const shown = box({ stop: { code: 'people-on-both', of: [{ kind: 'contacts', code: '', items: 7 }] } as never })
    await shown.wrapper.find('li button').trigger('click')
    expect(shown.emitted('joinings')).toEqual([['contacts']])
  })
  it('while something runs no stop is asked about', () => {
    expect(
      box({ stop: { code: 'losses', of: of(1) } as never }, { run: run() })
        .wrapper.find('[data-testid=straight-stop]')
        .exists(),
    ).toBe(false)
  })
})

describe('what is asked before anything is written', () => {
  const asked = (asks: 'roles' | 'left-out' | null) =>
    show(CarryQuestions, {
      ticket: ticket({ ledger: [row({ fates: { ...noFates, notChosen: 1898 }, new: { ...row().new, first: 40 } })] }),
      asks,
      leftOut: asks === 'left-out' ? [row({ fates: { ...noFates, notChosen: 1898 } })] : [],
    })
  it('whether the phones are the right way round: back is the first answer', async () => {
    const shown = asked('roles')
    await new Promise((resolve) => setTimeout(resolve, 5))
    expect(shown.text()).toContain('40 contacts')
    await shown.press(/^No/)
    expect(shown.emitted('back')).toHaveLength(1)
    expect(shown.buttons().some((name) => /^Yes.*Veyra 12.*4/.test(name))).toBe(true)
  })
  it('whether a whole kind stays behind, with how many that is', async () => {
    const shown = asked('left-out')
    await new Promise((resolve) => setTimeout(resolve, 5))
    expect(shown.text()).toContain('1,898 contacts')
    await shown.press(/^Yes/)
    expect(shown.emitted('yes')).toHaveLength(1)
  })
})

describe('calling off', () => {
  const dialog = (change: Partial<TicketView> = {}) => show(CallOffDialog, { open: true, ticket: ticket(change) })
  it('needs a reason and the number, and offers to take away only what was written', async () => {
    const shown = dialog()
    await new Promise((resolve) => setTimeout(resolve, 5))
    expect(shown.text()).not.toMatch(/port 4/)
    await shown.type(/^Why/, 'the phone broke')
    expect(shown.barred()).toHaveLength(1)
    await shown.type(/T-1/, 't-1')
    await shown.press(/^Call/)
    expect(shown.emitted('send')[0]).toEqual([{ why: 'the phone broke', takeAway: false, typed: 't-1' }])
    const written = dialog({ ledger: [row({ fates: { ...noFates, carried: 3 } })] })
    await new Promise((resolve) => setTimeout(resolve, 5))
    await written.tick(/port 4/)
    await written.type(/^Why/, 'x')
    await written.type(/T-1/, 'T-1')
    await written.press(/^Call/)
    expect(written.emitted('send')[0]).toMatchObject([{ takeAway: true }])
  })
})

describe('what waits for a finger', () => {
  const touch = (change: Partial<TicketView>) => show(TouchNow, { ticket: ticket(change), now: Date.parse(at) })
  const unready = { old: phone('old', { isReady: false, unmet: ['unlocked'], next: 'Unlocked, with its screen on' }) }
  const asks = (question: string) => ({
    ready: { ...ticket().ready, new: { ...ticket().ready.new, asks: { question, sinceMs: Date.parse(at) - 300_000 } } },
  })
  it('a question on a screen comes first, in every stage; what the board says is not said twice', () => {
    expect(
      touch({ stage: 'make-ready', ...asks('trust') })
        .wrapper.find('[data-touch=new]')
        .text(),
    ).toMatch(/NEW, port 4: .*5 min/)
    expect(touch({ stage: 'make-ready', ...unready }).text()).toBe('')
    expect(
      touch({ stage: 'carry-over', ...unready })
        .wrapper.find('[data-touch=old]')
        .text(),
    ).toContain('Unlocked, with its screen on')
    expect(touch({ stage: 'carry-over', ...unready, restingAt: at }).text()).toBe('')
    expect(touch({ ...asks('trust'), erasedAt: at }).text()).toBe('')
  })
  it('phones at two benches are named with where each is', () => {
    const stations = [
      { code: 'bench', name: 'Counter', firstPort: 1, hasPractice: true },
      { code: 'window', name: 'Window', firstPort: 9, hasPractice: true },
    ]
    useSession().session = { stations, shop: { portNames: {} } } as unknown as Session
    const apart = { new: phone('new', { station: 'window', port: 12 }) }
    expect(touch(apart).text()).toContain('OLD is at bench “Counter”, NEW at “Window”: plug both in at one')
    expect(touch({ ...apart, handedBackAt: at }).text()).toBe('')
    expect(touch({ new: phone('new', { station: null, port: null }) }).text()).toBe('')
  })
})

describe('a person on both phones', () => {
  const line = (change: Partial<JoiningRow>, more: object = {}) =>
    show(JoiningLine, {
      row: {
        key: 'old-1',
        position: 3,
        shared: ['number'],
        conflicts: [],
        state: 'open',
        decision: 'keep',
        fate: 'pending',
        title: 'Quill',
        ...change,
      },
      ...{ isShowing: false, canDecide: true, canUndo: false, stop: {}, ...more },
    })
  it('is joined or kept apart by one press; what stands against it offers none', async () => {
    const open = line({})
    await open.wrapper.findAll('button')[1]!.trigger('click')
    expect(open.emitted('decide')).toEqual([['join']])
    const joined = line({ decision: 'join' })
    await joined.wrapper.findAll('button')[1]!.trigger('click')
    expect(joined.emitted('decide')).toEqual([['keep']])
    expect(line({ conflicts: ['birthday'] }).wrapper.findAll('button')).toHaveLength(1)
    expect(line({}, { canDecide: false }).wrapper.findAll('button')).toHaveLength(1)
  })
  it('what was joined is put back, what was put back is carried as one of its own', async () => {
    const done = line({ state: 'joined', decision: 'join' } as Partial<JoiningRow>, { canDecide: false, canUndo: true })
    await done.wrapper.findAll('button')[1]!.trigger('click')
    expect(done.emitted('undo')).toHaveLength(1)
    const undone = line({ state: 'undone', fate: 'undone' } as Partial<JoiningRow>, { canDecide: false, canUndo: true })
    await undone.wrapper.findAll('button')[1]!.trigger('click')
    expect(undone.emitted('decide')).toEqual([['carry']])
  })
  it('is named only while names are shown', () => {
    expect(line({}).text()).not.toContain('Quill')
    expect(line({}, { isShowing: true }).text()).toContain('Quill')
  })
})

describe('a conversation, calendar or month in a list', () => {
  const line = (change: Partial<GroupRow> = {}, more: object = {}) =>
    show(GroupLine, {
      row: { key: 'g', position: 1, items: 10, chosen: 10, from: null, to: null, title: null, ...change },
      ...{ name: null, called: 'conversation 1', seed: 1, isWhole: true, canChoose: true, stop: {}, ...more },
    })
  it('its box says all, some or none of it; of a span of time nothing is told, it can be carried or left', async () => {
    const box = (change: Partial<GroupRow>) => line(change).wrapper.find('input').element
    expect([box({}).checked, box({ chosen: 0 }).checked, box({ chosen: 4 }).indeterminate]).toEqual([true, false, true])
    const span = line({}, { isWhole: false })
    expect(span.wrapper.find('input').exists()).toBe(false)
    await span.press(/leave/i)
    expect(span.emitted('choose')).toEqual([[false]])
    expect(line({}, { canChoose: false }).wrapper.find('input').exists()).toBe(false)
  })
})

describe('open files', () => {
  const files = (change: Partial<TicketView>) => show(FilesOut, { ticket: ticket(change) })
  it('say what they hold, so names are shown first; a kind without items has none', () => {
    expect(files({}).wrapper.findAll('a')).toHaveLength(0)
    expect(files({}).buttons()).toHaveLength(1)
    expect(files({ showingUntil: at }).wrapper.findAll('a').length).toBeGreaterThan(1)
    expect(files({ ledger: [row({ old: { ...row().old, read: 0 } })] }).text()).toBe('')
    expect(files({ erasedAt: at }).text()).toBe('')
  })
})
