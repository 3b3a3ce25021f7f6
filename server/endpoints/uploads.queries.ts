import { change, many, maybeOne, one, type Client } from '../base/db/sql.ts'
import type { HeldKind, Upload } from './upload-store.ts'
import type { HoldingId } from '../base/ids.ts'

export type UploadState = 'taking' | 'sorting' | 'sorted' | 'locked' | 'refused'

export interface UploadRow {
  id: HoldingId
  size_bytes: number
  /** What it holds, by kind. */
  kinds: Readonly<Partial<Record<string, HeldKind>>>
  state: UploadState
  /** Why it can't be sorted, by code. */
  problem: string | null
  unreadable: number
  others: number
  layout: number
  /** Sealed: what opens its ZIPs. */
  secret: Buffer | null
  /** Sealed: what was not taken. */
  list: Buffer | null
  place: { region: string; zone: string } | null
}

const columns = 'id, size_bytes, kinds, state, problem, unreadable, others, layout, secret, list, place'

export function findUpload(client: Client, id: string): Promise<UploadRow | undefined> {
  return maybeOne<UploadRow>(client, `select ${columns} from upload where id = $1`, [id])
}

/** The same for whoever works on it alone. */
export function lockUpload(client: Client, id: string): Promise<UploadRow | undefined> {
  return maybeOne<UploadRow>(client, `select ${columns} from upload where id = $1 for update`, [id])
}

/** Keeps what was brought in one call: a holding, what it holds, and its one file. @param list sealed @param path sealed */
export async function insertUpload(client: Client, upload: Upload, { list, path }: { list: Buffer; path: Buffer }): Promise<void> {
  await insertTaking(client, upload.id, upload.sizeBytes)
  await insertFiles(client, upload.id, [{ no: 0, path, sizeBytes: upload.sizeBytes, modifiedAt: new Date(), mark: Buffer.alloc(0) }])
  await addGot(client, upload.id, 0, upload.sizeBytes)
  await setSorted(client, upload, list)
}

/** An upload whose files are still to come. */
export async function insertTaking(client: Client, id: HoldingId, sizeBytes: number): Promise<void> {
  await change(
    client,
    `with holding as (insert into holding (id, purpose) values ($1, 'file') returning id)
     insert into upload (id, size_bytes, kinds, others, state, layout) select id, $2, '{}', 0, 'taking', 2 from holding`,
    [id, sizeBytes],
  )
}

export interface NewFile {
  readonly no: number
  /** Sealed. */
  readonly path: Buffer
  readonly sizeBytes: number
  readonly modifiedAt: Date
  readonly mark: Buffer
}

export async function insertFiles(client: Client, id: HoldingId, files: readonly NewFile[]): Promise<void> {
  await change(
    client,
    `insert into upload_file (upload_id, no, path, size_bytes, modified_at, mark)
     select $1, no, path, size_bytes, modified_at, mark
       from unnest($2::int[], $3::bytea[], $4::bigint[], $5::timestamptz[], $6::bytea[]) as n(no, path, size_bytes, modified_at, mark)`,
    [
      id,
      files.map(({ no }) => no),
      files.map(({ path }) => path),
      files.map(({ sizeBytes }) => sizeBytes),
      files.map(({ modifiedAt }) => modifiedAt),
      files.map(({ mark }) => mark),
    ],
  )
  await change(
    client,
    `update upload set size_bytes = (select coalesce(sum(size_bytes), 0) from upload_file where upload_id = $1), state = 'taking', touched_at = now()
      where id = $1`,
    [id],
  )
}

export async function deleteFiles(client: Client, id: HoldingId, nos: readonly number[]): Promise<void> {
  await change(client, 'delete from upload_file where upload_id = $1 and no = any($2::int[])', [id, nos])
}

export interface UploadFileRow {
  no: number
  path: Buffer
  size_bytes: number
  modified_at: Date
  mark: Buffer
  got_bytes: number
}

export function manyFiles(client: Client, id: HoldingId): Promise<UploadFileRow[]> {
  return many<UploadFileRow>(
    client,
    'select no, path, size_bytes, modified_at, mark, got_bytes from upload_file where upload_id = $1 order by no',
    [id],
  )
}

export function findFile(client: Client, id: HoldingId, no: number): Promise<UploadFileRow | undefined> {
  return maybeOne<UploadFileRow>(
    client,
    'select no, path, size_bytes, modified_at, mark, got_bytes from upload_file where upload_id = $1 and no = $2',
    [id, no],
  )
}

/** So many bytes of a file are there by now. */
export async function addGot(client: Client, id: HoldingId, no: number, gotBytes: number): Promise<void> {
  await change(client, 'update upload_file set got_bytes = $3 where upload_id = $1 and no = $2', [id, no, gotBytes])
  await change(client, 'update upload set touched_at = now() where id = $1', [id])
}

export async function setState(
  client: Client,
  id: HoldingId,
  state: UploadState,
  { problem = null, secret }: { problem?: string | null; secret?: Buffer } = {},
): Promise<void> {
  await change(client, 'update upload set state = $2, problem = $3, secret = coalesce($4, secret), touched_at = now() where id = $1', [
    id,
    state,
    problem,
    secret ?? null,
  ])
}

/** @param list sealed: what was not taken */
export async function setSorted(
  client: Client,
  { id, kinds, unreadable, others, place }: Omit<Upload, 'sizeBytes'>,
  list: Buffer,
): Promise<void> {
  await change(
    client,
    `update upload
        set state = 'sorted', problem = null, kinds = $2, unreadable = $3, others = $4, place = $5, list = $6, touched_at = now()
      where id = $1`,
    [id, JSON.stringify(kinds), unreadable, others.reduce((sum, { n = 1 }) => sum + n, 0), place && JSON.stringify(place), list],
  )
}

/** Whether a ticket's old side is made of it. */
export async function isBooked(client: Client, id: HoldingId): Promise<boolean> {
  const { is } = await one<{ is: boolean }>(client, 'select exists (select 1 from ticket_phone where upload_id = $1) as is', [id])
  return is
}

/** What nobody booked, and nothing more came of within so many minutes. */
export async function manyUnbooked(client: Client, minutes: number): Promise<HoldingId[]> {
  const rows = await many<{ id: HoldingId }>(
    client,
    `select u.id from upload u
      where u.touched_at < now() - make_interval(mins => $1)
        and not exists (select 1 from ticket_phone p where p.upload_id = u.id)`,
    [minutes],
  )
  return rows.map(({ id }) => id)
}
