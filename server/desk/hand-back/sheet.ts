import { oneShop } from '../../base/shop.queries.ts'
import type { Services } from '../../base/services.ts'
import { openCustomer } from '../summary.ts'
import { readTicket } from '../read-ticket.ts'
import { maybeTicket } from '../../case/tickets.queries.ts'

/** What the printed sheet says: counts and reasons, never a contact's name. @throws Problem `TicketNotFound` */
export async function readSheet(services: Services, number: string, staffId: number) {
  const ticket = await readTicket(services, number, staffId)
  const shop = await oneShop(services.pool)
  const customer = openCustomer(services, (await maybeTicket(services.pool, number))!)
  return { ticket, shop, customer: customer && { name: customer.name, phone: customer.phone } }
}
