import { utf8Bytes, utf8Text } from '../../text/bytes.ts'

/** What a platform tells of an app, by plain names whichever form it has. */
export interface AppRecord {
  readonly id: string
  readonly name: string
  readonly version: string
  readonly use: string
  readonly package: AppFile | undefined
  readonly data: AppFile | undefined
  readonly dataStays: boolean
  /** Noted by us: what the catalogue said, as JSON. */
  readonly catalogue: string
}
export interface AppFile {
  readonly handle: string
  readonly sizeBytes: number
  readonly digest: string
}

/** Reads lines of a package listing (Android), a property list in XML (iOS), or a line of JSON (open files). Undefined when it names no app. */
export function readAppRecord(bytes: Uint8Array): AppRecord | undefined {
  const text = utf8Text(bytes)
  if (text === undefined || text.length > 200_000) return undefined
  const record = text.startsWith('{')
    ? fromJson(text)
    : text.startsWith('<?xml') || text.startsWith('<plist')
      ? fromPlist(text)
      : fromLines(text)
  return !record || record.id === '' ? undefined : record
}

interface AppLine {
  readonly id: string
  readonly name: string
  readonly version: string
  readonly use: string
  readonly dataStays: boolean
  readonly package?: LineFile
  readonly data?: LineFile
  readonly catalogue?: string
}
interface LineFile {
  readonly file: string
  readonly sizeBytes: number
  readonly sha256: string
}

/** An app as a line of JSON. @param pathOf where a file of it stands, by its handle */
export function appLine(app: Omit<AppRecord, 'catalogue'>, pathOf: (handle: string) => string): Uint8Array {
  const { id, name, version, use, dataStays } = app
  const file = (of: AppFile | undefined): LineFile | undefined =>
    of && { file: pathOf(of.handle), sizeBytes: of.sizeBytes, sha256: of.digest }
  const line: AppLine = { id, name, version, use, dataStays, package: file(app.package), data: file(app.data) }
  return utf8Bytes(`${JSON.stringify(line)}\n`)
}

function fromJson(text: string): AppRecord | undefined {
  let line: Partial<Record<keyof AppLine, unknown>>
  try {
    line = JSON.parse(text) as typeof line
  } catch {
    return undefined
  }
  const word = (value: unknown) => (typeof value === 'string' ? value : '')
  const file = (value: unknown): AppFile | undefined => {
    const { file, sizeBytes, sha256 } = (value ?? {}) as Partial<Record<keyof LineFile, unknown>>
    return word(file) ? { handle: word(file), sizeBytes: Number(sizeBytes) || 0, digest: word(sha256) } : undefined
  }
  return {
    id: word(line.id),
    name: word(line.name),
    version: word(line.version),
    use: word(line.use),
    package: file(line.package),
    data: file(line.data),
    dataStays: line.dataStays === true,
    catalogue: word(line.catalogue),
  }
}

function fromLines(text: string): AppRecord {
  const line = (name: string) => new RegExp(`^${name}:(.*)$`, 'm').exec(text)?.[1] ?? ''
  const value = (from: string, name: string) => new RegExp(`\\b${name}='([^']*)'`).exec(from)?.[1] ?? ''
  const word = (name: string) => /^'([^']*)'/.exec(line(name))?.[1] ?? ''
  const file = (name: string): AppFile | undefined => {
    const from = line(name)
    return value(from, 'handle')
      ? { handle: value(from, 'handle'), sizeBytes: Number(value(from, 'size')) || 0, digest: value(from, 'digest') }
      : undefined
  }
  const named = line('package')
  return {
    id: value(named, 'name'),
    version: value(named, 'versionName'),
    name: word('application-label'),
    use: word('x-category'),
    package: file('x-package'),
    data: file('x-data'),
    dataStays: /^x-data-stays/m.test(text),
    catalogue: line('x-catalogue'),
  }
}

