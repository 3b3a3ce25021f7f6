import { readFolderRecord } from '../../formats/folder-listing/index.ts'
import { readPhoneTime } from '../../text/zone.ts'
import type { ReadTools } from '../kind.ts'
import type { Photo, PhotoFile } from './model.ts'

export type PhotoRead = { readonly photo: Photo; readonly issues: readonly string[] } | { readonly code: string }

const roles: ReadonlySet<string> = new Set(['picture', 'clip', 'original'])

/** The meaning of the lines of a folder listing that belong to one photo (IrOBEX 1.3, section 9.1). */
export function photoFromListing(bytes: Uint8Array, tools: Pick<ReadTools, 'instant'>): PhotoRead {
  const record = readFolderRecord(bytes)
  if (!record) return { code: 'no-file-entry' }
  const files: PhotoFile[] = []
  for (const entry of record.files) {
    const role = entry.x_role ?? 'picture'
    if (!roles.has(role) || !entry.name) return { code: 'file-unknown' }
    const calledType = entry.type ?? ''
    files.push({
      role: role as PhotoFile['role'],
      name: entry.name,
      calledType,
      type: entry.x_is ?? calledType,
      handle: entry.x_handle ?? '',
      sizeBytes: Number(entry.size ?? 0) || 0,
      digest: entry.x_digest ?? '',
    })
  }
  const first = record.files[files.findIndex(({ role }) => role === 'picture')]
  if (!first) return { code: 'picture-missing' }
  const isCloudOnly = first.x_cloud === 'yes'
  if (!isCloudOnly && files.some(({ sizeBytes }) => sizeBytes === 0)) return { code: 'empty-file' }
  const when = (text: string | undefined) => readPhoneTime(text, tools.instant)
  const listedMs = when(first.x_taken) ?? when(first.modified ?? first.created)
  const seenMs = when(first.x_seen_taken)
  const takenMs = seenMs ?? listedMs
  const folder = first.x_folder ?? ''
  return {
    issues: [],
    photo: {
      files,
      takenMs: takenMs === undefined ? null : Math.floor(takenMs / 1000) * 1000,
      isDateContradicted: seenMs !== undefined && listedMs !== undefined && Math.floor(seenMs / 1000) !== Math.floor(listedMs / 1000),
      hasPlace: (first.x_seen_place ?? first.x_place ?? '') !== '',
      folder,
      albums: record.albums.length > 0 ? record.albums : albumOfFolder(folder),
      isFavourite: first.x_favourite === 'yes',
      isHidden: first.x_hidden === 'yes',
      burst: first.x_burst ?? '',
      isCloudOnly,
      isTurned: first.x_turned === 'yes',
      isDamaged: first.x_damaged === 'yes',
      width: Number(first.x_width ?? 0) || 0,
      height: Number(first.x_height ?? 0) || 0,
    },
  }
}

/** A folder beside the camera's own is what its owner calls an album (DCF 2.0 for `DCIM`). */
function albumOfFolder(folder: string): string[] {
  const last = folder.slice(folder.lastIndexOf('/') + 1)
  return last === '' || /^dcim(\/[^/]*)?$/i.test(folder) || /^camera$/i.test(last) ? [] : [last]
}
