import { counterpartsAnswer, type Counterparts } from '#contracts/link/catalogue.ts'
import type { Config } from '../base/config.ts'
import { LinkError } from './endpoint.ts'
import { patience } from '../base/patience.ts'

type Platform = 'android' | 'ios'

/** What the catalogue knows of one app and of what may stand in for it. @throws LinkError `LinkLost` when it does not answer */
export async function askCounterparts(
  config: Pick<Config, 'station' | 'stations'>,
  { id, from, to }: { id: string; from: Platform; to: Platform },
): Promise<Counterparts> {
  const answer = await ask(config, 'counterparts', { ids: [id], from, to })
  const parsed = counterpartsAnswer.safeParse(answer)
  const [found] = parsed.success ? parsed.data.results : []
  if (!found) throw new LinkError('LinkProtocol')
  return found
}

async function ask({ station, stations }: Pick<Config, 'station' | 'stations'>, what: string, body: unknown): Promise<unknown> {
  const link = (station ?? stations[0])?.link
  if (!link) throw new LinkError('LinkLost')
  const response = await fetch(`${link.url}/catalogue/${what}`, {
    method: 'POST',
    headers: { authorization: `Bearer ${link.token}`, 'content-type': 'application/json' },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(patience.catalogue.timeoutMs),
  }).catch(() => {
    throw new LinkError('LinkLost')
  })
  if (!response.ok) throw new LinkError('LinkProtocol')
  return response.json()
}
