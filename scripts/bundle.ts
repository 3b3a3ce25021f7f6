import { existsSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { stampOf } from './build.ts'

const sources = ['core', 'contracts', 'server', 'standins', 'package-lock.json', 'package.json']
const folder = '.corvend/run'
/** What processes that may still run were started from is left. */
const oldMs = 60 * 86_400_000

/** What runs in a process or a thread of its own, beside the web server. */
const programs = [
  'server/worker/main.ts',
  'standins/main.ts',
  'server/line/moving/convert-child.ts',
  'server/endpoints/sort-upload.ts',
  'server/vault/lockers/argon.ts',
] as const
export type Program = (typeof programs)[number]

/**
 * The folder of our programs, each of one file in place of some hundreds, so that it is there in a third of the time.
 * Made anew when the sources changed; whoever asks at the same time gets the same. What starts processes of the product
 * tells them where it is: `CORVEND_PROGRAMS`.
 */
export async function programsFolder(): Promise<string> {
  const made = join(folder, stampOf(sources).slice(0, 16))
  if (!existsSync(made)) await makeInto(made)
  return made
}

/** The arguments of Node.js that start a program. */
export async function startOf(program: Program): Promise<readonly string[]> {
  return [join(await programsFolder(), program.replace(/\.ts$/, '.mjs'))]
}

async function makeInto(made: string): Promise<void> {
  const { build } = await import('esbuild')
  const half = `${made}.${process.pid}`
  await build({
    entryPoints: [...programs],
    outbase: '.',
    outdir: half,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  })
  try {
    // there at once or not at all
    renameSync(half, made)
  } catch {
    rmSync(half, { recursive: true, force: true })
  }
  for (const name of readdirSync(folder)) {
    const path = join(folder, name)
    if (path !== made && Date.now() - statSync(path).mtimeMs > oldMs) rmSync(path, { recursive: true, force: true })
  }
}
