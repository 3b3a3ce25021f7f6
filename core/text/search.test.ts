import { describe, expect, it } from 'vitest'
import { foldForSearch, searcherFor } from './search.ts'

describe('looking for a text', () => {
  it.each([
    ['angstrom', 'Zoë Ångström-Öztürk'],
    ['ÅNGSTRÖM', 'Zoe Angstrom'],
    ['ozturk zoe', 'Zoë Ångström-Öztürk'],
    ['strasse', 'Hauptstraße 4'],
    ['o’hara', "Maeve O'Hara"],
    ['zielinska', 'Ola Zielińska'],
    ['lodz', 'Łódź'],
    ['ﬁsh', 'fish and chips'],
    ['see you', 'See  you at the quay'],
  ])('%s is found in %s', (wanted, text) => {
    expect(searcherFor(wanted)(text)).toBe(true)
  })

  it.each([
    ['07700900', '+44 7700 900123'],
    ['07700 900 123', '+447700900123'],
    ['+44 7700 900', '07700 900123'],
    ['+44 7700 900', '(07700) 900-123'],
    ['0044 7700 900123', '07700 900123'],
    ['7700 900', '0044 7700.900.123'],
    ['900123', 'Maud, +44 (0)7700 900123'],
    ['900-123', 'Maud 07700900123'],
    ['+1 555 0100', '0555 0100'],
  ])('the number %s is found in %s', (wanted, text) => {
    expect(searcherFor(wanted)(text)).toBe(true)
  })

  it.each([
    ['07700 900 124', '+44 7700 900123'],
    ['+33 7700 900', '07711 900123'],
    ['+44 77', '0188 900123'],
    ['angstrom maud', 'Zoë Ångström'],
    ['00', 'no number here'],
    ['12', 'Ferry at 10:20'],
  ])('%s is not found in %s', (wanted, text) => {
    expect(searcherFor(wanted)(text)).toBe(false)
  })

  it('nothing but blanks finds everything, and folding twice is folding once', () => {
    expect(searcherFor('  ')('anything')).toBe(true)
    expect(foldForSearch(foldForSearch('Łódź  ÉTÉ'))).toBe(foldForSearch('Łódź  ÉTÉ'))
  })
})
