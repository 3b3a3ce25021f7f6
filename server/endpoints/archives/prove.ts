import { createHash } from 'node:crypto'
import { kindOf } from '#core/kinds/registry.ts'
import { manifestName, archiveManifest, markLength, type ArchiveManifest } from '#core/formats/files/manifest.ts'
import { sumOf } from './pack.ts'
import { openZipEntry, readZipDirectory, ZipError, type RandomBytes, type ZipEntry } from './zip-reader.ts'

/** An archive whose entries can be opened by their paths. */
export interface OpenArchive {
  readonly manifest: ArchiveManifest
  /** The beginning of its digest, in hex. */
  readonly mark: string
  readonly entries: ReadonlyMap<string, ZipEntry>
  /** @throws ZipError when there is none, or it is not what it was */
  open(path: string): AsyncGenerator<Buffer>
}

const mostManifestBytes = 200_000_000

/** @throws ZipError `zip-damaged` where there is no list of what is in it, or one that can't be read */
export async function openArchive(file: RandomBytes, password: string | null): Promise<OpenArchive> {
  const entries = new Map((await readZipDirectory(file)).map((entry) => [entry.path, entry]))
  const open = (path: string): AsyncGenerator<Buffer> => {
    const entry = entries.get(path)
    if (!entry) throw new ZipError('zip-damaged')
    return openZipEntry(file, entry, password ?? undefined)
  }
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of open(manifestName)) {
    if ((size += chunk.length) > mostManifestBytes) throw new ZipError('zip-too-large')
    chunks.push(chunk)
  }
  try {
    const list = Buffer.concat(chunks)
    const mark = createHash('sha256').update(list).digest('hex').slice(0, markLength)
    return { manifest: archiveManifest.parse(JSON.parse(list.toString())), mark, entries, open }
  } catch {
    throw new ZipError('zip-damaged')
  }
}

/**
 * Reads an archive whole by another reader than the one that wrote it: every file it lists is there with its size and
 * digest, nothing else is, each kind's file holds as many records as it says, and all that is of a kind has its digest.
 * @throws ZipError
 */
export async function proveArchive(
  file: RandomBytes,
  password: string | null,
  onBytes: (n: number) => Promise<void> | void,
): Promise<Pick<OpenArchive, 'manifest' | 'mark'>> {
  const { manifest, mark, entries, open } = await openArchive(file, password)
  const damaged = () => new ZipError('zip-damaged')
  const listed = new Map(manifest.files.map((one) => [one.path, one]))
  if (listed.size !== manifest.files.length || entries.size !== listed.size + 1) throw damaged()
  const splitters = new Map(
    Object.entries(manifest.kinds).map(([code, { file: path }]) => [path, { code, splitter: kindOf(code).archive!.splitter() }]),
  )
  const counted = new Map<string, number>()
  for (const [path, { bytes, sha256 }] of listed) {
    const hash = createHash('sha256')
    const records = splitters.get(path)
    let size = 0
    let n = 0
    for await (const chunk of open(path)) {
      hash.update(chunk)
      size += chunk.length
      for (const _ of records?.splitter.push(chunk) ?? []) n++
      await onBytes(chunk.length)
    }
    for (const _ of records?.splitter.end() ?? []) n++
    if (records) counted.set(records.code, n)
    if (size !== bytes || hash.digest('hex') !== sha256) throw damaged()
  }
  for (const [code, { items, files, bytes, sha256, file: path }] of Object.entries(manifest.kinds)) {
    // files of a kind stand together, its own file first
    const at = manifest.files.findIndex((one) => one.path === path)
    const sum = sumOf(manifest.files.slice(at, at + files))
    if (at < 0 || counted.get(code) !== items || sum.bytes !== bytes || sum.sha256 !== sha256) throw damaged()
  }
  return { manifest, mark }
}
