import { describe, expect, it } from 'vitest'
import { entryFilter } from '#contracts/http/ledger.ts'
import { waiveReasons } from '#contracts/http/ready.ts'
import { kinds } from '#core/kinds/registry.ts'
import { itemsOf, limitLine, openNeedsLine, touchLine } from './say.ts'
import { words } from './words.ts'

/** Words that mean something else in this trade, or shout. */
const avoided = /\b(stock|barred|reshaped|profile|source|destination)\b|!/i

function every(value: unknown, path: string, found: [string, string][]): void {
  if (typeof value === 'string') found.push([path, value])
  else if (value && typeof value === 'object') for (const [key, inner] of Object.entries(value)) every(inner, `${path}.${key}`, found)
}

describe('the words on the screens', () => {
  const all: [string, string][] = []
  every(words, 'words', all)
  it('avoid what means something else in this trade, and don’t shout', () => {
    expect(all.filter(([, text]) => avoided.test(text))).toEqual([])
  })
  it('are there for every count that opens, every kind, every reason to waive', () => {
    for (const filter of entryFilter.options) expect([filter, words.filters[filter]]).toEqual([filter, expect.any(String)])
    for (const { code } of kinds)
      for (const list of [words.kinds, words.one, words.many, words.facets]) expect([code, list[code]]).toEqual([code, expect.anything()])
    for (const reason of waiveReasons) expect([reason, words.waiveReasons[reason]]).toEqual([reason, expect.any(String)])
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
