import type pg from 'pg'
import { transaction } from '../base/db/sql.ts'
import { Problem } from '../base/problem.ts'
import type { Services } from '../base/services.ts'
import { insertAct } from './acts.queries.ts'
import {
  lockTicket,
  manyKinds,
  manyPhones,
  maybeTicket,
  tellTicket,
  type KindRow,
  type PhoneRow,
  type TicketRow,
} from './tickets.queries.ts'

export interface TicketRows {
  readonly phones: PhoneRow[]
  readonly kinds: KindRow[]
}

/** Works on a ticket that is still open, alone, notes who did what, and tells every page afterwards. @throws Problem `TicketNotFound`, `TicketErased` */
export async function onTicket<T>(
  services: Services,
  number: string,
  work: (client: pg.PoolClient, ticket: TicketRow, parts: TicketRows) => Promise<T>,
): Promise<T> {
  return transaction(services.pool, async (client) => {
    await lockTicket(client, number)
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    if (ticket.erased_at) throw new Problem('TicketErased')
    const parts = { phones: await manyPhones(client, [ticket.id]), kinds: await manyKinds(client, [ticket.id]) }
    const result = await work(client, ticket, parts)
    for (const did of services.doing?.did ?? []) await insertAct(client, ticket.id, services.doing!.actor.id, did)
    await tellTicket(client, ticket.id, 'changed')
    return result
  })
}
