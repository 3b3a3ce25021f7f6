import { randomInt } from 'node:crypto'
import pg from 'pg'
import { holdPresence } from './runs.queries.ts'

/** Shows that a worker lives: a lock of the database that goes with its session. */
export interface Presence {
  /** The number of its lock; null while the database is away: then only the lease tells. */
  key(): number | null
  end(): Promise<void>
}

/**
 * Holds an advisory lock on a connection of its own for as long as the process lives, through restarts of the
 * database. When the session is gone, whoever looks frees what its owner held, long before the lease runs out.
 */
export function keepPresence(databaseUrl: string): Presence {
  const key = randomInt(1, 2 ** 31 - 1)
  let isHeld = false
  let isEnding = false
  let client: pg.Client | undefined
  async function hold(): Promise<void> {
    client = new pg.Client({
      connectionString: databaseUrl,
      application_name: 'corvend-presence',
      keepAlive: true,
      keepAliveInitialDelayMillis: 1000,
    })
    const ended = new Promise<void>((resolve) => {
      client!.on('end', resolve)
      client!.on('error', () => resolve())
    })
    await client.connect()
    await holdPresence(client, key)
    isHeld = true
    await ended
  }
  void (async () => {
    while (!isEnding) {
      await hold().catch(() => undefined)
      isHeld = false
      if (!isEnding) await new Promise((resolve) => setTimeout(resolve, 500).unref())
    }
  })()
  return {
    key: () => (isHeld ? key : null),
    async end() {
      isEnding = true
      isHeld = false
      await client?.end().catch(() => undefined)
    },
  }
}
