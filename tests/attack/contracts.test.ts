import { Agent, request } from 'node:http'
import { connect } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { isErrorCode } from '#contracts/errors.ts'
import { pathOf } from '#contracts/http/paths.ts'
import { usualBytes, type Route } from '#contracts/http/route.ts'
import { allRoutes, routes } from '#contracts/http/routes.ts'
import { addPhone, bookTicket, countIn, worker } from '../setup/ticket.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { startWeb, type Web } from '../setup/web.ts'
import { nastyValues, paramsOf, pathsOf, plainBody, withAt } from './nasty.ts'

let shop: TestShop
let web: Web
let number: string
const output: string[] = []
beforeAll(async () => {
  shop = await openShop({ leaseMs: 500 })
  web = await startWeb(shop, { output })
  const old = { serial: 'AT-O', model: 'Orrin 5', port: 1, people: { seed: 3, count: 12, style: 'traps' as const } }
  const now = { serial: 'AT-N', model: 'Orrin 9', port: 2, people: { seed: 4, count: 3 } }
  await addPhone(shop, old)
  await addPhone(shop, now)
  number = await bookTicket(shop, old, now, ['contacts', 'calls'])
  const hands = worker(shop)
  await countIn(shop, number)
  hands.kill()
})
afterAll(async () => {
  agent.destroy()
  web.kill()
  await shop.close()
})

const known = () => ({
  number,
  kind: 'contacts',
  'kinds[]': 'contacts',
  port: '1',
  id: '999999',
  copy: '999999',
  upload: '00000000-0000-4000-8000-000000000000',
  no: '0',
  from: '0',
  format: 'vcf',
  path: 'phones',
  code: 'ABCDEFGHJKLM',
  key: 'old-1',
  'keys[]': 'old-1',
  typed: '',
  serial: 'AT-N',
  oldSerial: 'AT-O',
  newSerial: 'AT-N',
  when: '2026',
  group: '',
  facet: '',
  after: null,
})
/** One value in six, others at each place; all of them at any six places one after the other. */
const isOfFew = (value: unknown, place: number) => (nastyValues.indexOf(value) + place) % 6 === 0
const isAttacked = (name: string) => name !== 'signOut' && name !== 'events'
// what may end the ticket comes last
const ending = ['erase', 'sign', 'callOff']

// tens of thousands of calls: a connection is used again, and no page’s fetch stands between
const agent = new Agent({ keepAlive: true, maxSockets: 8 })
type Sent = { path?: string; query?: string; body?: unknown }
type Answer = { status: number; said: string; type: string }
function send(route: Route, { path, query = '', body }: Sent): Promise<Answer> {
  const isWrite = route.method !== 'GET'
  const sent = isWrite ? JSON.stringify(body ?? {}) : ''
  return new Promise<Answer>((resolve, reject) => {
    const asked = request(`${web.url}${path ?? pathOf(route.path, known())}${query}`, {
      agent,
      method: route.method,
      headers: {
        authorization: `Bearer ${shop.token}`,
        ...(isWrite
          ? {
              'content-type': route.takes === 'bytes' ? 'application/octet-stream' : 'application/json',
              'content-length': Buffer.byteLength(sent),
            }
          : {}),
      },
    })
    // a connection nobody used for a while may end just as it is used again: what was sent then was not read
    asked.on('error', (error: NodeJS.ErrnoException) => {
      if (asked.reusedSocket && error.code === 'ECONNRESET') send(route, { path, query, body }).then(resolve, reject)
      else reject(error)
    })
    asked.on('response', (response) => {
      const chunks: Buffer[] = []
      response.on('data', (chunk: Buffer) => chunks.push(chunk))
      response.on('error', reject)
      response.on('end', () =>
        resolve({
          status: response.statusCode!,
          said: Buffer.concat(chunks).toString(),
          type: response.headers['content-type'] ?? '',
        }),
      )
    })
    asked.end(sent)
  })
}

