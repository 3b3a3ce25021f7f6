import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { findModel } from '../../phones/models.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import { createInstantReader } from '../../text/zone.ts'
import { createNumberReader } from '../contacts/index.ts'
import { calls, type Call } from './index.ts'
import { callTypes } from './model.ts'

const tools = { number: createNumberReader('GB'), hash: () => '', instant: createInstantReader('Europe/London'), nowMs: 0 }
const read = (...lines: string[]) => calls.read(utf8Bytes(['BEGIN:VCARD', ...lines, 'END:VCARD', ''].join('\r\n')), tools)
const item = (...lines: string[]) => {
  const record = read(...lines)
  if (!record.ok) throw new Error(record.code)
  return record.item
}
const orrin = findModel({ maker: 'Orrin', model: 'Orrin 9', platform: 'android' })
const tamsel = findModel({ maker: 'Tamsel', model: 'Tamsel M2', platform: 'android' })
const veyra = findModel({ maker: 'Veyra', model: 'Veyra 12', platform: 'ios' })

describe('a call record (phone book access profile, section 3.1.3)', () => {
  it.each<[string, string[], Partial<Call>]>([
    [
      'the kind as a bare parameter',
      ['VERSION:2.1', 'TEL:07700 900123', 'X-IRMC-CALL-DATETIME;MISSED:20261102T101500'],
      { type: 'missed', atMs: Date.UTC(2026, 10, 2, 10, 15) },
    ],
    ['the kind as TYPE=', ['VERSION:3.0', 'TEL:07700 900123', 'X-IRMC-CALL-DATETIME;TYPE=RECEIVED:20261102T101500Z'], { type: 'in' }],
    ['the kind in lower case', ['TEL:1', 'X-IRMC-CALL-DATETIME;type=dialed:20261102T101500Z'], { type: 'out' }],
    [
      'the time in quoted-printable',
      ['VERSION:2.1', 'TEL:1', 'X-IRMC-CALL-DATETIME;TYPE=DIALED;ENCODING=QUOTED-PRINTABLE:2026=31102T101500Z'],
      { atMs: Date.UTC(2026, 10, 2, 10, 15) },
    ],
    ['local time in summer', ['TEL:1', 'X-IRMC-CALL-DATETIME;RECEIVED:20260702T101500'], { atMs: Date.UTC(2026, 6, 2, 9, 15) }],
    ['a rejected call', ['TEL:1', 'X-IRMC-CALL-DATETIME;MISSED:20260702T101500Z', 'X-CALL-STATE:REJECTED'], { type: 'rejected' }],
    ['a blocked call', ['TEL:1', 'X-IRMC-CALL-DATETIME;MISSED:20260702T101500Z', 'X-CALL-STATE:BLOCKED'], { type: 'blocked' }],
    ['a duration', ['TEL:1', 'X-IRMC-CALL-DATETIME;RECEIVED:20260702T101500Z', 'X-CALL-DURATION:75'], { durationS: 75 }],
    [
      'a duration that is none',
      ['TEL:1', 'X-IRMC-CALL-DATETIME;RECEIVED:20260702T101500Z', 'X-CALL-DURATION:soon'],
      { durationS: undefined },
    ],
    ['a name', ['VERSION:3.0', 'FN:Zoë\\, Ångström', 'TEL:1', 'X-IRMC-CALL-DATETIME;RECEIVED:20260702T101500Z'], { name: 'Zoë, Ångström' }],
  ])('%s', (_, lines, expected) => {
    expect(item(...lines)).toMatchObject(expected)
  })

  it.each(['withheld', 'unknown', 'Private', '-2', 'anonymous', ''])('a number withheld as “%s” is none', (word) => {
    expect(item(`TEL:${word}`, 'X-IRMC-CALL-DATETIME;RECEIVED:20260702T101500Z').number).toBe('')
  })

  it('a call whose phone did not know the time is a call; nobody makes one up, and no phone takes it', () => {
    const call = item('VERSION:2.1', 'TEL:1', 'X-IRMC-CALL-DATETIME;MISSED:')
    expect(call).toMatchObject({ type: 'missed', atMs: null })
    expect(calls.at!(call)).toBeNull()
    expect(calls.change(call, orrin)).toEqual({ cannot: 'no-time' })
    const again = calls.read(calls.openFiles![0]!.write(call, { position: 1, number: tools.number }) as Uint8Array, tools)
    expect(again.ok && again.item.atMs).toBeNull()
  })

  it('several times in one card are several calls, each with its own kind, state and duration', () => {
    const card = (...lines: string[]) => utf8Bytes(['BEGIN:VCARD', 'VERSION:2.1', 'TEL:1', ...lines, 'END:VCARD', ''].join('\r\n'))
    const of = (bytes: Uint8Array) =>
      (calls.several!(bytes) ?? [bytes]).map((one) => {
        const read = calls.read(one, tools)
        if (!read.ok) throw new Error(read.code)
        return [read.item.type, read.item.atMs! / 1000, read.item.durationS]
      })
    const at = Date.UTC(2026, 10, 2, 10, 15) / 1000
    const two = ['X-IRMC-CALL-DATETIME;MISSED:20261102T101500Z', 'X-IRMC-CALL-DATETIME;RECEIVED:20261102T101600Z'] as const
    expect(of(card(...two))).toEqual([
      ['missed', at, undefined],
      ['in', at + 60, undefined],
    ])
    expect(of(card(two[0], 'X-CALL-DURATION:0', two[1], 'X-CALL-DURATION:75'))).toEqual([
      ['missed', at, 0],
      ['in', at + 60, 75],
    ])
    // one duration for two calls is nobody's
    expect(of(card(...two, 'X-CALL-DURATION:75')).map(([, , s]) => s)).toEqual([undefined, undefined])
    expect(calls.several!(card(two[0]))).toBeUndefined()
    // what was cut once, as a locker gives it again, is one call
    const cut = calls.several!(card(...two))!
    expect(cut.map((one) => calls.several!(one))).toEqual([undefined, undefined])
    expect(cut.flatMap(of).map(([type]) => type)).toEqual(['missed', 'in'])
  })

  it.each([
    ['no-call-date', ['TEL:1']],
    ['no-call-date', ['TEL:1', 'X-IRMC-CALL-DATETIME;RECEIVED:yesterday']],
    ['no-call-date', ['TEL:1', 'X-IRMC-CALL-DATETIME;RECEIVED:20261302T101500Z']],
    ['no-call-type', ['TEL:1', 'X-IRMC-CALL-DATETIME:20260702T101500Z']],
    ['no-call-type', ['TEL:1', 'X-IRMC-CALL-DATETIME;TYPE=CELL:20260702T101500Z']],
  ])('%s is one unreadable item', (code, lines) => {
    expect(read(...lines)).toEqual({ ok: false, code })
  })
})

