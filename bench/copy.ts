import { randomBytes } from 'node:crypto'
import type { Services } from '#server/base/services.ts'
import { insertHolding } from '#server/vault/holdings.queries.ts'
import { holdingKeys, newHolding } from '#server/vault/holdings.ts'
import { connectCopy, findCopy, insertCopy, lockerOf, nameCopied } from '#server/vault/lockers/copies.queries.ts'
import { listStored, openStoredFile, storeFile, storeRecords, type StoredCopy } from '#server/vault/lockers/store.ts'
import type { Attached } from '#server/runs/ticket-of-run.ts'
import type { StaffId } from '#server/base/ids.ts'
import type { Connection, Told } from '#server/endpoints/endpoint.ts'

/** A copy of a phone of its own, that no ticket makes. */
export async function newCopy({ pool, config }: Services): Promise<StoredCopy> {
  const mine = newHolding(config)
  await insertHolding(pool, { id: mine.id, purpose: 'locker' })
  const { rows } = await pool.query<{ id: StaffId }>('select id from staff order by id limit 1')
  const id = await insertCopy(pool, {
    holding: mine.id,
    ticketId: null as never,
    staffId: rows[0]!.id,
    customer: Buffer.alloc(0),
    purpose: 'keep',
    keepUntil: new Date(Date.now() + 86_400_000),
  })
  const locker = await lockerOf(pool, randomBytes(16), newHolding(config).id)
  await nameCopied(pool, id, locker.id, {
    maker: 'Orrin',
    model: 'Orrin 9',
    platform: 'android',
    version: '13',
    region: 'GB',
    zone: 'Europe/London',
  })
  const { shared } = (await findCopy(pool, id))!
  return { id, keys: mine.keys, lockerId: locker.id, shared: { holding: shared!, keys: holdingKeys(config, shared!) } }
}

/** Writing to a copy and reading from it, as the line does. */
export async function connectionTo(services: Services, copy: StoredCopy) {
  const connection = await connectCopy(services.pool, copy.id)
  const attached = {
    source: {
      openFile: async function* (kind: string, handle: string) {
        const bytes = await openStoredFile(services, copy, kind, handle)
        if (!bytes) throw new Error('no such file')
        yield* bytes
      },
    },
    sink: {
      putFile: (kind: string, bytes: AsyncIterable<Uint8Array>, told?: Told) =>
        storeFile(services, copy, { kind, connection, bytes, sha256: told?.sha256 }),
    },
  } as unknown as Pick<Connection, 'source'> as Attached
  return {
    attached,
    write: (kind: string, records: Parameters<typeof storeRecords>[2]['records']) =>
      storeRecords(services, copy, { kind, connection, records }),
    /** A file that was taken is found by its phone's handle once a record names it. */
    name: (kind: string, handle: string, taken: string) =>
      storeRecords(services, copy, {
        kind,
        connection,
        records: [{ id: '1', storage: 'phone', body: '', files: [handle], handles: { [handle]: taken } }],
      }),
    list: (kind: string) => listStored(services, copy, kind, null),
  }
}