/** An answer is an answer: done, or a problem document with a sentence. */
function faultOf({ status, said, type }: Answer): string | undefined {
  if (status < 300) return undefined
  if (status >= 500 && status !== 502) return `${status} ${said.slice(0, 200)}`
  if (!type.startsWith('application/problem+json')) return `${status} without a problem document: ${said.slice(0, 80)}`
  const { code, title } = JSON.parse(said) as { code: unknown; title: unknown }
  return isErrorCode(code) && typeof title === 'string' ? undefined : `${status} says ${said.slice(0, 80)}`
}

describe('what is sent as bytes', () => {
  it('a file comes whole, once names are shown', async () => {
    expect((await send(routes.show, { body: { reason: 'customer-asks' } })).status).toBe(200)
    const path = pathOf(routes.file.path, { number, kind: 'contacts', format: 'vcf-3.0' })
    const response = await fetch(web.url + path, { headers: { authorization: `Bearer ${shop.token}` } })
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'text/vcard'])
    expect((await response.text()).match(/BEGIN:VCARD/g)!.length).toBeGreaterThan(5)
    await send(routes.hide, {})
  })
})

describe('every contract, with nasty values at every field', () => {
  it.each([...allRoutes].filter(([name]) => isAttacked(name)).sort(([a], [b]) => ending.indexOf(a) - ending.indexOf(b)))(
    '%s',
    async (name, route) => {
      const turn = [...allRoutes].findIndex(([other]) => other === name)
      const faults: string[] = []
      const attempts: (() => Promise<Answer>)[] = []
      paramsOf(route).forEach((param, i) => {
        for (const value of nastyValues) {
          const text = typeof value === 'string' ? value : JSON.stringify(value)
          // many contracts read a ticket’s number, and by the same lines: between them they get every value
          if (text === '' || text.length > 3000 || (param === 'number' && !isOfFew(value, turn + i))) continue
          attempts.push(() =>
            send(route, { path: pathWith(route, param, text), body: route.takes === 'json' ? plainBody(route.body, known()) : {} }),
          )
        }
      })
      if (route.takes === 'json') {
        const plain = plainBody(route.body, known())
        pathsOf(plain).forEach((path, i) => {
          const held = path.reduce((within, step) => (within as never)[step], plain)
          for (const value of nastyValues) {
            // what is no text refuses a text for being one, whatever it says
            const isRefused = typeof value === 'string' && typeof held !== 'string' && held !== null
            if (isRefused && !isOfFew(value, turn + i)) continue
            const body = withAt(plain, path, value)
            attempts.push(() => send(route, { body }))
          }
        })
      }
      // the slowest of eight holds up no other
      const left = attempts[Symbol.iterator]()
      const eighth = async () => {
        for (const attempt of left) {
          const fault = faultOf(await attempt())
          if (fault) faults.push(fault)
        }
      }
      await Promise.all(Array.from({ length: 8 }, eighth))
      expect([...new Set(faults)]).toEqual([])
    },
  )

  it('none of it was a mistake of ours, and nothing of it is in the log', () => {
    expect(output.join('').match(/"code":"\w*Error[^"]*"/g) ?? []).toEqual([])
    expect(output.join('')).not.toContain('drop table')
  })

  it('and the ticket is as it was', async () => {
    const answer = await send(routes.ledger, {})
    expect(answer.status).toBe(200)
  })
})

function pathWith(route: Route, param: string, text: string): string {
  let encoded: string
  try {
    encoded = encodeURIComponent(text)
  } catch {
    encoded = '%ED%A0%80'
  }
  return route.path.replace(/\{(\w+)\*?\}/g, (_, name: string) =>
    name === param ? encoded : encodeURIComponent(String((known() as Record<string, unknown>)[name] ?? 'x')),
  )
}

describe('what no contract names', () => {
  const get = (path: string, init: RequestInit = {}) => fetch(web.url + path, init)
  it.each(['/api', '/api/', '/api/nothing', '/api/tickets/T-1/nothing', '/api/__proto__', '/api/%00', '/api/%zz', '/api//session'])(
    '%s is a problem document, never the page',
    async (path) => {
      const response = await get(path)
      expect([response.status, response.headers.get('content-type')]).toEqual([404, 'application/problem+json'])
    },
  )
  it.each(['PUT', 'PATCH', 'DELETE', 'OPTIONS'])('a method that is not there is 405 and says which are: %s', async (method) => {
    const response = await get('/api/tickets', { method, headers: { 'content-type': 'application/json' } })
    expect([response.status, response.headers.get('allow'), method === 'OPTIONS' || (await response.json()).code]).toEqual([
      405,
      'POST',
      method === 'OPTIONS' || 'WrongMethod',
    ])
  })
  it('a page that is not there is a page of ours', async () => {
    const response = await get('/nothing-here')
    expect(response.headers.get('content-type')).toContain('text/html')
    expect(await response.text()).not.toMatch(/nuxt\.com|stack/i)
  })
})

describe('bodies', () => {
  const signIn = (body: string | Uint8Array, headers: Record<string, string> = {}) =>
    fetch(`${web.url}/api/session`, { method: 'POST', headers: { 'content-type': 'application/json', ...headers }, body: body as BodyInit })
  it.each([
    ['no JSON', '{', 400],
    ['nothing', '', 400],
    ['invalid UTF-8', Buffer.from([0x7b, 0x22, 0xff, 0x22, 0x3a, 0x31, 0x7d]), 400],
    ['nested a hundred thousand deep', '['.repeat(7000), 400],
    ['a NUL', '{"name":"a\\u0000b","pin":"1234"}', 400],
    ['more than sign-in takes', JSON.stringify({ name: 'a'.repeat(20_000), pin: '1234' }), 413],
  ])('%s', async (_, body, status) => expect((await signIn(body)).status).toBe(status))

  it('two hundred megabytes as a name are refused while they come, and cost no memory', async () => {
    const before = await web.liveBytes()
    const { hostname, port } = new URL(web.url)
    const sent = await new Promise<number>((resolve) => {
      const socket = connect(Number(port), hostname)
      let bytes = 0
      const chunk = Buffer.alloc(1_000_000, 'a')
      socket.on('error', () => resolve(bytes))
      socket.on('close', () => resolve(bytes))
      socket.write(
        `POST /api/session HTTP/1.1\r\nhost: ${hostname}:${port}\r\ncontent-type: application/json\r\ntransfer-encoding: chunked\r\n\r\n`,
      )
      const more = () => {
        if (bytes >= 200_000_000 || socket.destroyed) return socket.end()
        bytes += chunk.length
        socket.write(`${chunk.length.toString(16)}\r\n`)
        socket.write(chunk)
        socket.write('\r\n', () => setImmediate(more))
      }
      more()
    })
    const grown = (await web.liveBytes()) - before
    console.log(`sent ${sent} bytes before the end; the web process holds ${Math.round(grown / 1e6)} MB more`)
    expect(sent).toBeLessThan(20_000_000)
    expect(grown).toBeLessThan(20_000_000)
  })
  it('more than a contract takes elsewhere is refused, too', async () => {
    const answer = await send(routes.entries, { body: { kind: 'contacts', text: 'a'.repeat(usualBytes) } })
    expect([answer.status, (JSON.parse(answer.said) as { code: string }).code]).toEqual([413, 'BodyTooLarge'])
  })
  it('a practice route takes nothing nested deep either', async () => {
    const response = await fetch(`${web.url}/api/practice/phones/AT-O/faults`, {
      method: 'POST',
      headers: { authorization: `Bearer ${shop.token}`, 'content-type': 'application/json' },
      body: `{"faults":${'['.repeat(100_000)}${']'.repeat(100_000)}}`,
    })
    expect(response.status).toBe(400)
  })
})

describe('headers', () => {
  const csp =
    /^(?=.*default-src 'self';)(?=.*script-src 'self' 'nonce-\S+' 'strict-dynamic';)(?=.*frame-ancestors 'none';)(?=.*object-src 'none';)/
  it.each<[path: string, headers: Record<string, RegExp | null>]>([
    ['/', { 'content-type': /text\/html/, 'content-security-policy': csp }],
    ['/nothing-here', { 'content-type': /text\/html/, 'content-security-policy': csp }],
    ['/api/health', { 'content-type': /application\/json/, 'cache-control': /no-store/, 'keep-alive': /^timeout=4$/ }],
    ['/api/session', { 'content-type': /application\/problem\+json/, 'cache-control': /no-store/ }],
    ['/api/openapi.json', { 'content-type': /application\/json/, 'cache-control': /no-store/ }],
    ['/mark.svg', { 'content-type': /image\/svg\+xml/ }],
  ])('of %s', async (path, wanted) => {
    const { headers } = await fetch(web.url + path)
    const all = {
      'x-content-type-options': /^nosniff$/,
      'referrer-policy': /^no-referrer$/,
      'x-frame-options': /^(DENY|SAMEORIGIN)$/,
      'x-powered-by': null,
      ...wanted,
    }
    for (const [name, pattern] of Object.entries(all)) {
      if (pattern) expect([path, name, headers.get(name)]).toEqual([path, name, expect.stringMatching(pattern)])
      else expect([path, name, headers.get(name)]).toEqual([path, name, null])
    }
  })
  it.each<[string, Record<string, string>, number]>([
    ['another host', { host: 'evil.example' }, 421],
    ['another site', { 'sec-fetch-site': 'cross-site' }, 403],
    ['another origin', { origin: 'http://evil.example' }, 403],
    ['no origin of its own', { origin: 'null' }, 403],
    ['a form', { 'content-type': 'application/x-www-form-urlencoded' }, 415],
    ['a file form', { 'content-type': 'multipart/form-data; boundary=x' }, 415],
    ['plain text', { 'content-type': 'text/plain' }, 415],
  ])('a write from %s is refused', async (_, headers, status) => {
    const { hostname, port } = new URL(web.url)
    // fetch sets a host of its own
    const said = await new Promise<string>((resolve) => {
      const body = JSON.stringify({ name: 'Rowan', pin: '1234' })
      const all = {
        host: `${hostname}:${port}`,
        'content-type': 'application/json',
        'content-length': String(body.length),
        connection: 'close',
        ...headers,
      }
      const socket = connect(Number(port), hostname)
      let text = ''
      socket.on('data', (piece) => (text += String(piece)))
      socket.on('close', () => resolve(text))
      socket.write(
        `POST /api/session HTTP/1.1\r\n${Object.entries(all)
          .map(([name, value]) => `${name}: ${value}\r\n`)
          .join('')}\r\n${body}`,
      )
    })
    expect(said.split('\r\n')[0]).toContain(` ${status} `)
  })
})

describe('who asks', () => {
  it.each([
    ['nothing', {}],
    ['a made-up token', { authorization: 'Bearer nobody' }],
    ['an empty token', { authorization: 'Bearer ' }],
    ['another scheme', { authorization: 'Basic YTpi' }],
    ['a made-up session', { cookie: 'corvend_session=nobody' }],
    ['a session twice', { cookie: 'corvend_session=a; corvend_session=b' }],
  ])('%s opens no door but those for nobody', async (_, headers) => {
    for (const [name, route] of allRoutes) {
      const isWrite = route.method !== 'GET'
      const response = await fetch(web.url + pathOf(route.path, known()), {
        method: route.method,
        headers: {
          ...headers,
          ...(isWrite ? { 'content-type': route.takes === 'bytes' ? 'application/octet-stream' : 'application/json' } : {}),
        } as Record<string, string>,
        ...(isWrite ? { body: '{}' } : {}),
      })
      await response.body?.cancel()
      expect([name, response.status < 300 || [400, 404].includes(response.status) ? 'let in' : response.status]).toEqual([
        name,
        route.needs === 'nobody' ? 'let in' : 401,
      ])
    }
  })
  it.each([
    ['Last-Event-ID is no whole number', { 'last-event-id': '1.5' }],
    ['Last-Event-ID is too large', { 'last-event-id': '99999999999999999999' }],
    ['Last-Event-ID is a word', { 'last-event-id': 'x' }],
  ])('events: %s', async (_, headers) => {
    const abort = new AbortController()
    const response = await fetch(`${web.url}/api/events`, {
      headers: { ...headers, authorization: `Bearer ${shop.token}` },
      signal: abort.signal,
    })
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'text/event-stream'])
    abort.abort()
  })
})
