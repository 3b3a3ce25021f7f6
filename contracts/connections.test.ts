import { createServer, type Server } from 'node:http'
import { connect, type AddressInfo, type Socket } from 'node:net'
import { afterEach, expect, it } from 'vitest'
import { idleConnection, keepConnection } from './connections.ts'

let server: Server
afterEach(() => void server.close())

/** What a server says to one request of these headers, and how its end of the connection stands then. */
async function asked(headers: string): Promise<{ said: string; end: Socket }> {
  const ends: Socket[] = []
  server = createServer((request, response) => {
    keepConnection(request, response)
    response.end('done')
  }).on('connection', (socket: Socket) => ends.push(socket))
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  const socket = connect((server.address() as AddressInfo).port, '127.0.0.1')
  let said = ''
  const whole = new Promise<void>((resolve) =>
    socket.on('data', (piece) => {
      said += String(piece)
      if (said.endsWith('done') || said.endsWith('0\r\n\r\n')) resolve()
    }),
  )
  socket.write(`GET / HTTP/1.1\r\nhost: x\r\n${headers}\r\n`)
  await whole
  await expect.poll(() => ends[0]!.timeout ?? ends[0]!.destroyed).toBeTruthy()
  socket.destroy()
  return { said: said.toLowerCase(), end: ends[0]! }
}

it('a connection is kept much longer than it is said to be: who asks closes it first', async () => {
  const { said, end } = await asked('')
  expect(said).toContain(`\r\nkeep-alive: timeout=${idleConnection.saidMs / 1000}\r\n`)
  expect(end.timeout).toBeGreaterThanOrEqual(idleConnection.keptMs)
})

it('who asks for its end gets it', async () => {
  const { said, end } = await asked('connection: close\r\n')
  expect(said).toContain('\r\nconnection: close\r\n')
  expect(said).not.toContain('keep-alive')
  expect(end.destroyed).toBe(true)
})
