import { BlobReader } from '@zip.js/zip.js'
import { manifestName, type ArchiveManifest } from '#core/formats/files/manifest.ts'
import { ArchiveUnread, createDigest, openArchive, readEntry, type ArchiveIssue } from './archive.ts'

export interface WholeWish {
  readonly file: Blob
  readonly password: string
}
/** How a file that was brought stands, so far. */
export interface WholeReport {
  readonly issue: ArchiveIssue | null
  readonly isDone: boolean
  readonly done: number
  readonly total: number
  readonly made: { readonly at: string; readonly model: string } | null
  readonly mark: string
  readonly kinds: ArchiveManifest['kinds']
  readonly altered: readonly string[]
  readonly missing: readonly string[]
  readonly more: readonly string[]
}

const nothing: WholeReport = {
  issue: null,
  isDone: false,
  done: 0,
  total: 0,
  made: null,
  mark: '',
  kinds: {},
  altered: [],
  missing: [],
  more: [],
}

/** Reads every file a ZIP lists, and holds each against its size and digest; what it does not list is named, too. */
async function check({ file, password }: WholeWish): Promise<void> {
  const { manifest, mark, entries } = await openArchive(new BlobReader(file), password)
  const listed = new Set(manifest.files.map(({ path }) => path))
  const more = [...entries.keys()].filter((path) => path !== manifestName && !listed.has(path))
  const altered: string[] = []
  const missing: string[] = []
  const base = {
    ...nothing,
    made: { at: manifest.madeAt, model: manifest.from.model },
    mark,
    kinds: manifest.kinds,
    total: manifest.files.length,
    more,
  }
  let lastTold = 0
  for (const [i, { path, bytes, sha256 }] of manifest.files.entries()) {
    const entry = entries.get(path)
    if (!entry) missing.push(path)
    else {
      const digest = createDigest()
      const isRead = await readEntry(entry, digest.push).then(
        () => true,
        (error: unknown) => {
          if (error instanceof ArchiveUnread) throw error
          return false
        },
      )
      const found = digest.end()
      if (!isRead || found.bytes !== bytes || found.sha256 !== sha256) altered.push(path)
    }
    if (performance.now() - lastTold < 100) continue
    lastTold = performance.now()
    postMessage({ ...base, done: i + 1, altered: [...altered], missing: [...missing] } satisfies WholeReport)
  }
  postMessage({ ...base, done: manifest.files.length, altered, missing, isDone: true } satisfies WholeReport)
}

onmessage = (event: MessageEvent<WholeWish>) => {
  check(event.data).catch((error: unknown) =>
    postMessage({ ...nothing, isDone: true, issue: error instanceof ArchiveUnread ? error.issue : 'unreadable' } satisfies WholeReport),
  )
}
