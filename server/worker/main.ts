import { Logger, run as runDoorbell } from 'graphile-worker'
import { createExecutor } from '../runs/executor.ts'
import { getServices } from '../services.ts'

/** The worker's process: rung by the doorbell, and looking for itself every two seconds. */
const services = getServices('corvend-worker')
const executor = createExecutor(services)

async function keepDoorbell(): Promise<void> {
  for (;;) {
    try {
      const runner = await runDoorbell({
        pgPool: services.pool,
        concurrency: 2,
        pollInterval: 2000,
        noHandleSignals: true,
        taskList: { ring: (payload) => executor.ring((payload as { run: number }).run) },
        logger: silentLogger(),
      })
      await runner.promise
    } catch {
      // the database is away: the sweep goes on trying, and so does this
    }
    await new Promise((resolve) => setTimeout(resolve, 2000))
  }
}

setInterval(() => executor.sweep().catch(() => undefined), 2000)
void keepDoorbell()
console.log(JSON.stringify({ ready: true, worker: process.pid }))

process.on('SIGTERM', () => process.exit(0))
process.on('SIGINT', () => process.exit(0))

function silentLogger() {
  return new Logger(() => () => undefined)
}
