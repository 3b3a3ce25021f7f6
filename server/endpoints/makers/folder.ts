import { randomUUID } from 'node:crypto'
import type { CopyId, TicketId } from '../../base/ids.ts'
import { blobsOf, readBlob, writeBlob } from '../../vault/blobs.ts'
import { findKeys } from '../../vault/holdings.ts'
import { openText } from '../../vault/keys.ts'
import { manySeqs } from '../../vault/lockers/bodies.queries.ts'
import { manyCopyKinds, type CopyRow } from '../../vault/lockers/copies.queries.ts'
import type { StoredCopy } from '../../vault/lockers/store.ts'
import { readTools } from '../../vault/read-tools.ts'
import {
  clearArchive,
  countWrites,
  manyOver,
  maybeArchive,
  maybePassword,
  setArchive,
  type ArchiveRow,
} from '../archives/archives.queries.ts'
import { openKind, type Shop } from '../archives/contents.ts'
import type { ArchiveManifest } from '#core/formats/files/manifest.ts'
import { FileLost, packArchive } from '../archives/pack.ts'
import { openArchive, proveArchive, type OpenArchive } from '../archives/prove.ts'
import { ZipError, type RandomBytes } from '../archives/zip-reader.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import { LinkError, type Connection, type Endpoint, type Sink, type Source } from '../endpoint.ts'
import { attachToWrite } from './locker.ts'

/** How long an archive can be fetched, from when it was made; then it is made anew by whoever reads it back. */
export const archiveHours = 24

/**
 * What is taken home as files. Records and files are taken as into a locker, into a copy of the ticket's own; when all of
 * it is written it becomes an archive, and from then on the archive alone is what it holds: its counts and its records
 * are read out of that, by another reader than the one that wrote it.
 */
export function folderEndpoint(shop: Shop, copyId: CopyId, { ticketId }: { ticketId: TicketId }): Endpoint {
  return {
    body: null,
    async attach(): Promise<Connection> {
      const { connection, row, stored } = await attachToWrite(shop, copyId, ticketId)
      const sink: Sink = {
        ...connection.sink!,
        finish: (told) => packWhatStands(shop, { row, stored, ticketId }, told),
      }
      return { ...connection, sink, source: sourceOf(shop, { row, stored, asWritten: connection.source }) }
    },
  }
}

interface TakenHome {
  readonly row: CopyRow
  readonly stored: StoredCopy
  readonly ticketId: TicketId
}

const archiveName = 'archive-'
/** The sealed archive of a copy. */
export function archiveBytes(
  shop: Shop,
  { row, keys }: { row: Pick<CopyRow, 'holding'>; keys: StoredCopy['keys'] },
  archive: Pick<ArchiveRow, 'blob' | 'size_bytes'>,
): RandomBytes {
  const blob = { holding: row.holding!, name: archive.blob! }
  return { sizeBytes: archive.size_bytes, read: (range) => readBlob(keys, blobsOf(shop.config), blob, range) }
}

/** What a password is sealed for. */
export const passwordBound = (ticketId: TicketId) => `password of archive ${ticketId} v1`

/** What an archive is locked with, and the day it is read by. @throws LinkError `KeyAway` */
async function lockOf(
  shop: Shop,
  { row, ticketId }: Pick<TakenHome, 'row' | 'ticketId'>,
): Promise<{ password: string | null; nowMs: number }> {
  const found = await maybePassword(shop.pool, row.id)
  if (!found) throw new LinkError('CopyGone')
  if (!found.sealed) return { password: null, nowMs: found.created_at.getTime() }
  const keys = found.holding ? findKeys(shop.config, found.holding) : undefined
  if (!keys) throw new LinkError('KeyAway')
  return { password: openText(keys, passwordBound(ticketId), found.sealed), nowMs: found.created_at.getTime() }
}

/**
 * Makes the archive of all that is written by now, where there is none of just that, and reads it back whole.
 * @param told how many bytes went through, of about how many
 * @throws LinkError `CopyDamaged` when what was written is not what is read; `DiskFull`
 */
async function packWhatStands(shop: Shop, home: TakenHome, told: (done: number, total: number) => Promise<void>): Promise<void> {
  const { row, stored } = home
  const { pool } = shop
  const writes = await countWrites(pool, row.id)
  const before = await maybeArchive(pool, row.id)
  if (before?.blob && before.writes === writes) return
  const { password, nowMs } = await lockOf(shop, home)
  // in the order of the registry: what is named by others stands before them
  const kinds = (await manyCopyKinds(pool, [row.id]))
    .filter(({ kind }) => openKind(kind))
    .sort((a, b) => kindCodes.indexOf(a.kind) - kindCodes.indexOf(b.kind))
  const store = blobsOf(shop.config)
  // what a killed worker left of one
  for (const name of await store.names(row.holding!))
    if (name.startsWith(archiveName) && name !== before?.blob) await store.remove({ holding: row.holding!, name })
  const total = Math.max(1, 2 * kinds.reduce((sum, { bytes }) => sum + bytes, 0))
  const without = new Set<string>()
  const { maker, model, platform, version, region, zone } = row
  const from = { maker, model, platform, version, region, zone }
  for (;;) {
    let done = 0
    const onBytes = (n: number) => told(Math.min(total - 1, (done += n)), total)
    const blob = { holding: row.holding!, name: archiveName + randomUUID() }
    const writer = writeBlob(stored.keys, store, blob, { hasDigest: false })
    try {
      const manifest = await packArchive(
        shop,
        {
          copy: stored,
          kinds: kinds.map(({ kind }) => kind),
          from,
          tools: readTools(from, nowMs),
          madeAt: new Date(),
          password,
          without,
          onBytes,
        },
        (bytes) => writer.write(bytes),
      )
      const { sizeBytes } = await writer.end()
      const { manifest: proved, mark } = await proveArchive(
        archiveBytes(shop, { row, keys: stored.keys }, { blob: blob.name, size_bytes: sizeBytes }),
        password,
        onBytes,
      )
      if (JSON.stringify(proved) !== JSON.stringify(manifest)) throw new ZipError('zip-damaged')
      const found = kindsOf(proved, new Map(kinds.map((kind) => [kind.kind, kind.writes])))
      await setArchive(
        pool,
        {
          copy_id: row.id,
          blob: blob.name,
          size_bytes: sizeBytes,
          writes,
          kinds: found,
          files: proved.files.length + 1,
          mark,
          has_password: password !== null,
        },
        archiveHours,
      )
      break
    } catch (error) {
      await writer.drop().catch(() => undefined)
      if (error instanceof FileLost && !without.has(error.handle)) {
        without.add(error.handle)
        continue
      }
      if (error instanceof ZipError) throw new LinkError('CopyDamaged')
      if (['ENOSPC', 'EDQUOT'].includes((error as NodeJS.ErrnoException).code ?? '')) throw new LinkError('DiskFull')
      throw error
    }
  }
  if (before?.blob) await store.remove({ holding: row.holding!, name: before.blob })
  await told(total, total)
}

