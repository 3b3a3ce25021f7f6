import type pg from 'pg'
import pino from 'pino'
import { getConfig, type Config } from './config.ts'
import { openPool, pageLimits, workerLimits } from './db/sql.ts'
import type { Actor, Did } from './did.ts'
import { clock, type Clock } from './patience.ts'

/** What every service is given: the pool, the configuration, the log, the clock. */
export interface Services {
  readonly pool: pg.Pool
  readonly config: Config
  readonly log: Log
  readonly clock: Clock
  /** Who asks, and what it is that is noted in the course of the ticket it is asked of. */
  readonly doing?: { readonly actor: Actor; readonly did: readonly Did[] }
}

/** Codes, ids and figures only: what may be logged is listed here, so that a customer's text can't slip in. */
export interface LogFields {
  readonly run?: number
  readonly ticket?: string
  readonly code?: string
  readonly step?: string
  readonly count?: number
}
export interface Log {
  info(fields: LogFields, what: string): void
  error(fields: LogFields, what: string): void
}

let services: Services | undefined

/** The process's own services, opened at the first use. */
export function getServices(name = 'corvend-web'): Services {
  services ??= {
    config: getConfig(),
    pool: openPool(getConfig().databaseUrl, name, { limits: name === 'corvend-web' ? pageLimits : workerLimits }),
    log: createLog(),
    clock,
  }
  return services
}

export function createLog(): Log {
  const logger = pino({ base: undefined, level: process.env.CORVEND_LOG ?? 'info' })
  const allowed = ({ run, ticket, code, step, count }: LogFields) => ({ run, ticket, code, step, count })
  return {
    info: (fields, what) => logger.info(allowed(fields), what),
    error: (fields, what) => logger.error(allowed(fields), what),
  }
}
