/** What lives only while the process runs: sessions, one writer at a time, and who watches. */
export interface LiveEvent {
  readonly event: 'plugged' | 'pulled' | 'locked' | 'unlocked' | 'asked' | 'answered' | 'changed' | 'here'
  readonly port?: number
  readonly serial?: string
}

const watchers = new Set<(event: LiveEvent) => void>()
const sessions = new Map<string, string>()
const queues = new Map<string, Promise<unknown>>()

export function watch(tell: (event: LiveEvent) => void): () => void {
  watchers.add(tell)
  return () => watchers.delete(tell)
}

export function announce(event: LiveEvent): void {
  for (const tell of watchers) tell(event)
}

export function setSession(serial: string, session: string): void {
  sessions.set(serial, session)
}

export function isSession(serial: string, session: string | undefined): boolean {
  return session !== undefined && sessions.get(serial) === session
}

/** Runs one write of a phone at a time; a new session waits here until a write in flight has ended. */
export function inTurn<T>(serial: string, work: () => Promise<T>): Promise<T> {
  const before = queues.get(serial) ?? Promise.resolve()
  const mine = before.then(work, work)
  queues.set(
    serial,
    mine.catch(() => undefined),
  )
  return mine
}
