import { counterpartsRequest } from '#contracts/link/catalogue.ts'
import { HttpFailure, type Call } from '../servers/serve.ts'
import { candidatesFor } from './apps.ts'

/** The catalogue of apps: what stands in for what on the other platform. */
export async function answerCatalogue({ path, body }: Call): Promise<unknown> {
  if (path[1] !== 'counterparts') throw new HttpFailure(404, 'NotFound')
  const { ids, from, to } = counterpartsRequest.parse(await body())
  return { results: ids.map((id) => candidatesFor(id, from, to)) }
}
