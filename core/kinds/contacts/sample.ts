import type { PhoneModel } from '../../phones/capability.ts'
import { changeContact } from './change.ts'
import { emptyContact, type Contact } from './model.ts'
import { contactsOn } from './face.ts'

/**
 * A contact that has everything a phone of this model can hold, so that asking what becomes of it on another names
 * every change that pair can force.
 */
export function sampleContact(from: PhoneModel): Contact {
  const { write } = contactsOn(from)
  // a file holds anything
  const can = 'cannot' in write ? { photoMaxBytes: 1_000_000, noteMaxChars: 100_000, maxPhones: 60 } : write
  const whole: Contact = {
    ...emptyContact,
    name: { family: 'a'.repeat(30), given: 'a', middle: '', prefix: '', suffix: '' },
    phonetic: { family: 'a', given: '', middle: '' },
    phones: Array.from({ length: Math.min(can.maxPhones, 60) }, (_, i) => ({
      value: String(i),
      label: i === 0 ? { types: ['car'] } : i === 1 ? { types: [], custom: 'a' } : { types: ['cell'] },
    })),
    emails: [{ value: 'a', label: { types: [], custom: 'a' } }],
    note: 'a'.repeat(can.noteMaxChars),
    photo: { bytes: new Uint8Array(can.photoMaxBytes) },
    groups: ['a'],
    starred: true,
    relations: [{ value: 'a', label: { types: [] } }],
  }
  if ('cannot' in write) return whole
  const held = changeContact(whole, from)
  return 'cannot' in held ? emptyContact : held.item
}
