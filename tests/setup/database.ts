import { programsFolder } from '../../scripts/bundle.ts'
import { startPostgres } from '../../scripts/postgres.ts'

export const testPostgres = '.corvend/test-postgres'

/** One server for all integration and end-to-end tests; each file makes databases of its own. */
export default async function setup() {
  process.env.CORVEND_PROGRAMS ??= await programsFolder()
  // the files of a part that run apart share the server of the others
  if (process.env.CORVEND_TEST_ADMIN_URL) return undefined
  if (process.env.DATABASE_URL) {
    process.env.CORVEND_TEST_ADMIN_URL = process.env.DATABASE_URL
    return undefined
  }
  const server = await startPostgres(testPostgres, { fast: true, endsWithUs: true })
  process.env.CORVEND_TEST_ADMIN_URL = server.adminUrl
  return () => server.stop()
}
