import { counterpartsAnswer, installListAnswer, type Counterparts } from '#contracts/link/catalogue.ts'
import type { Config } from '../config.ts'
import { many, type Client } from '../db/sql.ts'
import { LinkError } from '../links/link.ts'
import { Problem } from '../http/problem.ts'

type Platform = 'android' | 'ios'

/** What the catalogue knows of one app and of what may stand in for it. @throws LinkError `LinkLost` when it does not answer */
export async function askCounterparts(
  config: Pick<Config, 'link'>,
  { id, from, to }: { id: string; from: Platform; to: Platform },
): Promise<Counterparts> {
  const answer = await ask(config, 'counterparts', { ids: [id], from, to })
  const parsed = counterpartsAnswer.safeParse(answer)
  const [found] = parsed.success ? parsed.data.results : []
  if (!found) throw new LinkError('LinkProtocol')
  return found
}

/** Leaves a list of apps with the catalogue, under a link that says nothing. @throws Problem `CatalogueAway` */
export async function makeInstallList(config: Pick<Config, 'link'>, list: { platform: Platform; ids: readonly string[] }): Promise<string> {
  const parsed = installListAnswer.safeParse(await ask(config, 'lists', list).catch(() => null))
  if (!parsed.success) throw new Problem('CatalogueAway')
  return parsed.data.link
}

async function ask({ link }: Pick<Config, 'link'>, what: string, body: unknown): Promise<unknown> {
  if (!link) throw new LinkError('LinkLost')
  const response = await fetch(`${link.url}/catalogue/${what}`, {
    method: 'POST',
    headers: { authorization: `Bearer ${link.token}`, 'content-type': 'application/json' },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(10_000),
  }).catch(() => {
    throw new LinkError('LinkLost')
  })
  if (!response.ok) throw new LinkError('LinkProtocol')
  return response.json()
}

/** The shop's own word on counterparts for a platform: null for none. */
export async function shopsCounterparts(client: Client, platform: string): Promise<Map<string, string | null>> {
  const rows = await many<{ app_id: string; counterpart_id: string | null }>(
    client,
    'select app_id, counterpart_id from counterpart where platform = $1',
    [platform],
  )
  return new Map(rows.map((row) => [row.app_id, row.counterpart_id]))
}

export async function setShopsCounterpart(
  client: Client,
  { appId, platform, counterpartId, staffId }: { appId: string; platform: string; counterpartId: string | null; staffId: number },
): Promise<void> {
  await client.query(
    `insert into counterpart (app_id, platform, counterpart_id, staff_id) values ($1, $2, $3, $4)
         on conflict (app_id, platform) do update set counterpart_id = excluded.counterpart_id, staff_id = excluded.staff_id, at = now()`,
    [appId, platform, counterpartId, staffId],
  )
}
