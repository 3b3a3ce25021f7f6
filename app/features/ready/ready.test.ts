// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import type { NeedView, PhoneReady } from '#contracts/http/ready.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { eachAnew, show } from '../../../tests/setup/mount.ts'
import { phone, ticket } from '../../../tests/setup/view.ts'
import { useTickets } from '../../stores/tickets.ts'
import ReadyPanel from '../ticket/panels/ReadyPanel.vue'
import NeedCard from './NeedCard.vue'
import PutBackList from './PutBackList.vue'
import ReadySide from './ReadySide.vue'

eachAnew()
const need = (change: Partial<NeedView> = {}): NeedView => ({
  ...{ code: 'unlocked', title: 'Unlocked, with its screen on', met: 'It is unlocked', state: 'unmet', weight: 'must', reason: null },
  ...{ why: null, seenBy: 'phone', steps: [{ say: 'Unlock it', times: 1 }], sinceMs: null },
  ...change,
})
const ready = (change: Partial<PhoneReady> = {}): PhoneReady => ({
  ...ticket().ready.old,
  isReady: false,
  next: 'unlocked',
  needs: [need()],
  ...change,
})

describe('one phone of the pair', () => {
  const side = (change: Partial<PhoneReady> = {}, on = {}) =>
    show(ReadySide, { phone: phone('old', on), ready: ready(change), picked: null, now: 0 })
  it('lists its needs once it is seen; a phone that is not plugged in shows that one alone', () => {
    const needs = [need({ code: 'seen' }), need()]
    const listed = (shown: ReturnType<typeof side>) => shown.wrapper.findAll('[data-need]').map((one) => one.attributes('data-need'))
    expect(listed(side({ needs }))).toEqual(['seen', 'unlocked'])
    expect(listed(side({ needs, sight: 'absent' }))).toEqual(['seen'])
    expect(listed(side({ needs }, { serial: null }))).toEqual(['seen'])
  })
  it('a question on its screen is said before all else; likely causes stand open for one that is not seen', () => {
    const causes = [{ code: 'cable', title: 'The cable only charges', look: 'It charges.', steps: [] }]
    expect(
      side({ causes, sight: 'unseen', unseenPorts: [3] })
        .wrapper.find('[data-testid=causes]')
        .attributes('open'),
    ).toBeDefined()
    expect(side({ causes, sight: 'unseen', unseenPorts: [3] }).text()).toMatch(/port 3 draws current/)
    expect(side({ causes, sight: 'unseen', unseenPorts: [2, 5, 6] }).text()).toMatch(/ports 2, 5 and 6 draw/)
    expect(side({ causes, sight: 'silent' }).wrapper.find('[data-testid=causes]').attributes('open')).toBeUndefined()
    expect(side({ causes, sight: 'speaks' }).wrapper.find('[data-testid=causes]').exists()).toBe(false)
    const asks = { question: 'trust', sinceMs: 0 }
    expect(side({ causes, sight: 'silent', asks }).wrapper.find('[data-testid=causes]').exists()).toBe(false)
  })
  it('a need that is met says so in its own words; a recommended one is not called a must', () => {
    const shown = side({ needs: [need({ state: 'met' }), need({ code: 'screen', weight: 'warn', title: 'Screen stays on' })] })
    expect(shown.wrapper.find('[data-need=unlocked]').text()).toContain('It is unlocked')
    expect(shown.wrapper.find('[data-need=screen] .font-semibold').exists()).toBe(false)
  })
  it('a work area is named; dropped files need nothing', () => {
    expect(side({ hasWorkArea: true }).text()).toMatch(/work area/i)
    expect(side({}, { place: 'file' }).wrapper.findAll('[data-need]')).toHaveLength(0)
  })
})

describe('one need', () => {
  const card = (change: Partial<NeedView>) => show(NeedCard, { need: need(change), side: 'old', busy: '' })
  it('what a person looks at is ticked; what the phone reports ticks itself', async () => {
    const asked = card({ state: 'ask', seenBy: 'person' })
    await asked.press(/looked/i)
    expect(asked.emitted('say')[0]).toEqual([{ side: 'old', code: 'unlocked', how: 'ticked' }])
    expect(card({ state: 'unmet' }).buttons()).toHaveLength(1)
  })
  it('going on without it needs a reason, and is taken back by a press', async () => {
    const shown = card({ state: 'unmet' })
    await shown.press(/without it/)
    await shown.wrapper.find('form').trigger('submit')
    expect(shown.emitted('say')[0]).toMatchObject([{ how: 'waived', reason: 'not-possible-here' }])
    const waived = card({ state: 'waived', reason: 'customer-knows' })
    await waived.press(/back/)
    expect(waived.emitted('say')[0]).toMatchObject([{ how: 'open' }])
    expect(card({ state: 'met' }).buttons()).toEqual([])
  })
})

