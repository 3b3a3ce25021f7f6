import { readFolderRecord, writeFolderRecord, type FileEntry } from '../../formats/folder-listing/index.ts'
import type { FileFacts } from '../../formats/file-facts.ts'
import { joinBytes, utf8Bytes } from '../../text/bytes.ts'
import { readPhoneTime, writeBasicTime, type LocalTime } from '../../text/zone.ts'
import type { FoundFile, ReadTools } from '../kind.ts'
import { says, type OneFile, type Say } from './model.ts'

const attributeOf = (say: Say) => `x_${say}` as keyof FileEntry

/** The meaning of a line of a folder listing that names one file (IrOBEX 1.3, section 9.1). Never throws on data. */
export function fileFromListing(bytes: Uint8Array, tools: Pick<ReadTools, 'instant'>): OneFile | { readonly code: string } {
  const record = readFolderRecord(bytes)
  const entry = record?.files[0]
  if (!record || !entry) return { code: 'no-file-entry' }
  if (record.files.length > 1 || !entry.name) return { code: 'file-unknown' }
  const isCloudOnly = entry.x_cloud === 'yes'
  const when = (text: string | undefined) => readPhoneTime(text, tools.instant)
  const listedMs = when(entry.x_taken) ?? when(entry.modified ?? entry.created)
  const seenMs = when(entry.x_seen_taken)
  const atMs = seenMs ?? listedMs
  return {
    name: entry.name,
    type: entry.x_is ?? entry.type ?? '',
    handle: entry.x_handle ?? '',
    sizeBytes: Number(entry.size ?? 0) || 0,
    digest: entry.x_digest ?? '',
    folder: (entry.x_folder ?? '').replace(/\\/g, '/').replace(/^\/+|\/+$/g, ''),
    albums: record.albums,
    atMs: atMs === undefined ? null : Math.floor(atMs / 1000) * 1000,
    isDateContradicted: seenMs !== undefined && listedMs !== undefined && Math.floor(seenMs / 1000) !== Math.floor(listedMs / 1000),
    hasPlace: (entry.x_seen_place ?? entry.x_place ?? '') !== '',
    says: saysOf(entry),
    isPlaced: entry.x_placed === 'yes',
    isCloudOnly,
    seen: {
      ms: Number(entry.x_seen_ms ?? 0) || 0,
      codecs: (entry.x_seen_codecs ?? '').split(' ').filter(Boolean),
      width: Number(entry.x_seen_width ?? entry.x_width ?? 0) || 0,
      height: Number(entry.x_seen_height ?? entry.x_height ?? 0) || 0,
      isLocked: entry.x_seen_locked === 'yes',
      isTurned: entry.x_turned === 'yes',
      isDamaged: entry.x_damaged === 'yes',
      title: entry.x_seen_title ?? '',
      artist: entry.x_seen_artist ?? '',
      album: entry.x_seen_album ?? '',
      track: entry.x_seen_track ?? '',
      year: entry.x_seen_year ?? '',
      isPodcast: entry.x_seen_podcast === 'yes',
      isBook: entry.x_seen_book === 'yes',
      canBeTitled: entry.x_seen_room === 'yes',
      issue: entry.x_seen_issue ?? '',
    },
  }
}

/** What the phone notes, whichever way its maker writes it. */
function saysOf(entry: FileEntry): OneFile['says'] {
  const out: Partial<Record<Say, string>> = {}
  for (const say of says) {
    const text = entry[attributeOf(say)]?.trim()
    if (text && text !== 'no' && text !== '0') out[say] = text
  }
  if (entry.x_unheard !== undefined && entry.x_unheard !== 'yes') out.heard = 'yes'
  if (out.heard) out.heard = 'yes'
  // “3/12”: which of how many
  if (out.track) out.track = out.track.replace(/\/.*$/, '')
  if (out.places) out.places = placesOf(out.places)
  return out
}

/** Lock screen, home screen, or both, in one order. */
function placesOf(text: string): string {
  const words = text.toLowerCase().split(/[\s,]+/)
  const isAll = words.includes('both') || words.includes('all')
  return ['home', 'lock'].filter((place) => isAll || words.includes(place)).join(' ')
}

/** The line a phone takes: the file by its handle there, its date in UTC, and only notes it keeps. */
export function listingOfFile(file: OneFile): Uint8Array {
  const { name, sizeBytes, type, handle, folder, atMs, albums, isPlaced } = file
  const noted = Object.fromEntries(says.flatMap((say) => (file.says[say] === undefined ? [] : [[attributeOf(say), file.says[say]]])))
  return writeFolderRecord({
    files: [
      {
        name,
        size: String(sizeBytes),
        type,
        modified: atMs === null ? '' : writeBasicTime(atMs),
        x_folder: folder,
        x_handle: handle,
        x_placed: isPlaced ? 'yes' : '',
        ...noted,
      },
    ],
    albums,
  })
}

