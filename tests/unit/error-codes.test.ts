import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { errors } from '#contracts/errors.ts'

it('every code of the table is met by a test', () => {
  const files = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', '*.test.ts'], { encoding: 'utf8' }).trim()
  const texts = files
    .split('\n')
    .filter((file) => !file.endsWith('error-codes.test.ts'))
    .map((file) => readFileSync(file, 'utf8'))
  expect(Object.keys(errors).filter((code) => !texts.some((text) => text.includes(`'${code}'`)))).toEqual([])
})
