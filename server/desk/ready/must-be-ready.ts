import type { Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import type { PhoneRow, TicketRow } from '../../case/tickets.queries.ts'
import type { BenchPort } from '../../endpoints/ports.ts'
import { readGuides } from '../../ready/guides.ts'
import { readReadyRows, readSide } from '../../ready/ready.ts'

export interface OnBench {
  readonly ticket: TicketRow
  readonly phones: readonly PhoneRow[]
  readonly ports: readonly BenchPort[]
}

/**
 * Nothing starts while a phone lacks what must be; a phone that runs low is named by its own sentence.
 * @throws Problem `TicketRests`, `BatteryLow`, `PhonesNotReady`
 */
export async function mustBeReady(client: Client, services: Services, { ticket, phones, ports }: OnBench): Promise<void> {
  if (ticket.resting_at) throw new Problem('TicketRests')
  const rows = await readReadyRows(client, [ticket.id])
  const guides = readGuides(services)
  for (const side of ['old', 'new'] as const) {
    const { isReady, next } = readSide({ ticket, phones, side, ports, guides, rows })
    if (!isReady) throw new Problem(next?.need.code === 'charge' ? 'BatteryLow' : 'PhonesNotReady', { side, need: next?.need.code })
  }
}
