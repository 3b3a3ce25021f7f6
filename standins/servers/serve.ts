import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import { timingSafeEqual } from 'node:crypto'
import { createApp, createRouter, eventHandler, getQuery, getRouterParams, toNodeListener, type H3Event } from 'h3'
import { keepConnection } from '#contracts/connections.ts'

export interface Call {
  readonly method: string
  /** What a path names: `serial`, `kind`, `verb`. */
  readonly params: Readonly<Record<string, string>>
  readonly query: Readonly<Record<string, string | undefined>>
  readonly headers: IncomingMessage['headers']
  readonly response: ServerResponse
  body<T>(): Promise<T>
  bytes(): Promise<Buffer>
  /** What comes, as it comes. */
  stream(): AsyncIterable<Buffer>
}

export class HttpFailure extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
  ) {
    super(code)
  }
}

/** What answers at each path, whatever the method: JSON, or undefined when it has answered itself. */
export type Routes = Readonly<Record<`/${string}`, (call: Call) => unknown>>

const mostBytes = 256_000_000

async function bytesOf(request: IncomingMessage): Promise<Buffer> {
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of request) {
    size += (chunk as Buffer).length
    if (size > mostBytes) throw new HttpFailure(413, 'too-large')
    chunks.push(chunk as Buffer)
  }
  return Buffer.concat(chunks)
}

function callOf(event: H3Event): Call {
  const { req, res } = event.node
  const bytes = () => bytesOf(req)
  return {
    method: event.method,
    params: getRouterParams(event, { decode: true }),
    query: getQuery(event),
    headers: req.headers,
    response: res,
    stream: () => req as AsyncIterable<Buffer>,
    bytes,
    async body<T>() {
      try {
        return JSON.parse((await bytes()).toString('utf8') || '{}') as T
      } catch (error) {
        throw error instanceof HttpFailure ? error : new HttpFailure(400, 'not-json')
      }
    },
  }
}

function reply(response: ServerResponse, status: number, body: unknown): void {
  if (response.headersSent || response.destroyed) return
  response.writeHead(status, { 'content-type': 'application/json', 'cache-control': 'no-store' }).end(JSON.stringify(body))
}

/** A loopback HTTP server behind a token. What no path names is not found. */
export function serve(token: string, routes: Routes): Server {
  const wanted = Buffer.from(`Bearer ${token}`)
  const mayAsk = (request: IncomingMessage) => {
    const given = Buffer.from(request.headers.authorization ?? '')
    return given.length === wanted.length && timingSafeEqual(given, wanted)
  }
  const app = createApp({ onError: (_, { node }) => reply(node.res, 404, { code: 'NotFound' }) })
  const router = createRouter()
  for (const [path, answer] of Object.entries(routes)) {
    router.use(
      path,
      eventHandler(async (event) => {
        const { res } = event.node
        try {
          const body = await answer(callOf(event))
          if (body !== undefined) reply(res, 200, body)
        } catch (error) {
          if (error instanceof HttpFailure) reply(res, error.status, { code: error.code })
          else reply(res, 500, { code: 'stand-in-failed' })
        }
        // what was cut off has no answer, and gets none
        event._handled = true
      }),
    )
  }
  app.use(router)
  const listener = toNodeListener(app)
  // a long film over a slow cable takes longer than any time limit of a request
  return createServer({ requestTimeout: 0 }, (request, response) => {
    keepConnection(request, response)
    if (mayAsk(request)) void listener(request, response)
    else reply(response, 401, { code: 'not-allowed' })
  })
}
