import { describe, expect, it } from 'vitest'
import { keepPlaces, type ListedPort } from '../../app/features/book-in/phone-choice.ts'

const port = (n: number, serial: string) => ({ port: n, phone: { serial } }) as ListedPort['port']
const said = (list: readonly ListedPort[]) => list.map(({ port, isGone }) => `${port.port} ${port.phone!.serial}${isGone ? ' gone' : ''}`)

describe('the ports Book in lists', () => {
  it('never move under a hand that is about to press', () => {
    const first = keepPlaces([], [port(3, 'C'), port(8, 'H')])
    const more = keepPlaces(first, [port(1, 'A'), port(3, 'C'), port(5, 'E'), port(8, 'H')])
    expect(said(more)).toEqual(['3 C', '8 H', '1 A', '5 E'])
    const pulled = keepPlaces(more, [port(1, 'A'), port(5, 'E'), port(8, 'H')])
    expect(said(pulled)).toEqual(['3 C gone', '8 H', '1 A', '5 E'])
  })

  it('tell another phone at the same port from the one that was there, and know it again when it comes back', () => {
    const first = keepPlaces([], [port(3, 'C')])
    const other = keepPlaces(first, [port(3, 'X')])
    expect(said(other)).toEqual(['3 C gone', '3 X'])
    expect(said(keepPlaces(other, [port(4, 'C')]))).toEqual(['4 C', '3 X gone'])
  })
})
