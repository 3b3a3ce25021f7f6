import { createEventStream, deleteCookie, getCookie, getHeader, setCookie } from 'h3'
import { routes } from '#contracts/http/routes.ts'
import { openApi } from '#contracts/http/openapi.ts'
import { oneShop } from '../../base/shop.queries.ts'
import { signIn, signOut } from '../../case/auth.ts'
import { manyStaff } from '../../case/staff.queries.ts'
import { manyMissed } from '../../case/tickets.queries.ts'
import { subscribe, type PageEvent } from '../../events/hub.ts'
import { serve, serveRaw, sessionCookie, staffOf } from '../door/door.ts'

const beatMs = 15_000

export const session = [
  // asks nothing of anybody: it tells that this process answers
  serve(routes.health, async () => undefined),
  serve(routes.openApi, async () => openApi()),
  serve(routes.signIn, async ({ event, services, body }) => {
    const { token, staff, maxAgeS } = await signIn(services.pool, body)
    setCookie(event, sessionCookie, token, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: maxAgeS })
    return { name: staff.name, initials: staff.initials }
  }),
  serve(routes.whoAmI, async ({ services, actor }) => {
    const shop = await oneShop(services.pool)
    return { name: actor.name, initials: actor.initials, shop, hasPractice: services.config.hand !== null }
  }),
  serve(routes.signOut, async ({ event, services }) => {
    const token = getCookie(event, sessionCookie)
    if (token) await signOut(services.pool, token)
    deleteCookie(event, sessionCookie, { path: '/' })
  }),
  serve(routes.staff, async ({ services }) => ({ staff: await manyStaff(services.pool) })),
  /** One stream a browser: which tickets changed and that the bench did; it ends with its session. */
  serveRaw(routes.events, async ({ event, services, query }) => {
    const since = Number(getHeader(event, 'last-event-id') ?? query.since)
    const missed = Number.isSafeInteger(since) && since > 0 ? await manyMissed(services.pool, since) : []
    const stream = createEventStream(event)
    const tell = ({ seq, ticket, what, bench }: PageEvent) =>
      stream
        .push({ ...(seq === null ? {} : { id: String(seq) }), event: what, data: JSON.stringify(bench ?? { ticket }) })
        .catch(() => undefined)
    const stop = subscribe(tell)
    const beat = setInterval(async () => {
      // a database that is away for a while ends nobody's stream
      const isSignedIn = await staffOf(event, services).then(
        (staff) => staff !== undefined,
        () => true,
      )
      if (!isSignedIn) return void stream.close()
      await stream.push({ event: 'beat', data: '{}' }).catch(() => undefined)
    }, beatMs)
    stream.onClosed(async () => {
      clearInterval(beat)
      stop()
      await stream.close()
    })
    setTimeout(() => {
      void tell({ seq: null, ticket: null, what: 'bench' })
      for (const { ticket, seq } of missed) void tell({ ticket, seq, what: 'ticket' })
    }, 0)
    return stream.send()
  }),
]
