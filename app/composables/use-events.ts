import { onBeforeUnmount, ref } from 'vue'
import type { BenchEvent } from '#contracts/http/bench.ts'
import { useTickets } from '../stores/tickets.ts'
import { paced } from './paced.ts'

export interface PageEvent {
  readonly what: 'open' | 'lost' | 'ticket' | 'bench'
  readonly ticket?: string
  /** The change it tells of; a page that has it need not look. */
  readonly change?: number
  /** `run`: something that runs by itself ended, or waits. */
  readonly of?: string
  readonly bench?: BenchEvent
}

const listeners = new Set<(event: PageEvent) => void>()
const isConnected = ref(true)
let worker: SharedWorker | undefined

function connect() {
  if (worker) return
  worker = new SharedWorker(new URL('../workers/events.worker.ts', import.meta.url), { type: 'module', name: 'corvend-events' })
  worker.port.onmessage = ({ data }: MessageEvent<PageEvent>) => {
    if (data.what === 'open' || data.what === 'lost') isConnected.value = data.what === 'open'
    if (data.bench) useTickets().applyBench(data.bench)
    for (const listener of listeners) listener(data)
  }
  worker.port.start()
  addEventListener('pagehide', () => worker?.port.postMessage('bye'))
}

/**
 * Calls back when something changed: at once, then at most a few times a second, ever less often while it goes on, and
 * once more after the last. That something which ran by itself ended, or waits, is never waited for. What the bench told
 * with its event needs no look, unless `evenTold`.
 */
export function useEvents(concerns: (event: PageEvent) => boolean, look: () => Promise<unknown>, { evenTold = false } = {}) {
  connect()
  const again = paced(look)
  const listener = (event: PageEvent) => {
    // what the bench told is on the page already
    if (event.what === 'open' || ((evenTold || !event.bench) && concerns(event))) void again({ atOnce: event.of === 'run' })
  }
  listen(listener)
  return { isConnected, again }
}

/** Hears every event while the component lives. */
export function listen(listener: (event: PageEvent) => void): void {
  connect()
  listeners.add(listener)
  onBeforeUnmount(() => listeners.delete(listener))
}
