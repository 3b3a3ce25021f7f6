import type pg from 'pg'
import type { OwnFile } from '../phones/files.ts'
import type { StandinModel } from '../phones/models.ts'
import type { PhoneRow } from '../phones/phone.ts'
import type { RecordRow } from '../phones/records.queries.ts'

/** How the phones of a model keep, give and take the records of one kind. */
export interface RecordDialect<Stored = unknown> {
  give(stored: Stored): Buffer
  /** @throws Error when the bytes are not what this phone takes */
  take(bytes: Buffer): Stored
  /** Facts of a record as comparable text: what a test looks at. */
  facts(stored: Stored): string[]
  /** The code it refuses a record with, by its own limits. */
  refuses(stored: Stored): string | null
  /** When it happened, for kinds of which it keeps only the newest. */
  at?(stored: Stored): number
  /** Handles of what belongs to it and is streamed apart. */
  filesOf?(stored: Stored): { handle: string }[]
  /** The records it makes of one that is longer than it keeps. */
  cut?(stored: Stored): Stored[]
  /** What it counts as one conversation. */
  thread?(stored: Stored): string
  /** Settings without which it lets nobody write. */
  readonly writesOnly?: readonly string[]
  /** What a record takes up with all that belongs to it; its own length else. */
  sizeOf?(stored: Stored): number
  /** Looks into what came for itself, as a phone's own index does. */
  index?(stored: Stored, head: (handle: string) => Promise<Buffer>): Promise<Stored>
  /** Records it lists once more beside the one they belong to. */
  apart?(stored: Stored): { readonly stored: Stored; readonly name: string }[]
  /** How many it keeps at the most, the newest; the oldest go without a word. */
  readonly keeps?: number
  /** How many it has room for: what comes beyond is refused. */
  readonly places?: number
  /** Of kinds that name what stands elsewhere on the phone: why it takes one not. */
  lacks?(pool: pg.Pool, serial: string, stored: Stored): Promise<string | null>
  /** What came as one of this kind and is kept among those of another: a film that was sent as a photo. */
  filedAs?(stored: Stored): { readonly kind: string; readonly stored: unknown } | undefined
  /** Of kinds that lie in folders: where one lies, and what it is called when another lies there already. */
  readonly path?: { of(stored: Stored): string; renamed(stored: Stored, n: number): Stored }
  /** What it finds equal ones by, and how it makes one of two; of kinds it never joins there is none. */
  readonly joining?: {
    name(stored: Stored): string
    /** The first is what the two are called by. */
    facts(stored: Stored): string[]
    join(into: Stored, other: Stored): Stored
    /** A record can be changed in place. */
    readonly amends: boolean
  }
}

/** A record as a phone's own earlier contents. */
export interface OwnRecord<Stored = unknown> {
  readonly stored: Stored
  readonly storage?: string
  /** Position of the record it is linked to. */
  readonly linkedTo?: number | undefined
  readonly damage?: string | undefined
  readonly attached?: readonly OwnFile[] | undefined
}

/** Contents drawn from a seed: the same seed draws the same. `traps`: every oddity the kind is known for. */
export interface ContentsRequest {
  readonly seed: number
  readonly count: number
  readonly style?: 'traps' | 'plain'
  readonly [more: string]: unknown
}

/** What a phone counts with a kind beside the records of it that it shows. */
export interface CountedBeside {
  /** Nobody stored them: by what they are. */
  readonly derived?: Readonly<Record<string, number>>
  /** Items that are no records of their own. */
  readonly more?: number
  /** Second figures its own list shows. */
  readonly also?: Readonly<Record<string, number>>
}

/** What a kind's own acts of the hand work with. */
export interface HandTools {
  readonly pool: pg.Pool
  /** Puts records of the kind into the phone. */
  fill(records: Iterable<OwnRecord>): Promise<number>
  /** The record that is meant. @throws HandRefused `no-such-record` */
  record(id: number | undefined): Promise<RecordRow>
  /** Says why the phone does not do it. @throws HandRefused */
  refuse(code: string): never
}

/** Everything the practice phones know of a kind. A kind is a folder that gives one of these, and a line in the registry. */
export interface PhoneKind<Stored = unknown> {
  readonly code: string
  /** Undefined where phones of that model have no such kind. */
  on(model: StandinModel): RecordDialect<Stored> | undefined
  /** What is left of a record whose writing broke off. */
  halve(stored: Stored): Stored
  /** A record as another hand left it. */
  alter(stored: Stored): Stored
  /** A record with the date at which it came. */
  redate?(stored: Stored, nowMs: number): Stored
  /** The bytes of a record with a damage only this kind can have. */
  damaged?(body: Buffer, damage: string): Buffer | undefined
  contents(model: StandinModel, request: ContentsRequest): Iterable<OwnRecord<Stored>>
  /** What so many are made with, so that they take up as much as a customer's do. */
  ofDemo?(count: number, seed: number): Readonly<Record<string, unknown>>
  /** Records a test wrote out, from the body of `add`. */
  given?(model: StandinModel, body: Readonly<Record<string, unknown>>): readonly OwnRecord<Stored>[]
  /** @param figures what the visible records say: how many, and how many persons they are */
  counted?(pool: pg.Pool, phone: PhoneRow, figures: { readonly persons: number; readonly revision: string }): Promise<CountedBeside>
  /** What the phone forgets by itself once something came. */
  forget?(pool: pg.Pool, phone: PhoneRow): Promise<void>
  /** Where it is kept on iOS; the phone itself on all others. */
  readonly iosStorage?: 'account'
  /** A phone asks its owner whether it may be read and written. */
  readonly isAsked: boolean
  /** It is asked about together with another kind. */
  readonly askedAs?: string
  /** What else a phone asks for, once, before the kind can be read or written there. */
  readonly asksFor?: readonly {
    readonly platform: StandinModel['platform']
    readonly writes: boolean
    readonly unless: string
    readonly question: string
  }[]
  /** Each fact of a record is an item of its phone's list. */
  readonly isOfSeveral?: boolean
  /** Its files are compared by their digests. */
  readonly hasFiles?: boolean
  /** How many there are stands on the phone's own screen. */
  readonly isOnScreen?: boolean
  /** What a hand does with it alone. */
  readonly acts?: Readonly<
    Record<string, (phone: PhoneRow, values: Readonly<Record<string, unknown>>, tools: HandTools) => Promise<unknown>>
  >
}
