import { createServer, type Server } from 'node:http'
import { once } from 'node:events'
import type { AddressInfo } from 'node:net'
import { createApp, eventHandler, toNodeListener } from 'h3'
import { afterEach, describe, expect, it } from 'vitest'
import { openEventStream } from './event-stream.ts'

let server: Server
afterEach(() => void server.close())

type Stream = ReturnType<typeof openEventStream>
/** A server of one stream: what it was opened with, and the end it was told of. */
async function serving(before: () => Promise<void> = async () => undefined) {
  let closed = 0
  let opened: (stream: Stream) => void
  const stream = new Promise<Stream>((resolve) => (opened = resolve))
  const app = createApp().use(
    eventHandler(async (event) => {
      await before()
      opened(openEventStream(event, () => closed++))
    }),
  )
  server = createServer(toNodeListener(app)).listen(0, '127.0.0.1')
  await once(server, 'listening')
  return { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, stream, closed: () => closed }
}

describe('a stream of events', () => {
  it.each([
    ['pressed', 'gzip', 'gzip'],
    ['as it is', 'identity', null],
  ])('%s: each event comes at once, and what is told after the end is no write', async (_, accept, encoding) => {
    const { url, stream, closed } = await serving()
    const answer = await fetch(url, { headers: { 'accept-encoding': accept } })
    expect(answer.headers.get('content-encoding')).toBe(encoding)
    const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader()
    const open = await stream
    open.push({ id: '7', event: 'ticket', data: '{"ticket":"T-1"}' })
    expect((await reader.read()).value).toBe('id: 7\nevent: ticket\ndata: {"ticket":"T-1"}\n\n')
    open.push({ event: 'beat', data: '{}' })
    expect((await reader.read()).value).toBe('event: beat\ndata: {}\n\n')
    open.close()
    open.push({ event: 'beat', data: '{}' })
    expect((await reader.read()).done).toBe(true)
    await expect.poll(closed).toBe(1)
  })

  it('a browser that went before the stream was opened is told of all the same', async () => {
    const went = new AbortController()
    const { url, stream, closed } = await serving(async () => {
      went.abort()
      await new Promise((resolve) => setTimeout(resolve, 100))
    })
    await fetch(url, { signal: went.signal }).catch(() => undefined)
    await stream
    await expect.poll(closed).toBe(1)
  })
})
