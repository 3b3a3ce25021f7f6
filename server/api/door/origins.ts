import type { ErrorCode } from '#contracts/errors.ts'

interface Asked {
  /** Names the application answers under. */
  readonly hosts: readonly string[]
  readonly method: string
  readonly path: string
  readonly host: string | undefined
  readonly origin: string | undefined
  /** `Sec-Fetch-Site`, which browsers send and pages can’t forge. */
  readonly site: string | undefined
}

/**
 * Why a request must not be answered, by where it comes from: under a name that is not ours (a rebound DNS name), from
 * another site, or a write whose origin is not ours. A link from elsewhere may open a page, never a call.
 */
export function refusalOf({ hosts, method, path, host, origin, site }: Asked): ErrorCode | undefined {
  if (!hosts.includes((host ?? '').replace(/:\d+$/, ''))) return 'WrongHost'
  const isCall = path === '/api' || path.startsWith('/api/')
  const isWrite = method !== 'GET' && method !== 'HEAD'
  if ((isCall || isWrite) && (site === 'cross-site' || site === 'same-site')) return 'CrossSite'
  if (origin !== undefined && (isWrite || isCall) && hostOf(origin) !== host) return 'WrongOrigin'
  return undefined
}

/** @returns undefined for `null` and for what is no origin */
function hostOf(origin: string): string | undefined {
  return URL.canParse(origin) ? new URL(origin).host : undefined
}