/** A record with what its file was found to be, noted in it: read again, it says what that is. */
export function noteFile(bytes: Uint8Array, found: ReadonlyMap<string, FoundFile>): Uint8Array {
  const record = readFolderRecord(bytes)
  if (!record) return bytes
  const files = record.files.map((entry): FileEntry => {
    const file = found.get(entry.x_handle ?? '')
    return file ? { ...entry, size: String(file.sizeBytes), x_digest: file.digest, ...(file.facts ? noted(file.facts) : {}) } : entry
  })
  return writeFolderRecord({ ...record, files })
}

function noted(facts: FileFacts): FileEntry {
  const {
    type,
    taken,
    offsetMinutes,
    place,
    orientation,
    isDamaged,
    durationMs,
    codecs,
    width,
    height,
    isProtected,
    tags = {},
    canBeTitled,
    issue,
  } = facts
  return {
    x_is: type ?? 'application/octet-stream',
    ...(taken ? { x_seen_taken: basicOf(taken, offsetMinutes) } : {}),
    ...(place ? { x_seen_place: `${place.latitude.toFixed(5)},${place.longitude.toFixed(5)}` } : {}),
    ...(orientation > 1 ? { x_turned: 'yes' } : {}),
    ...(isDamaged ? { x_damaged: 'yes' } : {}),
    ...(durationMs === undefined ? {} : { x_seen_ms: String(durationMs) }),
    ...(codecs && codecs.length > 0 ? { x_seen_codecs: codecs.join(' ') } : {}),
    ...(width && height ? { x_seen_width: String(width), x_seen_height: String(height) } : {}),
    ...(isProtected ? { x_seen_locked: 'yes' } : {}),
    x_seen_title: tags.title,
    x_seen_artist: tags.artist,
    x_seen_album: tags.album,
    x_seen_track: tags.track,
    x_seen_year: tags.year,
    x_seen_genre: tags.genre,
    x_seen_podcast: tags.podcast,
    x_seen_book: tags.book,
    ...(canBeTitled ? { x_seen_room: 'yes' } : {}),
    x_seen_issue: issue,
  }
}

/** The element a record stands in, in a list of files that lie in folders. */
export const elementOf = (tag: string, record: Uint8Array) => joinBytes([utf8Bytes(`<${tag}>\r\n`), record, utf8Bytes(`</${tag}>\r\n`)])

/**
 * A record for a list of files that lie in folders: as it was given, with the path of its file.
 * @param paths by the phone's handles
 */
export function fileInFolder(tag: string, bytes: Uint8Array, paths: ReadonlyMap<string, string>): Uint8Array {
  const record = readFolderRecord(bytes)
  if (!record) return bytes
  // what a file is, is found out by whoever reads it, and never taken from here
  const files = record.files.map((entry): FileEntry => ({ ...entry, x_handle: paths.get(entry.x_handle ?? '') ?? '', x_digest: '' }))
  return elementOf(tag, writeFolderRecord({ ...record, files }))
}

/** A file somebody brought, as a record: by its name and its time, until its own is read. */
export function fileAsRecord(tag: string, file: { path: string; type: string; sizeBytes: number; modifiedMs: number }): Uint8Array {
  const at = file.path.lastIndexOf('/')
  return elementOf(
    tag,
    writeFolderRecord({
      files: [
        {
          name: file.path.slice(at + 1),
          size: String(file.sizeBytes),
          type: file.type,
          modified: writeBasicTime(file.modifiedMs),
          x_folder: file.path.slice(0, Math.max(0, at)),
          x_handle: file.path,
        },
      ],
      albums: [],
    }),
  )
}

/** A clock as phones write it, with its offset where one is known (ISO 8601, basic form). */
function basicOf({ year, month, day, hour, minute, second }: LocalTime, offsetMinutes: number | undefined): string {
  const two = (n: number) => String(n).padStart(2, '0')
  const wall = `${String(year).padStart(4, '0')}${two(month)}${two(day)}T${two(hour)}${two(minute)}${two(second)}`
  if (offsetMinutes === undefined) return wall
  if (offsetMinutes === 0) return `${wall}Z`
  const n = Math.abs(offsetMinutes)
  return `${wall}${offsetMinutes < 0 ? '-' : '+'}${two(Math.floor(n / 60))}${two(n % 60)}`
}
