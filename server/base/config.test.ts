import { describe, expect, it } from 'vitest'
import { readStations } from './config.ts'

const link = { url: 'http://127.0.0.1:1', token: 't' }
const read = (stations: readonly object[], own?: string) => readStations(JSON.stringify(stations), own)

describe('the benches of a shop', () => {
  it('one alone is everybody’s own; without one there is none', () => {
    expect(read([{ code: 'bench', link }])).toMatchObject({ station: { code: 'bench', name: '', firstPort: 1, hand: null } })
    expect(read([])).toEqual({ stations: [], station: null })
  })

  it('of several, a process stands at the one it is told, and pages at none', () => {
    const two = [
      { code: 'bench', link },
      { code: 'window', firstPort: 9, link },
    ]
    expect(read(two, 'window').station?.code).toBe('window')
    expect(read(two).station).toBeNull()
    expect(() => read(two, 'attic')).toThrow('attic is none of CORVEND_STATIONS')
  })

  it('never share a code or a port, and lack nothing', () => {
    const both = (second: object) => read([{ code: 'bench', link }, second])
    expect(() => both({ code: 'bench', firstPort: 9, link })).toThrow('a code and ports of its own')
    expect(() => both({ code: 'window', firstPort: 8, link })).toThrow('a code and ports of its own')
    expect(() => both({ code: 'window', firstPort: 9 })).toThrow('link')
    expect(() => both({ code: 'The window', firstPort: 9, link })).toThrow('code')
  })
})
