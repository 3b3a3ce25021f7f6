import { randomUUID } from 'node:crypto'
import { runLine } from './lines.ts'
import { sqlState, transaction } from '../base/db/sql.ts'
import { databaseCode } from '../base/problem.ts'
import { patience } from '../base/patience.ts'
import type { Services } from '../base/services.ts'
import { voidIfMoved } from '../book/signed.ts'
import { insertRunAct } from '../case/acts.queries.ts'
import { tellTicket } from '../case/tickets.queries.ts'
import { keepBench } from '../ready/keeper.ts'
import type { Presence } from '../runs/presence.ts'
import { createContext, LeaseLost, MustWait } from '../runs/context.ts'
import {
  claimRun,
  endRun,
  insertRun,
  manyClaimable,
  manySerials,
  pauseRun,
  releaseRuns,
  renewLease,
  type RunRow,
} from '../runs/runs.queries.ts'
import type { RunId } from '../base/ids.ts'

export interface Executor {
  /** Claims a run if it may be claimed, and works on it. Answers at once; the work goes on. */
  ring(runId: RunId): Promise<void>
  /** Looks for runs nobody works on. */
  sweep(): Promise<void>
  /** Ends in order: gives back what it holds, so that another worker takes it up at once. */
  end(): Promise<void>
  /** Lets go of everything at once, as a killed process would: leases run out by themselves. */
  kill(): void
  /** Resolves when no run of this executor is being worked on. */
  idle(): Promise<void>
}

/**
 * Works on runs. The owner renews its lease; who finds that another epoch owns the run stops and writes nothing.
 * Expected failures become states of the run, never exceptions.
 */
export function createExecutor(
  services: Services,
  checkpoint?: (name: string, run: RunRow) => void | Promise<void>,
  presence?: Presence,
): Executor {
  const { pool, config, log } = services
  const elsewhere = config.stations.filter(({ code }) => code !== config.station?.code).map(({ code }) => code)
  // the process is named, so that who looks at a stuck run knows whose it is
  const owner = `${process.pid}.${randomUUID()}`
  const active = new Map<number, { stop: AbortController; done: Promise<void> }>()
  let isKilled = false

  async function ring(runId: RunId): Promise<void> {
    if (isKilled || active.has(runId) || active.size >= 6) return
    const run = await claimRun(pool, { runId, owner, leaseMs: config.leaseMs, leaseKey: presence?.key() ?? null, elsewhere })
    if (!run || isKilled) return
    const stop = new AbortController()
    const done = execute(run, stop).finally(() => active.delete(runId))
    active.set(runId, { stop, done })
  }

  async function execute(run: RunRow, stop: AbortController): Promise<void> {
    const mine = { runId: run.id, epoch: run.epoch }
    let isBeating = false
    const beat = setInterval(() => {
      if (isKilled) return clearInterval(beat)
      // a long transaction of ours holds the run’s row: one beat waits for its end, not one more at each beat
      if (isBeating) return
      isBeating = true
      renewLease(pool, { ...mine, leaseMs: config.leaseMs })
        .then(
          (n) => n === 0 && stop.abort(),
          () => undefined,
        )
        .finally(() => (isBeating = false))
    }, config.leaseMs / patience.lease.beats)
    try {
      const hook = checkpoint && ((name: string) => checkpoint(name, run))
      await runLine(createContext(services, run, hook ? { checkpoint: hook, signal: stop.signal } : { signal: stop.signal }))
      await transaction(pool, async (client) => {
        if ((await endRun(client, { ...mine, state: 'done' })) === 0) return
        await insertRunAct(client, run.id, { what: 'ended' })
        await voidIfMoved(client, run.ticket_id)
        // who carried wants to know at once whether it agrees
        if (run.type === 'carry' || run.type === 'take-away') await followByCheck(client, run)
        await tellTicket(client, run.ticket_id, 'run')
      })
    } catch (error) {
      if (isKilled || error instanceof LeaseLost) return
      await settleFailure(run, error).catch(() => undefined)
    } finally {
      clearInterval(beat)
    }
  }

  async function followByCheck(client: Parameters<typeof insertRun>[0], run: RunRow) {
    const rows = await manySerials(client, run.id)
    const serials = rows.map((row) => row.serial)
    await insertRun(client, { ticketId: run.ticket_id, type: 'check-off', serials, station: run.station, staffId: null })
  }

  async function settleFailure(run: RunRow, error: unknown): Promise<void> {
    const expected = error instanceof MustWait
    const code = expected ? error.code : (databaseCode(error) ?? 'Internal')
    if (!expected) log.error({ run: run.id, code: `${code} ${(error as Error)?.name} ${sqlState(error) ?? ''}`.trim() }, 'run failed')
    await transaction(pool, async (client) => {
      const paused = await pauseRun(client, {
        runId: run.id,
        epoch: run.epoch,
        reason: code,
        side: expected ? error.side : null,
        kind: expected ? error.kind : null,
        retryMs: config.leaseMs * patience.waiting[code === 'Internal' ? 'ofLeaseAfterMistake' : 'ofLease'],
      })
      if (paused === 0) return
      await insertRunAct(client, run.id, { what: 'waits', why: code, side: expected ? error.side : null })
      await tellTicket(client, run.ticket_id, 'run')
    })
    // both phones may be there already: then nothing more happens on the bench that would send the run after them
    if (code === 'AtOtherStation') await keepBench(services)
  }

  return {
    ring,
    async sweep() {
      if (isKilled) return
      for (const { id } of await manyClaimable(pool, elsewhere)) await ring(id)
    },
    async end() {
      isKilled = true
      for (const { stop } of active.values()) stop.abort()
      await releaseRuns(pool, owner).catch(() => undefined)
      await presence?.end()
    },
    kill() {
      isKilled = true
      for (const { stop } of active.values()) stop.abort()
    },
    async idle() {
      while (active.size > 0) await Promise.all([...active.values()].map((a) => a.done))
    },
  }
}
