import type pg from 'pg'
import { transaction } from '../db/sql.ts'
import { Problem } from '../http/problem.ts'
import type { Services } from '../services.ts'
import { manyKinds, manyPhones, maybeTicket, tellTicket, type KindRow, type PhoneRow, type TicketRow } from './tickets.queries.ts'

export interface TicketParts {
  readonly phones: PhoneRow[]
  readonly kinds: KindRow[]
}

/** Works on a ticket that is still open, alone, and tells every page afterwards. @throws Problem `TicketNotFound`, `TicketErased` */
export async function onTicket<T>(
  services: Services,
  number: string,
  work: (client: pg.PoolClient, ticket: TicketRow, parts: TicketParts) => Promise<T>,
): Promise<T> {
  return transaction(services.pool, async (client) => {
    // no key update: a worker that adds rows of this ticket while it holds its run must not wait for us, nor we for it
    await client.query('select 1 from ticket where number = $1 for no key update', [number])
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    if (ticket.erased_at) throw new Problem('TicketErased')
    const parts = { phones: await manyPhones(client, [ticket.id]), kinds: await manyKinds(client, [ticket.id]) }
    const result = await work(client, ticket, parts)
    await tellTicket(client, ticket.id, 'changed')
    return result
  })
}
