import { noteOnlyThere } from '../../book/plan/compare.queries.ts'
import { oneKind } from '../../case/tickets.queries.ts'
import { scopeOf, type WorkAlone } from '../step.ts'

/** Of a look that compares two places: what only the other one holds. @throws LeaseLost */
export async function compareBoth(work: WorkAlone): Promise<void> {
  const { context, ticket } = work
  if (ticket.ticket.purpose !== 'look' || ticket.new.place === 'nothing') return
  const scope = scopeOf(work)
  await context.fenced(async (client) => {
    const { first_reading: firstReading } = await oneKind(client, scope.ticketId, scope.kind)
    await noteOnlyThere(client, scope, firstReading!)
  })
}
