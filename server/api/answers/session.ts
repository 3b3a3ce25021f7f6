import { deleteCookie, getCookie, getHeader, setCookie } from 'h3'
import { routes } from '#contracts/http/routes.ts'
import { openApi } from '#contracts/http/openapi.ts'
import { oneShop, viewOfShop } from '../../base/shop.queries.ts'
import { endSession, readSessions, signIn, signOut } from '../../case/auth.ts'
import { manyStaff } from '../../case/staff.queries.ts'
import { manyMissed } from '../../case/tickets.queries.ts'
import { openEventStream } from '../door/event-stream.ts'
import { subscribe, type PageEvent } from '../../events/hub.ts'
import { serve, serveRaw, sessionCookie, staffOf } from '../door/door.ts'

const beatMs = 15_000
/** Marks a browser somebody signed in with: others’ wrong PINs do not lock it out. */
const browserCookie = 'corvend_browser'
/** Says to the page that somebody is signed in here. */
const hereCookie = 'corvend_here'
const yearS = 365 * 24 * 3600

export const session = [
  // asks nothing of anybody: it tells that this process answers
  serve(routes.health, async () => undefined),
  serve(routes.openApi, async () => openApi()),
  serve(routes.signIn, async ({ event, services, body }) => {
    const { token, browser, staff, maxAgeS } = await signIn(services.pool, {
      ...body,
      address: event.node.req.socket.remoteAddress ?? '',
      browser: getCookie(event, browserCookie),
      session: getCookie(event, sessionCookie),
    })
    const cookie = { httpOnly: true, sameSite: 'strict', path: '/' } as const
    setCookie(event, sessionCookie, token, { ...cookie, maxAge: maxAgeS })
    // no secret: the page reads it, so that a first visit asks for nothing it may not have
    setCookie(event, hereCookie, '1', { ...cookie, httpOnly: false, maxAge: maxAgeS })
    setCookie(event, browserCookie, browser, { ...cookie, path: '/api/session', maxAge: yearS })
    return { name: staff.name, initials: staff.initials }
  }),
  serve(routes.whoAmI, async ({ services, actor }) => {
    const shop = viewOfShop(await oneShop(services.pool))
    const stations = services.config.stations.map(({ code, name, firstPort, hand }) => ({
      code,
      name,
      firstPort,
      hasPractice: hand !== null,
    }))
    return { name: actor.name, initials: actor.initials, shop, hasPractice: stations.some((one) => one.hasPractice), stations }
  }),
  serve(routes.signOut, async ({ event, services }) => {
    const token = getCookie(event, sessionCookie)
    if (token) await signOut(services.pool, token)
    deleteCookie(event, sessionCookie, { path: '/' })
    deleteCookie(event, hereCookie, { path: '/' })
  }),
  serve(routes.sessions, async ({ event, services, actor }) => ({
    sessions: await readSessions(services.pool, actor, getCookie(event, sessionCookie)),
  })),
  serve(routes.endSession, ({ services, actor, params }) => endSession(services.pool, actor, params.id)),
  serve(routes.staff, async ({ services }) => ({ staff: await manyStaff(services.pool) })),
  /** One stream a browser: which tickets changed and that the bench did; it ends with its session. */
  serveRaw(routes.events, async ({ event, services, query }) => {
    const since = Number(getHeader(event, 'last-event-id') ?? query.since)
    const missed = Number.isSafeInteger(since) && since > 0 ? await manyMissed(services.pool, since) : []
    const stream = openEventStream(event, () => {
      clearInterval(beat)
      stop()
    })
    const tell = ({ seq, ticket, what, bench, change, of }: PageEvent) =>
      stream.push({ ...(seq === null ? {} : { id: String(seq) }), event: what, data: JSON.stringify(bench ?? { ticket, change, of }) })
    const stop = subscribe(tell)
    const beat = setInterval(async () => {
      // a database that is away for a while ends nobody's stream
      const isSignedIn = await staffOf(event, services).then(
        (staff) => staff !== undefined,
        () => true,
      )
      if (isSignedIn) stream.push({ event: 'beat', data: '{}' })
      else stream.close()
    }, beatMs)
    tell({ seq: null, ticket: null, what: 'bench' })
    for (const { ticket, seq } of missed) tell({ ticket, seq, what: 'ticket' })
  }),
]
