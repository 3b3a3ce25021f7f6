import { defineEventHandler, getCookie, getHeader, getQuery, getRequestURL, setResponseHeader, setResponseStatus, type H3Event } from 'h3'
import type { z } from 'zod'
import type { Route } from '#contracts/http/route.ts'
import { Problem } from '../../base/problem.ts'
import { getServices, type Services } from '../../base/services.ts'
import { findStaff, type Staff } from '../../case/auth.ts'
import { readTicket } from '../../desk/read-ticket.ts'
import { didOf } from './did.ts'
import { problemOf, sayProblem } from './problems.ts'
import { readJson } from './read-body.ts'

export const sessionCookie = 'corvend_session'

export interface CallOf<R extends Route> {
  readonly event: H3Event
  readonly services: Services
  /** Who asks; where the contract needs nobody, it may be nobody. */
  readonly actor: Staff
  readonly params: z.output<R['params']>
  readonly query: z.output<R['query']>
  readonly body: z.output<R['body']>
}

/** A contract and the service that answers it. */
export interface Served {
  readonly route: Route
  readonly work: (call: CallOf<Route>) => Promise<unknown>
}

/** Puts a service behind a contract; what it answers is what the contract says, and `{ ok: true }` where it says nothing. */
export function serve<R extends Route>(route: R, work: (call: CallOf<R>) => Promise<z.input<R['reply']> | void>): Served {
  return { route, work: work as Served['work'] }
}

/** Puts a service that sends bytes or events itself behind a contract. */
export function serveRaw<R extends Route>(route: R, work: (call: CallOf<R>) => Promise<unknown>): Served {
  return { route, work: work as Served['work'] }
}

interface Known extends Served {
  readonly pattern: RegExp
}

/**
 * The one door: finds the contract of a path and a method, checks who asks and every part of what is asked by it, calls
 * its service, and answers. Failures are RFC 9457 problem documents with a sentence a technician can act on; a path or
 * a method that no contract names is one, too.
 */
export function door(served: readonly Served[]) {
  const known: Known[] = served.map((one) => ({ ...one, pattern: patternOf(one.route.path) }))
  return defineEventHandler(async (event) => {
    const services = getServices()
    setResponseHeader(event, 'cache-control', 'no-store')
    try {
      const { pathname } = getRequestURL(event)
      const here = known.flatMap((one) => {
        const match = one.pattern.exec(pathname)
        return match ? [{ one, match }] : []
      })
      const method = event.method === 'HEAD' ? 'GET' : event.method
      const found = here.find(({ one }) => one.route.method === method)
      if (!found) {
        if (here.length === 0) return sayProblem(event, 'NotFound')
        setResponseHeader(event, 'allow', here.map(({ one }) => one.route.method).join(', '))
        return sayProblem(event, 'WrongMethod')
      }
      return await answer(event, services, found.one, found.match.groups ?? {})
    } catch (error) {
      // what is left of a body that was refused is not read: the connection ends with the answer
      if (!event.node.req.complete) setResponseHeader(event, 'connection', 'close')
      return problemOf(event, services, error)
    }
  })
}

async function answer(event: H3Event, services: Services, { route, work }: Served, raw: Readonly<Record<string, string>>) {
  const actor = await staffOf(event, services, { isUse: route.method !== 'GET' })
  if (!actor && route.needs !== 'nobody') throw new Problem('NotSignedIn')
  if (route.needs === 'practice' && !services.config.stations.some(({ hand }) => hand)) throw new Problem('NotFound')
  const params = route.params.safeParse(decoded(raw))
  // a path that can’t be is a path that is not there
  if (!params.success) throw new Problem(raw.kind !== undefined && params.error.issues[0]?.path[0] === 'kind' ? 'KindUnknown' : 'NotFound')
  const query = route.query.parse(getQuery(event))
  if (route.method !== 'GET') mustBeOfType(event, route)
  const body = route.takes === 'json' ? route.body.parse(await readJson(event.node.req, route.mostBytes)) : {}
  setResponseStatus(event, route.status)
  const did = didOf(route, params.data, body)
  const doing = actor && did.length > 0 ? { doing: { actor, did } } : {}
  const given = await work({ event, services: { ...services, ...doing }, actor: actor!, params: params.data, query, body })
  // what streams has sent itself
  if (route.sends !== 'json') return given
  const reply = { ...(given ?? { ok: true }), ...(await withTicket(services, { query, params: params.data, actor })) }
  if (services.config.checksReplies) route.reply.parse(reply)
  return reply
}

/** Who asks with an act for the ticket as it stands then needs no second call. */
async function withTicket(services: Services, { query, params, actor }: { query: unknown; params: unknown; actor: Staff | undefined }) {
  if ((query as { with?: string }).with !== 'ticket') return {}
  return { ticket: await readTicket(services, (params as { number: string }).number, actor!) }
}

const typesOf: Readonly<Record<Route['takes'], RegExp>> = {
  nothing: /^(application\/json\b|$)/,
  json: /^application\/json\b/,
  bytes: /^(text\/vcard|text\/calendar|application\/zip|application\/octet-stream)\b/,
}

function mustBeOfType(event: H3Event, { takes }: Route): void {
  if (!typesOf[takes].test(getHeader(event, 'content-type') ?? '')) throw new Problem('WrongContentType')
}

function patternOf(path: string): RegExp {
  return new RegExp(`^${path.replace(/\{(\w+)(\*?)\}/g, (_, name: string, isRest: string) => `(?<${name}>${isRest ? '.+' : '[^/]+'})`)}$`)
}

function decoded(raw: Readonly<Record<string, string>>): Record<string, string> {
  try {
    return Object.fromEntries(Object.entries(raw).map(([name, value]) => [name, decodeURIComponent(value)]))
  } catch {
    throw new Problem('NotFound')
  }
}

/** Who asks: by the session of a browser or a script’s token. */
export async function staffOf(event: H3Event, services: Services, { isUse = false } = {}): Promise<Staff | undefined> {
  const bearer = /^Bearer (.+)$/.exec(getHeader(event, 'authorization') ?? '')?.[1]
  if (bearer) return findStaff(services.pool, bearer, { by: 'bearer' })
  const token = getCookie(event, sessionCookie)
  return token ? findStaff(services.pool, token, { by: 'session', isUse }) : undefined
}
