import { Logger, run as runDoorbell } from 'graphile-worker'
import { advanceStraight } from '../desk/straight.ts'
import { finishErasing } from '../desk/hand-back/erase.ts'
import { createExecutor } from '../line/executor.ts'
import { forgetSerials } from '../case/tickets.queries.ts'
import { keepPresence } from '../runs/presence.ts'
import { forgetUnbooked } from '../endpoints/forget-uploads.ts'
import { closeStaleLooks } from '../desk/lockers/look.ts'
import { forgetArchives } from '../endpoints/makers/folder.ts'
import { destroyDue } from '../vault/lockers/destroy.ts'
import { sqlState } from '../base/db/sql.ts'
import { getServices } from '../base/services.ts'
import type { RunId } from '../base/ids.ts'

/** The worker's process: rung by the doorbell, and looking for itself every second. */
const services = getServices('corvend-worker')
if (services.config.stations.length > 1 && !services.config.station)
  throw new Error('CORVEND_STATION: with several stations, each worker must be told which is its own')
const executor = createExecutor(services, undefined, keepPresence(services.config.databaseUrl))

async function keepDoorbell(): Promise<void> {
  for (;;) {
    try {
      const runner = await runDoorbell({
        pgPool: services.pool,
        concurrency: 2,
        pollInterval: 2000,
        noHandleSignals: true,
        taskList: { ring: (payload) => executor.ring((payload as { run: RunId }).run) },
        logger: silentLogger(),
      })
      await runner.promise
    } catch {
      // the database is away: the sweep goes on trying, and so does this
    }
    await new Promise((resolve) => setTimeout(resolve, 2000))
  }
}

// when the database goes away, statements of the doorbell’s own fail where nobody waits for them: what it would have rung for
// is found by the sweep
process.on('unhandledRejection', (error) => {
  if (sqlState(error) !== 'away') throw error
})

setInterval(() => executor.sweep().catch(() => undefined), 1000)
let isAdvancing = false
setInterval(() => {
  if (isAdvancing) return
  isAdvancing = true
  void advanceStraight(services)
    .catch(() => undefined)
    .finally(() => (isAdvancing = false))
}, 1000)
void finishErasing(services).catch(() => undefined)
// also what fell due while the house was down
void destroyDue(services).catch(() => undefined)
setInterval(() => {
  void finishErasing(services).catch(() => undefined)
  void destroyDue(services).catch(() => undefined)
  void forgetArchives(services).catch(() => undefined)
  void closeStaleLooks(services).catch(() => undefined)
  void forgetUnbooked(services).catch(() => undefined)
  void forgetSerials(services.pool).catch(() => undefined)
}, 60_000)
void keepDoorbell()
console.log(JSON.stringify({ ready: true, worker: process.pid }))

/** What it holds is given back; a database that does not answer holds nobody up. */
const endInOrder = () => {
  setTimeout(() => process.exit(0), 1000).unref()
  void executor.end().finally(() => process.exit(0))
}
process.on('SIGTERM', endInOrder)
process.on('SIGINT', endInOrder)

function silentLogger() {
  return new Logger(() => () => undefined)
}