describe('settings to put back', () => {
  const list = (items: PhoneReady['putBack']) =>
    show(PutBackList, { ticket: ticket({ ready: { ...ticket().ready, old: { ...ticket().ready.old, putBack: items } } }), busy: '' })
  const item = (state: PhoneReady['putBack'][number]['state'], isTickable: boolean) => ({
    code: 'debugging',
    title: 'USB debugging off',
    steps: [],
    state,
    isTickable,
  })
  it('a phone that reports it ticks it itself; else a person does, or the customer leaves it by name', async () => {
    expect(
      list([item('open', false)])
        .buttons()
        .some((name) => /is as it was/i.test(name)),
    ).toBe(false)
    const shown = list([item('open', true)])
    await shown.press(/as it was/i)
    expect(shown.emitted('put')[0]).toEqual([{ side: 'old', code: 'debugging', how: 'ticked' }])
    await shown.press(/…|leave|waive/i)
    expect(shown.barred()).toHaveLength(1)
    await shown.type(/customer/i, 'Ines Harrow')
    await shown.wrapper.find('form').trigger('submit')
    expect(shown.emitted('put')[1]).toEqual([{ side: 'old', code: 'debugging', how: 'waived', by: 'Ines Harrow' }])
    expect(list([item('restored', true)]).buttons()).toEqual([])
    expect(list([]).text()).toBe('')
  })
})

describe('Make ready', () => {
  const panel = (change: Partial<TicketView> = {}, picked: { side: 'old' | 'new'; code: string } | null = null) => {
    useTickets().today = { moment: 1, tickets: [], ports: [], unseenStations: [], isBenchSeen: true, endingCopies: [] }
    return show(ReadyPanel, { ticket: ticket({ stage: 'make-ready', ...change }), busy: '', picked })
  }
  const unready = (side: 'old' | 'new') => ({
    [side]: phone(side, { isReady: false }),
    ready: { ...ticket().ready, [side]: { ...ready({ side }) } },
  })
  it('shows the need somebody pressed, else the first that waits, the old phone’s before the new one’s', () => {
    const of = (shown: ReturnType<typeof panel>) => shown.wrapper.find('[data-need-card]').attributes('data-need-card')
    expect(of(panel(unready('old')))).toBe('unlocked')
    const both = {
      ...unready('old'),
      ready: { old: ready(), new: ready({ side: 'new', next: 'trusted', needs: [need({ code: 'trusted' })] }) },
      new: phone('new', { isReady: false }),
    }
    expect(of(panel(both))).toBe('unlocked')
    expect(of(panel(both, { side: 'new', code: 'trusted' }))).toBe('trusted')
  })
  it('both ready, it can run straight through while nothing is read, written, running or signed', () => {
    const can = (change: Partial<TicketView>) =>
      panel(change)
        .buttons()
        .some((name) => /straight/i.test(name))
    expect(can({})).toBe(true)
    const not: Partial<TicketView>[] = [
      { areRolesFrozen: true },
      { signedAt: 'x' },
      { calledOff: { at: 'x', why: null } },
      { straight: { since: '', by: '', stop: null } },
    ]
    for (const change of not) expect(can(change)).toBe(false)
  })
  it('once writing has begun the phones can’t be exchanged any more', async () => {
    const shown = panel()
    await shown.press(/exchange/i)
    expect(shown.emitted('act')[0]).toMatchObject(['roles', { body: { oldSerial: 'new', newSerial: 'old' } }])
    expect(
      panel({ areRolesFrozen: true })
        .buttons()
        .some((name) => /exchange/i.test(name)),
    ).toBe(false)
  })
  it('a side named by its model alone asks which port', () => {
    const shown = panel({ new: phone('new', { serial: null, port: null, isReady: false }) })
    expect(shown.wrapper.findAll('form')).toHaveLength(1)
    expect(shown.barred()).toHaveLength(1)
  })
})
