import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const sources = ['app', 'core', 'contracts', 'server', 'public', 'nuxt.config.ts', 'package-lock.json', 'package.json']
const stampFile = '.output/corvend-stamp'

/** Builds the web application when its sources changed since the last build. @throws Error when the build fails */
export function buildWhenStale(): void {
  const stamp = stampOf(sources)
  if (existsSync('.output/server/index.mjs') && existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return
  console.error('Building the application (once, about a minute)')
  const built = spawnSync(process.execPath, ['node_modules/nuxt/bin/nuxt.mjs', 'build'], {
    encoding: 'utf8',
    env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', NODE_OPTIONS: '--max-old-space-size=3000' },
  })
  if (built.status !== 0) throw new Error(`The build failed:\n${(built.stdout + built.stderr).split('\n').slice(-25).join('\n')}`)
  writeFileSync(stampFile, stamp)
}

/** What files and folders hold, in one word: it changes when any of them does; tests are none. */
export function stampOf(paths: readonly string[]): string {
  const hash = createHash('sha256')
  for (const path of paths) {
    if (!existsSync(path)) continue
    for (const file of filesOf(path)) {
      if (file.endsWith('.test.ts')) continue
      hash.update(file).update(readFileSync(file))
    }
  }
  return hash.digest('hex')
}

function filesOf(path: string): string[] {
  try {
    return readdirSync(path, { withFileTypes: true })
      .sort((a, b) => a.name.localeCompare(b.name))
      .flatMap((entry) => (entry.isDirectory() ? filesOf(join(path, entry.name)) : [join(path, entry.name)]))
  } catch {
    return [path]
  }
}
