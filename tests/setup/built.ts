import { buildWhenStale } from '../../scripts/build.ts'

/** End-to-end tests drive what is shipped: the built application. */
export default function setup() {
  buildWhenStale()
}
