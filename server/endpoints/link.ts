import type { LinkFailure, LinkRecord, PhoneCount, PhoneFacts, ReadinessFact, WriteResult } from '#contracts/link/index.ts'

/** Makers of the phone link: practice phones over HTTP, dropped files, later real transports. */
export interface PhoneLink {
  /** Ends the former session; answers only when a write in flight is finished or dropped. @throws LinkError */
  attach(): Promise<LinkSession>
  /** Has the phone ask its owner for what these kinds need: helper, permissions, roles. @throws LinkError */
  prepare(wants: { kinds: readonly string[]; writes: boolean }): Promise<void>
  /** Makes the phone show a mark for a while. @throws LinkError */
  mark(text: string): Promise<void>
}

export interface LinkSession {
  facts(): Promise<PhoneFacts>
  readiness(): Promise<ReadinessFact[]>
  /** The phone's own count. */
  count(kind: string): Promise<PhoneCount>
  /**
   * Yields the records in the phone's order and returns how the listing ended.
   * @throws LinkError `LinkLost` when the listing stops without its end line: never a short list
   */
  list(kind: string): AsyncGenerator<LinkRecord, { count: number; revision: string }>
  /** The bytes of a part, as they come. @throws LinkError `NoSuchRecord` when the phone can't give it, `LinkLost` when they stop early */
  openPart(kind: string, handle: string): AsyncIterable<Uint8Array>
  /** Streams a part to the phone; answers with its handle there. @param sizeBytes how many will come, so that a phone without room says so at once. @throws LinkError `StorageFull`, `LinkLost`, … */
  putPart(kind: string, bytes: AsyncIterable<Uint8Array>, sizeBytes?: number): Promise<string>
  /** One result a record, in order. @throws OutcomeUnknown when the answer was lost or has another length */
  write(kind: string, records: readonly Uint8Array[]): Promise<WriteResult[]>
  /** One record as the phone gives it now. @throws LinkError `NoSuchRecord` */
  open(kind: string, nativeId: string): Promise<{ body: string; revision: string }>
  /** Changes a record in place, while it is of that revision. @throws LinkError `RevisionChanged` when it moved on, `LinkLost` when nobody knows */
  amend(kind: string, nativeId: string, ifRevision: string, record: Uint8Array): Promise<void>
  /** Takes records away, in as many calls as the contract asks for, each while nothing else changes the kind. Answers with those that were there. @throws LinkError `RevisionChanged`, `LinkLost`: some may be gone */
  remove(kind: string, nativeIds: readonly string[]): Promise<string[]>
}

/** A failure of the link, with a code of the one table. */
export class LinkError extends Error {
  constructor(readonly code: LinkFailure) {
    super(code)
  }
}

/** Records were sent and nobody knows what the phone did with them. */
export class OutcomeUnknown extends Error {
  constructor(readonly code: LinkFailure) {
    super(code)
  }
}
