import type { z } from 'zod'
import type { Route } from '#contracts/http/route.ts'
import { routes } from '#contracts/http/routes.ts'
import type { Did } from '../../base/did.ts'

type Noting<R extends Route = Route> = (params: z.output<R['params']>, body: z.output<R['body']>) => readonly Did[]

function noting<R extends Route>(route: R, did: Noting<R>): readonly [Route, Noting] {
  return [route, did as Noting]
}
/** What changes nothing but that it was done. */
const plain = (route: Route, what: Did['what']) => noting(route, (params) => [{ what, kind: (params as { kind?: string }).kind }])

/**
 * What is noted in the course of a ticket for each act, in the act's own transaction. Acts with words of their own note
 * themselves (`server/desk/course.ts`).
 */
const notings: ReadonlyMap<Route, Noting> = new Map([
  noting(routes.changeKinds, (_, { add, remove }) => [
    ...add.map((kind) => ({ what: 'kind-added', kind }) as const),
    ...remove.map((kind) => ({ what: 'kind-removed', kind }) as const),
  ]),
  noting(routes.setRoles, (_, { oldSerial, newSerial }) => [
    ...(oldSerial ? [{ what: 'phone-named', side: 'old' } as const] : []),
    ...(newSerial ? [{ what: 'phone-named', side: 'new' } as const] : []),
  ]),
  noting(routes.setNeed, (_, { side, code, how, reason }) => [{ what: `need-${how}`, side, code, why: reason ?? undefined }]),
  noting(routes.putBack, (_, { side, code, how }) => [{ what: 'put-back', side, code, why: how }]),
  noting(routes.straight, (_, { on }) => [{ what: on ? 'straight-on' : 'straight-off' }]),
  plain(routes.countIn, 'count-in'),
  noting(routes.choose, ({ kind }, { choice, set, slice }) => [
    { what: 'chosen', kind, code: slice ? 'slice' : choice, n: choice === 'some' && !slice ? set.length : undefined },
  ]),
  noting(routes.putFirst, (_, { kind }) => [{ what: 'first', kind: kind ?? undefined }]),
  noting(routes.takeWayOut, (_, { way }) => [{ what: 'way-out', code: way }]),
  noting(routes.decide, ({ kind }, body) => [
    'rule' in body ? { what: 'joined', kind, code: body.rule } : { what: 'joined', kind, code: body.decision, n: body.keys.length },
  ]),
  noting(routes.undoJoinings, ({ kind }, { keys }) => [{ what: 'undo', kind, n: keys?.length }]),
  plain(routes.carry, 'carry'),
  plain(routes.pause, 'paused-by-hand'),
  plain(routes.resumeRun, 'resumed-run'),
  plain(routes.stop, 'stopped'),
  plain(routes.checkOff, 'check-off'),
  noting(routes.again, ({ kind }, { fates }) => [{ what: 'again', kind, code: fates[0] }]),
  plain(routes.accept, 'accepted'),
  plain(routes.takeBackAccept, 'not-accepted'),
  plain(routes.takeAway, 'take-away'),
  plain(routes.chooseCounterpart, 'counterpart'),
  noting(routes.markMoved, (_, { isMoved }) => [{ what: 'moved', code: isMoved ? 'yes' : 'no' }]),
  noting(routes.show, (_, { reason }) => [{ what: 'shown', why: reason }]),
  plain(routes.hide, 'hidden'),
  noting(routes.lockTakeHome, (_, { password }) => [{ what: 'home-locked', code: password === null ? 'none' : undefined }]),
  plain(routes.printed, 'printed'),
  noting(routes.sign, (_, { withWhatStands }) => [{ what: 'signed', code: withWhatStands ? 'with-what-stands' : undefined }]),
  plain(routes.erase, 'erased'),
])

/** What a call notes in the course of its ticket. */
export function didOf(route: Route, params: unknown, body: unknown): readonly Did[] {
  return notings.get(route)?.(params, body) ?? []
}
