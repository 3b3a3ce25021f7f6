import type { ErrorCode } from '#contracts/errors.ts'
import { routes } from '#contracts/http/routes.ts'
import { isOfCards, type FileKind } from '#core/formats/files/sort.ts'
import { calendarText } from '#core/formats/icalendar/decode.ts'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { Problem } from '../base/problem.ts'
import { inThread, ThreadEnded } from '../base/threads.ts'
import type { Config } from '../base/config.ts'
import { blobsOf, readBlob, writeBlob } from '../vault/blobs.ts'
import type { BlobStore } from '../vault/blob-store.ts'
import { destroyKey, holdingKeys, keepSecret, newHolding, secretOf, type KeyPlaces } from '../vault/holdings.ts'
import type { TicketKeys } from '../vault/keys.ts'
import type { HoldingId } from '../base/ids.ts'

/** A calendar is cut by what shares a UID, so it is looked at whole. */
const mostCalendarBytes = 64_000_000

export interface HeldKind {
  readonly items: number
  readonly sizeBytes: number
  readonly revision: string
}

export interface Upload {
  readonly id: HoldingId
  readonly sizeBytes: number
  readonly kinds: Partial<Record<FileKind, HeldKind>>
  /** Files of a ZIP, and components of a calendar, that are nothing Corvend takes. */
  readonly others: number
}

/** How long taking a file apart may take. Milliseconds. */
const sortMs = 180_000
/** All files that wait to be booked, together. */
const mostWaitingBytes = 2_000_000_000

/** Where sealed files and their keys are. */
export type UploadPlaces = KeyPlaces & Pick<Config, 'dataFolder'>

/** What the thread that takes a file apart is told. */
export interface SortTask {
  readonly dataFolder: string
  readonly id: HoldingId
  readonly secret: Uint8Array
  readonly mostCalendarBytes: number
}
export type Sorted = { readonly kinds: Upload['kinds']; readonly others: number } | { readonly problem: ErrorCode }

/** What came in, before it is taken apart. */
export const rawName = 'raw'

/**
 * Streams a dropped file (vCards, a calendar, or a ZIP of such) into a sealed blob, and has a thread take it apart into
 * one for each kind; what it and the files in it were called is not kept. A dropped file is a holding of its own.
 * @param waitingOf which holdings are files that nobody booked yet: a ticket's, and lockers, take no place from them
 * @throws Problem `FileTooLarge`, `FileUnreadable`, `ZipRefused`, `UploadsFull`
 */
export async function takeUpload(
  places: UploadPlaces,
  body: AsyncIterable<Uint8Array>,
  { waitingOf = async (all) => all }: { waitingOf?: (all: readonly HoldingId[]) => Promise<readonly HoldingId[]> } = {},
): Promise<Upload> {
  const { dataFolder } = places
  const { id, keys } = newHolding(places)
  const secret = secretOf(places, id)
  const store = blobsOf(places)
  const raw = { holding: id, name: rawName }
  let waiting = 0
  for (const holding of await waitingOf(await store.holdings())) waiting += (await store.sizeOf(holding)).bytes
  const writer = writeBlob(keys, store, raw)
  let sizeBytes = 0
  try {
    for await (const chunk of body) {
      sizeBytes += chunk.length
      if (sizeBytes > routes.takeUpload.mostBytes) throw new Problem('FileTooLarge')
      if (waiting + sizeBytes > mostWaitingBytes) throw new Problem('UploadsFull')
      await writer.write(chunk)
    }
    await writer.end()
    const sorted = await inThread<Sorted>(
      'server/endpoints/sort-upload.ts',
      'sortUpload',
      { dataFolder, id, secret, mostCalendarBytes } satisfies SortTask,
      sortMs,
    ).catch((error: unknown): Sorted => {
      if (error instanceof ThreadEnded) return { problem: 'FileUnreadable' }
      throw error
    })
    if ('problem' in sorted) throw new Problem(sorted.problem)
    await store.remove(raw)
    // what came slower than strays are kept may have lost its key on the way, since no row names it yet
    keepSecret(places, id, secret)
    return { id, sizeBytes, ...sorted }
  } catch (error) {
    await writer.drop()
    destroyKey(places, id)
    await store.drop(id)
    throw error
  }
}

export interface KindWriter {
  /** A promise when it should be waited for. */
  write(bytes: Uint8Array): Promise<void> | undefined
  end(): Promise<HeldKind>
  drop(): Promise<void>
}

/** A kind of a dropped file as it grows; cards are counted on the way. */
export function writeKind(keys: TicketKeys, store: BlobStore, { holding, kind }: { holding: HoldingId; kind: FileKind }): KindWriter {
  const blob = writeBlob(keys, store, { holding, name: kind })
  const splitter = isOfCards(kind) ? createCardSplitter() : undefined
  let items = 0
  return {
    write(bytes) {
      for (const _ of splitter?.push(bytes) ?? []) items++
      return blob.write(bytes)
    },
    async end() {
      for (const _ of splitter?.end() ?? []) items++
      const { sizeBytes, digest } = await blob.end()
      return { items, sizeBytes, revision: digest.slice(0, 32) }
    },
    drop: () => blob.drop(),
  }
}

/** The bytes of a kind again. @throws Problem `KeyAway` when its key is gone; Error when the blob is, or was altered */
export function openUpload(places: UploadPlaces, id: HoldingId, kind: FileKind): AsyncIterable<Buffer> {
  return readBlob(holdingKeys(places, id), blobsOf(places), { holding: id, name: kind })
}

/** A whole calendar as text. */
export async function textOf(bytes: AsyncIterable<Buffer>): Promise<string> {
  const chunks: Buffer[] = []
  for await (const chunk of bytes) chunks.push(chunk)
  return calendarText(Buffer.concat(chunks))
}
