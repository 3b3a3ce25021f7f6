import { one } from '../db/sql.ts'
import type { Services } from '../services.ts'
import { openCustomer, readTicket } from '../tickets/read-ticket.ts'
import { maybeTicket } from '../tickets/tickets.queries.ts'

/** What the printed sheet says: counts and reasons, never a contact's name. @throws Problem `TicketNotFound` */
export async function readSheet(services: Services, number: string, staffId: number) {
  const ticket = await readTicket(services, number, staffId)
  const shop = await one<{ name: string; address: string; zone: string }>(
    services.pool,
    'select name, address, zone from shop where id = 1',
  )
  const customer = openCustomer(services, (await maybeTicket(services.pool, number))!)
  return { ticket, shop, customer: customer && { name: customer.name, phone: customer.phone } }
}
