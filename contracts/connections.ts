/**
 * How long a connection nobody uses is said to stay (`Keep-Alive`, RFC 2068, 19.7.1), and how long it stays, in
 * milliseconds. Who closes at the moment the other side uses it again makes a request fail that was never read: so the
 * side that asks is told to be the first, by far, however busy its machine is.
 */
export const idleConnection = { saidMs: 4000, keptMs: 65_000 }

interface Asked {
  readonly socket: object
}
interface Answering {
  readonly shouldKeepAlive: boolean
  setHeader(name: string, value: string): unknown
}

/** Before a request of Node’s HTTP server is answered. */
export function keepConnection({ socket }: Asked, response: Answering): void {
  const { server } = socket as { server?: { keepAliveTimeout: number } }
  // who asks for the end of it gets it
  if (!response.shouldKeepAlive || !server) return
  server.keepAliveTimeout = idleConnection.keptMs
  response.setHeader('connection', 'keep-alive')
  response.setHeader('keep-alive', `timeout=${idleConnection.saidMs / 1000}`)
}
