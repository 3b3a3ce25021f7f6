import type { PhoneModel } from '../../phones/capability.ts'
import type { Joined, ReadTools } from '../kind.ts'
import { contactAtoms } from './canonical.ts'
import { changeContact } from './change.ts'
import type { Contact, Labelled } from './model.ts'

/**
 * One record that says all that two say, or what stands against it: fields of which a record has only one and the two
 * say different things, and what that phone could not keep of it. Nothing is dropped to make two fit.
 * @param ours in the form it has on that phone
 * @param theirs the record that phone holds
 */
export function joinContacts(ours: Contact, theirs: Contact, to: PhoneModel, tools: ReadTools): Joined<Contact> {
  const item = unite(ours, theirs, tools)
  const said = new Set(contactAtoms(item, tools))
  const missing = [...contactAtoms(ours, tools), ...contactAtoms(theirs, tools)].filter((atom) => !said.has(atom))
  if (missing.length > 0) return { conflicts: [...new Set(missing.map((atom) => atom.slice(0, (atom + '\u001f').indexOf('\u001f'))))] }
  const there = changeContact(item, to)
  return 'cannot' in there || there.changes.length > 0 ? { conflicts: ['does-not-fit'] } : { item }
}

function unite(ours: Contact, theirs: Contact, tools: ReadTools): Contact {
  const numbers = (entry: Labelled) => `${tools.number(entry.value)} ${labelOf(entry)}`
  const values = (entry: Labelled) => `${entry.value.toLowerCase()} ${labelOf(entry)}`
  const isNamed = Object.values(theirs.name).some(Boolean)
  return {
    name: isNamed ? theirs.name : ours.name,
    formattedName: isNamed ? theirs.formattedName : theirs.formattedName || ours.formattedName,
    phonetic: Object.values(theirs.phonetic).some(Boolean) ? theirs.phonetic : ours.phonetic,
    nicknames: both(theirs.nicknames, ours.nicknames, (text) => text),
    phones: both(theirs.phones, ours.phones, numbers),
    emails: both(theirs.emails, ours.emails, values),
    urls: both(theirs.urls, ours.urls, values),
    ims: both(theirs.ims, ours.ims, values),
    addresses: both(theirs.addresses, ours.addresses, (a) => JSON.stringify(a)),
    dates: both(theirs.dates, ours.dates, values),
    relations: both(theirs.relations, ours.relations, values),
    groups: both(theirs.groups, ours.groups, (text) => text),
    company: theirs.company || ours.company,
    department: theirs.department || ours.department,
    title: theirs.title || ours.title,
    role: theirs.role || ours.role,
    birthday: theirs.birthday || ours.birthday,
    note: theirs.note || ours.note,
    photo: theirs.photo ?? ours.photo,
    starred: theirs.starred || ours.starred,
    extra: theirs.extra,
  }
}

function labelOf({ label }: Labelled): string {
  return label.custom ?? label.types.join(' ')
}

/** Theirs, and of ours what is not among them. */
function both<T>(theirs: readonly T[], ours: readonly T[], key: (value: T) => string): readonly T[] {
  const known = new Set(theirs.map(key))
  return [...theirs, ...ours.filter((value) => !known.has(key(value)))]
}
