import { createHash } from 'node:crypto'
import { sniffType } from '#core/formats/sniff.ts'
import type { Rewriter } from '#core/formats/media/titled.ts'
import type { FoundFile, Kind, ItemFile } from '#core/kinds/kind.ts'
import { takesAsGiven } from '#core/phones/capability.ts'
import { patience } from '../../base/patience.ts'
import { LinkError } from '../../endpoints/endpoint.ts'
import { mostPictureBytes, NotConverted, toJpeg } from './converter.ts'
import { MustWait, type RunContext } from '../../runs/context.ts'
import { attach, orWait, type Attached, type RunTicket } from '../../runs/ticket-of-run.ts'

/** An item whose files are where they belong, or why they can't be. */
export type Moved<Item> =
  | {
      readonly as: 'moved'
      readonly form: Item
      readonly made: ReadonlyMap<string, FoundFile>
      /** By the old side's handles, those the files have on the new one. */
      readonly handles: ReadonlyMap<string, string>
    }
  | { readonly as: 'unreadable' | 'cannotCross'; readonly reason: string }

export interface Mover<Item> {
  /** Streams the files of one item over, those its record holds itself from there. @throws MustWait, LeaseLost */
  move(form: Item, record: Uint8Array): Promise<Moved<Item>>
}

/**
 * Streams what belongs to items from the old phone to the new one, before the records that name it are written: a
 * bounded pipe, digest on the way. A picture the new phone can't show is converted between the two. Files that no
 * record names afterwards go from the new phone with its connection.
 */
export async function createMover<Item>(
  context: RunContext,
  ticket: RunTicket,
  { kind, now, onBytes }: { kind: Kind<Item>; now: Attached; onBytes(bytes: number): Promise<void> },
): Promise<Mover<Item>> {
  let old = await attach(context, ticket.old)
  const streams = { kind: kind.code, now, onBytes }

  async function moveFile(
    file: ItemFile,
    inside: Uint8Array | undefined,
    send: (one: OneFile) => Promise<SentFile | undefined>,
  ): Promise<SentFile | { reason: string }> {
    let reason = 'stalls'
    for (let attempt = 1; attempt <= patience.file.attempts; attempt++) {
      if (attempt > 1) old = await attach(context, ticket.old)
      const side: { failed?: 'old' } = {}
      try {
        const moved = await send({ ...streams, old, file, side, inside })
        if (moved) return moved
        // read otherwise than before: once more, and then it is another file, or a bad one
        reason = 'reads-differently'
      } catch (error) {
        const failure = error instanceof LinkError || error instanceof MustWait ? error : new LinkError('LinkLost')
        const isFileAlone = side.failed === 'old' && failure instanceof LinkError && failure.code === 'LinkLost'
        // a phone that answers while one of its files stalls has a bad file; one that does not answer waits for a hand
        if (!isFileAlone) return await orWait(side.failed ?? 'new', () => Promise.reject(failure))
        reason = 'stalls'
      }
    }
    return { reason }
  }

  return {
    async move(form, record) {
      const conversions = new Map((kind.conversions?.(form) ?? []).map(({ handle, digest }) => [handle, digest]))
      const rewriters = kind.rewriters?.(form)
      const handles = new Map<string, string>()
      const made = new Map<string, FoundFile>()
      try {
        for (const file of kind.filesOf!(form)) {
          const original = conversions.get(file.handle)
          const inside = kind.fileInside?.(record, file.handle)
          // it stands in the record, and the record goes over as it is
          if (inside && takesAsGiven(ticket.target)) continue
          const rewriter = takesAsGiven(ticket.target) ? undefined : rewriters?.get(file.handle)
          const moved =
            original !== undefined
              ? await moveFile({ ...file, digest: original }, inside, convertFile)
              : await moveFile(file, inside, rewriter ? (one) => rewriteFile(one, rewriter()) : streamFile)
          if ('reason' in moved) return { as: 'unreadable', reason: moved.reason }
          handles.set(file.handle, moved.handle)
          if (moved.made) made.set(file.handle, moved.made)
        }
      } catch (error) {
        if (error instanceof NotConverted) return { as: 'cannotCross', reason: 'not-converted' }
        throw error
      }
      const withMade = made.size > 0 ? kind.withMade!(form, made) : form
      return { as: 'moved', form: handles.size > 0 ? kind.withHandles!(withMade, handles) : withMade, made, handles }
    },
  }
}

