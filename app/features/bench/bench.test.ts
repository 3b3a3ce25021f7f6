// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import type { TodayView } from '#contracts/http/ticket.ts'
import { eachAnew, show } from '../../../tests/setup/mount.ts'
import { summary } from '../../../tests/setup/view.ts'
import { useSession, type Session } from '../../stores/session.ts'
import { screenOf, type HandPhone } from '../practice/hand.ts'
import PhoneScreen from '../practice/PhoneScreen.vue'
import BenchStrip from '../today/BenchStrip.vue'
import PortCard from './PortCard.vue'

eachAnew()
type Port = TodayView['ports'][number]
const port = (n: number, change: Partial<Port> = {}): Port => ({
  ...{ port: n, station: 'bench', phone: null, ticket: null, side: null, state: 'free', touch: null, seenToday: null, offers: [] },
  ...{ batteryPercent: null, isCharging: false, temperatureC: null, freeBytes: null, hasWorkArea: false },
  ...change,
})
const orrin = { maker: 'Orrin', model: 'Orrin 5', platform: 'android', version: '13', serial: 'S1' }
const inIt = (change: Partial<Port> = {}) => port(3, { phone: orrin, state: 'ready', batteryPercent: 84, freeBytes: 4e9, ...change })

describe('a port', () => {
  const card = (one: Port, ticket: object | null = null) => show(PortCard, { port: one, ticket, now: 600_000 })
  it('that is free asks for nothing; one that draws current and is not seen says so', () => {
    expect(card(port(3)).buttons()).toEqual([])
    expect(card(port(3, { state: 'unseen' })).text()).toContain('Draws current, not seen')
  })
  it('with a phone no ticket names offers to book it in, or says whose it may be', () => {
    expect(card(inIt()).wrapper.find('a').attributes('href')).toBe('/book-in')
    expect(card(inIt({ offers: [{ ticket: 'T-7', side: 'old' }] })).buttons()[0]).toBe('It is T-7’s OLD')
    expect(
      card(inIt({ ticket: 'T-1', side: 'old' }), summary())
        .wrapper.findAll('a')
        .map((a) => a.attributes('href')),
    ).toEqual(['/tickets/T-1'])
  })
  it('says what it waits for and since when, and that it is warm from 38 °C on', () => {
    const touch = { say: 'trust', sinceMs: 300_000 }
    expect(
      card(inIt({ state: 'waits', touch }))
        .wrapper.find('[data-testid=port-says]')
        .text(),
    ).toMatch(/5 min/)
    expect(card(inIt({ temperatureC: 37.9 })).text()).not.toContain('°C')
    expect(card(inIt({ temperatureC: 38 })).text()).toContain('38 °C')
  })
})

describe('the bench on Today', () => {
  const stations = ['bench', 'window'].map((code, i) => ({
    code,
    name: ['Counter', 'Window'][i]!,
    firstPort: i * 8 + 1,
    hasPractice: true,
  }))
  const strip = (ports: Port[]) => {
    useSession().session = { stations, shop: { portNames: { 3: 'by the till' } } } as unknown as Session
    return show(BenchStrip, { ports })
  }
  it('is one row without a heading where there is one bench, and a row each with its name where there are several', () => {
    expect(strip([port(1), inIt()]).wrapper.findAll('h3')).toHaveLength(0)
    const two = strip([port(1), inIt(), port(9, { station: 'window' })])
    expect(two.wrapper.findAll('h3').map((head) => head.text())).toEqual(['Counter', 'Window'])
    expect(two.wrapper.findAll('[data-station]').map((one) => one.findAll('li').length)).toEqual([2, 1])
    expect(two.text()).toContain('by the till')
  })
  it('a phone without a ticket leads to Book in, one that may be a ticket’s to that', () => {
    const links = (change: Partial<Port>) =>
      strip([inIt(change)])
        .wrapper.findAll('a')
        .map((a) => a.attributes('href'))
    expect(links({})).toEqual(['/book-in'])
    expect(links({ offers: [{ ticket: 'T-7', side: 'new' }] })).toEqual(['/tickets/T-7'])
    expect(links({ ticket: 'T-1', side: 'old' })).toEqual(['/tickets/T-1'])
  })
})

describe('the screen of a practice phone', () => {
  const hand = (change: Partial<HandPhone> = {}) =>
    ({
      model: 'Orrin 5',
      platform: 'android',
      setup: 'set-up',
      isOn: true,
      isLocked: false,
      isMarked: false,
      question: null,
      contacts: 12,
      persons: 12,
      battery: 50,
      temperature: 25,
      ...change,
    }) as HandPhone
  it('shows what stands before all else: off, a mark, its welcome, its lock, its question, its count', () => {
    const heads = [
      { isOn: false },
      { isMarked: true, markedText: 'NEW' },
      { setup: 'welcome' as const },
      { isLocked: true },
      { question: 'trust' },
      {},
    ].map((change) => screenOf(hand(change)).head)
    expect(heads.slice(0, 2)).toEqual(['', 'NEW'])
    expect(heads.slice(4)).toEqual(['?', '12'])
    expect(screenOf(hand({ isLocked: true, question: 'trust' })).text).not.toBe(screenOf(hand({ question: 'trust' })).text)
    expect(screenOf(hand({ persons: 10 })).text).toContain('10')
  })
  it('has keys where the phone has them, and says that it is warm', () => {
    expect(show(PhoneScreen, { phone: hand({ platform: 'keypad' }) }).wrapper.findAll('.grid-cols-3 span')).toHaveLength(12)
    expect(show(PhoneScreen, { phone: hand({ temperature: 41 }) }).text()).toContain('41°')
    expect(show(PhoneScreen, { phone: hand() }).text()).not.toContain('°')
  })
})
