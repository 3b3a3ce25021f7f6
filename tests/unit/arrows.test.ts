import { ESLint } from 'eslint'
import { describe, expect, it } from 'vitest'

const lint = new ESLint()
const messages = async (filePath: string, code: string) => (await lint.lintText(code, { filePath }))[0]!.messages.map((m) => m.message)

describe('the import arrows', () => {
  it.each([
    ['core/ledger/x.ts', `import '#server/db/sql.ts'`, 'core/ must not import server/'],
    ['core/ledger/x.ts', `import 'node:fs'`, 'core/ must not import the package node:fs'],
    ['core/ledger/x.ts', `import '../../app/words/words.ts'`, 'core/ must not import app/'],
    ['contracts/http/x.ts', `import '#core/ledger/index.ts'`, 'contracts/ must not import core/'],
    ['standins/phones/x.ts', `import '#core/formats/vcard/index.ts'`, 'standins/ must not import core/'],
    ['standins/phones/x.ts', `export * from '../../core/ledger/index.ts'`, 'standins/ must not import core/'],
    ['server/check/x.ts', `import '#standins/faults.ts'`, 'server/ must not import standins/'],
    ['app/stores/x.ts', `await import('#server/db/sql.ts')`, 'app/ must not import server/'],
  ])('%s: %s is refused', async (file, code, expected) => {
    expect(await messages(file, code)).toContain(expected)
  })

  it.each([
    ['server/check/x.ts', `import '#core/ledger/index.ts'`],
    ['standins/phones/x.ts', `import '#contracts/link/index.ts'`],
    ['app/stores/x.ts', `import '#contracts/http/ticket.ts'`],
  ])('%s: %s is allowed', async (file, code) => {
    expect(await messages(file, code)).toEqual([])
  })

  it('only the practice screen knows the hand', async () => {
    expect(await messages('app/stores/x.ts', `fetch('/api/practice/phones')`)).toContain('only the practice screen knows the hand')
  })
})
