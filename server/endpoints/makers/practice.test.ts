import { createServer, type Server, type ServerResponse } from 'node:http'
import { once } from 'node:events'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { LinkError, OutcomeUnknown, type Endpoint, type Connection } from '../endpoint.ts'
import { practiceBench } from './practice.ts'

/** A phone that answers what the test says, however wrong. */
let server: Server
let answer: (path: string, response: ServerResponse) => void
let link: Endpoint
beforeAll(async () => {
  server = createServer((request, response) => {
    request.resume()
    if (request.url!.endsWith('/attach')) response.end(JSON.stringify({ connection: 's' }))
    else answer(request.url!, response)
  }).listen(0, '127.0.0.1')
  await once(server, 'listening')
  link = practiceBench({ url: `http://127.0.0.1:${(server.address() as { port: number }).port}`, token: 't' }).endpoint('S 1/ü')
})
afterAll(() => {
  server.closeAllConnections()
  server.close()
})

const rec = (id: string) => ({ rec: { id, revision: '1', storage: 'phone', body: '' } })
const lines = (...all: unknown[]) => all.map((line) => (typeof line === 'string' ? line : JSON.stringify(line)) + '\n').join('')
async function list(connection: Connection): Promise<{ ids: string[]; end: unknown }> {
  const listing = connection.source.list('contacts')
  const ids: string[] = []
  for (;;) {
    const next = await listing.next()
    if (next.done) return { ids, end: next.value }
    ids.push(next.value.id)
  }
}
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'fine',
    (error: unknown) =>
      error instanceof LinkError || error instanceof OutcomeUnknown ? `${error.constructor.name} ${error.code}` : `thrown ${String(error)}`,
  )

describe('a listing', () => {
  it('is whole only with its end line, and gives the records in order', async () => {
    answer = (_, response) => response.end(lines(rec('1'), rec('2'), { end: { count: 2, revision: 'r' } }))
    expect(await list(await link.attach())).toEqual({ ids: ['1', '2'], end: { count: 2, revision: 'r' } })
  })

  it('comes through in pieces that cut lines and characters', async () => {
    answer = async (_, response) => {
      const bytes = Buffer.from(lines({ rec: { ...rec('ü1').rec } }, { end: { count: 1, revision: 'r' } }))
      for (const byte of bytes) {
        response.write(Buffer.from([byte]))
        await new Promise((resolve) => setImmediate(resolve))
      }
      response.end()
    }
    expect((await list(await link.attach())).ids).toEqual(['ü1'])
  })

  it.each<[string, string, string]>([
    ['no end line', lines(rec('1')), 'LinkError LinkLost'],
    ['an end line that is cut', lines(rec('1')) + '{"end":{"count":1,', 'LinkError LinkLost'],
    ['a record after the end', lines({ end: { count: 0, revision: 'r' } }, rec('1')), 'LinkError LinkProtocol'],
    ['two ends', lines({ end: { count: 0, revision: 'r' } }, { end: { count: 0, revision: 'r' } }), 'LinkError LinkProtocol'],
    ['a line that is no JSON', lines(rec('1'), 'oops'), 'LinkError LinkProtocol'],
    ['a line of another shape', lines({ what: 1 }), 'LinkError LinkProtocol'],
    ['a record without an id', lines({ rec: { ...rec('').rec } }), 'LinkError LinkProtocol'],
    ['a failure of the table', lines(rec('1'), { fail: { code: 'PhoneLocked' } }), 'LinkError PhoneLocked'],
    ['a failure nobody knows', lines({ fail: { code: 'Moonlight' } }), 'LinkError LinkProtocol'],
    ['nothing at all', '', 'LinkError LinkLost'],
  ])('with %s is never a short list', async (_, body, expected) => {
    answer = (_path, response) => response.end(body)
    expect(await codeOf(list(await link.attach()))).toBe(expected)
  })

  it('cut in the middle is lost', async () => {
    answer = (_, response) => {
      response.write(lines(rec('1')))
      setTimeout(() => response.destroy(), 20)
    }
    expect(await codeOf(list(await link.attach()))).toBe('LinkError LinkLost')
  })
})

