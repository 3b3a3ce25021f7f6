import { fitsName, isFilm, renameTo } from '../../formats/sniff.ts'
import type { PhoneModel } from '../../phones/capability.ts'
import type { Change } from '../kind.ts'
import { shownFile, type Photo, type PhotoFile } from './model.ts'
import { photosOn, type PhotosAbility } from './face.ts'

/** Every change a phone can force on a photo. */
export const photoChanges = {
  'converted-to-jpeg': { loss: true },
  'clip-left-out': { loss: true },
  'original-beside': { loss: false },
  'extension-corrected': { loss: false },
  'date-by-camera': { loss: false },
  'damaged-already': { loss: false },
  'albums-one-only': { loss: true },
  'favourite-dropped': { loss: true },
  'hidden-becomes-visible': { loss: true },
  'burst-apart': { loss: false },
} as const

export type PhotoChangeCode = keyof typeof photoChanges

/** What stands for the digest of a file that is only made at its turn. */
export const toBeMade = 'made of '

/** The form a photo takes on a phone, with every change named, or the rule by which it can't cross. */
export function changePhoto(photo: Photo, to: PhoneModel): { item: Photo; changes: Change[] } | { cannot: string } {
  const { write } = photosOn(to)
  if ('cannot' in write) return write
  if (photo.isCloudOnly) return { cannot: 'only-in-cloud' }
  const shown = shownFile(photo)
  if (!shown.type.includes('/') || shown.type === 'application/octet-stream') return { cannot: 'no-picture' }
  if (isFilm(shown.type) && !write.shows.includes(shown.type)) return { cannot: 'film-not-playable' }
  const codes = new Set<PhotoChangeCode>()
  const item = fit(photo, write, codes)
  return { item, changes: [...codes].map((code) => ({ code, loss: photoChanges[code].loss })) }
}

function fit(photo: Photo, can: PhotosAbility, codes: Set<PhotoChangeCode>): Photo {
  let { isFavourite, isHidden, burst, albums } = photo
  if (isFavourite && !can.favourites) {
    codes.add('favourite-dropped')
    isFavourite = false
  }
  if (isHidden && !can.hidden) {
    codes.add('hidden-becomes-visible')
    isHidden = false
  }
  if (burst && !can.bursts) {
    codes.add('burst-apart')
    burst = ''
  }
  if (can.albums === 'folders') {
    if (albums.length > 1) codes.add('albums-one-only')
    albums = albums.slice(0, 1).map(folderName)
  }
  if (photo.isDateContradicted) codes.add('date-by-camera')
  if (photo.isDamaged) codes.add('damaged-already')
  if (photo.files.some(({ role }) => role === 'original') && !can.originals) codes.add('original-beside')
  const files = photo.files.flatMap((file): PhotoFile[] => {
    if (!can.shows.includes(file.type)) {
      if (isFilm(file.type)) {
        codes.add('clip-left-out')
        return []
      }
      codes.add('converted-to-jpeg')
      return [{ ...file, name: renameTo(file.name, 'image/jpeg'), type: 'image/jpeg', digest: toBeMade + file.digest }]
    }
    if (fitsName(file.name, file.type)) return [file]
    codes.add('extension-corrected')
    return [{ ...file, name: renameTo(file.name, file.type) }]
  })
  return { ...photo, files, isFavourite, isHidden, burst, albums, isDateContradicted: false }
}

/** Album names may hold what a folder's may not. */
function folderName(album: string): string {
  return album.replace(/[/\\:*?"|]/g, '-').trim() || 'Album'
}

/** The records a phone makes of one photo: an original becomes a photo of its own where none is kept behind. */
export function splitPhoto(photo: Photo, { originals }: PhotosAbility): readonly Photo[] {
  const original = photo.files.find(({ role }) => role === 'original')
  if (!original || originals) return [photo]
  return [
    { ...photo, files: photo.files.filter((file) => file !== original) },
    { ...photo, files: [{ ...original, role: 'picture' }], isFavourite: false, burst: '' },
  ]
}
