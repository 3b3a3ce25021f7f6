import type { Actor } from '../../base/did.ts'
import type { Services } from '../../base/services.ts'
import { forgetReadings } from '../../book/forget.queries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { readBench } from '../../endpoints/ports.ts'
import { maybeActiveRun } from '../../runs/runs.queries.ts'
import { startRun } from '../../runs/start-run.ts'
import { mayDo } from '../guard.ts'
import { mustBeReady } from '../ready/must-be-ready.ts'

/** Counts both phones in; counting in again before anything is written starts afresh. @throws Problem `PhonesNotReady`, `BatteryLow`, `RolesFrozen`, `TicketRests` */
export async function startCountIn(services: Services, number: string, actor: Actor): Promise<number> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    await mayDo(client, 'countIn', { ticket, kinds })
    if (!(await maybeActiveRun(client, ticket.id))) {
      await mustBeReady(client, services, { ticket, phones, ports })
      // of what is carried already, nothing is forgotten: only what was added since is read
      if (!kinds.some((kind) => kind.frozen_at)) await forgetReadings(client, ticket.id)
    }
    return startRun(client, { ticket, type: 'count-in', phones, ports, actor })
  })
}
