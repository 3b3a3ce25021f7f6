import type pg from 'pg'
import { sizeOf, type Recipe } from '../../files/files.ts'
import type { StandinModel } from '../../phones/models.ts'
import { modelOf, type PhoneRow } from '../../phones/phone.ts'
import type { ContentsRequest, OwnRecord, PhoneKind } from '../phone-kind.ts'
import { lookInto } from '../photos/look.ts'
import { giveFileLine, takeFileLine, type FileWay, type StoredFile } from './listing.ts'

export type { FileWay, StoredFile } from './listing.ts'

/** A file as a phone's own contents have it. */
export interface FileWish {
  readonly name: string
  readonly recipe: Recipe
  readonly type: string
  readonly atMs: number
  readonly stored?: Partial<StoredFile>
  readonly storage?: string
  readonly damage?: string
}

export interface FileKindWish {
  readonly code: string
  readonly isAsked: boolean
  readonly askedAs?: string
  /** By maker; undefined where its phones have no such kind. */
  readonly ways: Readonly<Partial<Record<StandinModel['dialect'], FileWay>>>
  /** Its date is its owner's, and not only its file's. */
  readonly isDated?: boolean
  /** Its own list takes date and place from the file, not from whoever wrote it. */
  readonly isIndexed?: boolean
  /** It lies in a folder under its name: another of that name gets a number behind it. */
  readonly hasPath?: boolean
  /** In which folder what comes without one is kept. */
  readonly folder: string
  files(request: ContentsRequest, way: FileWay): Iterable<FileWish>
  ofDemo?(count: number, seed: number): Readonly<Record<string, unknown>>
  derived?(phone: PhoneRow, pool: pg.Pool): Promise<Readonly<Record<string, number>>> | Readonly<Record<string, number>>
}

/** A kind of the practice phones whose items are a file each. */
export function fileKindOnPhones(wish: FileKindWish): PhoneKind<StoredFile> {
  const { code, ways, isAsked } = wish
  return {
    code,
    isAsked,
    ...(wish.askedAs ? { askedAs: wish.askedAs } : {}),
    hasFiles: true,
    on({ dialect }) {
      const way = ways[dialect]
      if (!way) return undefined
      return {
        give: (stored) => giveFileLine(stored, way),
        take: (bytes) => {
          const stored = takeFileLine(bytes, way)
          return { ...stored, folder: stored.folder || wish.folder }
        },
        // what it is, whatever it is called and wherever it is kept
        facts: ({ atMs, says, albums, cloud, size, placed, name, folder }) => [
          JSON.stringify({ at: Math.floor(atMs / 1000), says, albums, cloud, size, ...(placed || wish.hasPath ? { name, folder } : {}) }),
        ],
        refuses: ({ size }) =>
          dialect === 'holt' ? 'storage-read-only' : way.mostBytes !== undefined && size > way.mostBytes ? 'attachment-too-large' : null,
        at: ({ atMs }) => atMs,
        filesOf: ({ cloud, handle }) => (cloud ? [] : [{ handle }]),
        sizeOf: ({ cloud, size }) => (cloud ? 0 : size),
        ...(wish.hasPath
          ? {
              path: {
                of: ({ folder, name }: StoredFile) => `${folder}/${name}`.toLowerCase(),
                renamed: (stored: StoredFile, n: number) => ({
                  ...stored,
                  name: stored.name.replace(/(\.[A-Za-z0-9]{1,8})?$/, ` (${n})$1`),
                }),
              },
            }
          : {}),
        async index(stored, head) {
          if (!wish.isIndexed) return stored
          const looked = lookInto(await head(stored.handle))
          return { ...stored, atMs: looked.takenMs ?? stored.changedMs, place: looked.place ? [...looked.place] : null }
        },
      }
    },
    // its entry is there, its bytes are not
    halve: entryAlone,
    alter: (stored) =>
      wish.hasPath
        ? { ...stored, name: `altered ${stored.name}` }
        : wish.isDated
          ? { ...stored, atMs: stored.atMs + 1000 }
          : entryAlone(stored),
    redate: (stored, nowMs) => ({ ...stored, atMs: nowMs }),
    ...(wish.ofDemo ? { ofDemo: wish.ofDemo } : {}),
    *contents({ dialect }, request) {
      const way = ways[dialect]
      let n = 0
      if (!way || way.hasNone) return
      for (const one of wish.files(request, way)) yield ownFile(`${code[0]}${request.seed}-${++n}`, one, wish, way)
    },
    ...(wish.derived ? { counted: async (pool: pg.Pool, phone: PhoneRow) => ({ derived: await wish.derived!(phone, pool) }) } : {}),
  }
}

/** Where a film says it was made: its phone's own list has that, too. */
function placeIn(recipe: Recipe): [number, number] | null {
  const place = 'media' in recipe && 'place' in recipe.media ? recipe.media.place : undefined
  return place ? [...place] : null
}

const entryAlone = (stored: StoredFile): StoredFile => ({ ...stored, cloud: true })

function ownFile(
  handle: string,
  { name, recipe, type, atMs, stored = {}, storage, damage }: FileWish,
  wish: FileKindWish,
  way: FileWay,
): OwnRecord<StoredFile> {
  const size = sizeOf(recipe)
  const whole: StoredFile = {
    folder: wish.folder,
    name,
    type,
    handle,
    size,
    atMs,
    changedMs: atMs,
    place: wish.isIndexed ? placeIn(recipe) : null,
    albums: [],
    cloud: false,
    placed: false,
    ...stored,
    says: Object.fromEntries(
      Object.entries(stored.says ?? {}).filter(([say]) => [...way.keeps, ...(way.lists ?? []), 'heard'].includes(say)),
    ),
  }
  return {
    stored: whole,
    ...(storage ? { storage } : {}),
    ...(damage ? { damage } : {}),
    attached: whole.cloud ? [] : [{ handle, recipe, sizeBytes: size }],
  }
}

/** Which model a phone is, for what only some have. */
export const dialectOf = (phone: PhoneRow) => modelOf(phone).dialect
