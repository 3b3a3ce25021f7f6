import { firstLine } from '../../text/lines.ts'
import { createCardSplitter, readVcards } from '../../formats/vcard/index.ts'
import { invariant } from '../../invariant.ts'
import type { Kind } from '../kind.ts'
import { canonicalBytes, contactAtoms, contactCanonicalVersion, contactMatchKeys } from './canonical.ts'
import { changeContact, contactChanges } from './change.ts'
import { contactFromVcard } from './from-vcard.ts'
import { joinContacts } from './join.ts'
import { contactTitle, type Contact } from './model.ts'
import { sampleContact } from './sample.ts'
import { contactToVcard } from './to-vcard.ts'
import { contactsOn, contactsFace } from './face.ts'

export type { Contact } from './model.ts'
export { createNumberReader } from './canonical.ts'

export const contacts: Kind<Contact> = {
  ...contactsFace,
  canonicalVersion: contactCanonicalVersion,
  joins: true,
  perSecond: { carrying: 400, reading: 2000 },
  read(bytes) {
    const cards = readVcards(bytes)
    const [first] = cards
    if (!first) return { ok: false, code: 'empty-card' }
    if (cards.length > 1) return { ok: false, code: 'more-than-one-card' }
    if (!first.ok) return { ok: false, code: first.code }
    const { contact, issues } = contactFromVcard(first.card)
    const all = [...first.issues, ...issues]
    // a record whose value could not be decoded is not whole: better one unreadable item than a silent gap
    const lossy = all.find((issue) => issue.severity === 'lossy')
    if (lossy) return { ok: false, code: lossy.code }
    return { ok: true, item: contact, issues: all.map((issue) => issue.code) }
  },
  atoms: contactAtoms,
  canonicalBytes,
  matchKeys: contactMatchKeys,
  change: changeContact,
  changes: contactChanges,
  rules: ['file-is-read-only', 'nothing-to-store', 'not-known'],
  issues: ['charset-guessed', 'stray-text', 'no-version', 'bad-date'],
  failures: [
    'empty-card',
    'more-than-one-card',
    'no-end',
    'no-version',
    'nested-card',
    'stray-text',
    'line-too-long',
    'line-without-colon',
    'charset-unknown',
    'damaged-base64',
    'damaged-quoted-printable',
    'storage-error',
  ],
  sample: sampleContact,
  write(contact, to, number) {
    const { write } = contactsOn(to)
    invariant(!('cannot' in write), 'only a phone that takes contacts is written to')
    if (!number) return contactToVcard(contact, write.vcard)
    const phones = contact.phones.map((phone) => (number(phone.value).startsWith('+') ? { ...phone, value: number(phone.value) } : phone))
    return contactToVcard({ ...contact, phones }, write.vcard)
  },
  join: joinContacts,
  describe(contact) {
    const lines: { field: string; text: string }[] = []
    const add = (field: string, text: string) => text && lines.push({ field, text })
    for (const { value } of contact.phones) add('phone', value)
    for (const { value } of contact.emails) add('email', value)
    for (const a of contact.addresses) {
      add('address', [a.poBox, a.extended, a.street, a.city, a.region, a.postcode, a.country].filter(Boolean).join(', '))
    }
    add('company', [contact.company, contact.department].filter(Boolean).join(', '))
    add('birthday', contact.birthday)
    for (const { value } of contact.urls) add('url', value)
    for (const group of contact.groups) add('group', group)
    add('note', contact.note)
    return { title: contactTitle(contact), lines }
  },
  openFiles: (['2.1', '3.0', '4.0'] as const).map((version) => ({
    code: `vcf-${version}`,
    extension: 'vcf',
    mediaType: 'text/vcard',
    write: (contact) => contactToVcard(contact, version),
  })),
  archive: {
    file: 'Contacts.vcf',
    page: {
      title: 'Contacts',
      by: 'name',
      namesOf: (contact) => contact.phones.map(({ value }) => ({ number: value, name: contactTitle(contact) })),
    },
    // what address books of every age take
    write: (contact) => contactToVcard(contact, '3.0'),
    splitter: createCardSplitter,
    brought: { begins: (head) => /^BEGIN:VCARD\s*$/im.test(firstLine(head)) },
  },
  shape(contact) {
    return {
      phones: contact.phones.length,
      emails: contact.emails.length,
      photo: contact.photo ? 1 : 0,
      groups: contact.groups.length,
      named: contactTitle(contact) === '' ? 0 : 1,
    }
  },
}
