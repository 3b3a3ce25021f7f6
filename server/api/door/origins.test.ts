import { describe, expect, it } from 'vitest'
import { refusalOf } from './origins.ts'

const usual = {
  hosts: ['127.0.0.1', 'localhost'],
  method: 'POST',
  path: '/api/tickets',
  host: '127.0.0.1:4670',
  origin: 'http://127.0.0.1:4670',
  site: 'same-origin',
}

describe('where a request may come from', () => {
  it.each([
    ['our own page writes', {}, undefined],
    ['a script without an origin writes', { origin: undefined, site: undefined }, undefined],
    ['a name that is not ours', { host: 'rebound.example:4670' }, 'WrongHost'],
    ['no host at all', { host: undefined }, 'WrongHost'],
    ['another port of this machine writes', { origin: 'http://127.0.0.1:9999' }, 'WrongOrigin'],
    ['another site writes', { origin: 'https://elsewhere.example', site: 'cross-site' }, 'CrossSite'],
    ['another site writes and hides its kind', { origin: 'https://elsewhere.example', site: undefined }, 'WrongOrigin'],
    ['a page without an origin of its own writes', { origin: 'null', site: undefined }, 'WrongOrigin'],
    ['nonsense as an origin', { origin: '::::', site: undefined }, 'WrongOrigin'],
    ['an empty origin', { origin: '', site: undefined }, 'WrongOrigin'],
    ['another site reads a call', { method: 'GET', origin: undefined, site: 'cross-site' }, 'CrossSite'],
    ['a page of the same registrable name reads a call', { method: 'GET', origin: undefined, site: 'same-site' }, 'CrossSite'],
    ['a link from elsewhere opens a page', { method: 'GET', path: '/tickets/T-1', origin: undefined, site: 'cross-site' }, undefined],
    ['the address bar opens a page', { method: 'GET', path: '/', origin: undefined, site: 'none' }, undefined],
    ['another site writes to a page', { path: '/', site: 'cross-site' }, 'CrossSite'],
    ['our own page under localhost writes', { host: 'localhost:4670', origin: 'http://localhost:4670' }, undefined],
  ])('%s', (_, change, code) => expect(refusalOf({ ...usual, ...change })).toBe(code))
})
