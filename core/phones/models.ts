import type {
  AppsCapability,
  CalendarCapability,
  CallsCapability,
  ContactsCapability,
  MessagesCapability,
  PhoneModel,
  PhotosCapability,
} from './capability.ts'

const androidContacts: ContactsCapability = {
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

const iosContacts: ContactsCapability = {
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

const androidMessages: MessagesCapability = {
  chat: 'android',
  unsent: true,
  failed: true,
  lines: 2,
  groupNames: true,
  unplayable: ['image/heic', 'video/quicktime'],
  textMaxChars: 20_000,
  localTimes: false,
}
const tamselMessages: MessagesCapability = {
  ...androidMessages,
  failed: false,
  lines: 1,
  groupNames: false,
  textMaxChars: 1_000,
  localTimes: true,
}
const iosMessages: MessagesCapability = {
  chat: 'ios',
  unsent: false,
  failed: false,
  lines: 2,
  groupNames: true,
  unplayable: ['video/3gpp', 'audio/amr'],
  textMaxChars: 20_000,
  localTimes: false,
}

const androidCalls: CallsCapability = {
  vcard: '2.1',
  types: ['in', 'out', 'missed', 'rejected', 'blocked'],
  durations: true,
  newest: 500,
  localTimes: true,
}
const tamselCalls: CallsCapability = { ...androidCalls, types: ['in', 'out', 'missed'], durations: false, newest: 300 }

const androidCalendar: CalendarCapability = { calendars: true, alarms: 5, url: true }
const tamselCalendar: CalendarCapability = { calendars: false, alarms: 1, url: false }
const iosCalendar: CalendarCapability = { calendars: true, alarms: 2, url: true }

const everyday = ['image/jpeg', 'image/png', 'image/gif', 'image/webp', 'video/mp4']
const androidPhotos: PhotosCapability = {
  shows: [...everyday, 'image/heic'],
  albums: 'folders',
  favourites: true,
  hidden: true,
  bursts: true,
  originals: false,
}
const tamselPhotos: PhotosCapability = {
  shows: everyday,
  albums: 'folders',
  favourites: false,
  hidden: false,
  bursts: false,
  originals: false,
}
const iosPhotos: PhotosCapability = {
  shows: ['image/jpeg', 'image/png', 'image/gif', 'image/heic', 'video/mp4', 'video/quicktime'],
  albums: 'own',
  favourites: true,
  hidden: true,
  bursts: true,
  originals: true,
}

const androidApps: AppsCapability = { installs: 'packages' }
const iosApps: AppsCapability = { installs: 'store' }

const tamselContacts: ContactsCapability = {
  ...androidContacts,
  phoneTypes: ['', 'cell', 'home', 'work', 'fax home', 'fax work'],
  ownLabels: ['phones', 'relations'],
  maxPhones: 10,
  nameMaxChars: 120,
  noteMaxChars: 1_000,
  photoMaxBytes: 60_000,
  joinsEqual: false,
}

const keypadContacts: ContactsCapability = {
  ...androidContacts,
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

const makers = {
  Orrin: {
    platform: 'android',
    contacts: androidContacts,
    messages: androidMessages,
    calls: androidCalls,
    calendar: androidCalendar,
    photos: androidPhotos,
    apps: androidApps,
    models: ['Orrin 4', 'Orrin 5', 'Orrin 7', 'Orrin 9'],
  },
  Tamsel: {
    platform: 'android',
    contacts: tamselContacts,
    messages: tamselMessages,
    calls: tamselCalls,
    calendar: tamselCalendar,
    photos: tamselPhotos,
    apps: androidApps,
    models: ['Tamsel M1', 'Tamsel M2', 'Tamsel M3'],
  },
  Veyra: {
    platform: 'ios',
    contacts: iosContacts,
    messages: iosMessages,
    calls: { cannot: 'platform-takes-no-calls' },
    calendar: iosCalendar,
    photos: iosPhotos,
    apps: iosApps,
    models: ['Veyra 9', 'Veyra 10', 'Veyra 12', 'Veyra 14'],
  },
  Holt: {
    platform: 'keypad',
    contacts: keypadContacts,
    messages: { cannot: 'phone-takes-no-messages' },
    calls: { cannot: 'phone-takes-no-calls' },
    calendar: { cannot: 'phone-takes-no-calendar' },
    photos: { cannot: 'no-place-for-photos' },
    apps: { cannot: 'has-no-apps' },
    models: ['Holt 3', 'Holt 5'],
  },
} as const

/** What each model this shop knows does with what is carried; the guides say how it is made ready. */
export const phoneModels: readonly PhoneModel[] = Object.entries(makers).flatMap(
  ([maker, { platform, contacts, messages, calls, calendar, photos, apps, models }]) =>
    models.map((model) => ({
      maker,
      model,
      platform,
      capability: {
        contacts: { read: true, write: contacts },
        messages: { read: true, write: messages },
        calls: { read: true, write: calls },
        calendar: { read: true, write: calendar },
        photos: { read: true, write: photos },
        apps: { read: platform !== 'keypad', write: apps },
      },
    })),
)

/** The model taken for an unknown one: the most limited of its platform, so that nothing is promised. */
const fallbacks = { android: 'Tamsel M2', ios: 'Veyra 12', keypad: 'Holt 3' } as const

/** A dropped file as the old phone: it can be read and nothing else. */
export const fileModel: PhoneModel = {
  maker: 'File',
  model: 'File',
  platform: 'file',
  capability: {
    contacts: { read: true, write: { cannot: 'file-is-read-only' } },
    messages: { read: false, write: { cannot: 'file-is-read-only' } },
    calls: { read: false, write: { cannot: 'file-is-read-only' } },
    calendar: { read: true, write: { cannot: 'file-is-read-only' } },
    photos: { read: false, write: { cannot: 'file-is-read-only' } },
    apps: { read: false, write: { cannot: 'file-is-read-only' } },
  },
}

/** The model by maker and model; an unknown one is taken as the most limited of its platform, so that nothing is promised. */
export function findModel(phone: { maker: string; model: string; platform: string }): PhoneModel {
  if (phone.platform === 'file') return fileModel
  const known = phoneModels.find((m) => m.maker === phone.maker && m.model === phone.model)
  if (known) return known
  const fallback = fallbacks[phone.platform as keyof typeof fallbacks] ?? fallbacks.android
  return { ...phoneModels.find((m) => m.model === fallback)!, maker: phone.maker, model: phone.model }
}
