import { describe, expect, it } from 'vitest'
import { errors } from '#contracts/errors.ts'
import { entryFilters } from '#contracts/http/sets.ts'
import { waiveReasons } from '#contracts/http/sets.ts'
import { kinds } from '#core/kinds/registry.ts'
import { packs } from '../kinds/registry.ts'
import { faultPoints } from '../../standins/faults.ts'
import { fingerActs } from '../../standins/phones/fingers.ts'
import { faultPlaces, faultWords, fingerWords, switchWords } from './practice.ts'
import { itemsOf, limitLine, openNeedsLine, touchLine } from './say.ts'
import { words } from './words.ts'

/** Words that mean something else in this trade, or shout. */
const avoided = /\b(stock|barred|reshaped|profile|source|destination)\b|!/i

/** Every module of the words: what a screen says stands in one of them. */
const rooms = import.meta.glob<Record<string, unknown>>(['./*.ts', '!./*.test.ts', '!./say.ts', '!./standing.ts', '!./sheet-lines.ts'], {
  eager: true,
})
/** Parts of a sentence that takes any: a name, a figure and a list at once. */
const anything: object = Object.assign(Object.create({ toString: () => '2' }) as object, {
  waits: 70,
  there: 12,
  byHand: 18,
  short: 1,
  over: 2,
})

function every(value: unknown, path: string, found: [string, string][]): void {
  if (typeof value === 'string') found.push([path, value])
  else if (typeof value === 'function' && path.split('.').length > 2) found.push([path, String(said(value))])
  else if (value && typeof value === 'object') for (const [key, inner] of Object.entries(value)) every(inner, `${path}.${key}`, found)
}

const said = (sentence: unknown): unknown => (sentence as (...parts: unknown[]) => unknown)(...Array<unknown>(6).fill(anything))

describe('the words on the screens', () => {
  const all: [string, string][] = []
  for (const [file, room] of Object.entries(rooms)) every(room, file.slice(2, -3), all)
  for (const [code, { sentence }] of Object.entries(errors)) every(sentence, `errors.${code}`, all)
  it('are all here', () => {
    expect(all.length).toBeGreaterThan(1_200)
    expect(all.filter(([, text]) => /undefined|NaN|\[object/.test(text))).toEqual([])
  })
  it('avoid what means something else in this trade, and don’t shout', () => {
    expect(all.filter(([, text]) => avoided.test(text))).toEqual([])
  })
  it('are there for every count that opens, every kind, every reason to waive', () => {
    for (const filter of entryFilters) expect([filter, words.filters[filter]]).toEqual([filter, expect.any(String)])
    for (const { code } of kinds)
      for (const list of [words.kinds, words.one, words.many, words.facets]) expect([code, list[code]]).toEqual([code, expect.anything()])
    for (const reason of waiveReasons) expect([reason, words.waiveReasons[reason]]).toEqual([reason, expect.any(String)])
  })
  it('call a shape the same, whichever kind it is of: they stand in one list', () => {
    const said = packs.flatMap(({ words: { shapes } }) =>
      Object.entries(shapes).map(([name, [one, many]]) => [name, `${one}, ${many}`] as const),
    )
    const twice = said.filter(([name, text]) => said.some(([other, its]) => other === name && its !== text))
    expect(twice).toEqual([])
  })
  it('are there for all that fingers do on a practice phone, and every fault it can have', () => {
    for (const act of Object.keys(fingerActs)) expect([act, fingerWords[act]]).toEqual([act, expect.any(String)])
    for (const { point, effects } of faultPoints)
      for (const said of [faultPlaces[point], ...effects.map((effect) => faultWords[effect])])
        expect([point, said]).toEqual([point, expect.any(String)])
    const switches = Object.values(fingerActs).flatMap(({ sets = {}, after = [] }) => [...Object.keys(sets), ...after])
    for (const name of switches) expect([name, switchWords[name]]).toEqual([name, expect.any(String)])
  })
})

describe('saying counts', () => {
  it('what can be seen to now stands apart from what only shows then', () => {
    expect(openNeedsLine({ now: 3, later: 14 })).toBe('3 to see to, 14 after that')
    expect(openNeedsLine({ now: 2, later: 0 })).toBe('2 to see to')
  })
  it.each([
    [itemsOf([{ kind: 'contacts', n: 39 }]), '39 contacts'],
    [
      itemsOf([
        { kind: 'contacts', n: 39 },
        { kind: 'calls', n: 0 },
      ]),
      '39 contacts',
    ],
    [
      itemsOf([
        { kind: 'contacts', n: 1000 },
        { kind: 'calls', n: 318 },
      ]),
      '1,318 items',
    ],
    [itemsOf([{ kind: 'calls', n: 1 }]), '1 call'],
    [itemsOf([]), '0 items'],
    [limitLine('newest', 500), 'only the newest 500'],
    [limitLine('nameChars', 22), 'names of 22 characters'],
    [touchLine('unlock'), 'unlock'],
    [touchLine('Charge it'), 'Charge it'],
  ])('%s', (said, expected) => {
    expect(said).toBe(expected)
  })
})
