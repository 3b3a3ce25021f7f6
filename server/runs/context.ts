import type pg from 'pg'
import { transaction } from '../base/db/sql.ts'
import { patience } from '../base/patience.ts'
import type { Services } from '../base/services.ts'
import { tellTicket } from '../case/tickets.queries.ts'
import { fence, writeProgress, type RunRow } from './runs.queries.ts'

/** The lease is lost: another worker owns the run, or somebody stopped it. Stop at once, write nothing. */
export class LeaseLost extends Error {}

/** Work can't go on now; the run waits and is looked at again. */
export class MustWait extends Error {
  constructor(
    readonly code: string,
    readonly side: 'old' | 'new' | null,
    /** Of which kind, where the wait is for one. */
    readonly kind: string | null = null,
  ) {
    super(code)
  }
}

export interface ProgressOf {
  readonly kind?: string
  readonly unit?: 'items' | 'bytes'
  /** How far the whole stretch is, in seconds as they are usual. */
  readonly stretch?: StretchProgress
}

export interface StretchProgress {
  readonly name: string
  readonly doneS: number
  readonly totalS: number
}

export interface RunContext {
  readonly services: Services
  readonly run: RunRow
  /** A transaction that only the run's owner can commit. @throws LeaseLost */
  fenced<T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T>
  /** Shows how far it is; written at most three times a second. @throws LeaseLost */
  progress(step: string, done: number, total: number, of?: ProgressOf): Promise<void>
  /** A point at which a test may end the worker, as a SIGKILL would. */
  checkpoint(name: string): Promise<void>
}

export interface ContextOptions {
  readonly checkpoint?: (name: string) => void | Promise<void>
  readonly signal: AbortSignal
}

export function createContext(services: Services, run: RunRow, { checkpoint, signal }: ContextOptions): RunContext {
  const mine = { runId: run.id, epoch: run.epoch }
  let lastTold = 0
  const alive = () => {
    if (signal.aborted) throw new LeaseLost()
  }
  return {
    services,
    run,
    async fenced(work) {
      alive()
      return transaction(services.pool, async (client) => {
        if ((await fence(client, mine)) === 0) throw new LeaseLost()
        return work(client)
      })
    },
    async progress(step, done, total, { kind, unit = 'items', stretch }: ProgressOf = {}) {
      alive()
      const now = services.clock.now()
      if (now - lastTold < patience.progress.everyMs && done !== total && done !== 0) return
      lastTold = now
      await transaction(services.pool, async (client) => {
        if ((await writeProgress(client, { ...mine, step, done, total, unit, kind: kind ?? null, stretch: stretch ?? null })) === 0)
          throw new LeaseLost()
        await tellTicket(client, run.ticket_id, 'progress')
      })
    },
    async checkpoint(name) {
      alive()
      await checkpoint?.(name)
    },
  }
}
