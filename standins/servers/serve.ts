import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import { timingSafeEqual } from 'node:crypto'

export interface Call {
  readonly method: string
  readonly path: readonly string[]
  readonly query: URLSearchParams
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

/** The parts of a path; what is no UTF-8 is no path. */
function pathOf({ pathname }: URL): string[] {
  try {
    return pathname.split('/').filter(Boolean).map(decodeURIComponent)
  } catch {
    return []
  }
}

/** A loopback HTTP server behind a token; `answer` returns JSON, or undefined when it has answered itself. */
export function serve(token: string, answer: (call: Call) => Promise<unknown>): Server {
  const wanted = Buffer.from(`Bearer ${token}`)
  // a long film over a slow cable takes longer than any time limit of a request
  return createServer({ requestTimeout: 0 }, (request, response) => {
    const given = Buffer.from(request.headers.authorization ?? '')
    const reply = (status: number, body: unknown) => {
      if (response.headersSent || response.destroyed) return
      response.writeHead(status, { 'content-type': 'application/json', 'cache-control': 'no-store' }).end(JSON.stringify(body))
    }
    if (given.length !== wanted.length || !timingSafeEqual(given, wanted)) return reply(401, { code: 'not-allowed' })
    const asked = `http://localhost${request.url ?? '/'}`
    const url = URL.canParse(asked) ? new URL(asked) : new URL('http://localhost/')
    const call: Call = {
      method: request.method ?? 'GET',
      path: pathOf(url),
      query: url.searchParams,
      headers: request.headers,
      response,
      stream: () => request as AsyncIterable<Buffer>,
      async bytes() {
        const chunks: Buffer[] = []
        let size = 0
        for await (const chunk of request) {
          size += (chunk as Buffer).length
          if (size > 256_000_000) throw new HttpFailure(413, 'too-large')
          chunks.push(chunk as Buffer)
        }
        return Buffer.concat(chunks)
      },
      async body<T>() {
        try {
          return JSON.parse((await call.bytes()).toString('utf8') || '{}') as T
        } catch (error) {
          throw error instanceof HttpFailure ? error : new HttpFailure(400, 'not-json')
        }
      },
    }
    answer(call).then(
      (body) => body !== undefined && reply(200, body),
      (error: unknown) =>
        error instanceof HttpFailure ? reply(error.status, { code: error.code }) : reply(500, { code: 'stand-in-failed' }),
    )
  })
}
