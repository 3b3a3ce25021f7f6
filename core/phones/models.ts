import type { ContactsCapability, PhoneCapability, PhoneModel } from './capability.ts'

const androidContacts: ContactsCapability = {
  vcard: '2.1',
  phoneTypes: ['', 'cell', 'home', 'work', 'fax home', 'fax work', 'pager', 'main', 'car', 'cell work'],
  fieldTypes: ['', 'home', 'work', 'anniversary'],
  ownLabels: ['phones', 'emails', 'urls', 'addresses', 'ims', 'dates', 'relations'],
  maxPhones: 50,
  noteMaxChars: 20_000,
  photoMaxBytes: 400_000,
  groups: true,
  star: true,
  relations: true,
  phonetic: true,
  joinsEqual: true,
}

const iosContacts: ContactsCapability = {
  vcard: '3.0',
  phoneTypes: ['', 'cell', 'home', 'work', 'fax home', 'fax work', 'pager', 'main'],
  fieldTypes: ['', 'home', 'work', 'anniversary'],
  ownLabels: ['phones', 'emails', 'urls', 'addresses', 'ims', 'dates', 'relations'],
  maxPhones: 200,
  noteMaxChars: 60_000,
  photoMaxBytes: 220_000,
  groups: false,
  star: false,
  relations: true,
  phonetic: true,
  joinsEqual: false,
}

const both = (write: ContactsCapability): PhoneCapability => ({ contacts: { read: true, write } })

/** The models this shop knows; the practice phones are of these. */
export const phoneModels: readonly PhoneModel[] = [
  { maker: 'Orrin', model: 'Orrin 5', platform: 'android', versions: ['12', '13'], capability: both(androidContacts) },
  { maker: 'Orrin', model: 'Orrin 9', platform: 'android', versions: ['14', '15'], capability: both(androidContacts) },
  {
    maker: 'Tamsel',
    model: 'Tamsel M2',
    platform: 'android',
    versions: ['11', '12'],
    capability: both({
      ...androidContacts,
      phoneTypes: ['', 'cell', 'home', 'work', 'fax home', 'fax work'],
      ownLabels: ['phones', 'relations'],
      maxPhones: 10,
      noteMaxChars: 1_000,
      photoMaxBytes: 60_000,
      joinsEqual: false,
    }),
  },
  { maker: 'Veyra', model: 'Veyra 12', platform: 'ios', versions: ['17', '18'], capability: both(iosContacts) },
  { maker: 'Veyra', model: 'Veyra 14', platform: 'ios', versions: ['18'], capability: both(iosContacts) },
]

/** A dropped file as the old phone: it can be read and nothing else. */
export const fileModel: PhoneModel = {
  maker: 'File',
  model: 'Contacts file',
  platform: 'file',
  versions: [''],
  capability: { contacts: { read: true, write: { cannot: 'file-is-read-only' } } },
}

/** The model by maker and model; an unknown one is taken as the most limited of its platform, so that nothing is promised. */
export function findModel(phone: { maker: string; model: string; platform: string }): PhoneModel {
  if (phone.platform === 'file') return fileModel
  const known = phoneModels.find((m) => m.maker === phone.maker && m.model === phone.model)
  if (known) return known
  const fallback = phone.platform === 'ios' ? 'Veyra 12' : 'Tamsel M2'
  return { ...phoneModels.find((m) => m.model === fallback)!, maker: phone.maker, model: phone.model }
}
