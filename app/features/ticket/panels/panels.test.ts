// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import type { TicketView } from '#contracts/http/ticket.ts'
import { eachAnew, show } from '../../../../tests/setup/mount.ts'
import { forecast, noFates, phone, row, run, ticket } from '../../../../tests/setup/view.ts'
import CarryPanel from './CarryPanel.vue'
import CheckPanel from './CheckPanel.vue'
import ChoosePanel from './ChoosePanel.vue'
import CountInPanel from './CountInPanel.vue'
import DifferenceList from './DifferenceList.vue'
import HandBackPanel from './HandBackPanel.vue'
import LeftBehindBox from './LeftBehindBox.vue'
import RunBox from './RunBox.vue'

eachAnew()
const zone = 'Europe/London'
const at = '2026-11-27T14:05:00.000Z'
/** Everything carried, checked and agreeing. */
const agreed = (change: Partial<TicketView> = {}): TicketView =>
  ticket({
    stage: 'check-off',
    areRolesFrozen: true,
    mayHandOver: true,
    ledger: [row({ fates: { ...noFates, carried: 10 }, new: { ...row().new, last: 10, arrived: 10, own: 10 }, verdict: 'agrees' })],
    ...change,
  })
const differs = (fates: Partial<typeof noFates>, change: Partial<ReturnType<typeof row>> = {}) =>
  row({ fates: { ...noFates, ...fates }, new: { ...row().new, last: 8 }, verdict: 'differs', short: 2, ...change })

describe('what runs', () => {
  const box = (change: Parameters<typeof run>[0], more: Partial<TicketView> = {}) =>
    show(RunBox, { ticket: ticket({ stage: 'carry-over', run: run(change), ...more }), busy: '' })

  it('says how far it is, how fast and how long, and can be paused and stopped', async () => {
    const shown = box({})
    expect(shown.text()).toContain('carrying, 12 of 40')
    expect(shown.text()).toContain('20 to 40 s left')
    expect(shown.wrapper.find('[role=progressbar]').attributes('aria-valuenow')).toBe('30')
    expect(shown.buttons()).toEqual(['Pause', 'Stop here; what came over stays'])
    await shown.press('Pause')
    expect(shown.emitted('pause')).toHaveLength(1)
  })

  it.each([
    ['waits for a phone', { state: 'paused', reason: 'PhoneLocked', side: 'new' }, 'It goes on by itself', 'Pause'],
    ['was paused by hand', { state: 'held' }, 'aused', 'Resume'],
  ] as const)('%s: no bar moves, and it says what is to be done', (_, change, says, button) => {
    const shown = box(change)
    expect(shown.text()).toContain(says)
    expect(shown.wrapper.find('[role=progressbar]').exists()).toBe(false)
    expect(shown.buttons()[0]).toBe(button)
  })

  it('one that nobody took up yet says so, and what it means if it stays', () => {
    const shown = box({ state: 'waiting', step: 'carrying' })
    expect(shown.text()).toMatch(/^Waiting for its turn|waiting for its turn/)
    expect(shown.wrapper.find('[data-testid=waits-for-worker]').text()).toContain('start Corvend there again')
    expect(shown.wrapper.find('[role=progressbar]').exists()).toBe(false)
    expect(shown.buttons()).toContain('Stop here; what came over stays')
    expect(box({}).wrapper.find('[data-testid=waits-for-worker]').exists()).toBe(false)
  })

  it('a total nobody knows yet is no share of anything', () => {
    expect(box({ done: 0, total: 0 }).wrapper.find('[role=progressbar]').attributes('aria-valuenow')).toBe('0')
    expect(box({ done: 9, total: 4 }).wrapper.find('[role=progressbar]').attributes('aria-valuenow')).toBe('100')
  })

  it('stretches of the line are told where there are several: what is over, runs, is paused, or comes after', () => {
    const stretch = (code: string, kinds: string[], state: 'over' | 'running' | 'waiting') => ({
      ...{ code, kinds, state, done: 3, total: 9, unit: 'items' as const, leftLowS: 60, leftHighS: 120 },
    })
    const several = [
      stretch('light', ['contacts', 'calls'], 'over'),
      stretch('photos', ['photos'], 'running'),
      stretch('apps', ['apps'], 'waiting'),
    ]
    const states = (change: Parameters<typeof run>[0]) =>
      box(change, { stretches: several as TicketView['stretches'] })
        .wrapper.findAll('[data-stretch]')
        .map((one) => one.text().replace(/\s+/g, ' '))
    const [light, photos, apps] = states({})
    expect(light).toMatch(/^Contacts and calls ?over/i)
    expect(light).not.toContain('min')
    expect(photos).toMatch(/running.*left/)
    expect(apps).toMatch(/after that/)
    expect(states({ state: 'held' })[1]).toContain('paused')
    expect(box({}, { stretches: several.slice(0, 1) as TicketView['stretches'] }).wrapper.findAll('[data-stretch]')).toHaveLength(0)
  })
})

