import type { Actor } from '../../base/did.ts'
import type { Services } from '../../base/services.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { insertShowing } from '../../vault/showing.queries.ts'

export function show(services: Services, number: string, { reason, actor }: { reason: string; actor: Actor }): Promise<void> {
  return onTicket(services, number, (client, ticket) =>
    insertShowing(client, {
      ticketId: ticket.id,
      number: ticket.number,
      staffId: actor.id,
      scope: reason === 'ended' ? 'ended' : 'names',
      reason,
    }),
  )
}
