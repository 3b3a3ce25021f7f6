import { setResponseHeader, setResponseStatus, type H3Event } from 'h3'
import { ZodError } from 'zod'
import { errors, type ErrorCode } from '#contracts/errors.ts'
import { sqlState } from '../../base/db/sql.ts'
import { databaseCode, Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'

/** The problem document (RFC 9457) of a code. */
export function sayProblem(event: H3Event, code: ErrorCode, details: Readonly<Record<string, unknown>> = {}) {
  const { status, sentence } = errors[code]
  setResponseStatus(event, status)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return { type: `/problems/${code}`, title: sentence, status, code, ...details }
}

/** The problem document of a failure; what is not expected is logged by its name alone. */
export function problemOf(event: H3Event, services: Services, error: unknown) {
  const { code, details } = toProblem(error)
  if (code === 'Internal') services.log.error({ code: `${(error as Error)?.name} ${sqlState(error) ?? ''}` }, 'request failed')
  return sayProblem(event, code, details)
}

function toProblem(error: unknown): { code: ErrorCode; details: Readonly<Record<string, unknown>> } {
  if (error instanceof Problem) return error
  if (error instanceof ZodError) return { code: 'BadRequest', details: { fields: error.issues.map((issue) => issue.path.join('.')) } }
  return { code: databaseCode(error) ?? 'Internal', details: {} }
}
