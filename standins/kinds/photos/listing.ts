import type { Looked } from './look.ts'

/** A photo as a practice phone keeps it: what its owner calls one, with every file that belongs to it. */
export interface StoredPhoto {
  folder: string
  /** Milliseconds since 1970, as its own list shows it. */
  takenMs: number
  /** When the file was last changed. */
  changedMs: number
  place: [number, number] | null
  favourite: boolean
  hidden: boolean
  burst: string
  albums: string[]
  /** Only a small picture is here; the whole is in the cloud. */
  cloud: boolean
  width: number
  height: number
  files: PhotoFile[]
}
export interface PhotoFile {
  role: 'picture' | 'clip' | 'original'
  name: string
  type: string
  handle: string
  size: number
}

/** The maker's habits in listing and keeping photos. */
export interface PhotoWay {
  /** How it says when a photo was taken. */
  readonly time: 'ms' | 'seconds' | 'offset'
  readonly folder: (path: string) => string
  /** Albums of its own; else a folder is an album. */
  readonly albums: boolean
  readonly favourites: boolean
  readonly hidden: boolean
  readonly bursts: boolean
  /** An edited photo keeps the original behind it. */
  readonly originals: boolean
  /** It lists the clip of a moving photo once more, as a record of its own that belongs to the other. */
  readonly clipsApart: boolean
  readonly takes: readonly string[]
}

const everyday = ['image/jpeg', 'image/png', 'image/gif', 'image/webp', 'video/mp4']
export const photoWays: Readonly<Record<'orrin' | 'tamsel' | 'veyra' | 'holt', PhotoWay>> = {
  orrin: {
    time: 'ms',
    folder: (path) => path,
    albums: false,
    favourites: true,
    hidden: true,
    bursts: true,
    originals: false,
    clipsApart: false,
    takes: [...everyday, 'image/heic'],
  },
  tamsel: {
    time: 'seconds',
    folder: (path) => path.toUpperCase(),
    albums: false,
    favourites: false,
    hidden: false,
    bursts: false,
    originals: false,
    clipsApart: true,
    takes: everyday,
  },
  veyra: {
    time: 'offset',
    folder: (path) => path,
    albums: true,
    favourites: true,
    hidden: true,
    bursts: true,
    originals: true,
    clipsApart: false,
    takes: [...everyday.filter((type) => type !== 'image/webp'), 'image/heic', 'video/quicktime'],
  },
  holt: {
    time: 'ms',
    folder: (path) => path,
    albums: false,
    favourites: false,
    hidden: false,
    bursts: false,
    originals: false,
    clipsApart: false,
    takes: [],
  },
}

const xml = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)
const basic = (ms: number) => new Date(ms).toISOString().replace(/[-:]|\.\d+/g, '')

function timeOf(ms: number, way: PhotoWay): string {
  if (way.time === 'ms') return String(ms)
  if (way.time === 'seconds') return String(Math.floor(ms / 1000))
  // one hour ahead all year, as it was set up abroad once: the offset says so
  return `${basic(ms + 3_600_000).slice(0, -1)}+0100`
}

/** Gives a photo as lines of a folder listing, a line a file. */
export function givePhoto(photo: StoredPhoto, way: PhotoWay): Buffer {
  const lines = photo.files.map((file, i) => {
    const own: Record<string, string> =
      i > 0
        ? {}
        : {
            x_taken: timeOf(photo.takenMs, way),
            modified: basic(photo.changedMs),
            x_place: photo.place ? photo.place.map((n) => n.toFixed(5)).join(',') : '',
            x_favourite: photo.favourite ? 'yes' : '',
            x_hidden: photo.hidden ? 'yes' : '',
            x_burst: photo.burst,
            x_cloud: photo.cloud ? 'yes' : '',
            x_width: String(photo.width || ''),
            x_height: String(photo.height || ''),
          }
    const all: Record<string, string> = {
      name: file.name,
      size: String(file.size),
      type: file.type,
      x_folder: way.folder(photo.folder),
      x_role: file.role,
      x_handle: photo.cloud ? '' : file.handle,
      ...own,
    }
    return `<file ${Object.entries(all)
      .flatMap(([name, value]) => (value === '' ? [] : [`${name}="${xml(value)}"`]))
      .join(' ')}/>`
  })
  const albums = way.albums ? photo.albums.map((name) => `<album name="${xml(name)}"/>`) : []
  return Buffer.from([...lines, ...albums].join('\r\n') + '\r\n', 'utf8')
}

/** Reads what the phone is given by its own rules. @throws Error when it is no photo this phone takes */
export function takePhoto(bytes: Buffer, way: PhotoWay): StoredPhoto {
  const text = bytes.toString('utf8')
  const attribute = (line: string, name: string) =>
    new RegExp(` ${name}="([^"]*)"`)
      .exec(line)?.[1]
      ?.replace(/&(quot|lt|gt|amp|#(\d+));/g, (_, n: string, code: string | undefined) =>
        code ? String.fromCodePoint(Number(code)) : { quot: '"', lt: '<', gt: '>', amp: '&' }[n]!,
      ) ?? ''
  const lines = text.split('\r\n').filter((line) => line.startsWith('<file '))
  const [first] = lines
  if (!first) throw new Error('no file')
  const files = lines.map((line): PhotoFile => {
    const role = attribute(line, 'x_role') as PhotoFile['role']
    const file = {
      role,
      name: attribute(line, 'name'),
      type: attribute(line, 'type'),
      handle: attribute(line, 'x_handle'),
      size: Number(attribute(line, 'size')),
    }
    if (!['picture', 'clip', 'original'].includes(role) || !file.name || /[/\\]/.test(file.name) || !file.handle || !(file.size > 0))
      throw new Error('a file that is none')
    return file
  })
  const changed = /^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/.exec(attribute(first, 'modified'))
  const is = (name: string) => attribute(first, name) === 'yes'
  const albums = [...text.matchAll(/^<album name="([^"]*)"\/>/gm)].map((m) => attribute(`<album name="${m[1]}"/>`, 'name'))
  if ((is('x_hidden') && !way.hidden) || (is('x_favourite') && !way.favourites) || (albums.length > 0 && !way.albums))
    throw new Error('a mark it does not know')
  return {
    folder: attribute(first, 'x_folder') || 'DCIM/Camera',
    takenMs: 0,
    changedMs: changed ? Date.UTC(+changed[1]!, +changed[2]! - 1, +changed[3]!, +changed[4]!, +changed[5]!, +changed[6]!) : 0,
    place: null,
    favourite: is('x_favourite'),
    hidden: is('x_hidden'),
    burst: way.bursts ? attribute(first, 'x_burst') : '',
    albums,
    cloud: false,
    width: 0,
    height: 0,
    files,
  }
}

/** The phone's own index of what it took: date, place and size by its own look into the file, the file's time when it says none. */
export function indexed(photo: StoredPhoto, looked: Looked, nowMs: number): StoredPhoto {
  return {
    ...photo,
    takenMs: looked.takenMs ?? (photo.changedMs || nowMs),
    place: looked.place ? [...looked.place] : null,
    width: looked.width,
    height: looked.height,
  }
}

/** The records a phone makes of one photo: an original behind an edited one becomes a photo of its own where none is kept behind. */
export function cutPhoto(photo: StoredPhoto, way: PhotoWay): StoredPhoto[] {
  const original = photo.files.find((file) => file.role === 'original')
  if (!original || way.originals) return [photo]
  return [
    { ...photo, files: photo.files.filter((file) => file !== original) },
    { ...photo, favourite: false, burst: '', albums: [], files: [{ ...original, role: 'picture' }] },
  ]
}
