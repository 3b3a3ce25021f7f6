import type { PhoneModel } from '../../phones/capability.ts'
import type { Change } from '../kind.ts'
import { contactTitle, emptyContact, noLabel, type Contact, type Label } from './model.ts'
import { contactsOn, type ContactsAbility } from './face.ts'

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
  'name-cut': { loss: true },
  'numbers-dropped': { loss: true },
} as const

export type ContactChangeCode = keyof typeof contactChanges

/** The form a contact takes on a phone, with every change named, or the rule by which it can't cross. */
export function changeContact(contact: Contact, to: PhoneModel): { item: Contact; changes: Change[] } | { cannot: string } {
  const { write } = contactsOn(to)
  if ('cannot' in write) return write
  const codes = new Set<ContactChangeCode>()
  const item = write.onlyNumbers ? fitToKeypad(contact, write, codes) : fit(contact, write, codes)
  if (isNothing(item)) return { cannot: 'nothing-to-store' }
  return { item, changes: [...codes].map((code) => ({ code, loss: contactChanges[code].loss })) }
}

type LabelledField = ContactsAbility['ownLabels'][number]

/** Labels as the phone knows them: a word of its own, the owner's own word, or none. */
function relabel<T extends { readonly label: Label }>(
  entries: readonly T[],
  field: LabelledField,
  can: ContactsAbility,
  codes: Set<ContactChangeCode>,
): readonly T[] {
  if (entries.length === 0) return entries
  const known = field === 'phones' ? can.phoneTypes : can.fieldTypes
  const hasOwn = can.ownLabels.includes(field)
  return entries.map((entry) => {
    const { label } = entry
    if (label.custom === undefined && known.includes(label.types.length === 1 ? label.types[0]! : label.types.join(' '))) return entry
    if (!hasOwn) {
      codes.add('label-dropped')
      return { ...entry, label: noLabel }
    }
    if (label.custom !== undefined) return entry
    codes.add('label-as-own-word')
    return { ...entry, label: { types: [], custom: label.types.join(' ') } }
  })
}

function fit(contact: Contact, can: ContactsAbility, codes: Set<ContactChangeCode>): Contact {
  const noteLines = [contact.note]
  let phones = relabel(contact.phones, 'phones', can, codes)
  if (phones.length > can.maxPhones) {
    codes.add('numbers-to-note')
    for (const { value } of phones.slice(can.maxPhones)) noteLines.push(value)
    phones = phones.slice(0, can.maxPhones)
  }
  let relations = relabel(contact.relations, 'relations', can, codes)
  if (relations.length > 0 && !can.relations) {
    codes.add('relations-to-note')
    for (const { value } of relations) noteLines.push(value)
    relations = []
  }
  let text = noteLines.filter(Boolean).join('\n')
  if (text.length > can.noteMaxChars) {
    codes.add('note-cut')
    text = cutTo(text, can.noteMaxChars)
  }
  let { photo } = contact
  if (photo && 'address' in photo) {
    codes.add('photo-by-address')
    photo = undefined
  } else if (photo && photo.bytes.length > can.photoMaxBytes) {
    codes.add('photo-too-large')
    photo = undefined
  }
  if (contact.groups.length > 0 && !can.groups) codes.add('groups-dropped')
  if (contact.starred && !can.star) codes.add('star-dropped')
  if (contact.extra.length > 0) codes.add('fields-dropped')
  const { family, given, middle } = contact.phonetic
  if (!can.phonetic && family + given + middle !== '') codes.add('phonetic-dropped')
  const { name, formattedName } = fitName(contact, can, codes)
  return {
    ...contact,
    name,
    formattedName,
    phones,
    relations,
    photo,
    note: text,
    emails: relabel(contact.emails, 'emails', can, codes),
    urls: relabel(contact.urls, 'urls', can, codes),
    ims: relabel(contact.ims, 'ims', can, codes),
    addresses: relabel(contact.addresses, 'addresses', can, codes),
    dates: relabel(contact.dates, 'dates', can, codes),
    phonetic: can.phonetic ? contact.phonetic : { family: '', given: '', middle: '' },
    groups: can.groups ? contact.groups : [],
    starred: can.star && contact.starred,
    extra: [],
  }
}

/** A name as long as the phone takes: its longest part is cut, and the shown name with it. */
function fitName(
  { name, formattedName }: Contact,
  can: ContactsAbility,
  codes: Set<ContactChangeCode>,
): Pick<Contact, 'name' | 'formattedName'> {
  const parts = Object.entries(name) as [keyof Contact['name'], string][]
  const over = parts.reduce((sum, [, text]) => sum + text.length, parts.length - 1) - can.nameMaxChars
  const shown = cutTo(formattedName, can.nameMaxChars)
  if (over <= 0 && shown === formattedName) return { name, formattedName }
  codes.add('name-cut')
  if (over <= 0) return { name, formattedName: shown }
  const [longest, text] = parts.reduce((most, part) => (part[1].length > most[1].length ? part : most))
  return { name: { ...name, [longest]: cutTo(text, Math.max(1, text.length - over)) }, formattedName: shown }
}

/** The beginning of a text, no letter taken apart. */
function cutTo(text: string, chars: number): string {
  const cut = text.slice(0, chars)
  return /[\ud800-\udbff]$/.test(cut) ? cut.slice(0, -1) : cut
}

/** A keypad phone keeps a short name and a few numbers; all else is named as lost. */
function fitToKeypad(contact: Contact, can: ContactsAbility, codes: Set<ContactChangeCode>): Contact {
  const title = contactTitle(contact)
  const given = [...title].slice(0, can.nameMaxChars).join('').trim()
  if (given !== title) codes.add('name-cut')
  const phones = contact.phones.slice(0, can.maxPhones).map(({ value }) => ({ value, label: noLabel }))
  if (phones.length < contact.phones.length) codes.add('numbers-dropped')
  if (contact.phones.some(({ label }) => label.custom !== undefined || label.types.length > 0)) codes.add('label-dropped')
  const item: Contact = { ...emptyContact, name: { ...emptyContact.name, given }, formattedName: given, phones }
  const { name: _, formattedName: __, phones: ___, ...rest } = contact
  const hasMore = Object.values(rest).some((value) =>
    Array.isArray(value) ? value.length > 0 : typeof value === 'object' ? Object.values(value).some(Boolean) : Boolean(value),
  )
  if (hasMore) codes.add('fields-dropped')
  return phones.length === 0 && !Object.values(contact.name).some(Boolean) ? emptyContact : item
}

function isNothing(contact: Contact): boolean {
  if (contact.phones.length > 0 || contact.emails.length > 0 || contact.name.given !== '' || contact.name.family !== '') return false
  const { name, phonetic, phones, emails, urls, ims, addresses, dates, relations, groups, nicknames, photo, starred, extra, ...texts } =
    contact
  const lists = [phones, emails, urls, ims, addresses, dates, relations, groups, nicknames, extra]
  return (
    lists.every((list) => list.length === 0) &&
    !photo &&
    !starred &&
    [...Object.values(name), ...Object.values(phonetic), ...Object.values(texts)].every((text) => String(text).trim() === '')
  )
}
