import { createHash } from 'node:crypto'
import type { LinkRecord } from '#contracts/link/index.ts'
import type { FoundFile, Kind } from '#core/kinds/kind.ts'
import { patience } from '../../base/patience.ts'
import { LinkError, type Source } from '../../endpoints/endpoint.ts'

interface How {
  readonly kind: Kind
  readonly side: 'old' | 'new'
  /** The record as it was noted when its files were last read, and nothing changed since. */
  readonly before: string | undefined
  /** Called with the bytes of every piece: shows that it goes on, and stops it when the lease is lost. */
  alive(bytes: number): Promise<void>
}

class Stalled extends Error {}

/**
 * Streams what belongs to a record and comes by a handle of its own, and notes in it what it was found to be: its
 * digest and size, never what the phone says of it; and, on the old phone, what a file says of itself. What the phone
 * can't give makes the record unreadable.
 * @throws LinkError when the link fails
 */
export async function noteFiles(source: Source, { kind, side, before, alive }: How, record: LinkRecord): Promise<LinkRecord> {
  if (!kind.noteFiles || record.unreadable) return record
  if (before !== undefined) return { ...record, body: before }
  const found = new Map<string, FoundFile>()
  for (const handle of record.files!) {
    try {
      found.set(handle, await readPatiently(source, { kind, side, alive }, handle))
    } catch (error) {
      if (error instanceof Stalled) return { ...record, unreadable: 'stalls' }
      if (error instanceof LinkError && error.code === 'NoSuchRecord') return { ...record, unreadable: 'attachment-missing' }
      throw error
    }
  }
  return { ...record, body: Buffer.from(kind.noteFiles(Buffer.from(record.body, 'base64'), found)).toString('base64') }
}

/** A file that breaks off again and again, while its phone answers all else, is a bad file and no bad cable. @throws LinkError, Stalled */
async function readPatiently(source: Source, how: Omit<How, 'before'>, handle: string): Promise<FoundFile> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await readOne(source, how, handle)
    } catch (error) {
      if (!(error instanceof LinkError) || error.code !== 'LinkLost') throw error
      if (attempt < patience.file.attempts) continue
      await source.count(how.kind.code)
      throw new Stalled()
    }
  }
}

async function readOne(source: Source, { kind, side, alive }: Omit<How, 'before'>, handle: string): Promise<FoundFile> {
  const hash = createHash('sha256')
  const inspector = side === 'old' ? kind.inspector?.() : undefined
  let sizeBytes = 0
  for await (const chunk of source.openFile(kind.code, handle)) {
    hash.update(chunk)
    inspector?.push(chunk)
    sizeBytes += chunk.length
    await alive(chunk.length)
  }
  const found = { digest: hash.digest('base64url'), sizeBytes }
  return inspector ? { ...found, facts: await inspector.end() } : found
}
