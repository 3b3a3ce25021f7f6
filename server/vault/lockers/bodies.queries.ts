import { change, many, maybeOne, one, type Client } from '../../base/db/sql.ts'
import type { CopyId, HoldingId, LockerId } from '../../base/ids.ts'

/** A sealed body, and its key as one copy holds it. */
export interface HeldBody {
  body_id: number
  digest: Buffer
  size_bytes: number
  sealed: Buffer | null
  blob: string | null
  /** The copy that holds the key, and its holding; null where that copy is destroyed. */
  copy_id: CopyId
  holding: HoldingId | null
  wrapped: Buffer
}

const held = `b.id as body_id, b.digest, b.size_bytes, b.sealed, b.blob`

/** Which of these bodies the phone's copies hold already, each with its key from one of them. */
export function manyBodies(client: Client, lockerId: LockerId, digests: readonly Buffer[]): Promise<Omit<HeldBody, 'sealed'>[]> {
  return many(
    client,
    `select distinct on (b.digest) b.id as body_id, b.digest, b.size_bytes, b.blob, w.copy_id, c.holding_id as holding, w.wrapped
       from locker_body b
       cross join lateral (
         (select copy_id, wrapped from copy_record where body_id = b.id limit 1)
         union all
         (select copy_id, wrapped from copy_file where body_id = b.id limit 1)
         limit 1) w
       join locker_copy c on c.id = w.copy_id
      where b.locker_id = $1 and b.digest = any($2::bytea[]) and c.holding_id is not null and c.passphrase is null
      order by b.digest, b.id`,
    [lockerId, digests],
  )
}

export interface NewBody {
  readonly digest: Buffer
  readonly sizeBytes: number
  readonly sealed: Buffer | null
  readonly blob: string | null
}

/** Answers with their numbers, in order. */
export async function takeBodyIds(client: Client, n: number): Promise<number[]> {
  const rows = await many<{ id: number }>(
    client,
    `select nextval(pg_get_serial_sequence('locker_body', 'id')) as id from generate_series(1, $1)`,
    [n],
  )
  return rows.map(({ id }) => id)
}

export async function insertBodies(client: Client, lockerId: LockerId, ids: readonly number[], bodies: readonly NewBody[]): Promise<void> {
  await change(
    client,
    `insert into locker_body (id, locker_id, digest, size_bytes, sealed, blob) overriding system value
     select id, $1, digest, size_bytes, sealed, blob
       from unnest($2::bigint[], $3::bytea[], $4::bigint[], $5::bytea[], $6::text[]) as n(id, digest, size_bytes, sealed, blob)`,
    [
      lockerId,
      ids,
      bodies.map(({ digest }) => digest),
      bodies.map(({ sizeBytes }) => sizeBytes),
      bodies.map(({ sealed }) => sealed),
      bodies.map(({ blob }) => blob),
    ],
  )
}

export interface NewRecord {
  readonly seq: number
  readonly bodyId: number
  /** The body's key under the copy's. */
  readonly wrapped: Buffer
}

export async function insertRecords(client: Client, copyId: CopyId, kind: string, records: readonly NewRecord[]): Promise<void> {
  await change(
    client,
    `insert into copy_record (copy_id, kind, seq, body_id, wrapped)
     select $1, $2, seq, body_id, wrapped from unnest($3::bigint[], $4::bigint[], $5::bytea[]) as n(seq, body_id, wrapped)`,
    [copyId, kind, records.map(({ seq }) => seq), records.map(({ bodyId }) => bodyId), records.map(({ wrapped }) => wrapped)],
  )
}

/** A file that was taken, by a handle of its own until its record is written. */
export async function insertLooseFile(
  client: Client,
  { copyId, kind, handle, bodyId, wrapped }: { copyId: CopyId; kind: string; handle: Buffer; bodyId: number; wrapped: Buffer },
): Promise<void> {
  await change(client, 'insert into copy_file (copy_id, kind, handle, body_id, wrapped) values ($1, $2, $3, $4, $5)', [
    copyId,
    kind,
    handle,
    bodyId,
    wrapped,
  ])
}

/** Files whose record is written are found by the handle their phone gave them. */
export function nameFiles(
  client: Client,
  { copyId, kind }: { copyId: CopyId; kind: string },
  files: readonly { readonly loose: Buffer; readonly handle: Buffer; readonly seq: number }[],
): Promise<number> {
  return change(
    client,
    `update copy_file f set handle = n.handle, seq = n.seq
       from unnest($3::bytea[], $4::bytea[], $5::bigint[]) as n(loose, handle, seq)
      where f.copy_id = $1 and f.kind = $2 and f.handle = n.loose and f.seq is null`,
    [copyId, kind, files.map(({ loose }) => loose), files.map(({ handle }) => handle), files.map(({ seq }) => seq)],
  )
}

/** The next records of a kind behind a place, in order. */
export function manyRecordBodies(
  client: Client,
  { copyId, kind, after, limit }: { copyId: CopyId; kind: string; after: number; limit: number },
): Promise<{ seq: number; body_id: number; sealed: Buffer | null; wrapped: Buffer }[]> {
  return many(
    client,
    `select r.seq, r.body_id, b.sealed, r.wrapped
       from copy_record r
       join locker_body b on b.id = r.body_id
      where r.copy_id = $1 and r.kind = $2 and r.seq > $3
      order by r.seq
      limit $4`,
    [copyId, kind, after, limit],
  )
}