export interface OneFile {
  readonly kind: string
  readonly old: Attached
  readonly now: Attached
  readonly file: ItemFile
  /** Its bytes where the record holds them; asked of the old phone else. */
  readonly inside?: Uint8Array
  /** Who failed, if anybody did. */
  readonly side: { failed?: 'old' }
  onBytes(bytes: number): Promise<void>
}

interface SentFile {
  readonly handle: string
  /** What it became on the way. */
  readonly made?: FoundFile
}

/** The bytes of a file of the old phone, counted and digested. */
async function* readOld(
  { kind, old, file, inside, side, onBytes }: OneFile,
  hash: ReturnType<typeof createHash>,
): AsyncGenerator<Uint8Array> {
  let failure: unknown
  try {
    for await (const chunk of inside ? inPieces(inside) : old.source.openFile(kind, file.handle)) {
      hash.update(chunk)
      yield chunk
      try {
        await onBytes(chunk.length)
      } catch (error) {
        failure = error
        throw error
      }
    }
  } catch (error) {
    // whoever failed is who needs a hand
    if (failure === undefined) side.failed = 'old'
    throw error
  }
}

/** A file of the old phone to the new one, through a bounded pipe. @returns undefined when it is not what was read before */
export async function streamFile(one: OneFile): Promise<SentFile | undefined> {
  const hash = createHash('sha256')
  let digest: Buffer | undefined
  const sha256 = () => (digest ??= hash.digest())
  const handle = await one.now.sink.putFile(one.kind, readOld(one, hash), { sizeBytes: one.file.sizeBytes, sha256 })
  return sha256().toString('base64url') === one.file.digest ? { handle } : undefined
}

/** The same, changed while it streams by; as it is where it can't be changed after all. */
async function rewriteFile(one: OneFile, rewriter: Rewriter): Promise<SentFile | undefined> {
  const [hash, made] = [createHash('sha256'), createHash('sha256')]
  let sizeBytes = 0
  let isWhole = false
  const counted = (bytes: Uint8Array) => {
    made.update(bytes)
    sizeBytes += bytes.length
    return bytes
  }
  async function* changed() {
    for await (const chunk of readOld(one, hash)) {
      const bytes = rewriter.push(chunk)
      if (bytes.length > 0) yield counted(bytes)
    }
    const end = rewriter.end()
    isWhole = end !== undefined
    if (end && end.length > 0) yield counted(end)
  }
  const handle = await one.now.sink.putFile(one.kind, changed())
  if (hash.digest('base64url') !== one.file.digest) return undefined
  return isWhole ? { handle, made: { digest: made.digest('base64url'), sizeBytes } } : streamFile(one)
}

/** @throws NotConverted */
async function convertFile(one: OneFile): Promise<SentFile | undefined> {
  if (one.file.sizeBytes > mostPictureBytes) throw new NotConverted('too-large')
  const hash = createHash('sha256')
  const chunks: Uint8Array[] = []
  for await (const chunk of readOld(one, hash)) chunks.push(chunk)
  if (hash.digest('base64url') !== one.file.digest) return undefined
  const whole = Buffer.concat(chunks)
  const jpeg = await toJpeg(whole, sniffType(whole) ?? '')
  const handle = await one.now.sink.putFile(one.kind, inPieces(jpeg), { sizeBytes: jpeg.length })
  return { handle, made: { digest: createHash('sha256').update(jpeg).digest('base64url'), sizeBytes: jpeg.length } }
}

async function* inPieces(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += 65_536) yield bytes.subarray(at, at + 65_536)
}
