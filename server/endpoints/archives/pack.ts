import { createHash } from 'node:crypto'
import { Readable } from 'node:stream'
import { configure, ZipWriter } from '@zip.js/zip.js'
import { createNumberReader } from '#core/kinds/contacts/index.ts'
import { listStored, unreadOf } from '../../vault/lockers/store.ts'
import { createPaths } from '#core/formats/files/names.ts'
import { fileBytes, openKind, packedItems, type OpenKind, type Packed, type PackRequest, type Shop } from './contents.ts'
import { manifestName, pageName, unreadFolder, type ArchiveManifest } from '#core/formats/files/manifest.ts'
import { writePage } from './page.ts'

// it runs where it is called: the worker is a process of its own
// files go in one after the other: one that was given up holds no place for the next archive
configure({ useWebWorkers: false, chunkSize: 256 * 1024, maxWorkers: 64 })

/** A file of the copy that can't be read to its end: the archive is begun anew without it. */
export class FileLost extends Error {
  constructor(readonly handle: string) {
    super('a file can’t be read')
  }
}

/**
 * Writes an archive of open files (ZIP by APPNOTE 6.3, ZIP64 where it must be, AES-256 where there is a password): of
 * each kind its standard file and the files of its items, as they are and with their times; a page that people read; and
 * last what is in it.
 * @param write takes the bytes in order
 * @throws FileLost; Error of `write`
 */
export async function packArchive(
  shop: Shop,
  request: PackRequest,
  write: (bytes: Uint8Array) => Promise<void> | undefined | void,
): Promise<ArchiveManifest> {
  const { password, madeAt } = request
  const out = new WritableStream<Uint8Array>({ write: (bytes) => write(bytes) ?? undefined })
  const zip = new ZipWriter(out, { ...(password === null ? {} : { password, encryptionStrength: 3 as const }), keepOrder: true })
  const files: ArchiveManifest['files'][number][] = []
  const add = async (path: string, bytes: AsyncIterable<Uint8Array>, { sizeBytes, at = madeAt, isPressed }: Entry) => {
    const told = digesting(bytes, request.onBytes)
    await zip.add(path, Readable.toWeb(Readable.from(told.bytes)) as ReadableStream<Uint8Array>, {
      level: isPressed ? 6 : 0,
      // a clock of ZIP begins in 1980
      lastModDate: at.getTime() < Date.UTC(1980, 0, 2) ? madeAt : at,
      zip64: (sizeBytes ?? 0) > 3_900_000_000,
    })
    files.push({ path, ...told.found() })
    return files.at(-1)!
  }
  const kinds: ArchiveManifest['kinds'] = {}
  const opens = request.kinds.flatMap((code) => openKind(code) ?? [])
  for (const open of opens) {
    const first = files.length
    const tally = { items: 0 }
    await add(open.archive.file, recordsFile(shop, request, open, tally), { isPressed: true })
    await addMedia(shop, request, open, add)
    for (const { file, code } of open.archive.beside ?? []) await add(file, besideFile(shop, request, open, code), { isPressed: true })
    await addEach(shop, request, open, { add, files })
    if (await hasAny(listStored(shop, request.copy, unreadOf(open.code), null)))
      await add(`${unreadFolder}/${open.archive.page.title}.txt`, unreadFile(shop, request, open), { isPressed: true })
    kinds[open.code] = { file: open.archive.file, ...tally, files: files.length - first, ...sumOf(files.slice(first)) }
  }
  await add(pageName, bytesOf(writePage(shop, request, opens)), { isPressed: true })
  const manifest: ArchiveManifest = {
    madeWith: 'Corvend',
    version: 1,
    madeAt: madeAt.toISOString(),
    from: request.from,
    kinds,
    files: [...files],
  }
  await add(manifestName, once(Buffer.from(JSON.stringify(manifest, null, 1))), { isPressed: true })
  await zip.close()
  return manifest
}

interface Entry {
  readonly sizeBytes?: number
  readonly at?: Date
  readonly isPressed: boolean
}
type Add = (path: string, bytes: AsyncIterable<Uint8Array>, entry: Entry) => Promise<unknown>

/** What is of a kind, as one: the digest of the paths and digests of its files. */
export function sumOf(files: ArchiveManifest['files']): { bytes: number; sha256: string } {
  const hash = createHash('sha256')
  for (const { path, bytes, sha256 } of files) hash.update(`${path}\n${bytes} ${sha256}\n`)
  return { bytes: files.reduce((sum, { bytes }) => sum + bytes, 0), sha256: hash.digest('hex') }
}

