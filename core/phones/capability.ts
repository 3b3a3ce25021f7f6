/** What a phone does with contacts, as far as it is known before asking it. */
export interface ContactsCapability {
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

/** What a phone does with its call log. */
export interface CallsCapability {
  readonly vcard: '2.1' | '3.0'
  /** Kinds of call its log has a word for. */
  readonly types: readonly string[]
  readonly durations: boolean
  /** How many it keeps, the newest. */
  readonly newest: number
  /** It gives local times alone: of the hour that comes twice it tells the first. */
  readonly localTimes: boolean
}

/** What a phone does with its calendars. */
export interface CalendarCapability {
  /** It keeps several calendars by their names. */
  readonly calendars: boolean
  /** Alarms an event may have. */
  readonly alarms: number
  readonly url: boolean
}

/** What a phone does with messages. */
export interface MessagesCapability {
  /** The chat service of its platform; messages of another become SMS or MMS. */
  readonly chat: string
  /** It has a place for drafts and for what was never sent. */
  readonly unsent: boolean
  /** It tells a failed message from a draft. */
  readonly failed: boolean
  /** Lines it tells apart. */
  readonly lines: number
  readonly groupNames: boolean
  /** Types of attachments it keeps and can't play. */
  readonly unplayable: readonly string[]
  /** A longer text becomes several records. */
  readonly textMaxChars: number
  /** It gives local times alone: of the hour that comes twice it tells the first. */
  readonly localTimes: boolean
}

/** What a phone does with photos. */
export interface PhotosCapability {
  /** Types it shows or plays, by RFC 6838 name; pictures of others are converted. */
  readonly shows: readonly string[]
  /** Albums of its own, a photo in several; or a folder is an album, and a photo in one. */
  readonly albums: 'own' | 'folders'
  readonly favourites: boolean
  readonly hidden: boolean
  readonly bursts: boolean
  /** An edited photo keeps its original behind it. */
  readonly originals: boolean
}

/** How a phone comes by apps. */
export interface AppsCapability {
  /** packages: it is given them, with their data. store: its own store installs them, by the owner's account. */
  readonly installs: 'packages' | 'store'
}

export interface KindCapability<Write> {
  readonly read: boolean
  readonly write: Write | { readonly cannot: string }
}

export interface PhoneCapability {
  readonly contacts: KindCapability<ContactsCapability>
  readonly messages: KindCapability<MessagesCapability>
  readonly calls: KindCapability<CallsCapability>
  readonly calendar: KindCapability<CalendarCapability>
  readonly photos: KindCapability<PhotosCapability>
  readonly apps: KindCapability<AppsCapability>
}

export interface PhoneModel {
  readonly maker: string
  readonly model: string
  readonly platform: 'android' | 'ios' | 'keypad' | 'file'
  readonly capability: PhoneCapability
  /** Where its clock is, once the phone said so (IANA). */
  readonly zone?: string
}
