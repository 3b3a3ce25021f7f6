import type { EntryContent } from '../../book/entries/carry.queries.ts'
import { openLists } from '../../vault/blocks.ts'
import { openContents } from '../../vault/contents.ts'
import type { LockerRecord } from '../../vault/lockers/store.ts'
import type { Work } from '../step.ts'

/** What a record is made with, for a place that takes it as it was given. @param handles of its files there, by those of the old side */
export type GiveRecord = (i: number, handles?: ReadonlyMap<string, string>) => Uint8Array

/** For a place that takes records as they were given: each with its phone's name for it, and where it was kept there. */
export async function recordsGiven(
  { context, ticket }: Work,
  items: readonly EntryContent[],
  bodies: readonly Uint8Array[],
): Promise<GiveRecord> {
  const { pool } = context.services
  const names = new Map<number, string>()
  for (const readingId of new Set(items.map((item) => item.reading_id))) {
    const its = items.filter((item) => item.reading_id === readingId)
    const lists = await openLists(
      pool,
      ticket.keys,
      readingId,
      its.map(({ block }) => block),
    )
    for (const { seq, block, slot } of its) names.set(seq, lists.get(block)![slot]!.nativeId)
  }
  return (i, handles) =>
    Buffer.from(
      JSON.stringify({
        id: names.get(items[i]!.seq)!,
        storage: items[i]!.storage,
        body: Buffer.from(bodies[i]!).toString('base64'),
        ...(handles && handles.size > 0 ? { files: [...handles.keys()], handles: Object.fromEntries(handles) } : {}),
      } satisfies LockerRecord),
    )
}

/** The same of items whose files stay behind: as many records. */
export async function asGiven(work: Work, items: readonly EntryContent[]): Promise<Uint8Array[]> {
  const give = await recordsGiven(work, items, await openContents(work.context.services.pool, work.ticket.keys, items))
  return items.map((_, i) => give(i))
}
