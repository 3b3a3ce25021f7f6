import type { RecordSplitter } from '../formats/files/records.ts'
import type { FileFacts, Inspector } from '../formats/file-facts.ts'
import type { Rewriter } from '../formats/media/titled.ts'
import type { PhoneModel } from '../phones/capability.ts'
import type { LocalTime } from '../text/zone.ts'
import type { KindFace } from './face.ts'

/** A change the new platform forces on an item; `loss` says that something of it is gone there. */
export interface Change {
  readonly code: string
  readonly loss: boolean
}

export interface ReadTools {
  /** A number in E.164 by the region of the phone the record comes from. */
  readonly number: (text: string) => string
  readonly hash: (bytes: Uint8Array) => string
  /** An instant of a local time in the phone's own zone; milliseconds since 1970. */
  readonly instant: (local: LocalTime) => number
  /** The day of the ticket, the same for all its readings: occurrences are told for two years either side. */
  readonly nowMs: number
}

/** A file of an item: it comes by a handle of its own, with a digest once it was streamed. */
export interface ItemFile {
  readonly handle: string
  readonly sizeBytes: number
  readonly digest: string
}

/** What a file was found to be when it was streamed. */
export interface FoundFile {
  readonly digest: string
  readonly sizeBytes: number
  /** Of kinds that look into files, and on the side whose files are looked into. */
  readonly facts?: FileFacts
}

/** By what is left behind where there is no room: before a year, what is large or long, what is no favourite, all of the kind. */
export const waysOut = ['since-year', 'no-large', 'no-long', 'favourites', 'without'] as const
export type WayOut = (typeof waysOut)[number]

/** A file that is made at its item's turn: of which file, and into what. */
export interface Conversion {
  readonly handle: string
  /** Of the file it is made of. */
  readonly digest: string
  readonly toType: string
}

/** A file of an open format, written item by item. */
export interface OpenFile<Item> {
  /** `vcf-3.0`, `mbox`; of the whole product, each once. */
  readonly code: string
  readonly extension: string
  readonly mediaType: string
  /** What stands before the first item and after the last. */
  readonly head?: string
  readonly tail?: string
  write(item: Item, at: { readonly position: number; readonly number: (text: string) => string }): Uint8Array | string
}

/**
 * How a kind stands in a folder of open files: one standard file with all its items, and beside it the files that belong
 * to them, each as it is. The reader of the kind reads each of its records again.
 */
export interface ArchiveFace<Item> {
  /** `Contacts.vcf` */
  readonly file: string
  /** What stands before the first item and after the last. */
  readonly head?: string
  readonly tail?: string
  /** The form an item has there, with every change named, or the rule by which it has none; as it was given where nothing is said. */
  form?(item: Item): Formed<Item>
  /**
   * One record of the file.
   * @param record as the phone gave it, of an item that needs no other form
   * @param paths of its files there, by their handles
   */
  write(item: Item, at: { readonly record: Uint8Array; readonly position: number; readonly paths: ReadonlyMap<string, string> }): Uint8Array
  /** Cuts the file into its records again. */
  splitter(): RecordSplitter
  /** In which folder a file of an item stands, what it is called where nothing else is, and from when it is. */
  placeOf?(item: Item, file: ItemFile, position: number): { readonly folder: string; readonly name: string; readonly atMs: number | null }
  /** How it is laid out on the page that people read. */
  readonly page: {
    readonly title: string
    /** What stands together and in which order: names from A to Z, a conversation each, a year each, or one day after the other. */
    readonly by: 'name' | 'group' | 'year' | 'time'
    /** A word or two on which way it went. */
    says?(item: Item): string
    /** Whose numbers it names. */
    namesOf?(item: Item): readonly { readonly number: string; readonly name: string }[]
  }
  /** Of kinds that come as files a customer brings. */
  readonly brought?: {
    /** Whether a file of its records begins so. @param head its first bytes as text, marks and blanks before it left out */
    begins?(head: string): boolean
    /** Cuts a file somebody else wrote into records, where it is otherwise than its own. */
    splitter?(): RecordSplitter
    /** Of kinds whose files begin as another's do: whether a record is one of it. */
    takes?(record: Uint8Array): boolean
    /** A file that is an item by itself as a record; undefined where it is none. */
    recordOf?(file: {
      readonly path: string
      readonly type: string
      readonly sizeBytes: number
      readonly modifiedMs: number
    }): Uint8Array | undefined
  }
  /** Of the open files of this kind, by their codes, those that stand beside it for people: a table. */
  readonly beside?: readonly { readonly file: string; readonly code: string }[]
  /** Of kinds whose items are of use one by one: each once more, as a file by itself in a folder nothing else stands in. */
  readonly eachBeside?: {
    readonly folder: string
    nameOf(item: Item): string
    /** @param pathOf where the file of a SHA-256, base64url, lies, seen from that folder; undefined where it was not taken along */
    write(item: Item, pathOf: (digest: string) => string | undefined): string
  }
}

