import { addresses } from './paths.ts'
import type { Route } from './route.ts'
import type { routes } from './routes.ts'

/** A call as a page asks it: its address is loaded, its contract is known to the compiler alone. */
export interface Call<R extends Route = Route> extends Pick<Route, 'method' | 'path'> {
  readonly takes?: Route['takes']
  /** Never there. */
  readonly contract?: R
}

/** Every call of the HTTP interface, for pages. */
export const calls: { readonly [Name in keyof typeof routes]: Call<(typeof routes)[Name]> } = addresses
