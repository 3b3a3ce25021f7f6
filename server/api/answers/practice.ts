import { routes } from '#contracts/http/routes.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { serve } from '../door/door.ts'

interface HandCall {
  readonly station: string | undefined
  readonly method: string
  readonly path: string
  readonly query?: Readonly<Record<string, string>>
  readonly body?: unknown
}

/** The practice screen’s way to the hand of a station, or to the first there is. @throws Problem `NotFound`, `PracticeAway`, `BadRequest` with what the hand says */
async function ask(services: Services, { station, method, path, query = {}, body }: HandCall): Promise<unknown> {
  const hand = services.config.stations.find((one) => one.hand && (station === undefined || one.code === station))?.hand
  if (!hand) throw new Problem('NotFound')
  const { url, token } = hand
  const to = `${url}/${path.split('/').map(encodeURIComponent).join('/')}?${new URLSearchParams(query)}`
  const response = await fetch(to, {
    method,
    headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
    ...(method === 'GET' ? {} : { body: JSON.stringify(body ?? {}) }),
  }).catch(() => {
    throw new Problem('PracticeAway')
  })
  const result = (await response.json()) as { code?: string }
  if (response.status === 404) throw new Problem('NotFound', { hand: result.code })
  if (!response.ok) throw new Problem('BadRequest', { hand: result.code })
  return result
}

export const practice = [
  serve(routes.lookAtPractice, ({ services, params, query: { station, ...query } }) =>
    ask(services, { station, method: 'GET', path: params.path, query }),
  ),
  serve(routes.moveHand, ({ services, params, query: { station }, body }) =>
    ask(services, { station, method: 'POST', path: params.path, body }),
  ),
  serve(routes.takeHandAway, ({ services, params, query: { station } }) => ask(services, { station, method: 'DELETE', path: params.path })),
]
