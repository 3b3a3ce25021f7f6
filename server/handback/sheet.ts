import { one } from '../db/sql.ts'
import { manyReasons } from '../plan/entries.queries.ts'
import type { Services } from '../services.ts'
import { maybeTicket } from '../tickets/tickets.queries.ts'
import { openCustomer, readTicket } from '../tickets/read-ticket.ts'

/** What the printed sheet says: counts and reasons, never a contact's name. @throws Problem `TicketNotFound` */
export async function readSheet(services: Services, number: string, staffId: number) {
  const ticket = await readTicket(services, number, staffId)
  const row = (await maybeTicket(services.pool, number))!
  const shop = await one<{ name: string; address: string; zone: string }>(services.pool, 'select name, address, zone from shop where id = 1')
  const reasons = []
  for (const kind of ticket.kinds) {
    for (const { code, fate, items } of ticket.erasedAt ? [] : await manyReasons(services.pool, { ticketId: row.id, kind })) {
      if (fate !== 'notChosen' && fate !== 'alreadyThere') reasons.push({ kind, code, fate, items })
    }
  }
  const customer = openCustomer(services, row)
  return { ticket, shop, reasons, customer: customer && { name: customer.name, phone: customer.phone } }
}
