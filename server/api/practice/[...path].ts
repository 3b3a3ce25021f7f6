import { getRequestURL, getRouterParam, readBody } from 'h3'
import { answer } from '../answer.ts'
import { Problem } from '../../base/problem.ts'

/** The practice screen's way to the hand; it exists only when the demo configured it. */
export default answer({}, async ({ event, services }) => {
  const { hand } = services.config
  if (!hand) throw new Problem('NotFound')
  const body = event.method === 'GET' ? undefined : JSON.stringify((await readBody(event)) ?? {})
  const path = (getRouterParam(event, 'path') ?? '').split('/').map(encodeURIComponent).join('/')
  const response = await fetch(`${hand.url}/${path}${getRequestURL(event).search}`, {
    method: event.method,
    headers: { authorization: `Bearer ${hand.token}`, 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body }),
  }).catch(() => {
    throw new Problem('StandinAway')
  })
  const result = (await response.json()) as { code?: string }
  if (!response.ok) throw new Problem('BadRequest', { hand: result.code })
  return result
})