/** The form an item takes on a side, with every change named, or the rule by which it can't cross. */
export type Formed<Item> = { readonly item: Item; readonly changes: readonly Change[] } | { readonly cannot: string }

/** Two records of one person as one, or by field what stands against joining them. */
export type Joined<Item> = { readonly item: Item } | { readonly conflicts: readonly string[] }

/** What a kind makes of one record of the link. */
export type ReadRecord<Item> =
  { readonly ok: true; readonly item: Item; readonly issues: readonly string[] } | { readonly ok: false; readonly code: string }

/**
 * Everything the line needs to know of a kind. A new kind is a folder that gives one of these and its face, a line in
 * the registry and one among the faces; nothing else in core or server names it.
 */
export interface Kind<Item = unknown> extends KindFace {
  readonly canonicalVersion: number
  /** A phone may join two of these into one record by itself, so content that stands whole elsewhere is no loss. */
  readonly joins: boolean
  /** Reads one record as the phone gave it. Never throws on data. */
  read(bytes: Uint8Array, tools: ReadTools): ReadRecord<Item>
  /** A record that holds several items, as a record for each; undefined when it holds one. */
  several?(record: Uint8Array): readonly Uint8Array[] | undefined
  /** What the item says, as a sorted set of facts that must be found again. */
  atoms(item: Item, tools: ReadTools): string[]
  canonicalBytes(atoms: readonly string[]): Uint8Array
  matchKeys(atoms: readonly string[]): string[]
  /** The form this item takes on that phone, with every change named, or the rule by which it can't cross. */
  change(item: Item, to: PhoneModel): Formed<Item>
  /** An item that has everything a phone of this model can hold: what becomes of it on another names all changes of the pair. */
  sample(from: PhoneModel): Item
  /** Every change this kind knows, and whether something is lost by it. */
  readonly changes: Readonly<Record<string, { readonly loss: boolean }>>
  /** Every rule by which an item of it can't cross. */
  readonly rules: readonly string[]
  /** Why a record of it can't be read. */
  readonly failures: readonly string[]
  /** How a record that was read was not as the standard writes it: what was guessed or passed over. */
  readonly issues: readonly string[]
  /**
   * One record as that phone takes it.
   * @param number given when the phones' regions differ: national numbers are then written with their country
   */
  write(item: Item, to: PhoneModel, number?: (text: string) => string): Uint8Array
  /**
   * The records a phone makes of one item that has its form already, where it may be more than one: each as it lists
   * it. One record unless a kind says so.
   */
  split?(item: Item, to: PhoneModel): readonly Item[]
  /** The file of which a small picture is shown while showing is allowed: made of its bytes, or as its phone gives one. */
  shown?(item: Item): { readonly handle: string; readonly by: 'bytes' | 'phone' } | undefined
  /** What belongs to an item and comes by a handle of its own. */
  filesOf?(item: Item): readonly ItemFile[]
  /** The bytes of a file that stands in the record itself and comes by no handle of the phone's. */
  fileInside?(record: Uint8Array, handle: string): Uint8Array | undefined
  /** A record with what its files were found to be, noted in it. */
  noteFiles?(bytes: Uint8Array, found: ReadonlyMap<string, FoundFile>): Uint8Array
  /** Looks into a file for what it says of itself, while it streams by. */
  inspector?(): Inspector
  /** The item with the handles its files have on the other phone. */
  withHandles?(item: Item, handles: ReadonlyMap<string, string>): Item
  /** Of an item in the form it takes on a phone: its files that are made only at its turn. */
  conversions?(item: Item): readonly Conversion[]
  /** Of an item in the form it takes on a phone: by their handles, its files that are changed while they stream by, begun anew for each try. */
  rewriters?(item: Item): ReadonlyMap<string, () => Rewriter>
  /** Items that name items of another kind by their content: one that did not come over is a named loss. */
  readonly namesOthers?: {
    readonly kind: string
    /** Digests of the files it names, in its order; empty where it does not say which it means. */
    of(item: Item): readonly string[]
    /** A record with the places noted whose items do not come over. */
    note(bytes: Uint8Array, gone: ReadonlySet<number>): Uint8Array
    /** A record with what is known of the files at the places it names: by place, what a path leads to. */
    found(bytes: Uint8Array, digestAt: (path: string) => Promise<string | undefined>): Promise<Uint8Array>
    /** By which change what is missing is named. */
    readonly lost: string
  }
  /** The item with what those files were made into, by the handles they were made of. */
  withMade?(item: Item, made: ReadonlyMap<string, FoundFile>): Item
  /** Bytes of an item with all that belongs to it; the length of its record for kinds that don't say. */
  sizeBytes?(item: Item): number
  /** Items a second a phone usually takes and gives, where it is slower with them than with most. */
  readonly perSecond?: { readonly carrying: number; readonly reading: number }
  /** Where there is no room, by what it can be left behind, in part or wholly. */
  readonly waysOut?: readonly WayOut[]
  /** Changes by which an item is not sent: a hand makes it on the new phone, and it waits until that reports it. */
  readonly byHand?: readonly string[]
  /** Changes by which a file of an item is made into another at its turn. */
  readonly makes?: readonly string[]
  /** Two items that share a match key can't both be there: an app has one place on a phone. */
  readonly hasIdentity?: boolean
  /** A record with what a catalogue knows of it, noted in it, for phones of another platform. */
  noteKnown?(bytes: Uint8Array, known: unknown): Uint8Array
  /** What a catalogue knows an item by. */
  appId?(item: Item): string
  /** One record of two that share a match key: all that both say. Undefined for kinds whose items are nobody's. */
  join?(ours: Item, theirs: Item, to: PhoneModel, tools: ReadTools): Joined<Item>
  /** Title and lines shown while showing is allowed; `group` names the slice it belongs to. */
  describe(item: Item): {
    readonly title: string
    readonly group?: string
    readonly lines: readonly { readonly field: string; readonly text: string }[]
  }
  /** What may be said without showing: shapes and counts, no content. */
  shape(item: Item): Readonly<Record<string, number>>
  /** What it is counted together with, beside its year: a conversation, a calendar. Equal texts are one slice. */
  slice?(item: Item, tools: ReadTools): string
  /** Shapes that are second figures of the whole kind: their sums stand beside its count. */
  readonly figures?: readonly string[]
  /** Open files this kind goes out as. */
  readonly openFiles?: readonly OpenFile<Item>[]
  /** How it is taken home as files; a kind without it has no open format. */
  readonly archive?: ArchiveFace<Item>
  /** When it happened, in milliseconds since 1970: what lists show and years are counted by. */
  at?(item: Item): number | null
  /** Storages whose items are left behind unless they are chosen: not the customer's own. */
  readonly leftByDefault?: readonly string[]
  /** How many of this kind a phone keeps, the newest; undefined when it does not say. */
  capacity?(to: PhoneModel): number | undefined
}
