import { manifestName } from '#core/formats/files/manifest.ts'
import { ArchiveRanges } from './archive-ranges.ts'
import { ArchiveUnread, createDigest, openArchive, readEntry, type ArchiveIssue } from './archive.ts'

export interface FolderWish {
  readonly url: string
  readonly password: string
  readonly folder: FileSystemDirectoryHandle
}
export interface FolderReport {
  readonly step: 'putting' | 'reading-back' | 'done' | 'failed'
  readonly done: number
  readonly total: number
  /** Files that are not in the folder as they should be. */
  readonly bad: number
  readonly issue: ArchiveIssue | null
}

const tell = (report: FolderReport) => postMessage(report)

/** Takes what is in an archive out into a folder of this computer, file by file, and reads every one of them back. */
async function put({ url, password, folder }: FolderWish): Promise<void> {
  const { manifest, entries } = await openArchive(new ArchiveRanges(url), password)
  const paths = [...manifest.files.map(({ path }) => path), manifestName]
  const total = paths.length
  for (const [i, path] of paths.entries()) {
    const out = await (await fileIn(folder, path)).createWritable()
    await readEntry(entries.get(path)!, (chunk) => out.write(chunk as Uint8Array<ArrayBuffer>))
    await out.close()
    tell({ step: 'putting', done: i + 1, total, bad: 0, issue: null })
  }
  let bad = 0
  for (const [i, { path, bytes, sha256 }] of manifest.files.entries()) {
    const digest = createDigest()
    const reader = (await (await fileIn(folder, path)).getFile()).stream().getReader()
    for (let next = await reader.read(); !next.done; next = await reader.read()) digest.push(next.value)
    const found = digest.end()
    if (found.bytes !== bytes || found.sha256 !== sha256) bad++
    tell({ step: 'reading-back', done: i + 1, total: total - 1, bad, issue: null })
  }
  tell({ step: 'done', done: total, total, bad, issue: null })
}

async function fileIn(folder: FileSystemDirectoryHandle, path: string): Promise<FileSystemFileHandle> {
  const parts = path.split('/')
  let at = folder
  for (const part of parts.slice(0, -1)) at = await at.getDirectoryHandle(part, { create: true })
  return at.getFileHandle(parts.at(-1)!, { create: true })
}

onmessage = (event: MessageEvent<FolderWish>) => {
  put(event.data).catch((error: unknown) =>
    tell({ step: 'failed', done: 0, total: 0, bad: 0, issue: error instanceof ArchiveUnread ? error.issue : null }),
  )
}
