import { capabilityOf, type PhoneModel } from '../../phones/capability.ts'
import type { KindFace } from '../face.ts'
import type { ArchiveFace, Kind } from '../kind.ts'
import type { OneFile, OneFileAbility, Say } from './model.ts'

/** What makes a kind of files its own: everything else they share. */
export interface OneFileSpec {
  readonly face: KindFace
  /** The element one of it stands in, in a list of files: `video`. */
  readonly tag: string
  /** The heading of its page, and the folder it stands in when it is taken home. */
  readonly title: string
  /** Whether a file is one by its own bytes; by which rule it can't cross when it is none. Undefined: any file may be one. */
  readonly isOne?: { readonly by: (file: OneFile) => boolean; readonly rule: string }
  /** Notes of the phone that its owner would miss. */
  readonly content: readonly Say[]
  /** Its date is its owner's: it must be found again. */
  readonly isDated: boolean
  /** The date is the one the file itself says, where it says one. */
  readonly isDatedByFile?: boolean
  /** Where a phone keeps no title beside it, it is written into the file, and its date with it. */
  readonly writesTitle?: boolean
  /** In which folder it lies, and what it is called, must be found again. */
  readonly hasPath?: boolean
  readonly hasAlbums?: boolean
  readonly hasPlace?: boolean
  readonly canBeEmpty?: boolean
  /** Whether phones open only some formats of it. */
  readonly isPlayed: boolean
  /** What it is called where it has no place of its own: who and when stand in its name. */
  placedName?(file: OneFile): string
  titleOf(file: OneFile): string
  groupOf(file: OneFile): string
  /** Whom or what it names, by field. */
  linesOf(file: OneFile): readonly (readonly [field: string, text: string])[]
  /** What may be said without showing: marks of its shape. */
  marksOf?(file: OneFile): Readonly<Record<string, boolean>>
  /** How long it is, where that is a figure people ask for. */
  readonly hasLength?: boolean
  /** In which folder it stands when it is taken home, below its own. */
  folderOf?(file: OneFile): string
  /** Whether a file somebody brought is one of it. */
  brings?(file: { readonly type: string; readonly path: string }): boolean
  /** Of what a small picture is shown. */
  readonly shown?: 'bytes' | 'phone'
  readonly page?: Partial<ArchiveFace<OneFile>['page']>
  /** Of each maker's phones, what fewest others play, for the table of what crosses; `''` of all others. */
  readonly sampleOf: Readonly<Record<string, { readonly type: string; readonly codecs?: readonly string[] }>>
  readonly sampleSays?: OneFile['says']
  readonly waysOut?: Kind['waysOut']
  readonly leftByDefault?: readonly string[]
}

/** What a phone does with a kind of files. */
export const filesOn = (phone: PhoneModel, kind: string) => capabilityOf<OneFileAbility>(phone, kind)

/** The albums it is in: a folder beside the camera's own is what its owner calls one (DCF 2.0 for `DCIM`). */
export function albumsOf({ albums, folder }: Pick<OneFile, 'albums' | 'folder'>): readonly string[] {
  if (albums.length > 0) return albums
  const last = folder.slice(folder.lastIndexOf('/') + 1)
  return last === '' || /^dcim(\/[^/]*)?$/i.test(folder) || /^camera$/i.test(last) ? [] : [last]
}