/** The same of records by their places. */
export function manyRecordsAt(
  client: Client,
  { copyId, kind, seqs }: { copyId: CopyId; kind: string; seqs: readonly number[] },
): Promise<{ seq: number; body_id: number; sealed: Buffer | null; wrapped: Buffer }[]> {
  return many(
    client,
    `select r.seq, r.body_id, b.sealed, r.wrapped
       from copy_record r
       join locker_body b on b.id = r.body_id
      where r.copy_id = $1 and r.kind = $2 and r.seq = any($3::bigint[])`,
    [copyId, kind, seqs],
  )
}

/** Places of the records of a kind, in order. */
export async function manySeqs(client: Client, copyId: CopyId, kind: string): Promise<number[]> {
  const rows = await many<{ seq: number }>(client, 'select seq from copy_record where copy_id = $1 and kind = $2 order by seq', [
    copyId,
    kind,
  ])
  return rows.map(({ seq }) => seq)
}

export function maybeFileBody(
  client: Client,
  { copyId, kind, handle }: { copyId: CopyId; kind: string; handle: Buffer },
): Promise<HeldBody | undefined> {
  return maybeOne<HeldBody>(
    client,
    `select ${held}, f.copy_id, null::uuid as holding, f.wrapped
       from copy_file f
       join locker_body b on b.id = f.body_id
      where f.copy_id = $1 and f.kind = $2 and f.handle = $3
      limit 1`,
    [copyId, kind, handle],
  )
}

/** Takes records away; answers with their places, and the bytes that were theirs. */
export async function deleteRecords(
  client: Client,
  { copyId, kind }: { copyId: CopyId; kind: string },
  seqs: readonly number[],
): Promise<{ seqs: number[]; bytes: number }> {
  const gone = await many<{ seq: number; size_bytes: number }>(
    client,
    `with gone as (delete from copy_record where copy_id = $1 and kind = $2 and seq = any($3::bigint[]) returning seq, body_id)
     select g.seq, b.size_bytes from gone g join locker_body b on b.id = g.body_id`,
    [copyId, kind, seqs],
  )
  const files = await one<{ bytes: number }>(
    client,
    `with gone as (delete from copy_file where copy_id = $1 and kind = $2 and seq = any($3::bigint[]) returning body_id)
     select coalesce(sum(b.size_bytes), 0)::float8 as bytes from gone g join locker_body b on b.id = g.body_id`,
    [copyId, kind, seqs],
  )
  return { seqs: gone.map(({ seq }) => seq), bytes: gone.reduce((sum, { size_bytes: n }) => sum + n, 0) + files.bytes }
}

/** Files that no record of a copy names. */
export async function deleteLooseFiles(client: Client, copyId: CopyId): Promise<number> {
  return change(client, 'delete from copy_file where copy_id = $1 and seq is null', [copyId])
}

/** Everything of a copy but its counts. */
export async function deleteContents(client: Client, copyId: CopyId): Promise<void> {
  await change(client, 'delete from copy_record where copy_id = $1', [copyId])
  await change(client, 'delete from copy_file where copy_id = $1', [copyId])
  await change(client, 'update copy_kind set manifest = null where copy_id = $1', [copyId])
}

/** Bodies that no copy holds any more; answers with the names of their blobs. */
export async function deleteUnheld(client: Client, lockerId: LockerId): Promise<string[]> {
  const rows = await many<{ blob: string | null }>(
    client,
    `delete from locker_body b
      where b.locker_id = $1
        and not exists (select 1 from copy_record r where r.body_id = b.id)
        and not exists (select 1 from copy_file f where f.body_id = b.id)
      returning blob`,
    [lockerId],
  )
  return rows.flatMap(({ blob }) => blob ?? [])
}

/** Names of all blobs of a phone's copies. */
export async function manyBlobs(client: Client, lockerId: LockerId): Promise<string[]> {
  const rows = await many<{ blob: string }>(client, 'select blob from locker_body where locker_id = $1 and blob is not null', [lockerId])
  return rows.map(({ blob }) => blob)
}

/** Lets a copy go of what its phone's copies share; answers with the shared holding when it was the last. */
export async function leaveLocker(client: Client, copyId: CopyId, lockerId: LockerId): Promise<HoldingId | undefined> {
  await change(client, 'update locker_copy set locker_id = null where id = $1', [copyId])
  const row = await maybeOne<{ holding: HoldingId }>(
    client,
    `select holding_id as holding from locker l where l.id = $1 and not exists (select 1 from locker_copy c where c.locker_id = l.id)`,
    [lockerId],
  )
  return row?.holding
}

/** Works on what a phone's copies share alone: none stores by what another takes away. */
export async function lockLocker(client: Client, lockerId: LockerId): Promise<void> {
  await change(client, 'select 1 from locker where id = $1 for update', [lockerId])
}
