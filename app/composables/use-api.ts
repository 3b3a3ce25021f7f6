import { errors, isErrorCode } from '#contracts/errors.ts'

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

/** Asks the server; every failure is an {@link ApiFailure}. */
export async function api<T>(path: string, options: { method?: string; body?: unknown; signal?: AbortSignal } = {}): Promise<T> {
  const method = options.method ?? (options.body === undefined ? 'GET' : 'POST')
  const isWrite = method !== 'GET'
  const response = await fetch(`/api/${path}`, {
    method,
    headers: isWrite ? { 'content-type': 'application/json' } : {},
    ...(isWrite ? { body: JSON.stringify(options.body ?? {}) } : {}),
    ...(options.signal ? { signal: options.signal } : {}),
  }).catch((error: Error) => {
    if (error.name === 'AbortError') throw error
    throw new ApiFailure('Away', 'Corvend does not answer. What runs goes on; this page looks again by itself.')
  })
  const answer = (await response.json().catch(() => ({}))) as Record<string, unknown>
  if (response.ok) return answer as T
  const code = isErrorCode(answer.code) ? answer.code : 'Internal'
  if (code === 'NotSignedIn' && location.pathname !== '/sign-in') location.assign(`/sign-in?then=${encodeURIComponent(location.pathname)}`)
  throw new ApiFailure(code, errors[code].sentence, answer)
}
