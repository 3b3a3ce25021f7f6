import type { z } from 'zod'
import { errors, isErrorCode } from '#contracts/errors.ts'
import { pathOf, type Route } from '#contracts/http/route.ts'
import { useApi as said } from '../words/base.ts'

/** A failure with the sentence a technician can act on. */
export class ApiFailure extends Error {
  constructor(
    readonly code: string,
    readonly sentence: string,
    readonly details: Record<string, unknown> = {},
  ) {
    super(code)
  }
}

/** What to say of a failure that was caught, whatever it was. */
export const sentenceOf = (error: unknown): string => (error instanceof ApiFailure ? error.sentence : said.tryAgain)

/** What a call is given: each part as its contract has it. */
export interface Input<R extends Route> {
  readonly params?: z.input<R['params']>
  readonly query?: z.input<R['query']>
  readonly body?: z.input<R['body']> | Blob
  readonly signal?: AbortSignal
}

/** Asks the server by a contract; every failure is an {@link ApiFailure}. */
export async function api<R extends Route>(route: R, input: Input<R> = {}): Promise<z.output<R['reply']>> {
  const response = await ask(route, input)
  const answer = (await response.json().catch(() => ({}))) as Record<string, unknown>
  if (response.ok) return answer as z.output<R['reply']>
  const code = isErrorCode(answer.code) ? answer.code : 'Internal'
  if (code === 'NotSignedIn' && location.pathname !== '/sign-in')
    location.assign(`/sign-in?then=${encodeURIComponent(location.pathname + location.search)}`)
  throw new ApiFailure(code, errors[code].sentence, answer)
}

/** The address of a call that a link opens. */
export function addressOf<R extends Route>(route: R, params: z.input<R['params']>): string {
  return pathOf(route.path, params as Record<string, unknown>)
}

/** The bare answer of a call that sends bytes. @throws ApiFailure when the server does not answer */
export function ask<R extends Route>(route: R, { params, query, body, signal }: Input<R>): Promise<Response> {
  const isWrite = route.method !== 'GET'
  const search = new URLSearchParams((query ?? {}) as Record<string, string>).toString()
  return fetch(pathOf(route.path, (params ?? {}) as Record<string, unknown>) + (search ? `?${search}` : ''), {
    method: route.method,
    headers: isWrite ? { 'content-type': route.takes === 'bytes' ? 'application/octet-stream' : 'application/json' } : {},
    ...(isWrite ? { body: body instanceof Blob ? body : JSON.stringify(body ?? {}) } : {}),
    ...(signal ? { signal } : {}),
  }).catch((error: Error) => {
    if (error.name === 'AbortError') throw error
    throw new ApiFailure('Away', said.away)
  })
}
