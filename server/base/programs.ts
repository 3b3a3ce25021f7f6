import { join, resolve } from 'node:path'

/**
 * Where a program of ours is that runs in a process or a thread of its own, and what Node.js needs to run it: by one file,
 * where the application was started with such (`scripts/bundle.ts`), else by its sources.
 * @param source from the application's folder
 */
export function programOf(source: string): { readonly file: string; readonly execArgv: readonly string[] } {
  const made = process.env.CORVEND_PROGRAMS
  return made
    ? { file: resolve(join(made, source.replace(/\.ts$/, '.mjs'))), execArgv: [] }
    : { file: resolve(source), execArgv: ['--import', 'tsx'] }
}
