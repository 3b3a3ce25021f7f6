import { describe, expect, it } from 'vitest'
import { allRoutes, routes } from '#contracts/http/routes.ts'
import { plainBody } from '../../../tests/attack/nasty.ts'
import { didOf } from './did.ts'

/** They say words of their own, or more than a table could (`server/desk/`). */
const themselves = new Set(['edit', 'note', 'rest', 'resume', 'handOver', 'exchangeNew', 'callOff', 'bookIn', 'file'])

describe('who did what', () => {
  const acts = allRoutes.filter(
    ([, { path, method, query }]) =>
      path.startsWith('/api/tickets/') && method !== 'GET' && 'shape' in query && 'with' in (query.shape as object),
  )
  it.each(acts)('%s is noted in the course of its ticket', (name, route) => {
    const body = route.takes === 'json' ? plainBody(route.body, { add: ['calls'], oldSerial: 'S', code: 'trusted', fates: ['lost'] }) : {}
    const did = didOf(route, { number: 'T-1', kind: 'contacts' }, body)
    expect(did.length > 0).toBe(!themselves.has(name))
  })
  it('of what was chosen, how much and never what', () => {
    const set = [{ key: 'old-7', isChosen: false }]
    expect(didOf(routes.choose, { number: 'T-1', kind: 'contacts' }, { choice: 'some', mode: 'add', set, slice: null })).toEqual([
      { what: 'chosen', kind: 'contacts', code: 'some', n: 1 },
    ])
  })
})
