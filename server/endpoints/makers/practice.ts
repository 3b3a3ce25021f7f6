import {
  amendAnswer,
  attachAnswer,
  linkFailure,
  listLine,
  openAnswer,
  fileAnswer,
  phoneCount,
  phoneFacts,
  portView,
  previewAnswer,
  maxWrite,
  removeAnswer,
  watchEvent,
  writeAnswer,
  type LinkFailure,
  type WatchEvent,
  type WriteResult,
} from '#contracts/link/index.ts'
import { z } from 'zod'
import { patience } from '../../base/patience.ts'
import { LinkError, OutcomeUnknown, type Connection, type Sink, type Source, type Transport } from '../endpoint.ts'

export interface LinkServer {
  readonly url: string
  readonly token: string
  /** 30 seconds unless said. */
  readonly idleMs?: number
}

/** After so long without a byte a stream is lost; one that is not taken, a little later. */
function idleMs({ idleMs }: LinkServer, isTaken = false): number {
  const { idleMs: usual, takeIdleMs } = patience.call
  return isTaken ? ((idleMs ?? usual) / usual) * takeIdleMs : (idleMs ?? usual)
}

interface Ask {
  readonly path: string
  readonly connection?: string
  readonly body?: unknown
  readonly timeoutMs?: number
}

/** The bench of the practice phones: the link over HTTP, as they speak it. */
export function practiceBench(server: LinkServer): Transport {
  return {
    code: 'practice',
    async ports() {
      return parsed(z.object({ ports: z.array(portView) }), await ask(server, { path: 'ports', timeoutMs: patience.call.shortMs })).ports
    },
    watch: (signal) => readWatch(server, signal),
    endpoint(serial) {
      const base = `phones/${encodeURIComponent(serial)}`
      return {
        async attach() {
          return connectionOver(server, serial, attachAnswer.parse(await ask(server, { path: `${base}/attach`, body: {} })).connection)
        },
        body: {
          async prepare(wants) {
            await ask(server, { path: `${base}/prepare`, body: wants, timeoutMs: patience.call.shortMs })
          },
          async mark(text) {
            await ask(server, { path: `${base}/mark`, body: { text }, timeoutMs: patience.call.shortMs })
          },
        },
      }
    },
  }
}

/** The operations of a connection that was opened. */
export function connectionOver(server: LinkServer, serial: string, connection: string): Connection {
  const base = `phones/${encodeURIComponent(serial)}`
  const at = (path: string, body?: unknown): Ask => ({ path: `${base}/${path}`, connection, body })
  const source: Source = {
    count: async (kind) => parsed(phoneCount, await ask(server, at(`kinds/${kind}/count`))),
    list: (kind) => readList(server, at(`kinds/${kind}/list`)),
    async openPreview(kind, handle) {
      const { picture } = parsed(previewAnswer, await ask(server, at(`kinds/${kind}/preview?handle=${encodeURIComponent(handle)}`)))
      return picture === null ? undefined : Buffer.from(picture, 'base64')
    },
    openFile: (kind, handle) => readFile(server, at(`kinds/${kind}/file?handle=${encodeURIComponent(handle)}`)),
  }
  const sink: Sink = {
    putFile: (kind, bytes, { sizeBytes } = {}) => sendFile(server, at(`kinds/${kind}/file`), bytes, sizeBytes),
    async write(kind, records) {
      const results: WriteResult[] = []
      for (const some of inCalls(records)) {
        const request = at(`kinds/${kind}/write`, { records: some.map((record) => Buffer.from(record).toString('base64')) })
        const answer = await ask(server, { ...request, timeoutMs: patience.call.writeMs }).catch((error: unknown) => {
          // what was refused before anything was written is no unknown outcome; everything else is
          throw new OutcomeUnknown(error instanceof LinkError ? error.code : 'LinkLost')
        })
        const checked = writeAnswer.safeParse(answer)
        if (!checked.success || checked.data.results.length !== some.length) throw new OutcomeUnknown('LinkProtocol')
        results.push(...checked.data.results)
      }
      return results
    },
    async open(kind, id) {
      return parsed(openAnswer, await ask(server, at(`kinds/${kind}/open?id=${encodeURIComponent(id)}`)))
    },
    async amend(kind, id, ifRevision, record) {
      parsed(amendAnswer, await ask(server, at(`kinds/${kind}/amend`, { id, ifRevision, record: Buffer.from(record).toString('base64') })))
    },
    async remove(kind, ids) {
      const removed: string[] = []
      for (const some of inCalls(ids)) {
        const { revision } = await source.count(kind)
        removed.push(...parsed(removeAnswer, await ask(server, at(`kinds/${kind}/remove`, { ids: some, ifRevision: revision }))).removed)
      }
      return removed
    },
  }
  return { source, sink, place: async () => phoneFacts.parse(await ask(server, at('facts'))) }
}

/** What one call takes. */
function* inCalls<T>(all: readonly T[]): Generator<readonly T[]> {
  for (let from = 0; from < all.length; from += maxWrite) yield all.slice(from, from + maxWrite)
}

function parsed<T>(schema: z.ZodType<T>, value: unknown): T {
  const result = schema.safeParse(value)
  if (!result.success) throw new LinkError('LinkProtocol')
  return result.data
}