function kindsOf(manifest: ArchiveManifest, writes: ReadonlyMap<string, number>): ArchiveRow['kinds'] {
  return Object.fromEntries(
    Object.entries(manifest.kinds).map(([code, { items, bytes, sha256 }]) => [
      code,
      { items, bytes, digest: sha256, writes: writes.get(code)! },
    ]),
  )
}

/** While it is written, what is written; once it is finished, what the archive holds and nothing else. */
function sourceOf(shop: Shop, { row, stored, asWritten }: { row: CopyRow; stored: StoredCopy; asWritten: Source }): Source {
  let opened: { readonly blob: string; readonly archive: Promise<OpenArchive> } | undefined
  /** An archive that is not what it was goes: it is made anew by whoever reads it next. @throws LinkError `CopyDamaged` */
  const orMadeAnew = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work()
    } catch (error) {
      if (error instanceof LinkError) throw error
      await clearArchive(shop.pool, row.id)
      throw new LinkError('CopyDamaged')
    }
  }
  /** Undefined while there is none of what was written by now. @throws LinkError `CopyDamaged` */
  const archiveOf = async (): Promise<OpenArchive | undefined> => {
    const archive = await maybeArchive(shop.pool, row.id)
    if (!archive?.blob || archive.writes !== (await countWrites(shop.pool, row.id))) return undefined
    if (opened?.blob !== archive.blob) {
      const { password } = await lockOf(shop, { row, ticketId: row.ticket_id! })
      opened = { blob: archive.blob, archive: openArchive(archiveBytes(shop, { row, keys: stored.keys }, archive), password) }
    }
    return orMadeAnew(() => opened!.archive)
  }
  return {
    async count(kind) {
      const archive = await archiveOf()
      if (!archive) return asWritten.count(kind)
      const { items, bytes, sha256 } = archive.manifest.kinds[kind] ?? { items: 0, bytes: 0, sha256: 'none' }
      return { items, bytes, derived: 0, derivedOf: {}, revision: `a${sha256.slice(0, 24)}`, also: {} }
    },
    async *list(kind) {
      const archive = await archiveOf()
      if (!archive) return yield* asWritten.list(kind)
      const said = archive.manifest.kinds[kind]
      if (!said) return { count: 0, revision: 'none' }
      // as the copy numbers them: by their place, in the order they were written in
      const seqs = await manySeqs(shop.pool, row.id, kind)
      const { nowMs } = await lockOf(shop, { row, ticketId: row.ticket_id! })
      const tools = readTools(row, nowMs)
      const { kind: reader, archive: face } = openKind(kind)!
      let count = 0
      const recordOf = (bytes: Uint8Array) => {
        const read = reader.filesOf && reader.read(bytes, tools)
        // its files are read where they lie, every one
        const files = read?.ok ? reader.filesOf!(read.item).map(({ handle }) => handle) : []
        return {
          id: String(seqs[count++] ?? `more-${count}`),
          revision: '1',
          storage: '',
          body: Buffer.from(bytes).toString('base64'),
          ...(files.length > 0 ? { files } : {}),
        }
      }
      const splitter = face.splitter()
      const chunks = archive.open(said.file)
      for (;;) {
        const next = await orMadeAnew(() => chunks.next())
        for (const bytes of next.done ? splitter.end() : splitter.push(next.value)) yield recordOf(bytes)
        if (next.done) return { count, revision: `a${said.sha256.slice(0, 24)}` }
      }
    },
    async *openFile(kind, handle) {
      const archive = await archiveOf()
      if (!archive) return yield* asWritten.openFile(kind, handle)
      // what could not be read when it was made is not in it
      if (!archive.entries.has(handle)) throw new LinkError('NoSuchRecord')
      const chunks = archive.open(handle)
      for (;;) {
        const next = await orMadeAnew(() => chunks.next())
        if (next.done) return
        yield next.value
      }
    },
  }
}

/** Takes away archives whose hour is over; the copies they were made of stay with their tickets. Answers how many. */
export async function forgetArchives(shop: Shop): Promise<number> {
  const over = await manyOver(shop.pool)
  for (const { copy_id: id, holding, blob } of over) {
    await clearArchive(shop.pool, id)
    await blobsOf(shop.config).remove({ holding, name: blob })
  }
  return over.length
}
