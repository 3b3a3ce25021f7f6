import type { PhoneModel } from '../../phones/capability.ts'
import type { ContactsCapability } from '../../phones/capability.ts'
import type { Change } from '../kind.ts'
import type { Contact, Label } from './model.ts'

/** Every change a platform can force on a contact; the sentences are in the interface's words. */
export const contactChanges = {
  'label-as-own-word': { loss: false },
  'label-dropped': { loss: true },
  'numbers-to-note': { loss: false },
  'relations-to-note': { loss: false },
  'note-cut': { loss: true },
  'photo-too-large': { loss: true },
  'photo-by-address': { loss: true },
  'groups-dropped': { loss: true },
  'star-dropped': { loss: true },
  'phonetic-dropped': { loss: true },
  'fields-dropped': { loss: true },
} as const

export type ContactChangeCode = keyof typeof contactChanges

/** The form a contact takes on a phone, with every change named, or the rule by which it can't cross. */
export function changeContact(
  contact: Contact,
  to: PhoneModel,
): { item: Contact; changes: Change[] } | { cannot: string } {
  const { write } = to.capability.contacts
  if ('cannot' in write) return write
  const codes = new Set<ContactChangeCode>()
  const item = fit(contact, write, (code) => codes.add(code))
  if (isNothing(item)) return { cannot: 'nothing-to-store' }
  return { item, changes: [...codes].map((code) => ({ code, loss: contactChanges[code].loss })) }
}

function fit(contact: Contact, can: ContactsCapability, note: (code: ContactChangeCode) => void): Contact {
  const relabel =
    (field: ContactsCapability['ownLabels'][number]) =>
    <T extends { readonly label: Label }>(entry: T): T => {
      const { label } = entry
      const known = field === 'phones' ? can.phoneTypes : can.fieldTypes
      if (label.custom === undefined && known.includes(label.types.join(' '))) return entry
      if (!can.ownLabels.includes(field)) {
        note('label-dropped')
        return { ...entry, label: { types: [] } }
      }
      if (label.custom !== undefined) return entry
      note('label-as-own-word')
      return { ...entry, label: { types: [], custom: label.types.join(' ') } }
    }
  const noteLines = [contact.note]
  let phones = contact.phones.map(relabel('phones'))
  if (phones.length > can.maxPhones) {
    note('numbers-to-note')
    noteLines.push(...phones.slice(can.maxPhones).map((phone) => phone.value))
    phones = phones.slice(0, can.maxPhones)
  }
  let relations = contact.relations.map(relabel('relations'))
  if (relations.length > 0 && !can.relations) {
    note('relations-to-note')
    noteLines.push(...relations.map((relation) => relation.value))
    relations = []
  }
  let text = noteLines.filter(Boolean).join('\n')
  if (text.length > can.noteMaxChars) {
    note('note-cut')
    text = text.slice(0, can.noteMaxChars)
    if (/[\ud800-\udbff]$/.test(text)) text = text.slice(0, -1)
  }
  let { photo } = contact
  if (photo && 'address' in photo) {
    note('photo-by-address')
    photo = undefined
  } else if (photo && photo.bytes.length > can.photoMaxBytes) {
    note('photo-too-large')
    photo = undefined
  }
  if (contact.groups.length > 0 && !can.groups) note('groups-dropped')
  if (contact.starred && !can.star) note('star-dropped')
  if (contact.extra.length > 0) note('fields-dropped')
  const hasPhonetic = Object.values(contact.phonetic).some(Boolean)
  if (hasPhonetic && !can.phonetic) note('phonetic-dropped')
  return {
    ...contact,
    phones,
    relations,
    photo,
    note: text,
    emails: contact.emails.map(relabel('emails')),
    urls: contact.urls.map(relabel('urls')),
    ims: contact.ims.map(relabel('ims')),
    addresses: contact.addresses.map(relabel('addresses')),
    dates: contact.dates.map(relabel('dates')),
    phonetic: can.phonetic ? contact.phonetic : { family: '', given: '', middle: '' },
    groups: can.groups ? contact.groups : [],
    starred: can.star && contact.starred,
    extra: [],
  }
}

function isNothing(contact: Contact): boolean {
  const { name, phonetic, phones, emails, urls, ims, addresses, dates, relations, groups, nicknames, photo, starred, extra, ...texts } = contact
  const lists = [phones, emails, urls, ims, addresses, dates, relations, groups, nicknames, extra]
  return (
    lists.every((list) => list.length === 0) &&
    !photo &&
    !starred &&
    [...Object.values(name), ...Object.values(phonetic), ...Object.values(texts)].every((text) => String(text).trim() === '')
  )
}
