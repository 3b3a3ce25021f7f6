import type { LocalTime } from '../text/zone.ts'

/** What a file says of itself. */
export interface FileFacts {
  readonly type: string | undefined
  /** The camera's clock when it was taken (Exif 2.32, DateTimeOriginal); UTC where `offsetMinutes` is 0. */
  readonly taken: LocalTime | undefined
  /** Minutes east of UTC; undefined when the camera noted none: then it is the owner's local time. */
  readonly offsetMinutes: number | undefined
  readonly place: { readonly latitude: number; readonly longitude: number } | undefined
  /** Exif orientation, 1 to 8. */
  readonly orientation: number
  /** It ends before it is whole, as far as the bytes at hand tell. */
  readonly isDamaged: boolean
  readonly durationMs?: number
  /** What its pictures and its sound are coded with, each once, pictures first. */
  readonly codecs?: readonly string[]
  readonly width?: number
  readonly height?: number
  /** It opens with somebody's key alone. */
  readonly isProtected?: boolean
  /** What it is called and by whom, by our names. */
  readonly tags?: Readonly<Partial<Record<FileTag, string>>>
  /** Its format has room for what it is called, and nobody else's words stand there. */
  readonly canBeTitled?: boolean
  /** How it is not as its standard has it, by code. */
  readonly issue?: FileIssue
}

export type FileTag = 'title' | 'artist' | 'album' | 'year' | 'genre' | 'track' | 'podcast' | 'book'
export const fileIssues = ['boxes-lie', 'boxes-without-end', 'tags-too-large', 'tags-unreadable'] as const
export type FileIssue = (typeof fileIssues)[number]

/** Of a file that says nothing. */
export const noFacts: FileFacts = {
  type: undefined,
  taken: undefined,
  offsetMinutes: undefined,
  place: undefined,
  orientation: 1,
  isDamaged: false,
}

/** Looks into a file as it streams by. */
export interface Inspector {
  push(chunk: Uint8Array): void
  /** Never throws on data. */
  end(): Promise<FileFacts>
}