describe('Count in', () => {
  const reading = (side: 'old' | 'new', change: Partial<TicketView['readings'][number]> = {}) => ({
    ...{ side, kind: 'contacts', purpose: 'first' as const, state: 'whole' as const, got: 10, counted: 10, unreadable: 0 },
    ...change,
  })
  it('names both phones at first, counts again afterwards, and only what was added once something is carried', () => {
    const say = (change: Partial<TicketView>) =>
      show(CountInPanel, { ticket: ticket({ stage: 'count-in', ...change }), busy: '' }).buttons()
    expect(say({})[0]).toMatch(/^Count in the Orrin 5 and the Veyra 12/)
    expect(say({ readings: [reading('old'), reading('new')] })).toContain('Count both phones in again')
    const added = { kinds: ['contacts', 'calls'], areRolesFrozen: true, readings: [reading('old'), reading('new')] }
    expect(say(added).some((name) => /calls/.test(name) && !/contacts/.test(name))).toBe(true)
  })
})

describe('Choose', () => {
  const panel = (change: Partial<TicketView> = {}) =>
    show(ChoosePanel, { ticket: ticket({ stage: 'choose', ...change }), row: (change.ledger ?? [row()])[0], busy: '' })

  it('the button says what one press carries, and where less comes than waits it says why', async () => {
    const waits = { ledger: [row({ toCarry: 10, fates: { ...noFates, pending: 10 } })] }
    const shown = panel(waits)
    expect(shown.buttons()).toContain('Carry 10 contacts to the Veyra 12')
    expect(shown.wrapper.find('[data-testid=waiting-why]').exists()).toBe(false)
    await shown.press(/^Carry 10/)
    expect(shown.emitted('carry')).toHaveLength(1)
  })

  it('what some are there already comes not again, and says so', () => {
    const shown = panel({
      ledger: [row({ toCarry: 7, fates: { ...noFates, pending: 10 } })],
      forecasts: [forecast({ counts: { carried: 7, alreadyThere: 3, expected: 7 } })],
    })
    expect(shown.text()).toContain('Of the 10 that wait, 3 are on the new phone already.')
  })

  it('what does not fit can’t be started; without anything to carry the ticket goes on to its check', () => {
    const space = { neededBytes: 9e9, freeBytes: 1e9, reserveBytes: 0, shortBytes: 8e9, fits: false }
    const plan = { space, duration: { lowS: 1, highS: 2 }, waysOut: [] } as unknown as TicketView['plan']
    expect(panel({ plan, ledger: [row({ toCarry: 10, fates: { ...noFates, pending: 10 } })] }).barred()).toContain(
      'Carry 10 contacts to the Veyra 12',
    )
    const nothing = panel({
      ledger: [row({ fates: { ...noFates, notChosen: 10 } })],
      forecasts: [forecast({ choice: 'none', counts: { carried: 0, notChosen: 10, expected: 0 } })],
    })
    expect(nothing.buttons().some((name) => /^Carry nothing/.test(name))).toBe(true)
  })

  it('a choice is a press, not a row passed over; one by one opens the list', async () => {
    const shown = panel()
    await shown.press('None')
    await shown.press('One by one')
    expect(shown.emitted('act').map(([name]) => name)).toEqual(['choose', 'choose'])
    expect(shown.emitted('open')).toEqual([['all']])
    // while something runs there is nothing to choose
    const running = panel({ run: run({}), stage: 'carry-over' })
    expect(running.wrapper.find('fieldset').attributes('disabled')).toBeDefined()
  })

  it('phones that look exchanged are doubted before anything is written', () => {
    expect(panel({ needsExchangeAnswer: true }).wrapper.find('[data-testid=exchange-question]').exists()).toBe(true)
    expect(panel().wrapper.find('[data-testid=exchange-question]').exists()).toBe(false)
  })

  it('before both phones are read it says what is missing', () => {
    expect(panel({ forecasts: [] }).buttons()).toEqual([])
  })
})

describe('Carry over', () => {
  const panel = (change: Partial<TicketView>) => show(CarryPanel, { ticket: ticket({ stage: 'carry-over', ...change }), busy: '' })
  const some = (pending: number) => [row({ toCarry: pending, fates: { ...noFates, carried: 10 - pending, pending } })]
  it.each([
    ['runs', { run: run() }, /goes on when this page is closed/, ['Pause', 'Stop here; what came over stays']],
    [
      'was stopped in the middle',
      { areRolesFrozen: true, ledger: some(4) },
      /4 contacts still wait/,
      ['Carry 4 contacts to the Veyra 12', 'Choose again what is carried'],
    ],
    ['is over', { areRolesFrozen: true, ledger: some(0) }, /Over\. What counts is the check/, []],
    ['has not begun', { ledger: some(10) }, /Nothing runs\. First choose/, []],
  ] as const)('one that %s', (_, change, says, buttons) => {
    const shown = panel(change as Partial<TicketView>)
    expect(shown.text()).toMatch(says)
    expect(shown.buttons()).toEqual(buttons)
  })
})

