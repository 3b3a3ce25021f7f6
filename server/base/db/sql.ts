import pg from 'pg'

pg.types.setTypeParser(20, Number)

export type Client = Pick<pg.PoolClient, 'query'>
export type Row = pg.QueryResultRow

/** Rows as they come. */
export async function many<T extends Row>(client: Client, text: string, values: readonly unknown[] = []): Promise<T[]> {
  return (await client.query<T>(text, values as unknown[])).rows
}

/** The row, or undefined when there is none. @throws Error when there are more */
export async function maybeOne<T extends Row>(client: Client, text: string, values: readonly unknown[] = []): Promise<T | undefined> {
  const rows = await many<T>(client, text, values)
  if (rows.length > 1) throw new Error('one row at most was expected')
  return rows[0]
}

/** @throws Error when there is not exactly one row */
export async function one<T extends Row>(client: Client, text: string, values: readonly unknown[] = []): Promise<T> {
  const row = await maybeOne<T>(client, text, values)
  if (!row) throw new Error('one row was expected')
  return row
}

/** How many rows a statement changed. */
export async function change(client: Client, text: string, values: readonly unknown[] = []): Promise<number> {
  return (await client.query(text, values as unknown[])).rowCount ?? 0
}

/** Runs work in one transaction; a failure undoes all of it. */
export async function transaction<T>(pool: pg.Pool, work: (client: pg.PoolClient) => Promise<T>, mode = ''): Promise<T> {
  const client = await pool.connect()
  let broken: Error | undefined
  try {
    await client.query(`begin ${mode}`)
    const result = await work(client)
    await client.query('commit')
    return result
  } catch (error) {
    await client.query('rollback').catch((e: Error) => (broken = e))
    throw error
  } finally {
    client.release(broken)
  }
}

/** One consistent look at many tables, so that what is shown beside each other adds up. */
export function snapshot<T>(pool: pg.Pool, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  return transaction(pool, work, 'isolation level repeatable read read only')
}

/** How long the database may take: to be reached, to give a lock, for one statement. Milliseconds. */
export interface Limits {
  readonly connectMs: number
  readonly lockMs: number
  readonly statementMs: number
}

/** A page waits for its answer: what can’t be had soon is said. */
export const pageLimits: Limits = { connectMs: 5000, lockMs: 5000, statementMs: 60_000 }
/** A worker’s statements grow with the ticket, and its locks are those of pages. */
export const workerLimits: Limits = { connectMs: 10_000, lockMs: 30_000, statementMs: 600_000 }

export function openPool(url: string, name: string, { max = 10, limits = workerLimits }: { max?: number; limits?: Limits } = {}): pg.Pool {
  const pool = new pg.Pool({
    connectionString: url,
    max,
    application_name: name,
    connectionTimeoutMillis: limits.connectMs,
    lock_timeout: limits.lockMs,
    statement_timeout: limits.statementMs,
  })
  // a restarting server ends idle clients; the next query opens a new one
  pool.on('error', () => undefined)
  pool.on('connect', (client) => client.on('error', () => undefined))
  return pool
}

/** SQLSTATE of a failure, by name where the product branches on it. */
export function sqlState(error: unknown): 'unique_violation' | 'away' | 'locked' | 'tooLong' | string | undefined {
  const code = (error as { code?: string } | null)?.code
  if (code === '23505') return 'unique_violation'
  if (code === '55P03') return 'locked'
  if (code === '57014') return 'tooLong'
  // the pool’s own: every connection was busy for too long
  if (error instanceof Error && /timeout exceeded when trying to connect/.test(error.message)) return 'tooLong'
  if (code && (/^(08|57P)/.test(code) || ['ECONNREFUSED', 'ECONNRESET', 'EPIPE'].includes(code))) return 'away'
  if (error instanceof Error && /Connection terminated|connection timeout|connection error and is not queryable/i.test(error.message))
    return 'away'
  return code
}
