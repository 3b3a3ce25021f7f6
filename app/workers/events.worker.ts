import { addresses } from '#contracts/http/paths.ts'

/** One event stream a browser: this shared worker holds it and tells every tab. */
const ports = new Set<MessagePort>()
let source: EventSource | undefined
let state: 'open' | 'lost' = 'lost'

function tell(message: unknown) {
  for (const port of ports) port.postMessage(message)
}

function listen() {
  source?.close()
  source = new EventSource(addresses.events.path)
  source.onopen = () => {
    state = 'open'
    tell({ what: 'open' })
  }
  source.onerror = () => {
    if (state === 'open') tell({ what: 'lost' })
    state = 'lost'
    if (source?.readyState === EventSource.CLOSED) setTimeout(listen, 2000)
  }
  source.addEventListener('ticket', (event) =>
    tell({ what: 'ticket', ...(JSON.parse(event.data) as { ticket: string; change?: number; of?: string }) }),
  )
  source.addEventListener('bench', (event) => {
    const bench = JSON.parse(event.data) as { ports?: unknown }
    tell(bench.ports ? { what: 'bench', bench } : { what: 'bench' })
  })
}

const scope = self as unknown as { onconnect: ((event: MessageEvent) => void) | null }
scope.onconnect = (event) => {
  const [port] = event.ports
  if (!port) return
  ports.add(port)
  port.onmessage = ({ data }) => {
    if (data === 'bye') ports.delete(port)
  }
  port.start()
  if (!source) listen()
  else port.postMessage({ what: state })
}