describe('Check off', () => {
  const panel = (change: Partial<TicketView>) =>
    show(CheckPanel, { ticket: agreed(change), row: (change.ledger ?? agreed().ledger)[0], busy: '', zone })

  it('one that agrees offers another count and nothing to accept', () => {
    const shown = panel({ lastRun: run({ type: 'check-off', state: 'done', endedAt: at }) })
    expect(shown.text()).toContain('Read afresh at 14:05')
    expect(shown.buttons()).toContain('Count both phones again')
    expect(shown.text()).not.toContain('accepts')
  })

  it('what is lost is put back first; only then what waits is carried', async () => {
    const shown = panel({ ledger: [differs({ carried: 8, lost: 2 })] })
    expect(shown.buttons()).not.toContain('Carry 2 contacts to the Veyra 12')
    await shown.press('Put the 2 contacts back among what waits')
    const [, call] = shown.emitted('act')[0]!
    expect(call).toMatchObject({ body: { fates: ['lost'] } })
    expect(panel({ ledger: [differs({ carried: 8, pending: 2 }, { toCarry: 2 })] }).buttons()).toContain('Carry 2 contacts to the Veyra 12')
  })

  it('a difference is accepted by name alone, and can be taken back until the sheet is signed', async () => {
    const shown = panel({ ledger: [differs({ carried: 8, lost: 2 })] })
    expect(shown.barred()).toContain('Customer accepts 2 short')
    await shown.type(/accepts 2 short, by name/, ' Ines Harrow ')
    await shown.press('Customer accepts 2 short')
    expect(shown.emitted('act').at(-1)![1]).toMatchObject({ body: { by: ' Ines Harrow ' } })
    const accepted = [{ kind: 'contacts', by: 'Ines Harrow', short: 2, over: 0, at }]
    expect(panel({ accepted }).buttons()).toContain('Take it back')
    expect(panel({ accepted, signedAt: at }).buttons()).not.toContain('Take it back')
  })

  it('refused, unreadable and let go ones can be tried once more; nothing while it runs, or once it is erased', () => {
    const ledger = [
      row({
        fates: { ...noFates, carried: 7, refused: 1, unreadable: 1, pushedOut: 1 },
        new: { ...row().new, last: 7 },
        verdict: 'agrees-with-notes',
      }),
    ]
    expect(panel({ ledger }).buttons()).toContain('Try 3 contacts once more that did not come over')
    expect(panel({ ledger, run: run({ type: 'check-off' }) }).buttons()).toEqual(['Pause', 'Stop here; what came over stays'])
    expect(panel({ ledger, erasedAt: at }).buttons()).toEqual([])
  })
})

describe('differences and notes', () => {
  it('the worst stands first, differences apart from notes, and each opens to its items', async () => {
    const ledger = [differs({ carried: 7, lost: 2, refused: 1 })]
    const reasons = [{ kind: 'contacts', fate: 'refused', code: 'name-too-long', items: 1 }]
    const list = (only: 'differences' | 'notes') => show(DifferenceList, { ticket: agreed({ ledger, reasons }), only })
    const differences = list('differences')
    expect(differences.buttons()).toHaveLength(1)
    await differences.press(/^2/)
    expect(differences.emitted('open')[0]).toEqual(['lost', '', 'contacts'])
    const notes = list('notes')
    await notes.press(/^1/)
    expect(notes.emitted('open')[0]).toEqual(['refused', 'name-too-long', 'contacts'])
    expect(show(DifferenceList, { ticket: agreed(), only: 'differences' }).text()).toBe('')
  })
})

describe('what was left behind', () => {
  const box = (asWritten: number, changed: number) =>
    show(LeftBehindBox, { ticket: agreed({ leftBehind: [{ kind: 'contacts', asWritten, changed }] }), row: agreed().ledger[0], busy: '' })
  it('what still says what was written goes by one press; what reads otherwise is typed for', async () => {
    const shown = box(2, 1)
    await shown.press('Take away 2 contacts that still say what was written')
    expect(shown.emitted('act')[0]![1]).not.toMatchObject({ body: { changed: true } })
    expect(shown.barred()).toEqual(['Take away all 3 contacts from port 4'])
    await shown.type(/type T-1/, 't-1 ')
    await shown.press('Take away all 3 contacts from port 4')
    expect(shown.emitted('act')[1]![1]).toMatchObject({ body: { changed: true, typed: 't-1 ' } })
  })
  it('nothing is nothing', () => {
    expect(box(0, 0).text()).toBe('')
    expect(box(1, 0).barred()).toEqual([])
  })
})

