import { readAttributes, writeAttributes } from '../../text/attributes.ts'
import { utf8Bytes, utf8Text } from '../../text/bytes.ts'
import { fileAttributes, type FileAttribute, type FileEntry } from './grammar.ts'

export type { FileEntry } from './grammar.ts'

const known: ReadonlySet<string> = new Set(fileAttributes)
const albumAttributes: ReadonlySet<string> = new Set(['name'])
/** A record of the link has few lines; more are somebody's mistake, or ill will. */
const mostFiles = 50
const mostAlbums = 200

export interface FolderRecord {
  readonly files: readonly FileEntry[]
  readonly albums: readonly string[]
}

/** Reads the lines a phone gives for what its owner calls one: a `file` element each, and the albums it is in. Undefined when there is no file, or far too many. */
export function readFolderRecord(bytes: Uint8Array): FolderRecord | undefined {
  const text = utf8Text(bytes)
  if (text === undefined) return undefined
  const files: FileEntry[] = []
  const albums: string[] = []
  for (const line of text.split(/\r?\n/)) {
    if (line.startsWith('<file ')) files.push(readAttributes<FileAttribute>(line, 5, known))
    else if (line.startsWith('<album ')) albums.push(readAttributes<'name'>(line, 6, albumAttributes).name ?? '')
    if (files.length > mostFiles || albums.length > mostAlbums) return undefined
  }
  return files.length === 0 ? undefined : { files, albums: albums.filter(Boolean) }
}

export function writeFolderRecord({ files, albums }: FolderRecord): Uint8Array {
  const lines = [
    ...files.map((file) => `<file ${writeAttributes(file)}/>`),
    ...albums.map((name) => `<album ${writeAttributes({ name })}/>`),
  ]
  return utf8Bytes(lines.map((line) => `${line}\r\n`).join(''))
}
