import { resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import { Piscina } from 'piscina'
import { programOf } from './programs.ts'

let pool: Piscina | undefined

/** A thread that was ended because its work took longer than it may, or because it failed beyond its code. */
export class ThreadEnded extends Error {}

/**
 * Computes in a thread of the pool, so that the process goes on answering. A thread that takes too long is ended, and
 * one that wants too much memory ends by itself.
 * @param file one of the programs that are made (`scripts/bundle.ts`), from the application's folder
 * @throws ThreadEnded; whatever the function throws, as an error with its message
 */
export async function inThread<T>(file: string, name: string, task: unknown, mostMs: number): Promise<T> {
  pool ??= new Piscina({
    filename: pathToFileURL(resolve('server/base/thread.mjs')).href,
    minThreads: 0,
    maxThreads: 2,
    // what a thread took of memory goes with it
    idleTimeout: 3000,
    execArgv: [],
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  })
  try {
    return (await pool.run({ file: pathToFileURL(programOf(file).file).href, name, task }, { signal: AbortSignal.timeout(mostMs) })) as T
  } catch (error) {
    const { name: what, message } = error as Error
    if (what === 'AbortError' || /terminat|out of memory|ERR_WORKER/i.test(`${what} ${message} ${(error as { code?: string }).code}`))
      throw new ThreadEnded(what)
    throw error
  }
}
