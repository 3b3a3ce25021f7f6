import { readFolderRecord, type FileEntry } from '../../formats/folder-listing/index.ts'
import { readBasicTime } from '../../text/zone.ts'
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
    files.push({ role: role as PhotoFile['role'], name: entry.name, calledType, type: entry.x_is ?? calledType, handle: entry.x_handle ?? '', sizeBytes: Number(entry.size ?? 0) || 0, digest: entry.x_digest ?? '' })
  }
  const first = record.files[files.findIndex(({ role }) => role === 'picture')]
  if (!first) return { code: 'picture-missing' }
  const isCloudOnly = first.x_cloud === 'yes'
  if (!isCloudOnly && files.some(({ sizeBytes }) => sizeBytes === 0)) return { code: 'empty-file' }
  const listedMs = instantOf(first.x_taken, tools) ?? instantOf(first.modified ?? first.created, tools)
  const seenMs = instantOf(first.x_seen_taken, tools)
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

/**
 * When it was: a count from 1970 in seconds or in milliseconds, told apart by size, or a time in basic form, in UTC,
 * with an offset, or local to the phone.
 */
function instantOf(text: string | undefined, tools: Pick<ReadTools, 'instant'>): number | undefined {
  if (text === undefined || text === '') return undefined
  if (/^-?\d{1,16}$/.test(text)) return Math.abs(Number(text)) >= 100_000_000_000 ? Number(text) : Number(text) * 1000
  const match = /^(\d{8}T\d{6})(Z|[+-]\d{4})?$/.exec(text)
  const basic = match && readBasicTime(match[1]!)
  if (!basic) return undefined
  if (!match[2]) return tools.instant(basic.local)
  const { year, month, day, hour, minute, second } = basic.local
  const wall = Date.UTC(year, month - 1, day, hour, minute, second)
  if (match[2] === 'Z') return wall
  const offset = Number(match[2].slice(1, 3)) * 60 + Number(match[2].slice(3))
  return wall - (match[2].startsWith('-') ? -offset : offset) * 60_000
}

export type { FileEntry }
