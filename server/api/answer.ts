import { defineEventHandler, getCookie, getHeader, readBody, setResponseHeader, setResponseStatus, type H3Event } from 'h3'
import { ZodError, type z } from 'zod'
import { errors, type ErrorCode } from '#contracts/errors.ts'
import { findStaff, type Staff } from '../case/auth.ts'
import { sqlState } from '../base/db/sql.ts'
import { getServices, type Services } from '../base/services.ts'
import { Problem } from '../base/problem.ts'

export const sessionCookie = 'corvend_session'

interface Route<Body> {
  readonly body?: z.ZodType<Body>
  /** Served without signing in. */
  readonly isOpen?: boolean
}

interface Call<Body> {
  readonly event: H3Event
  readonly services: Services
  readonly staff: Staff
  readonly body: Body
}

/**
 * A route: checks who asks and what, calls one service, answers; failures become RFC 9457 problem documents
 * with a sentence a technician can act on.
 */
export function answer<Body = undefined>(route: Route<Body>, work: (call: Call<Body>) => Promise<unknown>) {
  return defineEventHandler(async (event) => {
    const services = getServices()
    setResponseHeader(event, 'cache-control', 'no-store')
    try {
      const staff = await staffOf(event, services)
      if (!staff && !route.isOpen) throw new Problem('NotSignedIn')
      const body = route.body ? route.body.parse(await readBody(event)) : (undefined as Body)
      return (await work({ event, services, staff: staff!, body })) ?? { ok: true }
    } catch (error) {
      return problemOf(event, services, error)
    }
  })
}

export async function staffOf(event: H3Event, services: Services): Promise<Staff | undefined> {
  const bearer = /^Bearer (.+)$/.exec(getHeader(event, 'authorization') ?? '')?.[1]
  if (bearer) return findStaff(services.pool, bearer, 'bearer')
  const token = getCookie(event, sessionCookie)
  return token ? findStaff(services.pool, token, 'session') : undefined
}

/** The problem document of a failure; what is not expected is logged by its name alone. */
export function problemOf(event: H3Event, services: Services, error: unknown) {
  const { code, details } = toProblem(error)
  if (code === 'Internal') services.log.error({ code: `${(error as Error)?.name} ${sqlState(error) ?? ''}` }, 'request failed')
  const { status, sentence } = errors[code]
  setResponseStatus(event, status)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return { type: `/problems/${code}`, title: sentence, status, code, ...details }
}

function toProblem(error: unknown): { code: ErrorCode; details: Readonly<Record<string, unknown>> } {
  if (error instanceof Problem) return error
  if (error instanceof ZodError) return { code: 'BadRequest', details: { fields: error.issues.map((issue) => issue.path.join('.')) } }
  if (sqlState(error) === 'away') return { code: 'DatabaseAway', details: {} }
  if ((error as { statusCode?: number }).statusCode === 400) return { code: 'BadRequest', details: {} }
  return { code: 'Internal', details: {} }
}
