import { capabilityOf, type PhoneModel } from '../../phones/capability.ts'
import type { KindFace } from '../face.ts'

/** What a phone does with contacts, as far as it is known before asking it. */
export interface ContactsAbility {
  /** The vCard version this phone takes. */
  readonly vcard: '2.1' | '3.0'
  /** Standard label words it knows, by field; any other becomes the owner's own word, or is dropped. */
  readonly phoneTypes: readonly string[]
  readonly fieldTypes: readonly string[]
  /** Fields whose labels may be the owner's own word. */
  readonly ownLabels: readonly ('phones' | 'emails' | 'urls' | 'addresses' | 'ims' | 'dates' | 'relations')[]
  readonly maxPhones: number
  readonly noteMaxChars: number
  readonly photoMaxBytes: number
  readonly groups: boolean
  readonly star: boolean
  readonly relations: boolean
  readonly phonetic: boolean
  /** A record of it can be changed in place. */
  readonly amends: boolean
  /** It may join a contact into an equal one by itself. */
  readonly joinsEqual: boolean
  /** Characters a name may have, its parts with blanks between. */
  readonly nameMaxChars: number
  /** It keeps a name and numbers, and nothing else. */
  readonly onlyNumbers?: boolean
}

const android: ContactsAbility = {
  vcard: '2.1',
  phoneTypes: ['', 'cell', 'home', 'work', 'fax home', 'fax work', 'pager', 'main', 'car', 'cell work'],
  fieldTypes: ['', 'home', 'work', 'anniversary'],
  ownLabels: ['phones', 'emails', 'urls', 'addresses', 'ims', 'dates', 'relations'],
  maxPhones: 50,
  nameMaxChars: 240,
  noteMaxChars: 20_000,
  photoMaxBytes: 400_000,
  groups: true,
  star: true,
  relations: true,
  phonetic: true,
  amends: true,
  joinsEqual: true,
}
const tamsel: ContactsAbility = {
  ...android,
  phoneTypes: ['', 'cell', 'home', 'work', 'fax home', 'fax work'],
  ownLabels: ['phones', 'relations'],
  maxPhones: 10,
  nameMaxChars: 120,
  noteMaxChars: 1_000,
  photoMaxBytes: 60_000,
  joinsEqual: false,
}
const ios: ContactsAbility = {
  vcard: '3.0',
  phoneTypes: ['', 'cell', 'home', 'work', 'fax home', 'fax work', 'pager', 'main'],
  fieldTypes: ['', 'home', 'work', 'anniversary'],
  ownLabels: ['phones', 'emails', 'urls', 'addresses', 'ims', 'dates', 'relations'],
  maxPhones: 200,
  nameMaxChars: 500,
  noteMaxChars: 60_000,
  photoMaxBytes: 220_000,
  groups: false,
  star: false,
  relations: true,
  phonetic: true,
  amends: false,
  joinsEqual: false,
}
const keypad: ContactsAbility = {
  ...android,
  phoneTypes: [''],
  fieldTypes: [''],
  ownLabels: [],
  maxPhones: 3,
  noteMaxChars: 0,
  photoMaxBytes: 0,
  groups: false,
  star: false,
  relations: false,
  phonetic: false,
  amends: false,
  joinsEqual: false,
  nameMaxChars: 22,
  onlyNumbers: true,
}

/** What that phone does with contacts. */
export const contactsOn = (phone: PhoneModel) => capabilityOf<ContactsAbility>(phone, 'contacts')
const isSo = (phone: PhoneModel, what: 'amends' | 'joinsEqual') => {
  const { write } = contactsOn(phone)
  return !('cannot' in write) && write[what]
}

export const contactsFace: KindFace = {
  code: 'contacts',
  phones: {
    Orrin: { read: true, write: android },
    Tamsel: { read: true, write: tamsel },
    Veyra: { read: true, write: ios },
    Holt: { read: true, write: keypad },
    File: { read: true, write: { cannot: 'file-is-read-only' } },
  },
  guides: {
    android: { read: true, write: true },
    ios: {
      read: true,
      write: true,
      changes: [
        { code: 'groups-dropped', loss: true },
        { code: 'star-dropped', loss: true },
      ],
    },
    keypad: {
      read: true,
      write: true,
      changes: [
        { code: 'name-cut', loss: true },
        { code: 'numbers-dropped', loss: true },
        { code: 'fields-dropped', loss: true },
      ],
      limits: { items: 500, numbers: 3, nameChars: 22 },
    },
  },
  facets: {
    'with-photo': { figure: 'photo', moreThan: 0 },
    'no-name': { figure: 'named', is: 0 },
    'several-numbers': { figure: 'phones', moreThan: 1 },
    'no-number': { figure: 'phones', is: 0 },
    'in-groups': { figure: 'groups', moreThan: 0 },
  },
  needs: ['accounts-still'],
  permission: 'contacts',
  joining: { amends: (phone) => isSo(phone, 'amends'), isByItself: (phone) => isSo(phone, 'joinsEqual') },
  begins: 'VCARD',
}
