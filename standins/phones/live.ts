/** What lives only while the process runs: connections, one writer at a time, and who watches. */
export interface LiveEvent {
  readonly event: 'plugged' | 'pulled' | 'locked' | 'unlocked' | 'asked' | 'answered' | 'changed' | 'here'
  readonly port?: number
  readonly serial?: string
}

const watchers = new Set<(event: LiveEvent) => void>()
const connections = new Map<string, string>()
const queues = new Map<string, Promise<unknown>>()

export function watch(tell: (event: LiveEvent) => void): () => void {
  watchers.add(tell)
  return () => watchers.delete(tell)
}

export function announce(event: LiveEvent): void {
  for (const tell of watchers) tell(event)
}

export function setConnection(serial: string, connection: string): void {
  connections.set(serial, connection)
}

export function isConnected(serial: string, connection: string | undefined): boolean {
  return connection !== undefined && connections.get(serial) === connection
}

/** Runs one write of a phone at a time; a new connection waits here until a write in flight has ended. */
export function inTurn<T>(serial: string, work: () => Promise<T>): Promise<T> {
  const before = queues.get(serial) ?? Promise.resolve()
  const mine = before.then(work, work)
  queues.set(
    serial,
    mine.catch(() => undefined),
  )
  return mine
}