async function request(
  server: LinkServer,
  { path, connection, body, timeoutMs = patience.call.anyMs }: Ask,
  signal?: AbortSignal,
): Promise<Response> {
  const response = await fetch(`${server.url}/${path}`, {
    method: body === undefined ? 'GET' : 'POST',
    headers: {
      authorization: `Bearer ${server.token}`,
      'content-type': 'application/json',
      ...(connection ? { 'x-link-connection': connection } : {}),
    },
    body: body === undefined ? undefined : JSON.stringify(body),
    signal: signal ?? AbortSignal.timeout(timeoutMs),
  }).catch(() => {
    throw new LinkError('LinkLost')
  })
  if (response.ok) return response
  throw new LinkError(await failureOf(response))
}

async function failureOf(response: Response): Promise<LinkFailure> {
  const code = await response.json().then(
    (problem: { code?: unknown }) => problem.code,
    () => undefined,
  )
  return toFailure(code)
}

async function ask(server: LinkServer, what: Ask): Promise<unknown> {
  const response = await request(server, what)
  try {
    return await response.json()
  } catch {
    throw new LinkError('LinkLost')
  }
}

function toFailure(code: unknown): LinkFailure {
  const known = linkFailure.safeParse(code)
  return known.success ? known.data : 'LinkProtocol'
}

/** NDJSON with real back-pressure: a line is asked for when the one before is done. */
async function* readList(server: LinkServer, what: Ask): ReturnType<Source['list']> {
  const stop = new AbortController()
  const response = await request(server, what, stop.signal)
  let rest = ''
  const decoder = new TextDecoder()
  let end: { count: number; revision: string } | undefined
  let idle: NodeJS.Timeout | undefined
  try {
    const reader = response.body!.getReader()
    for (;;) {
      idle = setTimeout(() => stop.abort(), idleMs(server))
      const { done, value } = await reader.read().catch(() => {
        throw new LinkError('LinkLost')
      })
      clearTimeout(idle)
      if (done) break
      const lines = (rest + decoder.decode(value, { stream: true })).split('\n')
      rest = lines.pop()!
      for (const text of lines) {
        if (end) throw new LinkError('LinkProtocol')
        const line = readLine(text)
        if ('fail' in line) throw new LinkError(toFailure(line.fail.code))
        if ('end' in line) end = line.end
        else yield line.rec
      }
    }
  } finally {
    clearTimeout(idle)
    stop.abort()
  }
  if (!end || rest !== '') throw new LinkError('LinkLost')
  return end
}

/** Bytes as they come; what stops before its length is lost, never short. */
async function* readFile(server: LinkServer, what: Ask): AsyncGenerator<Uint8Array> {
  const stop = new AbortController()
  const response = await request(server, what, stop.signal)
  const expected = Number(response.headers.get('content-length') ?? -1)
  let got = 0
  // one timer for all: a new one for each piece costs as much as the piece; who takes the bytes may be slow
  let isReading = true
  const idle = setTimeout(() => (isReading ? stop.abort() : idle.refresh()), idleMs(server))
  try {
    const reader = response.body!.getReader()
    for (;;) {
      isReading = true
      idle.refresh()
      const { done, value } = await reader.read().catch(() => {
        throw new LinkError('LinkLost')
      })
      isReading = false
      if (done) break
      got += value.length
      yield value
    }
  } finally {
    clearTimeout(idle)
    stop.abort()
  }
  if (expected >= 0 && got !== expected) throw new LinkError('LinkLost')
}

async function sendFile(
  server: LinkServer,
  { path, connection }: Ask,
  bytes: AsyncIterable<Uint8Array>,
  announcedBytes?: number,
): Promise<string> {
  let sent = 0
  let failure: unknown
  const stop = new AbortController()
  // a phone that takes nothing for so long has stalled; a long film goes on for as long as it moves
  const idle = setTimeout(() => stop.abort(), idleMs(server, true))
  async function* counted() {
    try {
      for await (const chunk of bytes) {
        sent += chunk.length
        // one timer for all: a new one for each piece costs as much as the piece
        idle.refresh()
        yield chunk
      }
    } catch (error) {
      // the side that gives failed, not the one that takes
      failure = error
      throw error
    }
  }
  const response = await fetch(`${server.url}/${path}`, {
    method: 'POST',
    headers: {
      authorization: `Bearer ${server.token}`,
      'content-type': 'application/octet-stream',
      ...(connection ? { 'x-link-connection': connection } : {}),
      ...(announcedBytes === undefined ? {} : { 'x-file-size': String(announcedBytes) }),
    },
    body: counted(),
    duplex: 'half',
    // with these two the body is not kept a second time, for a request that would have to be repeated: a film would fill the memory
    redirect: 'error',
    window: null,
    signal: stop.signal,
  } as unknown as RequestInit)
    .catch(() => {
      throw failure ?? new LinkError('LinkLost')
    })
    .finally(() => clearTimeout(idle))
  if (!response.ok) throw new LinkError(await failureOf(response))
  const { handle, sizeBytes } = parsed(fileAnswer, await response.json().catch(() => null))
  if (sizeBytes !== sent) throw new LinkError('LinkProtocol')
  return handle
}

function readLine(text: string) {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    throw new LinkError('LinkProtocol')
  }
  return parsed(listLine, json)
}

/** A line an event, for as long as the bench answers. */
async function* readWatch(server: LinkServer, signal: AbortSignal): AsyncGenerator<WatchEvent> {
  const response = await request(server, { path: 'watch' }, signal)
  const decoder = new TextDecoder()
  let rest = ''
  for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
    const lines = (rest + decoder.decode(chunk, { stream: true })).split('\n')
    rest = lines.pop()!
    for (const line of lines) yield parsed(watchEvent, JSON.parse(line))
  }
}
