import type { MonthsView } from '#contracts/http/media.ts'
import type { Actor } from '../../base/did.ts'
import { manyMonths } from '../../book/entries/media.queries.ts'
import type { Services } from '../../base/services.ts'
import { onOpenTicket } from './entries.ts'

/** A kind's items by month, old against new: what a gap or a heap shows at a glance. @throws Problem `TicketNotFound`, `TicketErased` */
export function readMonths(services: Services, number: string, { kind, actor }: { kind: string; actor: Actor }): Promise<MonthsView> {
  return onOpenTicket(services, number, { kindCode: kind, actor }, async ({ client, kind: row }) => {
    const isChecked = row.last_reading !== null && row.checked_writes === row.writes
    return {
      isChecked,
      months: await manyMonths(client, { ticketId: row.ticket_id, kind, lastReading: isChecked ? row.last_reading : row.first_reading }),
    }
  })
}
