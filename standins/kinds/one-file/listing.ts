/** A file as a practice phone keeps it: a film, a track, a recording, a document. */
export interface StoredFile {
  folder: string
  name: string
  type: string
  handle: string
  size: number
  /** Milliseconds since 1970, as its own list shows it. */
  atMs: number
  /** When the file was last changed. */
  changedMs: number
  place: [number, number] | null
  albums: string[]
  /** What its list notes beside it, by our names. */
  says: Record<string, string>
  /** Only its entry is here. */
  cloud: boolean
  /** It stands among other files: the phone has no place of its own for it. */
  placed: boolean
}

/** A maker's habits with a kind of files. */
export interface FileWay {
  /** How it says when it was made or came. */
  readonly time: 'ms' | 'seconds' | 'offset'
  /** What it notes beside a file, and takes. */
  readonly keeps: readonly string[]
  /** What it lists of its own, and lets nobody write. */
  readonly lists?: readonly string[]
  /** Albums of its own. */
  readonly albums?: boolean
  /** Its card's file system has no sign for some characters. */
  readonly plainNames?: boolean
  /** Nobody but its owner or its network puts one into its own list: what a computer brings stands apart, in a folder of that name. */
  readonly apartIn?: string
  readonly mostBytes?: number
  /** It says which were not heard. */
  readonly saysUnheard?: boolean
  /** “3/12”. */
  readonly saysTrackOf?: boolean
  /** It has no such kind, and says so by a count of nought. */
  readonly hasNone?: boolean
}

const xml = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)
const basic = (ms: number) => new Date(ms).toISOString().replace(/[-:]|\.\d+/g, '')

function timeOf(ms: number, { time }: FileWay): string {
  if (time === 'ms') return String(ms)
  if (time === 'seconds') return String(Math.floor(ms / 1000))
  // one hour ahead all year, as it was set up abroad once: the offset says so
  return `${basic(ms + 3_600_000).slice(0, -1)}+0100`
}

/** Gives a file as a line of a folder listing. */
export function giveFileLine(file: StoredFile, way: FileWay): Buffer {
  const { heard, track, ...rest } = file.says
  const says: Record<string, string> = {
    ...rest,
    ...(track ? { track: way.saysTrackOf ? `${track}/12` : track } : {}),
    ...(way.saysUnheard ? { unheard: heard || file.placed ? '' : 'yes', ...(heard ? { unheard: 'no' } : {}) } : heard ? { heard } : {}),
  }
  const listed = new Set([...way.keeps, ...(way.lists ?? []), ...(way.saysUnheard ? ['unheard'] : [])])
  const all: Record<string, string> = {
    name: file.name,
    size: String(file.size),
    type: file.type,
    x_folder: file.folder,
    x_handle: file.cloud ? '' : file.handle,
    x_taken: timeOf(file.atMs, way),
    modified: basic(file.changedMs),
    x_place: file.place ? file.place.map((n) => n.toFixed(5)).join(',') : '',
    x_cloud: file.cloud ? 'yes' : '',
    x_placed: file.placed ? 'yes' : '',
    ...Object.fromEntries(Object.entries(says).flatMap(([name, value]) => (listed.has(name) ? [[`x_${name}`, value]] : []))),
  }
  const line = Object.entries(all)
    .flatMap(([name, value]) => (value === '' ? [] : [`${name}="${xml(value)}"`]))
    .join(' ')
  const albums = way.albums ? file.albums.map((name) => `<album name="${xml(name)}"/>`) : []
  return Buffer.from([`<file ${line}/>`, ...albums].join('\r\n') + '\r\n', 'utf8')
}

/** Reads what the phone is given by its own rules. @throws Error when it is nothing this phone takes */
export function takeFileLine(bytes: Buffer, way: FileWay): StoredFile {
  const text = bytes.toString('utf8')
  const [line, ...more] = text.split('\r\n').filter((one) => one.startsWith('<file '))
  if (!line || more.length > 0) throw new Error('not one file')
  const attributes = Object.fromEntries(
    [...line.matchAll(/ ([a-z_]+)="([^"]*)"/g)].map(([, name, value]) => [
      name!,
      value!.replace(/&(quot|lt|gt|amp|#(\d+));/g, (_, n: string, code: string | undefined) =>
        code ? String.fromCodePoint(Number(code)) : { quot: '"', lt: '<', gt: '>', amp: '&' }[n]!,
      ),
    ]),
  )
  const { name = '', x_folder: folder = '', type = '', x_handle: handle = '', size = '' } = attributes
  const placed = attributes.x_placed === 'yes'
  const albums = [...text.matchAll(/^<album name="([^"]*)"\/>/gm)].map((m) =>
    m[1]!
      .replace(/&amp;/g, '&')
      .replace(/&quot;/g, '"')
      .replace(/&lt;/g, '<')
      .replace(/&gt;/g, '>'),
  )
  if (!name || /[/\\]/.test(name) || !handle) throw new Error('a file that is none')
  if (way.plainNames && /[\\:*?"<>|]/.test(name + folder)) throw new Error('a sign its card has none for')
  if (placed !== (way.apartIn !== undefined)) throw new Error('its own list is nobody else’s')
  if (albums.length > 0 && !way.albums) throw new Error('a mark it does not know')
  const says = Object.fromEntries(
    Object.entries(attributes).flatMap(([key, value]) =>
      key.startsWith('x_') && !['x_folder', 'x_handle', 'x_placed'].includes(key) ? [[key.slice(2), value]] : [],
    ),
  )
  for (const say of Object.keys(says)) if (!way.keeps.includes(say) && !ignored.has(say)) throw new Error(`a note it does not keep: ${say}`)
  const changed = /^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/.exec(attributes.modified ?? '')
  const changedMs = changed ? Date.UTC(+changed[1]!, +changed[2]! - 1, +changed[3]!, +changed[4]!, +changed[5]!, +changed[6]!) : 0
  return {
    folder: placed ? way.apartIn! : folder,
    name,
    type,
    handle,
    size: Number(size),
    atMs: changedMs || Date.now(),
    changedMs: changedMs || Date.now(),
    place: null,
    albums,
    says: Object.fromEntries(Object.entries(says).filter(([say]) => way.keeps.includes(say))),
    cloud: false,
    placed,
  }
}

/** What an index reads out of a file by itself: nobody needs to tell it. */
const ignored: ReadonlySet<string> = new Set(['title', 'artist', 'album', 'track', 'podcast', 'author'])
