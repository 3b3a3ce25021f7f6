import type { z } from 'zod'
import type { needBody, putBackBody } from '#contracts/http/ready.ts'
import type { Actor } from '../base/did.ts'
import { readBench } from '../endpoints/ports.ts'
import { readGuides } from './guides.ts'
import { Problem } from '../base/problem.ts'
import { sealText } from '../vault/keys.ts'
import type { Services } from '../base/services.ts'
import { onTicket } from '../case/on-ticket.ts'
import { dropMark, putMark, putPutBack } from './ready.queries.ts'
import { readReadyRows, readSide } from './ready.ts'
import { holdingKeys } from '../vault/holdings.ts'

/** Ticks a need a person looked at, waives one with a reason, or takes either back. @throws Problem `NeedUnknown`, `NeedNotTickable`, `BadRequest` */
export async function setNeed(
  services: Services,
  number: string,
  { body, actor }: { body: z.infer<typeof needBody>; actor: Actor },
): Promise<void> {
  const { side, code, how, reason } = body
  const { ports } = await readBench(services)
  await onTicket(services, number, async (client, ticket, { phones }) => {
    const rows = await readReadyRows(client, [ticket.id])
    const { needs } = readSide({ ticket, phones, side, ports, guides: readGuides(services), rows })
    const found = needs.find(({ need }) => need.code === code)
    if (!found) throw new Problem('NeedUnknown')
    if (how === 'open') return dropMark(client, { ticketId: ticket.id, side, code })
    if (how === 'ticked' && found.need.seenBy === 'phone') throw new Problem('NeedNotTickable')
    if (how === 'waived' && !reason) throw new Problem('BadRequest', { fields: ['reason'] })
    return putMark(client, { ticketId: ticket.id, side, code, how, reason: how === 'waived' ? reason : null, staffId: actor.id })
  })
}

/** Ticks that a setting is as it was where the phone can't say so, or waives it by name. @throws Problem `NeedUnknown`, `NeedNotTickable` */
export async function setPutBack(
  services: Services,
  number: string,
  { body, actor }: { body: z.infer<typeof putBackBody>; actor: Actor },
): Promise<void> {
  const { side, code, how, by } = body
  const { ports } = await readBench(services)
  await onTicket(services, number, async (client, ticket, { phones }) => {
    const rows = await readReadyRows(client, [ticket.id])
    const { putBack } = readSide({ ticket, phones, side, ports, guides: readGuides(services), rows })
    const found = putBack.find((item) => item.code === code)
    if (!found) throw new Problem('NeedUnknown')
    if (how === 'ticked' && !found.isTickable) throw new Problem('NeedNotTickable')
    const keys = holdingKeys(services.config, ticket.holding!)
    await putPutBack(client, {
      ticketId: ticket.id,
      side,
      code,
      how,
      byName: how === 'waived' ? sealText(keys, 'put-back', by) : null,
      staffId: actor.id,
    })
  })
}