function fromPlist(text: string): AppRecord {
  const value = (key: string) => {
    const found = new RegExp(`<key>${key}</key>\\s*<(string|integer|true)(?:>([^<]*)<|/>)`).exec(text)
    return found ? (found[1] === 'true' ? 'true' : readEntities(found[2] ?? '')) : ''
  }
  const file = (name: string): AppFile | undefined =>
    value(`X${name}Handle`)
      ? { handle: value(`X${name}Handle`), sizeBytes: Number(value(`X${name}Size`)) || 0, digest: value(`X${name}Digest`) }
      : undefined
  return {
    id: value('CFBundleIdentifier'),
    name: value('CFBundleDisplayName'),
    version: value('CFBundleShortVersionString'),
    use: value('XCategory'),
    package: file('Package'),
    data: file('Data'),
    dataStays: value('XDataStays') === 'true',
    catalogue: value('XCatalogue'),
  }
}

/** An app as the platform is told to install it. */
export function writeAppRecord({ id, name, version, use, package: pack, data }: AppRecord, form: 'lines' | 'plist'): Uint8Array {
  if (form === 'lines') {
    const file = (label: string, of: AppFile | undefined) => (of ? [`${label}: handle='${of.handle}' size='${of.sizeBytes}'`] : [])
    return utf8Bytes(
      [
        `package: name='${plain(id)}' versionName='${plain(version)}'`,
        `application-label:'${plain(name)}'`,
        `x-category:'${plain(use)}'`,
        ...file('x-package', pack),
        ...file('x-data', data),
      ]
        .map((line) => `${line}\n`)
        .join(''),
    )
  }
  const entries = [
    ['CFBundleIdentifier', id],
    ...(data
      ? [
          ['XDataHandle', data.handle],
          ['XDataSize', String(data.sizeBytes)],
        ]
      : []),
  ] as const
  return utf8Bytes(
    `<?xml version="1.0" encoding="UTF-8"?>\n<plist version="1.0"><dict>\n${entries.map(([key, value]) => `<key>${key}</key><string>${escape(value!)}</string>\n`).join('')}</dict></plist>\n`,
  )
}

/** Notes in a record what was found of its files, and what the catalogue said; nothing else changes. */
export function noteInAppRecord(
  bytes: Uint8Array,
  { digests, catalogue }: { digests?: ReadonlyMap<string, { readonly digest: string; readonly sizeBytes: number }>; catalogue?: string },
): Uint8Array {
  let text = utf8Text(bytes)
  const record = readAppRecord(bytes)
  if (text === undefined || !record) return bytes
  if (text.startsWith('{')) {
    const note = (file: AppFile | undefined) => {
      const found = file && digests?.get(file.handle)
      return found ? { ...file, digest: found.digest, sizeBytes: found.sizeBytes } : file
    }
    const noted = appLine({ ...record, package: note(record.package), data: note(record.data) }, (handle) => handle)
    const known = catalogue ?? record.catalogue
    return known === '' ? noted : utf8Bytes(`${JSON.stringify({ ...(JSON.parse(utf8Text(noted)!) as AppLine), catalogue: known })}\n`)
  }
  const isPlist = text.startsWith('<')
  const lines: string[] = []
  for (const [name, file] of [
    ['Package', record.package],
    ['Data', record.data],
  ] as const) {
    const found = file && digests?.get(file.handle)
    if (!found) continue
    if (isPlist) lines.push(`<key>X${name}Digest</key><string>${found.digest}</string>`)
    else text = text.replace(new RegExp(`^(x-${name.toLowerCase()}:.*)$`, 'm'), `$1 digest='${found.digest}'`)
  }
  if (catalogue !== undefined)
    lines.push(isPlist ? `<key>XCatalogue</key><string>${escape(catalogue)}</string>` : `x-catalogue:${catalogue.replace(/\n/g, ' ')}`)
  return utf8Bytes(
    isPlist
      ? text.replace(/<\/dict>\s*<\/plist>\s*$/, () => `${lines.join('\n')}\n</dict></plist>\n`)
      : text + lines.map((line) => `${line}\n`).join(''),
  )
}

function plain(text: string): string {
  return text.replace(/['\r\n]/g, '’')
}

function escape(text: string): string {
  return text.replace(/[&<>]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[c]!)
}

function readEntities(text: string): string {
  return text.replace(/&(?:#(\d+)|(amp|lt|gt|quot));/g, (_, code: string | undefined, name: string) =>
    code ? String.fromCodePoint(Math.min(0x10ffff, Number(code))) : { amp: '&', lt: '<', gt: '>', quot: '"' }[name]!,
  )
}
