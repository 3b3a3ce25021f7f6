import type { TicketView } from '#contracts/http/ticket.ts'
import type { Actor } from '../base/did.ts'
import { snapshot } from '../base/db/sql.ts'
import { readSeen } from '../base/shop.queries.ts'
import { Problem } from '../base/problem.ts'
import type { Services } from '../base/services.ts'
import { readLedgers } from '../book/ledger.ts'
import { manyLastNotes } from '../case/acts.queries.ts'
import { manyKinds, manyPhones, maybeTicket } from '../case/tickets.queries.ts'
import { readBench } from '../endpoints/ports.ts'
import { readGuides } from '../ready/guides.ts'
import { readReadyRows } from '../ready/ready.ts'
import { maybeActiveRun, maybeLastRun } from '../runs/runs.queries.ts'
import { maybeShowing } from '../vault/showing.queries.ts'
import { bookInView } from './book-in/view.ts'
import { runViewOf } from './carry/run-view.ts'
import { carryView } from './carry/view.ts'
import { checkOffView } from './check-off/view.ts'
import { chooseView, withForecasts } from './choose/view.ts'
import { countInView } from './count-in/view.ts'
import { manyNotes } from './course.ts'
import { handBackView } from './hand-back/view.ts'
import { iso } from './iso.ts'
import { readyViews, sidesOf, summaryOf } from './summary.ts'
import { findKeys } from '../vault/holdings.ts'

/** Everything the ticket's screen shows, a view a stage, from one look at the tables. @throws Problem `TicketNotFound` */
export async function readTicket(services: Services, number: string, actor: Actor): Promise<TicketView> {
  const { ports } = await readBench(services)
  return snapshot(services.pool, async (client) => {
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    const kinds = await manyKinds(client, [ticket.id])
    const phones = await manyPhones(client, [ticket.id])
    const run = (await maybeActiveRun(client, ticket.id)) ?? null
    const lastRun = (await maybeLastRun(client, ticket.id)) ?? null
    const ledger = (await readLedgers(client, { tickets: [ticket], kinds, runs: run ? [run] : [] })).get(ticket.id)!
    const guides = readGuides(services)
    const rows = await readReadyRows(client, [ticket.id])
    const sides = sidesOf({ ticket, phones, ports, guides, rows })
    const keys = findKeys(services.config, ticket.holding)
    const showing = await maybeShowing(client, ticket.id, actor.id)
    const chosen = await chooseView(client, { ticket, kinds, sides })
    const [note] = await manyLastNotes(client, [ticket.id])
    const summary = summaryOf(services, {
      ticket,
      kinds,
      sides,
      ledger: withForecasts(ledger, chosen.forecasts),
      run,
      rows,
      note: note?.words,
    })
    return {
      ...summary,
      ...(await readSeen(client)),
      ready: readyViews(sides, rows, ticket.id),
      notes: await manyNotes(client, ticket.id, keys),
      lastRun: lastRun && runViewOf(lastRun),
      showingUntil: iso(showing?.until_at ?? null),
      ...(await bookInView(client, ticket, { kinds, phones, guides })),
      ...(await countInView(client, { ticket, kinds, ledger })),
      ...chosen,
      ...(await carryView(client, { ticket, kinds, run: summary.run, plan: chosen.plan })),
      ...(await checkOffView(client, { ticket, kinds, ledger, keys })),
      ...(await handBackView(client, ticket, keys)),
    }
  })
}
