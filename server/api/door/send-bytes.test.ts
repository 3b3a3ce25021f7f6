import { once } from 'node:events'
import { createServer, type Server } from 'node:http'
import { connect, type AddressInfo } from 'node:net'
import { createApp, eventHandler, getQuery, setResponseHeader, toNodeListener } from 'h3'
import { afterEach, describe, expect, it } from 'vitest'
import type { Services } from '../../base/services.ts'
import { sendBytes } from './send-bytes.ts'

let server: Server
afterEach(() => void server.close())

/** A server of one answer: what it logged, and how often its bytes were let go. */
async function serving(bytes: (n: string) => AsyncIterable<Uint8Array>) {
  const logged: unknown[] = []
  let ended = 0
  const log = { error: (fields: unknown) => void logged.push(fields) } as unknown as Services['log']
  async function* counted(n: string) {
    try {
      yield* bytes(n)
    } finally {
      ended++
    }
  }
  const app = createApp({ onError: () => undefined }).use(
    eventHandler((event) => {
      setResponseHeader(event, 'content-length', 4)
      return sendBytes(event, { log }, counted(String(getQuery(event).n ?? '')))
    }),
  )
  server = createServer(toNodeListener(app)).listen(0, '127.0.0.1')
  await once(server, 'listening')
  const { port } = server.address() as AddressInfo
  return { port, url: `http://127.0.0.1:${port}/`, logged, ended: () => ended }
}

const later = (ms: number) => new Promise((done) => setTimeout(done, ms))

describe('an answer of bytes', () => {
  it('is sent, too, where it was asked for before the former one on its connection had ended', async () => {
    const { port } = await serving(async function* (n) {
      yield Buffer.from(`${n}abc`)
      // all that was told of is there, and the end is not known yet
      await later(150)
    })
    const socket = connect(port, '127.0.0.1')
    let seen = ''
    socket.on('data', (chunk: Buffer) => void (seen += chunk.toString()))
    const ask = (n: number) => void socket.write(`GET /?n=${n} HTTP/1.1\r\nhost: shop\r\n\r\n`)
    ask(1)
    await expect.poll(() => seen, { interval: 5 }).toContain('1abc')
    ask(2)
    ask(3)
    await expect.poll(() => seen, { timeout: 5000 }).toMatch(/1abc[^]*2abc[^]*3abc/)
    socket.destroy()
  })

  it('that fails before its first byte is a failure like any other; later its connection breaks off', async () => {
    let first = true
    const { url, logged } = await serving(async function* () {
      if (first) throw new Error('not there')
      yield Buffer.from('ab')
      await later(20)
      throw new Error('lost')
    })
    expect((await fetch(url)).status).toBe(500)
    first = false
    const answer = await fetch(url)
    expect(answer.status).toBe(200)
    await expect(answer.arrayBuffer()).rejects.toThrow()
    await expect.poll(() => logged).toEqual([{ code: 'Error ' }])
  })

  it('is no longer read once nobody takes it', async () => {
    const { url, logged, ended } = await serving(async function* () {
      for (;;) {
        yield Buffer.alloc(1)
        await later(5)
      }
    })
    const went = new AbortController()
    const answer = await fetch(url, { signal: went.signal })
    await answer.body!.getReader().read()
    went.abort()
    await expect.poll(ended).toBe(1)
    expect(logged).toEqual([])
  })
})
