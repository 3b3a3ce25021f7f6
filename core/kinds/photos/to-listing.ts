import { writeFolderRecord, type FileEntry } from '../../formats/folder-listing/index.ts'
import { writeBasicTime } from '../../text/zone.ts'
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
