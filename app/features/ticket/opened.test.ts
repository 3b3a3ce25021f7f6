import { describe, expect, it } from 'vitest'
import { entryFilters } from '#contracts/http/sets.ts'
import { addressOf, openedItems, openedFrom, type Opened } from './opened.ts'

const all: readonly Opened[] = [
  ...entryFilters.map((filter) => openedItems('messages', filter)),
  openedItems('messages', 'pending', { reason: 'long-text-split', facet: 'sms', group: 'a3f09c', when: '2026-11' }),
  { what: 'groups', kind: 'calendar', side: 'old', by: 'group' },
  { what: 'groups', kind: 'messages', side: 'new', by: 'month' },
  { what: 'joinings', kind: 'contacts' },
  { what: 'own', kind: 'contacts', side: 'new' },
  { what: 'months', kind: 'photos' },
]

describe('what is open, in the address', () => {
  it.each(all)('is read back as it was written: $what $filter', (opened) => {
    expect(openedFrom(addressOf(opened))).toEqual(opened)
  })

  it.each([
    {},
    { open: '' },
    { open: 'messages' },
    { open: 'messages.nonsense' },
    { open: 'contacts.own' },
    { open: '<b>.lost' },
    { open: ['a', 'b'] },
  ])('%j opens nothing', (query) => {
    expect(openedFrom(query)).toBeNull()
  })

  it('never holds a word of a customer’s, whatever was put into it', () => {
    const opened = openedItems('messages', 'all', { group: 'Maud Penrose +44 7700', reason: 'it says “hello”' })
    expect(addressOf(opened)).toEqual({ open: 'messages.all' })
    expect(openedFrom({ open: 'messages.all', group: 'Maud Penrose' })).toMatchObject({ group: '' })
  })
})