function digesting(bytes: AsyncIterable<Uint8Array>, onBytes: PackRequest['onBytes']) {
  const hash = createHash('sha256')
  let size = 0
  return {
    bytes: (async function* () {
      for await (const chunk of bytes) {
        hash.update(chunk)
        size += chunk.length
        await onBytes(chunk.length)
        yield chunk
      }
    })(),
    found: () => ({ bytes: size, sha256: hash.digest('hex') }),
  }
}

/** Small pieces together: an archiver has a price for each. */
const pieceBytes = 64 * 1024
async function* together(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let held: Uint8Array[] = []
  let size = 0
  for await (const piece of pieces) {
    held.push(piece)
    size += piece.length
    if (size < pieceBytes) continue
    yield Buffer.concat(held)
    held = []
    size = 0
  }
  if (size > 0) yield Buffer.concat(held)
}
async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes
}
async function hasAny(items: AsyncGenerator<unknown>): Promise<boolean> {
  return (await items.next()).done !== true
}
function bytesOf(texts: AsyncIterable<string>): AsyncGenerator<Uint8Array> {
  return together(
    (async function* () {
      for await (const text of texts) yield Buffer.from(text)
    })(),
  )
}

function recordsFile(shop: Shop, request: PackRequest, open: OpenKind, tally: { items: number }): AsyncGenerator<Uint8Array> {
  const { archive } = open
  return together(
    (async function* () {
      if (archive.head) yield Buffer.from(archive.head)
      for await (const { item, record, position, files } of packedItems(shop, request.copy, open, request)) {
        tally.items++
        yield archive.write(item, { record, position, paths: new Map(files.map(({ file, path }) => [file.handle, path])) })
      }
      if (archive.tail) yield Buffer.from(archive.tail)
    })(),
  )
}

async function addMedia(shop: Shop, request: PackRequest, open: OpenKind, add: Add): Promise<void> {
  if (!open.kind.filesOf) return
  for await (const packed of packedItems(shop, request.copy, open, request))
    for (const { file, path, atMs } of packed.files)
      await add(path, wholeFile(shop, request, open, packed, file), {
        sizeBytes: file.sizeBytes,
        ...(atMs === null ? {} : { at: new Date(atMs) }),
        isPressed: false,
      })
}

/** Items once more, each as a file by itself; what they name is found where it went in before. */
async function addEach(
  shop: Shop,
  request: PackRequest,
  open: OpenKind,
  { add, files }: { add: Add; files: ArchiveManifest['files'] },
): Promise<void> {
  const each = open.archive.eachBeside
  if (!each) return
  let there: Map<string, string> | undefined
  const pathOf = (digest: string) => {
    // as large as the archive: made for the first that asks
    there ??= new Map(files.map(({ path, sha256 }) => [sha256, `../${path}`]))
    return there.get(Buffer.from(digest, 'base64url').toString('hex'))
  }
  const paths = createPaths()
  for await (const { item } of packedItems(shop, request.copy, open, request))
    await add(paths(each.folder, each.nameOf(item)), once(Buffer.from(each.write(item, pathOf))), { isPressed: true })
}

async function* wholeFile(
  shop: Shop,
  { copy }: PackRequest,
  open: OpenKind,
  { record }: Packed,
  file: Packed['files'][number]['file'],
): AsyncGenerator<Uint8Array> {
  const lost = () => new FileLost(`${open.code} ${file.handle}`)
  const bytes = await fileBytes(shop, copy, open, { record, file }).catch(() => undefined)
  if (!bytes) throw lost()
  const chunks = bytes[Symbol.asyncIterator]()
  for (;;) {
    const next = await chunks.next().catch(() => {
      throw lost()
    })
    if (next.done) return
    yield next.value
  }
}

function besideFile(shop: Shop, request: PackRequest, open: OpenKind, code: string): AsyncGenerator<Uint8Array> {
  const file = open.kind.openFiles!.find((one) => one.code === code)!
  const number = createNumberReader(request.from.region)
  return together(
    (async function* () {
      if (file.head) yield Buffer.from(file.head)
      for await (const { item, position } of packedItems(shop, request.copy, open, request))
        yield Buffer.from(file.write(item, { position, number }))
      if (file.tail) yield Buffer.from(file.tail)
    })(),
  )
}

async function* unreadFile(shop: Shop, { copy }: PackRequest, { code }: OpenKind): AsyncGenerator<Uint8Array> {
  for await (const { body } of listStored(shop, copy, unreadOf(code), null))
    yield Buffer.concat([Buffer.from(body, 'base64'), Buffer.from('\r\n')])
}
