import { routes } from '#contracts/http/routes.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { serve } from '../door/door.ts'

interface HandCall {
  readonly method: string
  readonly path: string
  readonly query?: Readonly<Record<string, string>>
  readonly body?: unknown
}

/** The practice screen’s way to the hand. @throws Problem `StandinAway`, `BadRequest` with what the hand says */
async function ask(services: Services, { method, path, query = {}, body }: HandCall): Promise<unknown> {
  const { url, token } = services.config.hand!
  const to = `${url}/${path.split('/').map(encodeURIComponent).join('/')}?${new URLSearchParams(query)}`
  const response = await fetch(to, {
    method,
    headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
    ...(method === 'GET' ? {} : { body: JSON.stringify(body ?? {}) }),
  }).catch(() => {
    throw new Problem('StandinAway')
  })
  const result = (await response.json()) as { code?: string }
  if (response.status === 404) throw new Problem('NotFound', { hand: result.code })
  if (!response.ok) throw new Problem('BadRequest', { hand: result.code })
  return result
}

export const practice = [
  serve(routes.lookAtPractice, ({ services, params, query }) => ask(services, { method: 'GET', path: params.path, query })),
  serve(routes.moveHand, ({ services, params, body }) => ask(services, { method: 'POST', path: params.path, body })),
  serve(routes.takeHandAway, ({ services, params }) => ask(services, { method: 'DELETE', path: params.path })),
]