describe('a write', () => {
  const write = async () => (await link.attach()).sink!.write('contacts', [Buffer.from('a'), Buffer.from('b')])

  it('answers one result a record, in order', async () => {
    const results = [{ ids: ['1'] }, { refused: 'storage-full' }]
    answer = (_, response) => response.end(JSON.stringify({ results }))
    expect(await write()).toEqual(results)
  })

  it.each<[string, (response: ServerResponse) => void, string]>([
    ['an answer of another length', (r) => r.end(JSON.stringify({ results: [{ ids: ['1'] }] })), 'OutcomeUnknown LinkProtocol'],
    [
      'an unknown refusal',
      (r) => r.end(JSON.stringify({ results: [{ ids: ['1'] }, { refused: 'moonlight' }] })),
      'OutcomeUnknown LinkProtocol',
    ],
    ['no ids', (r) => r.end(JSON.stringify({ results: [{ ids: [] }, { ids: ['2'] }] })), 'OutcomeUnknown LinkProtocol'],
    ['an answer that is no JSON', (r) => r.end('oops'), 'OutcomeUnknown LinkLost'],
    ['no answer', (r) => r.destroy(), 'OutcomeUnknown LinkLost'],
    ['a failure of the table', (r) => r.writeHead(409).end(JSON.stringify({ code: 'StorageFull' })), 'OutcomeUnknown StorageFull'],
    ['a failure nobody knows', (r) => r.writeHead(500).end(JSON.stringify({ code: 'Moonlight' })), 'OutcomeUnknown LinkProtocol'],
  ])('with %s has an unknown outcome: never taken for success, never for failure', async (_, respond, expected) => {
    answer = (_path, response) => respond(response)
    expect(await codeOf(write())).toBe(expected)
  })
})

describe('more than a call takes', () => {
  it('is cut by the sink itself, one result a record in order; an answer that is lost makes the whole unknown', async () => {
    const sizes: number[] = []
    let lostAt = Infinity
    answer = (_path, response) => {
      const n = sizes.length === 2 ? 50 : 200
      sizes.push(n)
      if (sizes.length > lostAt) response.destroy()
      else response.end(JSON.stringify({ results: Array.from({ length: n }, (_, i) => ({ ids: [`${sizes.length}-${i}`] })) }))
    }
    const { sink } = await link.attach()
    const records = Array.from({ length: 450 }, () => Buffer.from('a'))
    const results = await sink!.write('contacts', records)
    expect([results.length, sizes, results.at(-1)]).toEqual([450, [200, 200, 50], { ids: ['3-49'] }])
    sizes.length = 0
    lostAt = 1
    expect(await codeOf(sink!.write('contacts', records))).toBe('OutcomeUnknown LinkLost')
  })
})

describe('other calls', () => {
  it.each<[string, object, string]>([
    ['a count below nothing', { items: -1, bytes: 0, derived: 0, revision: 'r' }, 'LinkError LinkProtocol'],
    ['a count without a revision', { items: 1, bytes: 0, derived: 0, revision: '' }, 'LinkError LinkProtocol'],
    ['a count', { items: 1, bytes: 0, derived: 0, revision: 'r' }, 'fine'],
  ])('%s', async (_, body, expected) => {
    answer = (_path, response) => response.end(JSON.stringify(body))
    expect(await codeOf((await link.attach()).source.count('contacts'))).toBe(expected)
  })

  it('a phone’s serial is never part of a path as it stands', async () => {
    let seen = ''
    answer = (path, response) => {
      seen = path
      response.end(JSON.stringify({ items: 0, bytes: 0, derived: 0, revision: 'r' }))
    }
    await (await link.attach()).source.count('contacts')
    expect(seen).toBe('/phones/S%201%2F%C3%BC/kinds/contacts/count')
  })
})
