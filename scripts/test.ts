import { spawnSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { shareOfTests } from './share.ts'

interface Part {
  readonly name: string
  readonly run: () => { passed: number; failed: number }
}

/** A command that passes or fails as one. */
function check(name: string, args: readonly string[], env: Record<string, string> = {}): Part {
  return {
    name,
    run() {
      const { status } = spawnSync(process.execPath, [...args], { stdio: 'inherit', env: { ...process.env, ...env } })
      return { passed: status === 0 ? 1 : 0, failed: status === 0 ? 0 : 1 }
    },
  }
}

/** A Vitest project; its tests are counted from its own report. */
function tests(name: string): Part {
  return {
    name,
    run() {
      const report = `.corvend/report-${name}.json`
      rmSync(report, { force: true })
      const { status } = spawnSync(
        process.execPath,
        ['node_modules/vitest/vitest.mjs', 'run', '--project', name, '--reporter=default', '--reporter=json', `--outputFile.json=${report}`],
        { stdio: 'inherit', env: { ...process.env, CI: '1' } },
      )
      try {
        const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(report, 'utf8'))
        const failed = numFailedTests > 0 ? numFailedTests : numFailedTestSuites > 0 || status !== 0 ? 1 : 0
        return { passed: numPassedTests, failed }
      } catch {
        return { passed: 0, failed: 1 }
      }
    },
  }
}

/** Runs all parts, or those named, and ends with the counts. */
export async function runTests(only: readonly string[]): Promise<void> {
  const nuxt = 'node_modules/nuxt/bin/nuxt.mjs'
  const parts: Part[] = [
    check('lint', ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']),
    { name: 'types', run: () => both(check('prepare', [nuxt, 'prepare'], { NUXT_TELEMETRY_DISABLED: '1' }), check('types', ['node_modules/vue-tsc/bin/vue-tsc.js', '--noEmit', '-p', 'tsconfig.check.json'])) },
    tests('unit'),
    tests('integration'),
    tests('killed'),
    tests('e2e'),
  ]
  let passed = 0
  let failed = 0
  const times: string[] = []
  for (const part of parts.filter(({ name }) => only.length === 0 || only.includes(name))) {
    const began = Date.now()
    console.log(`\n== ${part.name}`)
    const result = part.run()
    passed += result.passed
    failed += result.failed
    times.push(`  ${part.name.padEnd(12)} ${((Date.now() - began) / 1000).toFixed(1).padStart(6)} s  ${result.passed} passed, ${result.failed} failed`)
  }
  console.log('\nTime per part')
  for (const line of times) console.log(line)
  const share = shareOfTests()
  console.log(`Test code: ${share.testLines} of ${share.allLines} lines (${Math.round(share.share * 100)}%)`)
  console.log(`${passed} passed, ${failed} failed`)
  if (failed > 0 || passed === 0) process.exitCode = 1
}

function both(first: Part, second: Part): { passed: number; failed: number } {
  const prepared = first.run()
  return prepared.failed > 0 ? prepared : second.run()
}
