import { folderModel } from '#core/phones/models.ts'
import { createPaths } from '#core/formats/files/names.ts'
import { formOn } from '#core/kinds/form.ts'
import type { ArchiveFace, ItemFile, Kind, ReadTools } from '#core/kinds/kind.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { Services } from '../../base/services.ts'
import { listStored, openStored, openStoredFile, type StoredCopy } from '../../vault/lockers/store.ts'
import type { ArchiveManifest } from '#core/formats/files/manifest.ts'

export type Shop = Pick<Services, 'pool' | 'config'>
/** A copy, as far as reading it needs. */
export type ReadCopy = Pick<StoredCopy, 'id' | 'keys'> & { readonly shared: Pick<StoredCopy['shared'], 'holding'> }

/** An item of a copy as it goes into an archive. */
export interface Packed {
  readonly seq: number
  /** From 1. */
  readonly position: number
  readonly record: Buffer
  readonly item: unknown
  readonly files: readonly { readonly file: ItemFile; readonly path: string; readonly atMs: number | null }[]
}

/** Only kinds that have an open format are taken home. */
export interface OpenKind {
  readonly code: string
  readonly kind: Kind
  readonly archive: ArchiveFace<unknown>
}
export const openKind = (code: string): OpenKind | undefined => {
  const kind = kindOf(code)
  return kind.archive && { code, kind, archive: kind.archive }
}

/** The form of a record in open files; undefined where it has none. */
function packedOf({ kind }: OpenKind, body: string, tools: ReadTools): { record: Buffer; item: unknown } | undefined {
  const record = Buffer.from(body, 'base64')
  const read = kind.read(record, tools)
  const formed = read.ok ? formOn(kind, read.item, folderModel) : undefined
  return formed && !('cannot' in formed) ? { record, item: formed.item } : undefined
}

/**
 * Every item of a kind in its form, in the copy's order, with the paths its files have: asked again of the same copy, it
 * gives the same.
 * @param without handles of files that can't be read any more: an item goes without them, and is found to lack them
 */
export async function* packedItems(
  shop: Shop,
  copy: ReadCopy,
  open: OpenKind,
  { tools, without }: { tools: ReadTools; without: ReadonlySet<string> },
): AsyncGenerator<Packed> {
  const paths = createPaths()
  let position = 0
  for await (const { id, body, unreadable } of listStored(shop, copy, open.code, null)) {
    const packed = unreadable ? undefined : packedOf(open, body, tools)
    if (!packed) continue
    position++
    const files = (open.kind.filesOf?.(packed.item) ?? []).flatMap((file) => {
      if (without.has(`${open.code} ${file.handle}`)) return []
      const { folder, name, atMs } = open.archive.placeOf!(packed.item, file, position)
      return [{ file, path: paths(folder, name), atMs }]
    })
    yield { ...packed, seq: Number(id), position, files }
  }
}

/** Items by their places, for a page that has another order; those that can't be read are not among them. */
export async function itemsAt(
  shop: Shop,
  copy: ReadCopy,
  open: OpenKind,
  { tools, seqs }: { tools: ReadTools; seqs: readonly number[] },
): Promise<Map<number, unknown>> {
  const records = await openStored(shop, copy, open.code, seqs)
  return new Map(
    [...records].flatMap(([seq, { body }]) => {
      const packed = packedOf(open, body, tools)
      return packed ? [[seq, packed.item] as const] : []
    }),
  )
}

/** The bytes of a file of an item, wherever it stands; undefined when the copy has none. @throws Error when it is cut or altered */
export async function fileBytes(
  shop: Shop,
  copy: ReadCopy,
  { code, kind }: OpenKind,
  { record, file }: { record: Buffer; file: ItemFile },
): Promise<AsyncIterable<Uint8Array> | undefined> {
  const inside = kind.fileInside?.(record, file.handle)
  if (!inside) return openStoredFile(shop, copy, code, file.handle)
  return (async function* () {
    yield inside
  })()
}

/** What an archive is made of, and how it is told. */
export interface PackRequest {
  readonly copy: ReadCopy
  readonly kinds: readonly string[]
  readonly from: ArchiveManifest['from']
  readonly tools: ReadTools
  readonly madeAt: Date
  readonly password: string | null
  /** Handles of files, each behind its kind, that can't be read. */
  readonly without: ReadonlySet<string>
  /** Bytes that went in since it was told last. */
  onBytes(n: number): Promise<void> | void
}
