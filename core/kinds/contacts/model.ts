/** One stored contact, in the terms of RFC 6350, whatever dialect it came in. */
export interface Contact {
  readonly name: NameParts
  /** FN, as written. Derived by most phones; content only where there are no name parts. */
  readonly formattedName: string
  readonly phonetic: { readonly family: string; readonly given: string; readonly middle: string }
  readonly nicknames: readonly string[]
  readonly phones: readonly Labelled[]
  readonly emails: readonly Labelled[]
  readonly urls: readonly Labelled[]
  /** value: `scheme:handle` */
  readonly ims: readonly Labelled[]
  readonly addresses: readonly (Address & { readonly label: Label })[]
  readonly company: string
  readonly department: string
  readonly title: string
  readonly role: string
  readonly birthday: string
  /** Other dates, the anniversary among them. */
  readonly dates: readonly Labelled[]
  readonly note: string
  readonly photo: Photo | undefined
  readonly groups: readonly string[]
  readonly relations: readonly Labelled[]
  readonly starred: boolean
  /** Properties no platform form knows, kept verbatim and counted. */
  readonly extra: readonly { readonly name: string; readonly value: string }[]
}

export interface NameParts {
  readonly family: string
  readonly given: string
  readonly middle: string
  readonly prefix: string
  readonly suffix: string
}

export interface Address {
  readonly poBox: string
  readonly extended: string
  readonly street: string
  readonly city: string
  readonly region: string
  readonly postcode: string
  readonly country: string
}

/** Standard types in lower case, sorted (`cell`, `work`, `fax work`), or the owner's own word. */
export type Label = { readonly types: readonly string[]; readonly custom?: string }

export interface Labelled {
  readonly value: string
  readonly label: Label
}

export type Photo = { readonly bytes: Uint8Array } | { readonly address: string }

export const noLabel: Label = { types: [] }

export const emptyContact: Contact = {
  name: { family: '', given: '', middle: '', prefix: '', suffix: '' },
  formattedName: '',
  phonetic: { family: '', given: '', middle: '' },
  nicknames: [],
  phones: [],
  emails: [],
  urls: [],
  ims: [],
  addresses: [],
  company: '',
  department: '',
  title: '',
  role: '',
  birthday: '',
  dates: [],
  note: '',
  photo: undefined,
  groups: [],
  relations: [],
  starred: false,
  extra: [],
}

/** What a list shows of a contact, while showing is allowed. */
export function contactTitle(contact: Contact): string {
  const { prefix, given, middle, family, suffix } = contact.name
  const name = [prefix, given, middle, family, suffix].filter(Boolean).join(' ')
  return (
    name || contact.formattedName || contact.nicknames[0] || contact.company || contact.phones[0]?.value || contact.emails[0]?.value || ''
  )
}

/** FN where it says something that no other field says: phones make one up from a number, an address or the company. */
export function ownFormattedName(contact: Contact): string {
  const shown = contact.formattedName.trim()
  const derived = [contact.company, ...contact.nicknames, ...contact.phones.map((p) => p.value), ...contact.emails.map((e) => e.value)]
  const bare = (text: string) => text.normalize('NFC').replace(/[\s().-]/g, '')
  return derived.some((text) => bare(text) === bare(shown)) ? '' : shown
}
