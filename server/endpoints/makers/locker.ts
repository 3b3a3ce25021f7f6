import { maxWrite } from '#contracts/link/index.ts'
import type { Services } from '../../base/services.ts'
import type { CopyId, LockerId, TicketId } from '../../base/ids.ts'
import { findSecret, newHolding, serialHash } from '../../vault/holdings.ts'
import { keysFrom, open, seal, type TicketKeys } from '../../vault/keys.ts'
import {
  connectCopy,
  countRecords,
  findCopy,
  lockerOf,
  nameCopied,
  noteChecked,
  type CopyEnd,
  type CopyRow,
} from '../../vault/lockers/copies.queries.ts'
import {
  closeStored,
  CopyTaken,
  countStored,
  listStored,
  lockerRecord,
  openStoredFile,
  removeStored,
  storeFile,
  storeRecords,
  storeUnread,
  tidyCopy,
  type StoredCopy,
} from '../../vault/lockers/store.ts'
import { LinkError, OutcomeUnknown, type Connection, type Endpoint, type Sink, type Source } from '../endpoint.ts'
import { maybeCopyKey, maybeOldPhone } from '../lockers.queries.ts'

/** The newest layout of a copy this version reads. */
export const copyFormat = 1

/** Under which name a side of a ticket names a copy. */
export const serialOfCopy = (id: CopyId) => `copy-${id}`

type Shop = Pick<Services, 'pool' | 'config'>

/** A copy in a locker: to the ticket that makes it, it takes records as they were given; to any other it gives them again. */
export function lockerEndpoint(shop: Shop, copyId: CopyId, { ticketId, side }: { ticketId: TicketId; side: 'old' | 'new' }): Endpoint {
  return {
    body: null,
    async attach() {
      // only the ticket that makes a copy writes to it; whoever compares with it reads
      const isMaking = side === 'new' && (await findCopy(shop.pool, copyId))?.ticket_id === ticketId
      return isMaking ? (await attachToWrite(shop, copyId, ticketId)).connection : attachToRead(shop, copyId, ticketId)
    },
  }
}

/** @throws LinkError `CopyGone`, `CopyNewer`, `CopyClosed`, `KeyAway` */
async function openCopy(shop: Shop, id: CopyId, ticketId: TicketId): Promise<{ row: CopyRow; copy: Pick<StoredCopy, 'id' | 'keys'> }> {
  const row = await findCopy(shop.pool, id)
  if (!row?.holding || row.destroyed_at) throw new LinkError('CopyGone')
  if (row.format > copyFormat) throw new LinkError('CopyNewer')
  const keys = row.is_closed ? await keysOfTicket(shop, id, ticketId) : keysOrAway(shop, row.holding)
  return { row, copy: { id, keys } }
}

const boundToTicket = (id: CopyId) => `key of copy ${id} v1`

/** The key of a closed copy as the ticket that reads from it keeps it. @param secret as the passphrase opened it */
export const sealCopyKey = (keys: TicketKeys, id: CopyId, secret: Buffer) => seal(keys.seal, boundToTicket(id), secret)

/** @throws LinkError `CopyClosed`, `KeyAway` */
async function keysOfTicket(shop: Shop, id: CopyId, ticketId: TicketId): Promise<TicketKeys> {
  const kept = await maybeCopyKey(shop.pool, ticketId)
  if (!kept?.copy_key || !kept.holding) throw new LinkError('CopyClosed')
  return keysFrom(open(keysOrAway(shop, kept.holding).seal, boundToTicket(id), kept.copy_key))
}

/** @throws LinkError `KeyAway` */
function keysOrAway({ config }: Shop, holding: NonNullable<CopyRow['holding']>) {
  const secret = findSecret(config, holding)
  if (!secret) throw new LinkError('KeyAway')
  return keysFrom(secret)
}

/** What gives the records of a copy, as it stands. @param shared null while nothing was written @param as how records are called: as their phone did, for whoever only reads */
function sourceOf(
  shop: Shop,
  copy: Pick<StoredCopy, 'id' | 'keys'>,
  { shared, as }: { shared: CopyRow['shared']; as: 'place' | 'phone' },
): Source {
  const count = async (kind: string) => {
    try {
      return await countStored(shop, copy, kind)
    } catch {
      // its own word does not open: what it holds can't be proved
      throw new LinkError('CopyDamaged')
    }
  }
  return {
    async count(kind) {
      await stillThere(shop, copy.id)
      const { items, bytes, revision } = await count(kind)
      return { items, bytes, derived: 0, derivedOf: {}, revision, also: {} }
    },
    async *list(kind) {
      const { items, revision, isClosed } = await count(kind)
      const listing = listStored(shop, copy, kind, isClosed ? items : null, { as })
      for (let n = 0; ; n++) {
        const next = await listing.next()
        if (next.done) {
          // destroyed meanwhile, it holds nothing: that is no short list
          await stillThere(shop, copy.id)
          return { count: next.value, revision }
        }
        yield next.value
      }
    },
    async *openFile(kind, handle) {
      const bytes = shared
        ? await openStoredFile(shop, { ...copy, shared: { holding: shared } }, kind, handle).catch(() => undefined)
        : undefined
      if (!bytes) throw new LinkError('NoSuchRecord')
      try {
        yield* bytes
      } catch {
        await stillThere(shop, copy.id)
        // a chunk is missing or was altered: the rest of the copy stands
        throw new LinkError('NoSuchRecord')
      }
    },
  }
}

