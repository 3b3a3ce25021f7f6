import type { Photo } from './model.ts'

/** Raised whenever the same photo would give other bytes. */
export const photoCanonicalVersion = 1

/**
 * What a photo says, as facts that must be found again: every file byte for byte, when it was taken as the phone
 * reads it, whether it has a place, and its owner's marks. What a file is called and where it lies is no content:
 * phones number and sort them anew.
 */
export function photoAtoms(photo: Photo): string[] {
  const { files, takenMs, hasPlace, albums, isFavourite, isHidden, isCloudOnly, folder } = photo
  // a fact each: what a half record lacks must be seen as lacking, not as another record
  const atoms = [`photo\u001f${takenMs === null ? '' : takenMs / 1000}`]
  if (hasPlace) atoms.push('placed')
  // only in the cloud: nothing but its name tells one from another
  if (isCloudOnly) atoms.push(`cloud\u001f${folder}\u001f${files[0]?.name ?? ''}`)
  else for (const { role, digest } of files) atoms.push(`file\u001f${role}\u001f${digest}`)
  for (const album of new Set(albums.map((name) => name.normalize('NFC').toLowerCase()))) atoms.push(`album\u001f${album}`)
  if (isFavourite) atoms.push('favourite')
  if (isHidden) atoms.push('hidden')
  return atoms.sort()
}
