import type { Title } from '../../formats/media/titled.ts'

/** What a phone notes beside a file, by our names. */
export const says = [
  'title',
  'artist',
  'album',
  'track',
  'podcast',
  'slow',
  'caller',
  'heard',
  'script',
  'author',
  'position',
  'marks',
  'places',
  'favourite',
  'hidden',
] as const
export type Say = (typeof says)[number]

/** What a file was found to say of itself when it was streamed from the phone that gives it. */
export interface SeenFacts {
  readonly ms: number
  readonly codecs: readonly string[]
  readonly width: number
  readonly height: number
  /** It opens with somebody's key alone. */
  readonly isLocked: boolean
  readonly isTurned: boolean
  readonly isDamaged: boolean
  readonly title: string
  readonly artist: string
  readonly album: string
  readonly track: string
  readonly year: string
  readonly isPodcast: boolean
  readonly isBook: boolean
  /** A title may be written into it. */
  readonly canBeTitled: boolean
  /** How it is not as its standard has it, by code; empty where nothing is wrong. */
  readonly issue: string
}

/** An item that is one file: a film, a track, a recording, a document. */
export interface OneFile {
  readonly name: string
  /** What it is by its own bytes, once they were streamed; what the phone calls it before. */
  readonly type: string
  readonly handle: string
  readonly sizeBytes: number
  /** Of its bytes, once they were streamed; empty before. */
  readonly digest: string
  readonly folder: string
  readonly albums: readonly string[]
  /** Milliseconds since 1970, to the second: by the file where it says it, else as the phone lists it. */
  readonly atMs: number | null
  /** The phone lists another date than the file itself says. */
  readonly isDateContradicted: boolean
  readonly hasPlace: boolean
  readonly says: Readonly<Partial<Record<Say, string>>>
  /** It has no place of its own kind on that phone, and stands among other files there. */
  readonly isPlaced: boolean
  /** Only its entry is on the phone, its bytes are not. */
  readonly isCloudOnly: boolean
  /** What is written into it on its way, where the phone has no place beside it for that. */
  readonly titled?: Title | undefined
  readonly seen: SeenFacts
}

/** What a phone does with the files of a kind. */
export interface OneFileAbility {
  /** What it keeps beside a file. */
  readonly keeps: readonly Say[]
  /** Albums of its own, or a folder is an album; none where nothing is said. */
  readonly albums?: 'own' | 'folders'
  /** Folders somebody made are kept. */
  readonly folders?: boolean
  /** Names must not hold what the file system of a card has no sign for. */
  readonly plainNames?: boolean
  /** The largest file its file system holds. */
  readonly mostBytes?: number
  /** It has no place of its own for them, or lets nobody but its owner put one there: among which others they are put. */
  readonly placed?: 'photos' | 'files'
}