/** @throws LinkError `CopyGone` */
async function stillThere({ pool }: Shop, id: CopyId): Promise<void> {
  const row = await findCopy(pool, id)
  if (!row?.holding || row.destroyed_at) throw new LinkError('CopyGone')
}

const placeOf = ({ id, region, zone }: CopyRow) => ({ serial: serialOfCopy(id), region, zone, settleMs: 0 })

async function attachToRead(shop: Shop, id: CopyId, ticketId: TicketId): Promise<Connection> {
  const { row, copy } = await openCopy(shop, id, ticketId)
  return { source: sourceOf(shop, copy, { shared: row.shared, as: 'phone' }), sink: null, place: async () => placeOf(row) }
}

/** A copy in the hand of the ticket that makes it. @throws LinkError `CopyGone`, `CopyNewer`, `CopyClosed`, `KeyAway` */
export async function attachToWrite(
  shop: Shop,
  id: CopyId,
  ticketId: TicketId,
): Promise<{ connection: Connection; row: CopyRow; stored: StoredCopy }> {
  await openCopy(shop, id, ticketId)
  const lockerId = await nameFromOld(shop, id, ticketId)
  const { row, copy } = await openCopy(shop, id, ticketId)
  const stored: StoredCopy = { ...copy, lockerId, shared: { holding: row.shared!, keys: keysOrAway(shop, row.shared!) } }
  const connection = await connectCopy(shop.pool, id)
  await taken(() => tidyCopy(shop, stored, connection))
  const sink: Sink = {
    async write(kind, records) {
      const out: number[] = []
      for (let at = 0; at < records.length; at += maxWrite) {
        const some = records.slice(at, at + maxWrite).map(recordOf)
        const seqs = await taken(() => storeRecords(shop, stored, { kind, connection, records: some })).catch((error: unknown) => {
          throw error instanceof LinkError ? new OutcomeUnknown(error.code) : error
        })
        out.push(...seqs)
      }
      return out.map((seq) => ({ ids: [String(seq)] }))
    },
    putFile: (kind, bytes, told) => taken(() => storeFile(shop, stored, { kind, connection, bytes, sha256: told?.sha256 })),
    async remove(kind, nativeIds) {
      const seqs = nativeIds.filter((native) => /^\d+$/.test(native)).map(Number)
      return (await taken(() => removeStored(shop, stored, { kind, connection, seqs }))).map(String)
    },
    // nothing there is ever changed in place
    open: () => Promise.reject(new LinkError('NoSuchRecord')),
    amend: () => Promise.reject(new LinkError('NoSuchRecord')),
    close: (kind) => taken(() => closeStored(shop, stored, kind, connection)),
    keepUnread: (kind, pages) => taken(() => storeUnread(shop, stored, { kind, connection, pages: () => recordsOf(pages()) })),
  }
  return {
    connection: { source: sourceOf(shop, copy, { shared: row.shared, as: 'place' }), sink, place: async () => placeOf(row) },
    row,
    stored,
  }
}

const recordOf = (bytes: Uint8Array) => lockerRecord.parse(JSON.parse(Buffer.from(bytes).toString()))
async function* recordsOf(pages: AsyncIterable<readonly Uint8Array[]>) {
  for await (const page of pages) yield page.map(recordOf)
}

/**
 * Closes a copy as it stands, for a ticket that ends though it was not read back since it was last written: nothing of
 * it goes with the ticket. @param ends by kind: what became of its phone's items, and how many were not read back
 * @throws LinkError `KeyAway`
 */
export async function closeAsItStands(
  shop: Shop,
  { copyId, ticketId, ends }: { copyId: CopyId; ticketId: TicketId; ends: Readonly<Record<string, CopyEnd>> },
): Promise<void> {
  const row = await findCopy(shop.pool, copyId)
  if (!row || row.closed_at || row.destroyed_at || row.is_closed || (await countRecords(shop.pool, copyId)) === 0) return
  const { sink } = (await attachToWrite(shop, copyId, ticketId)).connection
  for (const [kind, ended] of Object.entries(ends)) {
    await sink!.close!(kind)
    await noteChecked(shop.pool, copyId, kind, ended)
  }
}

/** Whose copy it is, as the ticket names its old phone now, and what it shares with that phone’s other copies. */
async function nameFromOld(shop: Shop, id: CopyId, ticketId: TicketId): Promise<LockerId> {
  const old = await maybeOldPhone(shop.pool, ticketId)
  if (!old) throw new LinkError('NotPlugged')
  const row = await findCopy(shop.pool, id)
  const lockerId =
    (old.place === 'locker' ? (old.locker_id as LockerId | null) : null) ??
    row?.locker_id ??
    (await lockerOf(shop.pool, serialHash(shop.config, old.serial ?? serialOfCopy(id)), newHolding(shop.config).id)).id
  await nameCopied(shop.pool, id, lockerId, old)
  return lockerId
}

/** @throws LinkError by what stood against it */
async function taken<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof CopyTaken) throw new LinkError('ConnectionTaken')
    if (['ENOSPC', 'EDQUOT'].includes((error as NodeJS.ErrnoException).code ?? '')) throw new LinkError('DiskFull')
    throw error
  }
}
