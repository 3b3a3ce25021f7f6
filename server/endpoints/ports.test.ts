import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Config } from '../base/config.ts'
import { readBench, stationOf } from './ports.ts'

let asked = 0
/** One that takes every call and answers none, one that answers, and one that is off. */
const silent = createServer(() => void asked++)
const answers = createServer((_, response) => response.end(JSON.stringify({ ports: [{ port: 2, drawsPower: true, phone: null }] })))
const urlOf = (server: Server) => `http://127.0.0.1:${(server.address() as AddressInfo).port}`
beforeAll(async () => {
  for (const server of [silent, answers]) await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
})
afterAll(() => {
  for (const server of [silent, answers]) {
    server.closeAllConnections()
    server.close()
  }
})
const station = (code: string, firstPort: number, url: string) => ({ code, name: '', firstPort, link: { url, token: 't' }, hand: null })
const bench = (...stations: Config['stations']) => readBench({ config: { stations } as Config })

describe('the benches of a shop, looked at together', () => {
  it('one that is off is empty and named, the others are told by their numbers in the shop', async () => {
    const { ports, seen } = await bench(station('off', 1, 'http://127.0.0.1:1'), station('window', 9, urlOf(answers)))
    expect(seen).toEqual(['window'])
    expect(ports.map(({ port, station }) => `${station} ${port}`)).toEqual([
      ...Array.from({ length: 8 }, (_, i) => `off ${i + 1}`),
      'window 10',
    ])
    expect(stationOf({ ports }, 'nowhere')).toBeUndefined()
  })

  it('one that lets everybody wait is not waited for again at once, where there are others', async () => {
    const both = [station('slow', 1, urlOf(silent)), station('window', 9, urlOf(answers))]
    expect((await bench(...both)).seen).toEqual(['window'])
    const before = asked
    expect((await bench(...both)).seen).toEqual(['window'])
    expect(asked).toBe(before)
    // alone it is asked each time: there is nobody to wait for it but who asks
    expect((await bench(both[0]!)).seen).toEqual([])
    expect(asked).toBe(before + 1)
  })
})
