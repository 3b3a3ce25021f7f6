import { counterpartsRequest } from '#contracts/link/catalogue.ts'
import type { Routes } from '../servers/serve.ts'
import { candidatesFor } from './apps.ts'

/** The catalogue of apps: what stands in for what on the other platform. */
export const catalogueRoutes: Routes = {
  '/catalogue/counterparts': async ({ body }) => {
    const { ids, from, to } = counterpartsRequest.parse(await body())
    return { results: ids.map((id) => candidatesFor(id, from, to)) }
  },
}
