import type { LinkFailure, LinkRecord, PhoneCount, PhoneFacts, PortView, WatchEvent, WriteResult } from '#contracts/link/index.ts'

/**
 * Whatever can be read or written stands behind these: a phone on the bench, dropped files, and what comes later. A
 * place that has no body invents none: battery, heat and room are a phone's.
 */

/** Where a connection is: which place it is, and how what it gives is read. */
export type Place = Pick<PhoneFacts, 'serial' | 'region' | 'zone' | 'settleMs'>

/** What can be read. */
export interface Source {
  /** The place's own count. */
  count(kind: string): Promise<PhoneCount>
  /**
   * Yields the records in the place's order and returns how the listing ended.
   * @throws LinkError `LinkLost` when the listing stops without its end line: never a short list
   */
  list(kind: string): AsyncGenerator<LinkRecord, { count: number; revision: string }>
  /** The bytes of a file, as they come. @throws LinkError `NoSuchRecord` when the place can't give it, `LinkLost` when they stop early */
  openFile(kind: string, handle: string): AsyncIterable<Uint8Array>
  /** A small picture the place has of a file by itself, a JPEG; undefined where it has none. @throws LinkError */
  openPreview?(kind: string, handle: string): Promise<Uint8Array | undefined>
}

/** What is known of a file that is streamed somewhere. */
export interface Told {
  /** How many bytes will come, so that a place without room says so at once. */
  readonly sizeBytes?: number
  /** SHA-256 of all that came, asked once it has ended: whoever gives the bytes and digests them anyway spares a place the same work. */
  sha256?(): Buffer
}

/** What can be written. It cuts what it is given into calls of the size its contract takes. */
export interface Sink {
  /** One result a record, in order. @throws OutcomeUnknown when an answer was lost or has another length */
  write(kind: string, records: readonly Uint8Array[]): Promise<WriteResult[]>
  /** Streams a file there; answers with its handle. @throws LinkError `StorageFull`, `LinkLost`, … */
  putFile(kind: string, bytes: AsyncIterable<Uint8Array>, told?: Told): Promise<string>
  /** Takes records away, each while nothing else changes the kind. Answers with those that were there. @throws LinkError `RevisionChanged`, `LinkLost`: some may be gone */
  remove(kind: string, nativeIds: readonly string[]): Promise<string[]>
  /** One record as it stands now. @throws LinkError `NoSuchRecord` */
  open(kind: string, nativeId: string): Promise<{ body: string; revision: string }>
  /** Changes a record in place, while it is of that revision. @throws LinkError `RevisionChanged` when it moved on, `LinkLost` when nobody knows */
  amend(kind: string, nativeId: string, ifRevision: string, record: Uint8Array): Promise<void>
  /** Of a place that keeps a count of its own only once it is told so: all of a kind is written for now. @throws LinkError */
  close?(kind: string): Promise<void>
  /**
   * Of a place that is made of what was written, once all kinds are closed: it is what is read from then on.
   * @param told how far it is, in bytes
   * @throws LinkError
   */
  finish?(told: (done: number, total: number) => Promise<void>): Promise<void>
  /** Of a place that keeps, beside a kind, what could not be read of it, as it was given: whatever was kept before goes. @throws LinkError */
  keepUnread?(kind: string, pages: () => AsyncIterable<readonly Uint8Array[]>): Promise<void>
}

/** What only a thing on the bench has: hands that ask it for something, a screen that shows a mark. */
export interface Body {
  /** Has the phone ask its owner for what these kinds need: helper, permissions, roles. @throws LinkError */
  prepare(wants: { kinds: readonly string[]; writes: boolean }): Promise<void>
  /** Makes the phone show a mark for a while. @throws LinkError */
  mark(text: string): Promise<void>
}

/** An exclusive hold on a place: who attaches ends the former connection. */
export interface Connection {
  readonly source: Source
  /** Null where nothing can be written. */
  readonly sink: Sink | null
  place(): Promise<Place>
}

/** One place that can be attached. */
export interface Endpoint {
  /** Answers only when a write in flight is finished or dropped. @throws LinkError */
  attach(): Promise<Connection>
  /** Null for what does not lie on the bench. */
  readonly body: Body | null
}

/** A road to places that come and go: a bench with ports, later a radio or a shelf. */
export interface Transport {
  readonly code: string
  /** What stands in the ports, with what each body reports of itself. @throws LinkError */
  ports(): Promise<PortView[]>
  /** What happens in the ports, as it happens; `here` once it listens. Ends when the bench does. @throws LinkError */
  watch(signal: AbortSignal): AsyncIterable<WatchEvent>
  endpoint(serial: string): Endpoint
}

/** The sink of a place that takes. @throws LinkError `PermissionMissing` where nothing can be written */
export function sinkOf({ sink }: Connection): Sink {
  if (!sink) throw new LinkError('PermissionMissing')
  return sink
}

/** What can stand against a place, by a code of the table of errors: what a phone says, and what befalls a copy in a locker. */
export type PlaceFailure = LinkFailure | 'KeyAway' | 'CopyGone' | 'CopyNewer' | 'CopyDamaged' | 'CopyClosed' | 'DiskFull'

/** A failure of an endpoint, with a code of the one table. */
export class LinkError extends Error {
  constructor(readonly code: PlaceFailure) {
    super(code)
  }
}

/** Records were sent and nobody knows what became of them. */
export class OutcomeUnknown extends Error {
  constructor(readonly code: PlaceFailure) {
    super(code)
  }
}
