import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { kinds } from '#core/kinds/registry.ts'
import { words } from '../../app/words/words.ts'

const filesOf = (...folders: string[]) =>
  execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', ...folders], { encoding: 'utf8' })
    .split('\n')
    .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
const found = (folders: string[], pattern: RegExp) =>
  [...new Set(filesOf(...folders).flatMap((file) => [...readFileSync(file, 'utf8').matchAll(pattern)].map((match) => match[1]!)))].sort()
const without = (codes: readonly string[]) => codes.filter((code) => typeof words.reasons[code] !== 'string')

describe('every reason an item can have has its sentence', () => {
  it.each(kinds.map((kind) => [kind.code, kind] as const))('%s: changes, rules and what can’t be read, of one declared list', (_, kind) => {
    expect(without([...Object.keys(kind.changes), ...kind.rules, ...kind.failures])).toEqual([])
  })

  it('what was guessed when it was read has a sentence, too', () => {
    expect(kinds.flatMap((kind) => kind.issues).filter((code) => typeof words.issues[code] !== 'string')).toEqual([])
  })

  it('no rule and no read failure is given that is not declared', () => {
    const declared = (list: 'rules' | 'failures') => new Set(kinds.flatMap((kind) => [...kind[list]]))
    expect(found(['core/kinds', 'core/phones'], /\bcannot: '([a-z-]+)'/g).filter((code) => !declared('rules').has(code))).toEqual([])
    expect(found(['core/kinds'], /ok: false, code: '([a-z-]+)'/g).filter((code) => !declared('failures').has(code))).toEqual([])
  })

  it('what a phone refuses with, and what the line gives up for', () => {
    const refused = [
      ...found(['standins'], /refused: '([a-z-]+)'/g),
      ...found(['standins/phones/records.ts'], /(?:\?|return) '([a-z]+(?:-[a-z]+)+)'/g),
    ]
    expect(without(refused)).toEqual([])
    expect(without(found(['server/line', 'server/book'], /(?:reason|unreadable): '([a-z-]+)'/g).filter(Boolean))).toEqual([])
  })
})
