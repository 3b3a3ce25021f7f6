import type { z } from 'zod'
import type { rolesBody } from '#contracts/http/ticket.ts'
import { keepBench } from '../bench/keeper.ts'
import type { Client } from '../db/sql.ts'
import { Problem } from '../http/problem.ts'
import { keepChoices } from '../plan/entries.queries.ts'
import { forgetSide } from '../ready/ready.queries.ts'
import { maybeActiveRun } from '../runs/runs.queries.ts'
import type { Services } from '../services.ts'
import { onTicket } from './on-ticket.ts'
import { manyTicketsOfSerials } from './tickets.queries.ts'

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
    for (const side of changed)
      await client.query(`update ticket_phone set serial = null where ticket_id = $1 and side = $2 and link = 'standin'`, [ticket.id, side])
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

export interface SeenPhone {
  readonly serial: string
  readonly maker: string
  readonly model: string
  readonly platform: string
  readonly version: string
}

/** The phone that stands for a side from now on. */
export async function namePhone(
  client: Client,
  { ticketId, side, seen }: { ticketId: number; side: 'old' | 'new'; seen: SeenPhone },
): Promise<void> {
  await client.query(
    `update ticket_phone set link = 'standin', serial = $3, maker = $4, model = $5, platform = $6, version = $7, upload_id = null where ticket_id = $1 and side = $2`,
    [ticketId, side, seen.serial, seen.maker, seen.model, seen.platform, seen.version],
  )
}

/** What was read belongs to the phones as they were named; what was left behind by choice is kept for the next reading. */
export async function forgetReadings(client: Client, ticketId: number): Promise<void> {
  await client.query('delete from origin where ticket_id = $1', [ticketId])
  await client.query('delete from batch where ticket_id = $1', [ticketId])
  await keepChoices(client, ticketId)
  await client.query('delete from entry where ticket_id = $1', [ticketId])
  await client.query(
    `update ticket_kind
        set old_reading = null, first_reading = null, recount_reading = null, last_reading = null, frozen_at = null, writes = 0,
            checked_writes = null, checked_at = null, recounted_at = null, accepted_by = null, accepted_at = null, origins = '{}'
      where ticket_id = $1`,
    [ticketId],
  )
  await client.query('delete from reading where ticket_id = $1', [ticketId])
}
