import type { z } from 'zod'
import type { rolesBody } from '#contracts/http/ticket.ts'
import { keepBench } from '../../ready/keeper.ts'
import { Problem } from '../../base/problem.ts'
import { forgetReadings } from '../../book/forget.queries.ts'
import { forgetSide } from '../../ready/ready.queries.ts'
import { maybeActiveRun } from '../../runs/runs.queries.ts'
import type { Services } from '../../base/services.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { manyTicketsOfSerials, namePhone, unnamePhone, type SeenPhone } from '../../case/tickets.queries.ts'

/** Says which phone is which; a side that is not named stays. @throws Problem `RolesFrozen`, `SamePhoneTwice`, `PhoneOnOtherTicket`, `PhoneBusy` */
export async function setRoles(
  services: Services,
  number: string,
  wish: z.infer<typeof rolesBody>,
  phonesSeen: readonly SeenPhone[],
): Promise<void> {
  await onTicket(services, number, async (client, ticket, { phones }) => {
    if (ticket.roles_frozen_at) throw new Problem('RolesFrozen')
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const before = (side: 'old' | 'new') => phones.find((phone) => phone.side === side)!
    const serials = { old: wish.oldSerial ?? before('old').serial, new: wish.newSerial ?? before('new').serial }
    if (serials.old !== null && serials.old === serials.new) throw new Problem('SamePhoneTwice')
    const others = await manyTicketsOfSerials(
      client,
      [serials.old, serials.new].filter((serial) => serial !== null),
    )
    if (others.some((other) => other.ticket_id !== ticket.id)) throw new Problem('PhoneOnOtherTicket')
    const changed = (['old', 'new'] as const).filter((side) => serials[side] !== before(side).serial)
    for (const side of changed) await unnamePhone(client, ticket.id, side)
    for (const side of changed) {
      const seen = phonesSeen.find((phone) => phone.serial === serials[side])
      if (!seen) throw new Problem('NotPlugged')
      await namePhone(client, { ticketId: ticket.id, side, seen })
      await forgetSide(client, ticket.id, side)
    }
    if (changed.length > 0) await forgetReadings(client, ticket.id)
  })
  await keepBench(services).catch(() => undefined)
}
