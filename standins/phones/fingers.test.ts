import { describe, expect, it } from 'vitest'
import { canAsk, fingerActs, isVisible, preparedSwitches, questionOf, reportOf } from './fingers.ts'
import type { PhoneRow } from './phone.ts'

type Platform = 'android' | 'ios' | 'keypad'
const since = new Date(1_000_000)
const phone = (platform: Platform, change: Partial<PhoneRow> = {}): PhoneRow => ({
  serial: 'S',
  model: 'M',
  version: '15',
  region: 'GB',
  port: 3,
  is_locked: false,
  trust: 'trusted',
  asked_since: since,
  allows: ['contacts', 'messages', 'calls', 'calendar', 'photos'],
  battery: 80,
  is_charging: true,
  total_bytes: 64e9,
  free_bytes: 20e9,
  temperature: 27,
  settle_ms: 100,
  drops_when_full: false,
  joins_equal: false,
  marked_until: null,
  marked_text: '',
  setup: 'set-up',
  is_on: true,
  cable: 'data',
  is_asleep: false,
  falls_back: false,
  trust_once: false,
  switches: preparedSwitches(platform),
  build_taps: 0,
  wants: null,
  wants_since: null,
  prompt_ms: 60_000,
  locks_after_ms: null,
  touched_at: since,
  is_live: false,
  position: 0,
  heat_per_write: 0,
  sync_left: 0,
  has_work_area: false,
  kind_revisions: {},
  revision: 1,
  next_id: 1,
  ...change,
})

describe('what the link sees of a phone', () => {
  it.each<[string, Platform, Partial<PhoneRow>, boolean]>([
    ['prepared', 'android', {}, true],
    ['in no port', 'android', { port: null }, false],
    ['off', 'ios', { is_on: false }, false],
    ['on a cable that only charges', 'ios', { cable: 'charge-only' }, false],
    ['on a slow cable', 'ios', { cable: 'slow' }, true],
    ['on a port that fell asleep', 'android', { is_asleep: true }, false],
    ['at “charging only”', 'android', { switches: { 'cable-files': false } }, false],
    ['locked', 'android', { is_locked: true }, true],
    ['at its welcome screen', 'ios', { setup: 'welcome' }, true],
    ['without Bluetooth', 'keypad', { switches: {} }, false],
    ['with Bluetooth, whatever its cable does', 'keypad', { cable: 'charge-only' }, true],
  ])('%s (%s): %o', (_, platform, change, seen) => {
    expect(isVisible(phone(platform, change), platform)).toBe(seen)
  })

  it('an Android phone asks about the computer only with debugging on', () => {
    expect(canAsk(phone('android'), 'android')).toBe(true)
    expect(canAsk(phone('android', { switches: { ...preparedSwitches('android'), debugging: false } }), 'android')).toBe(false)
    expect(canAsk(phone('ios', { switches: {} }), 'ios')).toBe(true)
    expect(canAsk(phone('ios', { setup: 'welcome' }), 'ios')).toBe(false)
  })
})

describe('the question on its screen', () => {
  const wants = (kinds: string[], writes: boolean) => ({ wants: { kinds, writes }, wants_since: since })
  it.each<[string, Platform, Partial<PhoneRow>, string | null]>([
    ['a locked phone asks to be unlocked first', 'android', { is_locked: true, trust: 'asked' }, 'unlock'],
    ['then about the computer', 'ios', { trust: 'asked' }, 'trust'],
    ['a refused question shows no more', 'ios', { trust: 'refused' }, null],
    ['nothing is asked that nobody wants', 'android', { allows: [] }, null],
    [
      'the helper comes before permissions',
      'android',
      { ...wants(['contacts'], false), allows: [], switches: { ...preparedSwitches('android'), helper: false } },
      'install-helper',
    ],
    ['one permission at a time', 'android', { ...wants(['contacts', 'calls'], false), allows: ['contacts'] }, 'allow-calls'],
    ['only of wanted kinds', 'android', { ...wants(['contacts'], false), allows: ['contacts'] }, null],
    ['the message app role, where messages are written', 'android', wants(['messages'], true), 'message-app-helper'],
    ['not where they are read', 'android', wants(['messages'], false), null],
    ['encrypted reading for calls of an old iOS phone', 'ios', wants(['calls'], false), 'encrypted-reading-on'],
    ['not on the new one', 'ios', wants(['calls'], true), null],
    ['a phone that is off asks nothing', 'ios', { is_on: false, trust: 'asked' }, null],
  ])('%s', (_, platform, change, question) => {
    expect(questionOf(phone(platform, change), platform)?.question ?? null).toBe(question)
  })

  it('every question is an act that answers it', () => {
    for (const act of ['install-helper', 'allow-contacts', 'message-app-helper', 'encrypted-reading-on'])
      expect(Object.keys(fingerActs)).toContain(act)
  })
})

describe('what a phone reports', () => {
  const needs = (platform: Platform, change: Partial<PhoneRow> = {}) => reportOf(phone(platform, change), platform).map(({ need }) => need)
  it('nothing while it is not seen, little before it is trusted, all then', () => {
    expect(needs('android', { is_on: false })).toEqual([])
    expect(needs('android', { trust: 'asked' })).toEqual(['set-up', 'unlocked', 'trusted', 'cable-files', 'debugging'])
    expect(needs('android')).toEqual(expect.arrayContaining(['helper', 'allow:contacts', 'message-app', 'accounts-still']))
    expect(needs('ios')).toEqual(expect.arrayContaining(['anti-theft-off', 'passcode-off', 'encrypted-reading', 'allow:calendar']))
    expect(needs('keypad')).toEqual(['set-up', 'unlocked', 'trusted'])
  })
  it('never what only a person can see', () => {
    for (const platform of ['android', 'ios'] as const)
      for (const need of ['screen-stays-on', 'chat-off', 'second-step']) expect(needs(platform)).not.toContain(need)
  })
  it('a phone at its welcome screen is not unlocked, whatever its lock says', () => {
    expect(reportOf(phone('ios', { setup: 'welcome' }), 'ios').find(({ need }) => need === 'unlocked')?.isMet).toBe(false)
  })
})
