import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { relative } from 'node:path'
import { stripVTControlCharacters } from 'node:util'
import { startPostgres, type LocalServer } from './postgres.ts'
import { shareOfTests } from './share.ts'

interface Result {
  readonly passed: number
  readonly failed: number
  /** What failed, with the first lines of why; said again at the end, where it is looked for. */
  readonly failures?: readonly string[]
}

interface Part {
  readonly name: string
  /** Run at the same time where everything is run, one after the other. */
  readonly beside?: readonly Part[]
  readonly run: () => Result | Promise<Result>
}

/** A command that passes or fails as one. */
function check(name: string, args: readonly string[], env: Record<string, string> = {}): Part {
  return {
    name,
    async run() {
      const child = spawn(process.execPath, [...args], { stdio: ['ignore', 'pipe', 'pipe'], env: { ...process.env, ...env } })
      const said: Buffer[] = []
      for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => said.push(chunk))
      const status = await running(child)
      // shown in one piece: another check may run beside it
      process.stdout.write(Buffer.concat(said))
      return status === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1, failures: [name] }
    },
  }
}

/** A Vitest project, or of it the files and tests a word names; its tests are counted from its own report. */
function tests(name: string, named?: string, { isBeside = false, env = {} }: { isBeside?: boolean; env?: NodeJS.ProcessEnv } = {}): Part {
  return {
    name,
    async run() {
      const said: Buffer[] = []
      const report = `.corvend/report-${name}.json`
      rmSync(report, { force: true })
      const child = spawn(
        process.execPath,
        [
          'node_modules/vitest/vitest.mjs',
          'run',
          '--project',
          // with what must run apart from its other files
          `${name}*`,
          ...chosen(named),
          '--reporter=default',
          '--reporter=json',
          `--outputFile.json=${report}`,
        ],
        { stdio: isBeside ? ['ignore', 'pipe', 'pipe'] : 'inherit', env: { ...process.env, CI: '1', ...env } },
      )
      for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk: Buffer) => said.push(chunk))
      const status = await running(child)
      // shown in one piece: another part runs beside it
      process.stdout.write(Buffer.concat(said))
      try {
        const all = JSON.parse(readFileSync(report, 'utf8')) as Report
        const failed = all.numFailedTests > 0 ? all.numFailedTests : all.numFailedTestSuites > 0 || status !== 0 ? 1 : 0
        return { passed: all.numPassedTests, failed, failures: failuresOf(name, all) }
      } catch {
        return { passed: 0, failed: 1, failures: [`${name}: no report was written`] }
      }
    },
  }
}

/** Of Vitest's own report what is read here. */
interface Report {
  readonly numPassedTests: number
  readonly numFailedTests: number
  readonly numFailedTestSuites: number
  readonly testResults: readonly {
    readonly name: string
    readonly status: string
    readonly message: string
    readonly assertionResults: readonly {
      readonly status: string
      readonly fullName: string
      readonly failureMessages: readonly string[]
    }[]
  }[]
}

/** Tests that failed, and files that did before their first test. */
function failuresOf(part: string, { testResults }: Report): string[] {
  return testResults.flatMap(({ name, status, message, assertionResults }) => {
    const file = relative(process.cwd(), name)
    const failed = assertionResults.filter((test) => test.status === 'failed')
    if (failed.length === 0) return status === 'failed' ? [`${part}: ${file}\n${firstLines(message)}`] : []
    return failed.map(({ fullName, failureMessages }) => `${part}: ${file}: ${fullName}\n${firstLines(failureMessages.join('\n'))}`)
  })
}

function firstLines(text: string): string {
  return stripVTControlCharacters(text)
    .split('\n')
    .slice(0, 20)
    .map((line) => `      ${line}`)
    .join('\n')
}

/** Waits for a process to end; who interrupts us interrupts it. */
async function running(child: ChildProcess): Promise<number | null> {
  const pass = (signal: NodeJS.Signals) => void child.kill(signal)
  process.on('SIGINT', pass)
  process.on('SIGTERM', pass)
  const status = await new Promise<number | null>((resolve) => child.on('close', resolve))
  process.off('SIGINT', pass)
  process.off('SIGTERM', pass)
  return status
}

