import { joinBytes, utf8Bytes } from '../../text/bytes.ts'
import { readFolderRecord, writeFolderRecord, type FileEntry } from '../../formats/folder-listing/index.ts'
import type { FileFacts } from '../../formats/file-facts.ts'
import type { LocalTime } from '../../text/zone.ts'
import { writeBasicTime } from '../../text/zone.ts'
import type { FoundFile } from '../kind.ts'
import type { Photo } from './model.ts'
import type { PhotosAbility } from './face.ts'

/** The lines a phone takes: files by their handles there, dates in UTC, and only marks it knows. */
export function listingOfPhoto(photo: Photo, { albums }: PhotosAbility): Uint8Array {
  const { files, takenMs, isFavourite, isHidden, burst } = photo
  const inFolder = albums === 'folders' && photo.albums[0] ? `Pictures/${photo.albums[0]}` : 'DCIM/Camera'
  const time = takenMs === null ? '' : writeBasicTime(takenMs)
  const marks: FileEntry = { modified: time, x_favourite: isFavourite ? 'yes' : '', x_hidden: isHidden ? 'yes' : '', x_burst: burst }
  return writeFolderRecord({
    files: files.map(({ role, name, type, handle, sizeBytes }) => ({
      name: safeName(name),
      size: String(sizeBytes),
      type,
      x_folder: inFolder,
      x_role: role,
      x_handle: handle,
      ...(role === 'picture' ? marks : {}),
    })),
    albums: albums === 'own' ? photo.albums : [],
  })
}

function safeName(name: string): string {
  return name.replace(/[/\\]/g, '-')
}

/**
 * A record for a list of files that lie in folders: as it was given, with the path of each of its files.
 * @param paths by the phone's handles
 */
export function recordInFolder(bytes: Uint8Array, paths: ReadonlyMap<string, string>): Uint8Array {
  const record = readFolderRecord(bytes)
  if (!record) return bytes
  // what a file is, is found out by whoever reads it, and never taken from here
  const files = record.files.map((entry): FileEntry => ({ ...entry, x_handle: paths.get(entry.x_handle ?? '') ?? '', x_digest: '' }))
  return joinBytes([utf8Bytes('<photo>\r\n'), writeFolderRecord({ ...record, files }), utf8Bytes('</photo>\r\n')])
}

/** A picture or a film somebody brought, as a record: by its name and the time of the file, until its own is read. */
export function fileAsRecord(file: { path: string; type: string; sizeBytes: number; modifiedMs: number }): Uint8Array {
  const at = file.path.lastIndexOf('/')
  const entry: FileEntry = {
    name: file.path.slice(at + 1),
    size: String(file.sizeBytes),
    type: file.type,
    modified: writeBasicTime(file.modifiedMs),
    x_folder: file.path.slice(0, Math.max(0, at)),
    x_role: 'picture',
    x_handle: file.path,
  }
  return joinBytes([utf8Bytes('<photo>\r\n'), writeFolderRecord({ files: [entry], albums: [] }), utf8Bytes('</photo>\r\n')])
}

/** A record with what its files were found to be, noted in it: read again, it says what they are. */
export function noteFiles(bytes: Uint8Array, found: ReadonlyMap<string, FoundFile>): Uint8Array {
  const record = readFolderRecord(bytes)
  if (!record) return bytes
  const files = record.files.map((entry): FileEntry => {
    const file = found.get(entry.x_handle ?? '')
    return file ? { ...entry, size: String(file.sizeBytes), x_digest: file.digest, ...(file.facts ? noted(file.facts) : {}) } : entry
  })
  return writeFolderRecord({ ...record, files })
}

function noted({ type, taken, offsetMinutes, place, orientation, isDamaged }: FileFacts): FileEntry {
  return {
    x_is: type ?? 'application/octet-stream',
    ...(taken ? { x_seen_taken: basicOf(taken, offsetMinutes) } : {}),
    ...(place ? { x_seen_place: `${place.latitude.toFixed(5)},${place.longitude.toFixed(5)}` } : {}),
    ...(orientation > 1 ? { x_turned: 'yes' } : {}),
    ...(isDamaged ? { x_damaged: 'yes' } : {}),
  }
}

/** A clock as phones write it, with its offset where one is known (ISO 8601, basic form). */
export function basicOf({ year, month, day, hour, minute, second }: LocalTime, offsetMinutes: number | undefined): string {
  const two = (n: number) => String(n).padStart(2, '0')
  const wall = `${String(year).padStart(4, '0')}${two(month)}${two(day)}T${two(hour)}${two(minute)}${two(second)}`
  if (offsetMinutes === undefined) return wall
  if (offsetMinutes === 0) return `${wall}Z`
  const n = Math.abs(offsetMinutes)
  return `${wall}${offsetMinutes < 0 ? '-' : '+'}${two(Math.floor(n / 60))}${two(n % 60)}`
}
