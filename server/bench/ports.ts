import type { PortView } from '#contracts/link/index.ts'
import { readPorts } from '../links/standin-link.ts'
import type { Services } from '../services.ts'

/** What stands in the ports now; empty ports and `isSeen: false` when the bench does not answer. */
export async function readBench({ config }: Services): Promise<{ ports: PortView[]; isSeen: boolean }> {
  const empty = Array.from({ length: 8 }, (_, i) => ({ port: i + 1, phone: null }))
  if (!config.link) return { ports: empty, isSeen: false }
  try {
    return { ports: await readPorts(config.link), isSeen: true }
  } catch {
    return { ports: empty, isSeen: false }
  }
}
