import { randomInt } from 'node:crypto'
import type pg from 'pg'
import { counterpartsRequest, installListRequest } from '#contracts/link/catalogue.ts'
import { HttpFailure, type Call } from '../servers/serve.ts'
import { candidatesFor, catalogue } from './apps.ts'
import { insertList, maybeList } from './lists.queries.ts'

const letters = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789'

/** The catalogue of apps: what stands in for what, and lists to install, kept under links that say nothing. */
export async function answerCatalogue(pool: pg.Pool, { path, body, method }: Call): Promise<unknown> {
  const [, what, code] = path
  if (what === 'counterparts') {
    const { ids, from, to } = counterpartsRequest.parse(await body())
    return { results: ids.map((id) => candidatesFor(id, from, to)) }
  }
  if (what === 'lists' && method === 'POST') {
    const { platform, ids } = installListRequest.parse(await body())
    const name = Array.from({ length: 8 }, () => letters[randomInt(letters.length)]).join('')
    await insertList(pool, name, { platform, ids })
    return { link: `https://apps.example.org/l/${name}` }
  }
  if (what === 'lists' && code) {
    const list = await maybeList(pool, code)
    if (!list) throw new HttpFailure(404, 'NoSuchRecord')
    const { ids, platform } = list
    return { apps: catalogue().apps.filter((app) => app.platform === platform && ids.includes(app.id)) }
  }
  throw new HttpFailure(404, 'NotFound')
}
