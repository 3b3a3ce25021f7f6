import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { findModel } from '../../phones/models.ts'
import { containsAll } from '../../book/pair.ts'
import { contactAtoms, createNumberReader } from './canonical.ts'
import { changeContact } from './change.ts'
import { joinContacts } from './join.ts'
import { emptyContact, noLabel, type Contact } from './model.ts'

const tools = { number: createNumberReader('GB'), hash: () => '', instant: () => 0, nowMs: 0 }
const orrin = findModel({ maker: 'Orrin', model: 'Orrin 9', platform: 'android' })
const keypad = findModel({ maker: 'Holt', model: 'Holt 3', platform: 'keypad' })
const person = (change: Partial<Contact>): Contact => ({
  ...emptyContact,
  name: { ...emptyContact.name, given: 'Ines', family: 'Harrow' },
  ...change,
})
const phone = (value: string, types: string[] = ['cell']) => ({ value, label: { types } })
const joined = (ours: Partial<Contact>, theirs: Partial<Contact>) => {
  const result = joinContacts(person(ours), person(theirs), orrin, tools)
  return 'item' in result ? result.item : result.conflicts
}

describe('two records of one person', () => {
  it('become one that says all of both; one number in two spellings is one', () => {
    const item = joined(
      { phones: [phone('07700 900001'), phone('07700 900002', ['work'])], company: 'Quay' },
      { phones: [phone('+447700900001')], note: 'Rings at noon' },
    ) as Contact
    expect(item.phones.map(({ value }) => value)).toEqual(['+447700900001', '07700 900002'])
    expect([item.company, item.note]).toEqual(['Quay', 'Rings at noon'])
  })

  it.each([
    ['two birthdays', { birthday: '1980-01-01' }, { birthday: '1981-01-01' }, ['birthday']],
    ['two notes', { note: 'a' }, { note: 'b' }, ['note']],
    ['two names', { name: { ...emptyContact.name, given: 'Inez' } }, {}, ['name']],
    ['a company and a role each', { company: 'Quay', role: 'Mate' }, { company: 'Pier', role: 'Cook' }, ['company', 'role']],
  ] as const)('with %s can’t be one, and the fields are named', (_, ours, theirs, conflicts) => {
    expect(joined(ours, theirs)).toEqual(conflicts)
  })

  it('that would not fit the phone as one can’t be one there', () => {
    const four = ['1', '2', '3', '4'].map((n) => ({ value: `0770090000${n}`, label: noLabel }))
    const [ours, theirs] = [four.slice(0, 2), four.slice(2)].map((phones): Contact => ({
      ...emptyContact,
      name: { ...emptyContact.name, given: 'Ines' },
      formattedName: 'Ines',
      phones,
    }))
    expect(joinContacts(ours!, theirs!, keypad, tools)).toEqual({ conflicts: ['does-not-fit'] })
  })

  it('joined or not, nothing either says is dropped: the joined record contains both, and has the phone’s form', () => {
    const text = fc.constantFrom('', 'a', 'b')
    const entries = fc.array(
      fc.record({
        value: fc.constantFrom('07700900001', '+447700900001', '07700 900002'),
        label: fc.constantFrom({ types: ['cell'] }, { types: ['home'] }, { types: [], custom: 'Boat' }),
      }),
      { maxLength: 3 },
    )
    const contact = fc
      .record({
        phones: entries,
        note: text,
        company: text,
        birthday: fc.constantFrom('', '1980-01-01'),
        nicknames: fc.uniqueArray(fc.constantFrom('x', 'y')),
        starred: fc.boolean(),
      })
      .map(person)
    let made = 0
    fc.assert(
      fc.property(contact, contact, (ours, theirs) => {
        const result = joinContacts(ours, theirs, orrin, tools)
        if (!('item' in result)) {
          expect(result.conflicts.length).toBeGreaterThan(0)
          return
        }
        made++
        const atoms = contactAtoms(result.item, tools)
        expect(containsAll(atoms, contactAtoms(ours, tools))).toBe(true)
        expect(containsAll(atoms, contactAtoms(theirs, tools))).toBe(true)
        expect(changeContact(result.item, orrin)).toMatchObject({ changes: [] })
        // joined with what it holds already, it stays what it is
        expect(contactAtoms((joinContacts(ours, result.item, orrin, tools) as { item: Contact }).item, tools)).toEqual(atoms)
      }),
      { seed: 61, numRuns: 400 },
    )
    expect(made).toBeGreaterThan(100)
  })
})