describe('what a call says', () => {
  const same = (a: Call, b: Call) => JSON.stringify(calls.atoms(a, tools)) === JSON.stringify(calls.atoms(b, tools))
  const call = { number: '07700 900123', name: 'A', type: 'in' as const, atMs: 1_700_000_000_000, durationS: 60 } satisfies Call
  it('is the number in any spelling, the second, the kind and the duration; never the name beside it', () => {
    expect(same(call, { ...call, number: '+44 7700 900123', name: 'B', atMs: call.atMs + 999 })).toBe(true)
    for (const change of [
      { number: '07700 900124' },
      { number: '' },
      { type: 'out' as const },
      { atMs: call.atMs + 1000 },
      { durationS: 61 },
      { durationS: undefined },
    ])
      expect(same(call, { ...call, ...change })).toBe(false)
  })
})

describe('what a phone makes of a call', () => {
  const call: Call = { number: '1', name: '', type: 'rejected', atMs: 0, durationS: 30 }
  it.each([
    ['Orrin keeps all', orrin, []],
    ['Tamsel has no word for it and no durations', tamsel, ['duration-dropped', 'rejected-as-missed']],
  ])('%s', (_, model, expected) => {
    const changed = calls.change(call, model)
    expect('cannot' in changed ? changed.cannot : changed.changes.map((c) => c.code)).toEqual(expected)
  })
  it('no platform but Android lets a log be written', () => {
    expect(calls.change(call, veyra)).toEqual({ cannot: 'platform-takes-no-calls' })
    expect(calls.capacity!(orrin)).toBe(500)
    expect(calls.capacity!(veyra)).toBeUndefined()
  })

  const anyCall = fc.record({
    number: fc.constantFrom('', '07700 900123', '+15550100', '112', '*#06#'),
    name: fc.string({ maxLength: 20 }).map((s) => s.replace(/[\r\n]/g, '')),
    type: fc.constantFrom(...callTypes),
    atMs: fc.integer({ min: 0, max: 2_000_000_000 }).map((s) => s * 1000),
    durationS: fc.option(fc.integer({ min: 0, max: 100_000 }), { nil: undefined }),
  })
  it.each([orrin, tamsel])('$model: what is written is read back as it was, and changes no more', (model) => {
    fc.assert(
      fc.property(anyCall, (original) => {
        const changed = calls.change(original, model)
        if ('cannot' in changed) throw new Error(changed.cannot)
        expect(calls.change(changed.item, model)).toEqual({ item: changed.item, changes: [] })
        const back = calls.read(calls.write(changed.item, model), tools)
        if (!back.ok) throw new Error(back.code)
        expect(calls.atoms(back.item, tools)).toEqual(calls.atoms(changed.item, tools))
      }),
      { seed: 4, numRuns: 400 },
    )
  })
  it('national numbers are written with their country where the regions differ', () => {
    const bytes = calls.write({ ...call, number: '07700 900123', type: 'in' }, orrin, tools.number)
    expect(Buffer.from(bytes).toString()).toContain('TEL:+447700900123')
  })
})