describe('Hand back', () => {
  const panel = (change: Partial<TicketView> = {}) =>
    show(HandBackPanel, { ticket: agreed({ stage: 'hand-back', ...change }), busy: '', zone })
  const putBack = (state: 'open' | 'restored') =>
    [{ code: 'debugging', title: 'USB debugging off', steps: [], state, isTickable: true }] as TicketView['ready']['old']['putBack']
  const withPutBack = (state: 'open' | 'restored') => ({
    ready: { old: { ...agreed().ready.old, putBack: putBack(state) }, new: agreed().ready.new },
  })

  it('a sheet is signed by a name once every setting is back', async () => {
    const shown = panel(withPutBack('restored'))
    expect(shown.barred()).toContain('The sheet is signed')
    await shown.type('Signed by', 'Ines Harrow')
    await shown.press('The sheet is signed')
    expect(shown.emitted('act')[0]).toMatchObject(['sign', { body: { by: 'Ines Harrow', withWhatStands: false } }])
    const open = panel(withPutBack('open'))
    await open.type('Signed by', 'Ines Harrow')
    expect(open.barred()).toContain('The sheet is signed')
  })

  it('what does not agree can be signed with what stands, and says what that means', async () => {
    const shown = panel({ mayHandOver: false })
    expect(shown.text()).toContain('named on the sheet as open')
    await shown.type('Signed by', 'Ines Harrow')
    await shown.press('Signed with what stands')
    expect(shown.emitted('act')[0]).toMatchObject(['sign', { body: { withWhatStands: true } }])
  })

  it('tied apps are said, and nobody signs past them without saying that the customer knows', async () => {
    const shown = panel({ tied: { all: 3, open: 2 } })
    expect(shown.wrapper.find('[data-testid=tied]').text()).toContain('2 apps are tied')
    await shown.type('Signed by', 'Ines Harrow')
    expect(shown.barred()).toContain('The sheet is signed')
    await shown.tick(/customer knows that 2 apps/)
    expect(shown.buttons()).toContain('The sheet is signed')
  })

  it('erasing is typed, waits for what runs, and asks where no sheet was printed', async () => {
    const erase = 'Hand back and erase the data of T-1'
    const signed = { signedAt: at, signedBy: 'Ines Harrow' }
    const shown = panel({ ...signed, printedAt: at })
    expect(shown.barred()).toEqual([erase])
    await shown.type('Type T-1', 'T-2')
    expect(shown.barred()).toEqual([erase])
    await shown.type('Type T-1', ' t-1')
    await shown.press(erase)
    expect(shown.emitted('act')[0]).toMatchObject(['erase', { body: { typed: ' t-1' } }])
    const unprinted = panel(signed)
    await unprinted.type('Type T-1', 'T-1')
    expect(unprinted.barred()).toEqual([erase])
    await unprinted.tick(/was not printed/)
    expect(unprinted.buttons()).toContain(erase)
    const running = panel({ ...signed, printedAt: at, run: run() })
    await running.type('Type T-1', 'T-1')
    expect(running.barred()).toContain(erase)
  })

  it('one that was called off is not signed but erased; an erased one asks for nothing', () => {
    const off = panel({ calledOff: { at, why: 'the phone broke' } })
    expect(off.text()).toContain('Called off: the phone broke')
    expect(off.text()).not.toContain('Signed by')
    expect(off.barred()).toEqual(['Hand back and erase the data of T-1'])
    const erased = panel({ erasedAt: at, signedAt: at, customer: null, tied: { all: 1, open: 1 } })
    expect(erased.text()).toContain('Erased at 14:05')
    expect([erased.buttons(), erased.barred()]).toEqual([[], []])
  })

  it('an app that is still to be installed by hand is said before the signature, with a way to look again', () => {
    const ledger = [row({ kind: 'apps', toInstall: 2, agreesButInstall: true, fates: { ...noFates, pending: 2 } })]
    const shown = panel({ ledger })
    expect(shown.text()).toContain('2 apps are on the install list')
    expect(shown.buttons()).toContain('Count both phones again')
    expect(panel({ ledger, signedAt: at }).buttons()).not.toContain('Count both phones again')
  })
})

it('every panel names the phones as they were booked', () => {
  const other = { new: phone('new', { model: 'Orrin 9', port: null }) }
  expect(
    show(CarryPanel, {
      ticket: ticket({ ...other, areRolesFrozen: true, ledger: [row({ toCarry: 3, fates: { ...noFates, pending: 3 } })] }),
      busy: '',
    }).buttons(),
  ).toContain('Carry 3 contacts to the Orrin 9')
})
