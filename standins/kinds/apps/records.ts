import { catalogue } from '../../catalogue/apps.ts'
import { numbers } from '../../demo/draw.ts'
import type { Recipe } from '../../files/files.ts'

/** An app of its owner's as a practice phone keeps it. */
export interface StoredApp {
  bundle: string
  name: string
  version: string
  use: string
  /** The package, where the phone gives it, and what is in it, where the app lets it go. */
  package: { handle: string; size: number } | null
  data: { handle: string; size: number } | null
  dataStays: boolean
}

export type AppWay = 'lines' | 'plist'
const quote = (text: string) => text.replace(/'/g, '’')
const xml = (text: string) => text.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`)

/** As the platform tells of an app: lines of a package listing, or a property list. */
export function giveApp(app: StoredApp, way: AppWay): Buffer {
  if (way === 'lines') {
    const lines = [
      `package: name='${app.bundle}' versionName='${app.version}'`,
      `application-label:'${quote(app.name)}'`,
      `x-category:'${app.use}'`,
    ]
    if (app.package) lines.push(`x-package: handle='${app.package.handle}' size='${app.package.size}'`)
    if (app.data) lines.push(`x-data: handle='${app.data.handle}' size='${app.data.size}'`)
    if (app.dataStays) lines.push('x-data-stays')
    return Buffer.from(lines.join('\n') + '\n')
  }
  const entries: [string, string | number | boolean][] = [
    ['CFBundleIdentifier', app.bundle],
    ['CFBundleDisplayName', app.name],
    ['CFBundleShortVersionString', app.version],
    ['XCategory', app.use],
  ]
  if (app.data) entries.push(['XDataHandle', app.data.handle], ['XDataSize', app.data.size])
  if (app.dataStays) entries.push(['XDataStays', true])
  const lines = entries.map(
    ([key, value]) =>
      `<key>${key}</key>${value === true ? '<true/>' : typeof value === 'number' ? `<integer>${value}</integer>` : `<string>${xml(String(value))}</string>`}`,
  )
  return Buffer.from(`<?xml version="1.0" encoding="UTF-8"?>\n<plist version="1.0"><dict>\n${lines.join('\n')}\n</dict></plist>\n`)
}

/** Reads what the phone is given to install. @throws Error when it is nothing this phone installs */
export function takeApp(bytes: Buffer, way: AppWay): StoredApp {
  const text = bytes.toString('utf8')
  if (way === 'lines') {
    const of = (line: string, name: string) => new RegExp(`^${line}:.*\\b${name}='([^']*)'`, 'm').exec(text)?.[1]
    const bundle = of('package', 'name')
    const handle = of('x-package', 'handle')
    if (!bundle || !handle) throw new Error('no package')
    const data = of('x-data', 'handle')
    return {
      bundle,
      version: of('package', 'versionName') ?? '',
      name: /^application-label:'([^']*)'/m.exec(text)?.[1] ?? '',
      use: /^x-category:'([^']*)'/m.exec(text)?.[1] ?? '',
      package: { handle, size: Number(of('x-package', 'size')) },
      data: data ? { handle: data, size: Number(of('x-data', 'size')) } : null,
      dataStays: !data,
    }
  }
  const value = (key: string) =>
    new RegExp(`<key>${key}</key>\\s*<(?:string|integer)>([^<]*)<`)
      .exec(text)?.[1]
      ?.replace(/&(?:#(\d+)|amp|lt|gt);/g, (whole, code: string | undefined) =>
        code ? String.fromCodePoint(Number(code)) : { '&amp;': '&', '&lt;': '<', '&gt;': '>' }[whole]!,
      )
  const bundle = value('CFBundleIdentifier')
  const inStore = bundle && catalogue().apps.find((app) => app.platform === 'ios' && app.id === bundle)
  // the phone has its own store install it, and no other source
  if (!inStore) throw new Error('not in the store')
  const data = value('XDataHandle')
  return {
    bundle,
    name: inStore.name,
    version: '1.0',
    use: inStore.use,
    package: null,
    data: data ? { handle: data, size: Number(value('XDataSize')) } : null,
    dataStays: !data,
  }
}

export interface AppsRequest {
  readonly seed: number
  readonly count: number
}

/** Apps from a seed, of the platform's own catalogue, tied ones among them; one that no catalogue knows. */
export function* appsOf({ seed, count }: AppsRequest, platform: 'android' | 'ios') {
  const next = numbers(seed)
  const all = catalogue().apps.filter((app) => app.platform === platform)
  const tied = all.filter((app) => app.tied)
  const wanted = new Set([...tied.slice(0, Math.min(4, Math.ceil(count / 4))), ...all.filter((app) => app.maker === 'One of a Kind')])
  while (wanted.size < Math.min(count - 1, all.length)) wanted.add(all[Math.floor(next() * all.length)]!)
  let n = 0
  for (const app of [
    ...[...wanted].slice(0, Math.max(0, count - 1)),
    { id: `com.example.homemade${seed}`, name: 'Homemade', use: 'own', sizeBytes: 3_000, tied: null },
  ]) {
    const i = ++n
    const recipes: { handle: string; recipe: Recipe; sizeBytes: number }[] = []
    const file = (what: string, size: number) => {
      const handle = `a${seed}-${i}-${what}`
      recipes.push({ handle, recipe: { generated: seed * 1000 + i * 2 + (what === 'data' ? 1 : 0), size }, sizeBytes: size })
      return { handle, size }
    }
    // what is bound to one phone stays on it, and many others keep theirs as well
    const dataStays = app.tied !== null || next() < 0.5
    const stored: StoredApp = {
      bundle: app.id,
      name: app.name,
      version: `${1 + Math.floor(next() * 9)}.${Math.floor(next() * 20)}`,
      use: app.use,
      package: platform === 'android' ? file('package', app.sizeBytes) : null,
      data: dataStays ? null : file('data', 800 + Math.floor(next() * 3000)),
      dataStays,
    }
    yield { stored, attached: recipes }
  }
}
