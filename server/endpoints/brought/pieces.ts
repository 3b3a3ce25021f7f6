import type { HoldingId } from '../../base/ids.ts'
import { readBlob } from '../../vault/blobs.ts'
import type { BlobName, BlobStore } from '../../vault/blob-store.ts'
import type { TicketKeys } from '../../vault/keys.ts'
import type { RandomBytes } from '../archives/zip-reader.ts'

/** A file comes and lies in pieces of so many bytes, the last shorter: what broke off goes on with the next. */
export const pieceBytes = 8 * 1024 * 1024

export const pieceName = (holding: HoldingId, no: number, piece: number): BlobName => ({ holding, name: `f${no}-${piece}` })

/** A file that was brought, read from any place on. */
export function piecesOf(
  keys: TicketKeys,
  store: BlobStore,
  { holding, no, sizeBytes }: { holding: HoldingId; no: number; sizeBytes: number },
): RandomBytes {
  return {
    sizeBytes,
    async *read({ from, to }) {
      const end = Math.min(to, sizeBytes)
      for (let piece = Math.floor(from / pieceBytes); piece * pieceBytes < end; piece++) {
        const at = piece * pieceBytes
        yield* readBlob(keys, store, pieceName(holding, no, piece), { from: Math.max(0, from - at), to: Math.min(pieceBytes, end - at) })
      }
    },
  }
}
