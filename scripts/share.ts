import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'

/** How much of the code is tests: lines of TypeScript and Vue, blank ones left out. */
export function shareOfTests(): { testLines: number; allLines: number; share: number } {
  const files = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', '*.ts', '*.vue'], { encoding: 'utf8' })
    .split('\n')
    .filter(Boolean)
  let testLines = 0
  let allLines = 0
  for (const file of files) {
    const lines = readFileSync(file, 'utf8')
      .split('\n')
      .filter((line) => line.trim() !== '').length
    allLines += lines
    if (/^(tests|drill)\//.test(file) || file.endsWith('.test.ts')) testLines += lines
  }
  return { testLines, allLines, share: testLines / allLines }
}
