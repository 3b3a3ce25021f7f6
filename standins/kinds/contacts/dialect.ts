/** A value with its label: a standard word, or the owner's own. */
export interface Tagged {
  readonly v: string
  readonly t: string
  readonly own?: boolean
}

/** Facts of a person before any phone stored them; what the demo is made of. */
export interface Person {
  family?: string
  given?: string
  middle?: string
  prefix?: string
  suffix?: string
  soundFamily?: string
  soundGiven?: string
  nickname?: string[]
  phones?: Tagged[]
  emails?: Tagged[]
  urls?: Tagged[]
  ims?: Tagged[]
  addresses?: { parts: string[]; t: string; own?: boolean }[]
  company?: string
  department?: string
  title?: string
  role?: string
  birthday?: string
  dates?: Tagged[]
  note?: string
  photo?: string
  groups?: string[]
  relations?: Tagged[]
  starred?: boolean
  unknown?: { name: string; value: string }[]
}

/** How one family of phones keeps, gives and takes contacts. */
export interface Dialect<Stored = unknown> {
  store(person: Person): Stored
  /** The bytes the link gives for a record. */
  give(stored: Stored): Buffer
  /** @throws Error when the bytes are not what this family takes */
  take(bytes: Buffer): Stored
  /** Facts of the record as comparable text: what the phone's own joining looks at. */
  facts(stored: Stored): string[]
  /** The record with another's facts added. */
  join(into: Stored, other: Stored): Stored
  name(stored: Stored): string
  figures(stored: Stored): { phones: number; photoBytes: number; noteChars: number }
}
