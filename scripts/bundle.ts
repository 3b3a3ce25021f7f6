import { existsSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { stampOf } from './build.ts'

const sources = ['core', 'contracts', 'server', 'standins', 'package-lock.json', 'package.json']
const folder = '.corvend/run'
/** What processes that may still run were started from is left. */
const oldMs = 7 * 86_400_000

/** The processes beside the web server, by their sources. */
const programs = { 'server/worker/main.ts': 'worker', 'standins/main.ts': 'standins' } as const
export type Program = keyof typeof programs

/**
 * The arguments of Node.js that start a program: of one file in place of some hundreds, so that it is there in a third
 * of the time. Made anew when its sources changed; whoever asks at the same time gets the same.
 */
export async function startOf(program: Program): Promise<readonly string[]> {
  const made = join(folder, stampOf(sources).slice(0, 16))
  if (!existsSync(made)) await bundleInto(made)
  return [join(made, `${programs[program]}.mjs`)]
}

async function bundleInto(made: string): Promise<void> {
  const { build } = await import('esbuild')
  const half = `${made}.${process.pid}`
  await build({
    entryPoints: Object.fromEntries(Object.entries(programs).map(([source, name]) => [name, source])),
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