/** A word that is in the name of a test file chooses that file; any other is looked for in the names of the tests. */
function chosen(named: string | undefined): string[] {
  if (named === undefined) return []
  const files = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', '*.test.ts'], { encoding: 'utf8' })
  return files.split('\n').some((file) => file.includes(named)) ? [named] : ['--testNamePattern', named]
}

const partNames = ['lint', 'types', 'unit', 'integration', 'killed', 'drill', 'attack', 'e2e'] as const

/**
 * Runs all parts, or one, or of one part the files or tests a word names; ends with the counts.
 * @throws Error for a part that is none
 */
export async function runTests([only, named]: readonly string[]): Promise<void> {
  if (only !== undefined && !(partNames as readonly string[]).includes(only))
    throw new Error(`There is no part ${only}. The parts are: ${partNames.join(', ')}.`)
  const nuxt = 'node_modules/nuxt/bin/nuxt.mjs'
  const lint = check('lint', ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'])
  const format = check('format', ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'])
  const prepare = check('prepare', [nuxt, 'prepare'], { NUXT_TELEMETRY_DISABLED: '1' })
  const types = check('types', ['node_modules/vue-tsc/bin/vue-tsc.js', '--noEmit', '-p', 'tsconfig.check.json'])
  // as it was given to us: none that the other parts share
  const own = { DATABASE_URL: process.env.DATABASE_URL }
  const parts: Part[] = [
    {
      name: 'lint, types',
      run: () => sideBySide({ name: 'lint', run: () => both(format, lint) }, { name: 'types', run: () => both(prepare, types) }),
    },
    tests('unit', named),
    tests('integration', named),
    // what has to be built first, and beside it courses against the clock; then what restarts a server of its own
    {
      ...tests('attack', named),
      beside: [tests('drill', named, { isBeside: true }), tests('killed', named, { isBeside: true, env: own })],
    },
    tests('e2e', named),
  ]
  const chosenParts = parts
    .flatMap((part) => (only !== undefined && part.beside?.some(({ name }) => name === only) ? [tests(only, named)] : [part]))
    .filter(({ name }) => only === undefined || name.split(', ').includes(only))
  let passed = 0
  let failed = 0
  const times: string[] = []
  const failures: string[] = []
  const runOne = async (part: Part) => {
    const began = Date.now()
    const result = await part.run()
    passed += result.passed
    failed += result.failed
    failures.push(...(result.failures ?? []))
    const seconds = ((Date.now() - began) / 1000).toFixed(1)
    times.push(`  ${part.name.padEnd(12)} ${seconds.padStart(6)} s  ${result.passed} passed, ${result.failed} failed`)
  }
  let server: LocalServer | undefined
  for (const part of chosenParts) {
    const beside = only === undefined ? (part.beside ?? []) : []
    // all share a server, but for who restarts one
    if (only === undefined && part.name === 'integration' && !process.env.DATABASE_URL) {
      server = await startPostgres('.corvend/suite-postgres', { fast: true, endsWithUs: true })
      process.env.DATABASE_URL = server.adminUrl
    }
    console.log(`\n== ${[part.name, beside.map(({ name }) => name).join(', then ')].filter(Boolean).join(' beside ')}`)
    await Promise.all([
      runOne(part),
      (async () => {
        for (const each of beside) await runOne(each)
      })(),
    ])
  }
  server?.stop()
  if (failures.length > 0) console.log('\nWhat failed')
  for (const failure of failures) console.log(`  ${failure}`)
  console.log('\nTime per part')
  for (const line of times) console.log(line)
  const share = shareOfTests()
  console.log(`Test code: ${share.testLines} of ${share.allLines} lines (${Math.round(share.share * 100)}%)`)
  console.log(`${passed} passed, ${failed} failed`)
  if (failed > 0 || passed === 0) process.exitCode = 1
}

async function both(first: Part, second: Part): Promise<Result> {
  const prepared = await first.run()
  return prepared.failed > 0 ? prepared : second.run()
}

/** Two checks at once, one on each core. */
async function sideBySide(first: Part, second: Part): Promise<Result> {
  const [a, b] = await Promise.all([first.run(), second.run()])
  return { passed: a.passed + b.passed, failed: a.failed + b.failed, failures: [...(a.failures ?? []), ...(b.failures ?? [])] }
}
