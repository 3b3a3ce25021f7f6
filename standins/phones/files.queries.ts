import type pg from 'pg'
import type { Recipe } from '../files/files.ts'

/** A file of a kind on a phone, by the handle it is streamed by. */
export interface FileKey {
  readonly serial: string
  readonly kind: string
  readonly handle: string
}

/** A file is its bytes, pieces of them (neither here), or how they are made. */
export interface FileRow {
  bytes: Buffer | null
  size_bytes: number
  made: Recipe | null
}

export async function insertFile(
  pool: pg.Pool,
  { serial, kind, handle }: FileKey,
  { sizeBytes, bytes, made }: { sizeBytes: number; bytes: Buffer | null; made: object | null },
): Promise<void> {
  await pool.query('insert into file (serial, kind, handle, size_bytes, bytes, made) values ($1, $2, $3, $4, $5, $6)', [
    serial,
    kind,
    handle,
    sizeBytes,
    bytes,
    made && JSON.stringify(made),
  ])
}

export async function insertPiece(pool: pg.Pool, { serial, kind, handle }: FileKey, n: number, bytes: Buffer): Promise<void> {
  await pool.query('insert into file_piece (serial, kind, handle, n, bytes) values ($1, $2, $3, $4, $5)', [serial, kind, handle, n, bytes])
}

export async function setFileSize(pool: pg.Pool, { serial, kind, handle }: FileKey, sizeBytes: number): Promise<void> {
  await pool.query('update file set size_bytes = $4 where serial = $1 and kind = $2 and handle = $3', [serial, kind, handle, sizeBytes])
}

export async function deleteFile(pool: pg.Pool, { serial, kind, handle }: FileKey): Promise<void> {
  await pool.query('delete from file where serial = $1 and kind = $2 and handle = $3', [serial, kind, handle])
}

export async function maybeFile(pool: pg.Pool, { serial, kind, handle }: FileKey): Promise<FileRow | undefined> {
  const { rows } = await pool.query<FileRow>('select bytes, size_bytes, made from file where serial = $1 and kind = $2 and handle = $3', [
    serial,
    kind,
    handle,
  ])
  return rows[0]
}

export async function maybePiece(pool: pg.Pool, { serial, kind, handle }: FileKey, n: number): Promise<Buffer | undefined> {
  const { rows } = await pool.query<{ bytes: Buffer }>(
    'select bytes from file_piece where serial = $1 and kind = $2 and handle = $3 and n = $4',
    [serial, kind, handle, n],
  )
  return rows[0]?.bytes
}

export async function countFiles(pool: pg.Pool, serial: string, kind: string, handles: readonly string[]): Promise<number> {
  const { rows } = await pool.query<{ n: number }>(
    'select count(*) as n from file where serial = $1 and kind = $2 and handle = any($3::text[])',
    [serial, kind, handles],
  )
  return rows[0]!.n
}

/** Files that records name, in the records' order. */
export async function manyNamedFiles(pool: pg.Pool, serial: string, kind: string): Promise<{ record_id: number; handle: string }[]> {
  const { rows } = await pool.query<{ record_id: number; handle: string }>(
    'select record_id, handle from file where serial = $1 and kind = $2 and record_id is not null order by record_id, handle',
    [serial, kind],
  )
  return rows
}

/** Files that came with one kind and are kept with another. */
export async function moveFiles(
  pool: pg.Pool,
  serial: string,
  { from, to }: { from: string; to: string },
  handles: readonly string[],
): Promise<void> {
  await pool.query('update file set kind = $3 where serial = $1 and kind = $2 and handle = any($4::text[])', [serial, from, to, handles])
}

/** Says which record each file belongs to. */
export async function nameFiles(
  pool: pg.Pool,
  serial: string,
  kind: string,
  named: readonly { readonly id: number; readonly handle: string }[],
): Promise<void> {
  await pool.query(
    `update file p
        set record_id = n.id
       from unnest($3::bigint[], $4::text[]) as n(id, handle)
      where p.serial = $1 and p.kind = $2 and p.handle = n.handle`,
    [serial, kind, named.map(({ id }) => id), named.map(({ handle }) => handle)],
  )
}

export async function deleteFilesOf(pool: pg.Pool, serial: string, kind: string, recordIds: readonly number[]): Promise<void> {
  await pool.query('delete from file where serial = $1 and kind = $2 and record_id = any($3::bigint[])', [serial, kind, recordIds])
}

export async function deleteFilesOfAny(pool: pg.Pool, serial: string, recordId: number): Promise<void> {
  await pool.query('delete from file where serial = $1 and record_id = $2', [serial, recordId])
}

/** Files that no record names go when the connection ends, or the cable. */
export async function dropLooseFiles(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query('delete from file where serial = $1 and record_id is null', [serial])
}

/** What files that no record names take up, and how many they are. */
export async function countLooseFiles(pool: pg.Pool, serial: string): Promise<{ count: number; bytes: number }> {
  const { rows } = await pool.query<{ count: number; bytes: number }>(
    `select count(*) as count, coalesce(sum(size_bytes), 0)::bigint as bytes
       from file
      where serial = $1 and record_id is null`,
    [serial],
  )
  return rows[0]!
}

/** A made file is made of another number from now on. */
export async function remakeFile(pool: pg.Pool, serial: string, recordId: number, handle: string): Promise<void> {
  await pool.query(
    `update file
        set made = jsonb_set(made, '{generated}', to_jsonb((made->>'generated')::bigint + 500000))
      where serial = $1 and record_id = $2 and handle = $3`,
    [serial, recordId, handle],
  )
}

/** A phone's own file: `bytes` in base64, or how it is made. */
export interface OwnFileRow {
  readonly id: number
  readonly handle: string
  readonly bytes: string | null
  readonly made: Recipe | null
  readonly size: number
}

export async function insertOwnFileRows(pool: pg.Pool, serial: string, kind: string, files: readonly OwnFileRow[]): Promise<void> {
  await pool.query(
    `insert into file (serial, kind, handle, record_id, bytes, made, size_bytes)
     select $1, $2, p.handle, p.id, decode(p.bytes, 'base64'), p.made, p.size
       from jsonb_to_recordset($3::jsonb) as p(id bigint, handle text, bytes text, made jsonb, size bigint)
         on conflict do nothing`,
    [serial, kind, JSON.stringify(files)],
  )
}
