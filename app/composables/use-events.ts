import { onBeforeUnmount, ref } from 'vue'

export interface PageEvent {
  readonly what: 'open' | 'lost' | 'ticket' | 'bench'
  readonly ticket?: string
}

const listeners = new Set<(event: PageEvent) => void>()
const isConnected = ref(true)
let worker: SharedWorker | undefined

function connect() {
  if (worker) return
  worker = new SharedWorker(new URL('../workers/events.worker.ts', import.meta.url), { type: 'module', name: 'corvend-events' })
  worker.port.onmessage = ({ data }: MessageEvent<PageEvent>) => {
    if (data.what === 'open' || data.what === 'lost') isConnected.value = data.what === 'open'
    for (const listener of listeners) listener(data)
  }
  worker.port.start()
  addEventListener('pagehide', () => worker?.port.postMessage('bye'))
}

/** Calls back when something changed; at most a few times a second, and once more after the last. */
export function useEvents(concerns: (event: PageEvent) => boolean, look: () => Promise<unknown>) {
  connect()
  let isLooking = false
  let isAsked = false
  const again = async () => {
    if (isLooking) {
      isAsked = true
      return
    }
    isLooking = true
    await look().catch(() => undefined)
    await new Promise((resolve) => setTimeout(resolve, 150))
    isLooking = false
    if (isAsked) {
      isAsked = false
      void again()
    }
  }
  const listener = (event: PageEvent) => {
    if (event.what === 'open' || concerns(event)) void again()
  }
  listeners.add(listener)
  onBeforeUnmount(() => listeners.delete(listener))
  return { isConnected, again }
}
