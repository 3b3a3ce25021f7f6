import { routes } from '#contracts/http/routes.ts'
import { bookIn } from '../../desk/book-in/act.ts'
import { edit, readBooking } from '../../desk/book-in/edit.ts'
import { changeKinds } from '../../desk/book-in/kinds.ts'
import { pauseTicketRun, resumeTicketRun, startCarry, stopTicketRun } from '../../desk/carry/act.ts'
import { acceptDifference, putBackToWait, startCheck, takeAway, takeBackAcceptance } from '../../desk/check-off/act.ts'
import { choose, putFirst, takeWayOut } from '../../desk/choose/act.ts'
import { decide, undoJoinings } from '../../desk/choose/joinings.ts'
import { startCountIn } from '../../desk/count-in/act.ts'
import { notePrinted, sign } from '../../desk/hand-back/act.ts'
import { handBackAndErase } from '../../desk/hand-back/erase.ts'
import { readSheet } from '../../desk/hand-back/sheet.ts'
import { readTicket } from '../../desk/read-ticket.ts'
import { setRoles } from '../../desk/ready/roles.ts'
import { readBench, seenPhones } from '../../endpoints/ports.ts'
import { setStraightThrough } from '../../desk/straight.ts'
import { setNeed, setPutBack } from '../../ready/act-ready.ts'
import { serve } from '../door/door.ts'

/** The seven stages, in their order. */
export const line = [
  serve(routes.bookIn, async ({ services, actor, body }) => ({ number: await bookIn(services, body, actor) })),
  serve(routes.ticket, ({ services, actor, params }) => readTicket(services, params.number, actor)),
  serve(routes.ledger, async ({ services, actor, params }) => ({ kinds: (await readTicket(services, params.number, actor)).ledger })),
  serve(routes.booking, ({ services, params }) => readBooking(services, params.number)),
  serve(routes.edit, ({ services, actor, params, body }) => edit(services, params.number, { body, actor })),
  serve(routes.straight, ({ services, actor, params, body }) => setStraightThrough(services, params.number, { body, actor })),
  serve(routes.changeKinds, ({ services, params, body }) => changeKinds(services, params.number, body)),
  serve(routes.setRoles, async ({ services, params, body }) =>
    setRoles(services, params.number, body, seenPhones(await readBench(services))),
  ),
  serve(routes.setNeed, ({ services, actor, params, body }) => setNeed(services, params.number, { body, actor })),
  serve(routes.putBack, ({ services, actor, params, body }) => setPutBack(services, params.number, { body, actor })),
  serve(routes.countIn, async ({ services, actor, params }) => ({ run: await startCountIn(services, params.number, actor) })),
  serve(routes.choose, ({ services, params, body }) => choose(services, params.number, { kind: params.kind, body })),
  serve(routes.putFirst, ({ services, params, body }) => putFirst(services, params.number, body.kind)),
  serve(routes.takeWayOut, ({ services, params, body }) => takeWayOut(services, params.number, body)),
  serve(routes.decide, ({ services, params, body }) => decide(services, params.number, { kind: params.kind, body })),
  serve(routes.undoJoinings, async ({ services, actor, params, body }) => ({
    run: await undoJoinings(services, params.number, { kind: params.kind, keys: body.keys, actor }),
  })),
  serve(routes.carry, async ({ services, actor, params, body }) => ({
    run: await startCarry(services, params.number, { body, actor }),
  })),
  serve(routes.pause, ({ services, params }) => pauseTicketRun(services, params.number)),
  serve(routes.resumeRun, ({ services, params }) => resumeTicketRun(services, params.number)),
  serve(routes.stop, ({ services, params }) => stopTicketRun(services, params.number)),
  serve(routes.checkOff, async ({ services, actor, params }) => ({ run: await startCheck(services, params.number, actor) })),
  serve(routes.again, async ({ services, params, body }) => ({
    waiting: await putBackToWait(services, params.number, { kind: params.kind, ...body }),
  })),
  serve(routes.takeBackAccept, ({ services, params }) => takeBackAcceptance(services, params.number, params.kind)),
  serve(routes.accept, ({ services, params, body }) => acceptDifference(services, params.number, { kind: params.kind, by: body.by })),
  serve(routes.takeAway, async ({ services, actor, params, body }) => ({
    run: await takeAway(services, params.number, { kind: params.kind, actor, body }),
  })),
  serve(routes.printed, ({ services, params }) => notePrinted(services, params.number)),
  serve(routes.sign, ({ services, actor, params, body }) => sign(services, params.number, { ...body, actor })),
  serve(routes.sheet, ({ services, actor, params }) => readSheet(services, params.number, actor)),
  serve(routes.erase, ({ services, params, body }) => handBackAndErase(services, params.number, body.typed)),
]
