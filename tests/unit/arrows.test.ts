import { existsSync, readFileSync } from 'node:fs'
import { ESLint } from 'eslint'
import { describe, expect, it } from 'vitest'
import { importsOf, readGraph } from '../../scripts/import-graph.js'

const lint = new ESLint()
const messages = async (filePath: string, code: string) => (await lint.lintText(code, { filePath }))[0]!.messages.map((m) => m.message)

describe('the import arrows', () => {
  it.each([
    ['core/book/x.ts', `import '#server/base/db/sql.ts'`, 'core/ must not import server/'],
    ['core/book/x.ts', `import 'node:fs'`, 'core/ must not import the package node:fs'],
    ['core/book/x.ts', `import '../../app/words/words.ts'`, 'core/ must not import app/'],
    ['contracts/http/x.ts', `import '#server/base/problem.ts'`, 'contracts/ must not import server/'],
    ['standins/phones/x.ts', `import '#core/formats/vcard/index.ts'`, 'standins/ must not import core/'],
    ['standins/phones/x.ts', `export * from '../../core/book/index.ts'`, 'standins/ must not import core/'],
    ['server/line/x.ts', `import '#standins/faults.ts'`, 'server/ must not import standins/'],
    ['app/stores/x.ts', `await import('#server/base/db/sql.ts')`, 'app/ must not import server/'],
  ])('%s: %s is refused', async (file, code, expected) => {
    expect(await messages(file, code)).toContain(expected)
  })

  it.each([
    ['server/line/x.ts', `import '#core/book/index.ts'`],
    ['standins/phones/x.ts', `import '#contracts/link/index.ts'`],
    ['app/stores/x.ts', `import '#contracts/http/ticket.ts'`],
  ])('%s: %s is allowed', async (file, code) => {
    expect(await messages(file, code)).toEqual([])
  })

  it.each([
    ['server/base/x.ts', `import '../vault/keys.ts'`, 'server/base/ must not import server/vault/, which stands above it'],
    [
      'server/book/x.ts',
      `import type { RunTicket } from '#server/line/executor.ts'`,
      'server/book/ must not import server/line/, which stands above it',
    ],
    ['server/case/x.ts', `export * from '../book/ledger.ts'`, 'server/case/ must not import server/book/, which stands above it'],
    ['server/desk/x.ts', `import '../worker/main.ts'`, 'server/desk/ must not import server/worker/, which stands on top'],
    [
      'server/carry/x.ts',
      `import '../base/config.ts'`,
      'server/carry/ is no storey: base, vault, case, endpoints, ready, runs, book, line, desk, events, api',
    ],
  ])('%s: %s is refused between storeys, types included', async (file, code, expected) => {
    expect(await messages(file, code)).toContain(expected)
  })

  it.each([
    ['server/line/x.ts', `import '../book/ledger.ts'`],
    ['server/line/steps/x.ts', `import '../executor.ts'`],
    ['server/worker/x.ts', `import '../line/executor.ts'`],
  ])('%s: %s is allowed between storeys', async (file, code) => {
    expect(await messages(file, code)).toEqual([])
  })

  it('files that import each other in a circle are refused, anywhere', async () => {
    const circle = 'files import each other in a circle: core/book/pair.ts, core/book/terms.ts'
    expect(await messages('core/book/terms.ts', `import type { PairItem } from './pair.ts'`)).toContain(circle)
    expect(await messages('standins/phones/phone.ts', `import './store.ts'`)).toEqual(
      expect.arrayContaining([expect.stringContaining('standins/phones/phone.ts, standins/phones/phones.queries.ts')]),
    )
  })

  it('statements stand in query files, and one of them alone changes a fate', async () => {
    const text = "await client.query('select 1')"
    expect(await messages('server/desk/x.ts', text)).toContain('statements belong in a *.queries.ts')
    expect(await messages('server/desk/x.ts', 'many(client, `select id from ticket where id = $1`)')).toContain(
      'statements belong in a *.queries.ts',
    )
    expect(await messages('standins/phones/x.ts', text)).toContain('statements belong in a *.queries.ts')
    expect(await messages('server/case/x.queries.ts', text)).toEqual([])
    const moves = "change(client, `update entry e set reasons = '{}', fate = 'gone' where seq = 1`)"
    expect(await messages('server/book/x.queries.ts', moves)).toContain('only server/book/settle changes a fate')
    expect(await messages('server/book/x.queries.ts', "change(client, `update entry set joins = true where fate = 'gone'`)")).toEqual([])
  })

  it('only the practice screen knows the hand', async () => {
    expect(await messages('app/stores/x.ts', `fetch('/api/practice/phones')`)).toContain('only the practice screen knows the hand')
  })
})

describe('what a page loads', () => {
  /** Everything a browser reads before the first row: what workers read is theirs alone. */
  function loaded(): Map<string, string> {
    const from = new Map<string, string>()
    const files = [...readGraph('.').keys()].filter((file) => file.startsWith('app/') && !file.startsWith('app/workers/'))
    for (const file of files) from.set(file, '')
    for (const file of files) {
      if (!existsSync(file)) continue
      const text = readFileSync(file, 'utf8').replace(/^(import|export) type [^']*'[^'\n]+'/gm, '')
      for (const target of importsOf(file, text)) {
        if (from.has(target) || target.startsWith('app/workers/')) continue
        from.set(target, file)
        files.push(target)
      }
    }
    return from
  }

  it('is no reader of records: the kinds’ faces say what a page must know of them', () => {
    const from = loaded()
    expect(from.has('core/kinds/faces.ts')).toBe(true)
    const readers = [...from].filter(([file]) => file === 'core/kinds/registry.ts' || file.startsWith('core/formats/'))
    expect(readers).toEqual([])
  })

  it('is no contract: an address and a type of it are all that a page knows', () => {
    const contracts = [...loaded().keys()].filter(
      (file) => existsSync(file) && /^import (?!type )[^']*'zod'/m.test(readFileSync(file, 'utf8')),
    )
    expect(contracts).toEqual([])
  })
})
