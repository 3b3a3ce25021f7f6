import type { z } from 'zod'
import { errors, isErrorCode } from '#contracts/errors.ts'
import type { Call } from '#contracts/http/calls.ts'
import { pathOf } from '#contracts/http/paths.ts'
import type { Route } from '#contracts/http/route.ts'
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
export async function api<R extends Route>(call: Call<R>, input: Input<R> = {}): Promise<z.output<R['reply']>> {
  const response = await ask(call, input)
  const answer = (await response.json().catch(() => ({}))) as Record<string, unknown>
  if (response.ok) return answer as z.output<R['reply']>
  const code = isErrorCode(answer.code) ? answer.code : 'Internal'
  if (code === 'NotSignedIn' && location.pathname !== '/sign-in')
    location.assign(`/sign-in?then=${encodeURIComponent(location.pathname + location.search)}`)
  throw new ApiFailure(code, errors[code].sentence, answer)
}

/** The address of a call that a link opens. */
export function addressOf<R extends Route>({ path }: Call<R>, params: z.input<R['params']>): string {
  return pathOf(path, params as Record<string, unknown>)
}

/** The bare answer of a call that sends bytes. @throws ApiFailure when the server does not answer */
export function ask<R extends Route>({ method, path, takes }: Call<R>, { params, query, body, signal }: Input<R>): Promise<Response> {
  const isWrite = method !== 'GET'
  const search = new URLSearchParams((query ?? {}) as Record<string, string>).toString()
  return fetch(pathOf(path, (params ?? {}) as Record<string, unknown>) + (search ? `?${search}` : ''), {
    method,
    headers: isWrite ? { 'content-type': takes === 'bytes' ? 'application/octet-stream' : 'application/json' } : {},
    ...(isWrite ? { body: body instanceof Blob ? body : JSON.stringify(body ?? {}) } : {}),
    ...(signal ? { signal } : {}),
  }).catch((error: Error) => {
    if (error.name === 'AbortError') throw error
    throw new ApiFailure('Away', said.away)
  })
}
