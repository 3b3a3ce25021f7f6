import { areOfOnePhone, noteOnlyThere } from '../../book/plan/compare.queries.ts'
import { oneKind } from '../../case/tickets.queries.ts'
import { serialHash } from '../../vault/holdings.ts'
import { scopeOf, type WorkAlone } from '../step.ts'

/** Of a look that compares two places: what only the other one holds, and of one phone what was changed in between. @throws LeaseLost */
export async function compareBoth(work: WorkAlone): Promise<void> {
  const { context, ticket } = work
  if (ticket.ticket.purpose !== 'look' || ticket.new.place === 'nothing') return
  const scope = scopeOf(work)
  await context.fenced(async (client) => {
    const { first_reading: firstReading } = await oneKind(client, scope.ticketId, scope.kind)
    const phone = ticket.old.place === 'bench' && ticket.old.serial ? serialHash(context.services.config, ticket.old.serial) : null
    const isSamePhone = await areOfOnePhone(client, scope.ticketId, phone)
    await noteOnlyThere(client, scope, { firstReading: firstReading!, isSamePhone })
  })
}
