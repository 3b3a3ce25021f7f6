import type { Services } from '../../base/services.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { insertShowing } from '../../vault/showing.queries.ts'

export function show(services: Services, number: string, { reason, staffId }: { reason: string; staffId: number }): Promise<void> {
  return onTicket(services, number, (client, ticket) =>
    insertShowing(client, { ticketId: ticket.id, number: ticket.number, staffId, scope: reason === 'ended' ? 'ended' : 'names', reason }),
  )
}
