import type { PortView } from '#contracts/link/index.ts'
import { LinkError } from './endpoint.ts'
import { benchOf } from './transports.ts'
import { Problem } from '../base/problem.ts'
import type { Services } from '../base/services.ts'

/** What stands in the ports now; empty ports and `isSeen: false` when the bench does not answer. */
export async function readBench({ config }: Services): Promise<{ ports: PortView[]; isSeen: boolean }> {
  const empty = Array.from({ length: 8 }, (_, i) => ({ port: i + 1, drawsPower: false, phone: null }))
  const bench = benchOf(config)
  if (!bench) return { ports: empty, isSeen: false }
  try {
    return { ports: await bench.ports(), isSeen: true }
  } catch {
    return { ports: empty, isSeen: false }
  }
}

/** The phones that are seen, as a ticket names them. */
export function seenPhones({ ports }: { ports: readonly PortView[] }) {
  return ports.flatMap(({ phone }) => (phone ? [phone.facts] : []))
}

/** Makes the phone on a port show a mark, so that two of the same model can be told apart. @throws Problem `PortEmpty` and the link's own codes */
export async function markPort(services: Services, port: number, text: string): Promise<void> {
  const { ports } = await readBench(services)
  const phone = ports.find((view) => view.port === port)?.phone
  const body = phone && benchOf(services.config)?.endpoint(phone.facts.serial).body
  if (!body) throw new Problem('PortEmpty')
  await body.mark(text).catch((error: unknown) => {
    throw error instanceof LinkError ? new Problem(error.code) : error
  })
}
