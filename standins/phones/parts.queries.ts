import type pg from 'pg'
import type { Recipe } from '../files/files.ts'

/** A part of a kind on a phone, by the handle it is streamed by. */
export interface PartKey {
  readonly serial: string
  readonly kind: string
  readonly handle: string
}

/** A part is its bytes, pieces of them (neither here), or how they are made. */
export interface PartRow {
  bytes: Buffer | null
  size_bytes: number
  made: Recipe | null
}

export async function insertPart(
  pool: pg.Pool,
  { serial, kind, handle }: PartKey,
  { sizeBytes, bytes, made }: { sizeBytes: number; bytes: Buffer | null; made: object | null },
): Promise<void> {
  await pool.query('insert into part (serial, kind, handle, size_bytes, bytes, made) values ($1, $2, $3, $4, $5, $6)', [
    serial,
    kind,
    handle,
    sizeBytes,
    bytes,
    made && JSON.stringify(made),
  ])
}

export async function insertPiece(pool: pg.Pool, { serial, kind, handle }: PartKey, n: number, bytes: Buffer): Promise<void> {
  await pool.query('insert into part_piece (serial, kind, handle, n, bytes) values ($1, $2, $3, $4, $5)', [serial, kind, handle, n, bytes])
}

export async function setPartSize(pool: pg.Pool, { serial, kind, handle }: PartKey, sizeBytes: number): Promise<void> {
  await pool.query('update part set size_bytes = $4 where serial = $1 and kind = $2 and handle = $3', [serial, kind, handle, sizeBytes])
}

export async function deletePart(pool: pg.Pool, { serial, kind, handle }: PartKey): Promise<void> {
  await pool.query('delete from part where serial = $1 and kind = $2 and handle = $3', [serial, kind, handle])
}

export async function maybePart(pool: pg.Pool, { serial, kind, handle }: PartKey): Promise<PartRow | undefined> {
  const { rows } = await pool.query<PartRow>('select bytes, size_bytes, made from part where serial = $1 and kind = $2 and handle = $3', [
    serial,
    kind,
    handle,
  ])
  return rows[0]
}

export async function maybePiece(pool: pg.Pool, { serial, kind, handle }: PartKey, n: number): Promise<Buffer | undefined> {
  const { rows } = await pool.query<{ bytes: Buffer }>(
    'select bytes from part_piece where serial = $1 and kind = $2 and handle = $3 and n = $4',
    [serial, kind, handle, n],
  )
  return rows[0]?.bytes
}

export async function countParts(pool: pg.Pool, serial: string, kind: string, handles: readonly string[]): Promise<number> {
  const { rows } = await pool.query<{ n: number }>(
    'select count(*) as n from part where serial = $1 and kind = $2 and handle = any($3::text[])',
    [serial, kind, handles],
  )
  return rows[0]!.n
}

/** Parts that records name, in the records' order. */
export async function manyNamedParts(pool: pg.Pool, serial: string, kind: string): Promise<{ record_id: number; handle: string }[]> {
  const { rows } = await pool.query<{ record_id: number; handle: string }>(
    'select record_id, handle from part where serial = $1 and kind = $2 and record_id is not null order by record_id, handle',
    [serial, kind],
  )
  return rows
}

/** Says which record each part belongs to. */
export async function nameParts(
  pool: pg.Pool,
  serial: string,
  kind: string,
  named: readonly { readonly id: number; readonly handle: string }[],
): Promise<void> {
  await pool.query(
    `update part p
        set record_id = n.id
       from unnest($3::bigint[], $4::text[]) as n(id, handle)
      where p.serial = $1 and p.kind = $2 and p.handle = n.handle`,
    [serial, kind, named.map(({ id }) => id), named.map(({ handle }) => handle)],
  )
}

export async function deletePartsOf(pool: pg.Pool, serial: string, kind: string, recordIds: readonly number[]): Promise<void> {
  await pool.query('delete from part where serial = $1 and kind = $2 and record_id = any($3::bigint[])', [serial, kind, recordIds])
}

export async function deletePartsOfAny(pool: pg.Pool, serial: string, recordId: number): Promise<void> {
  await pool.query('delete from part where serial = $1 and record_id = $2', [serial, recordId])
}

/** Parts that no record names go when the session ends, or the cable. */
export async function dropLooseParts(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query('delete from part where serial = $1 and record_id is null', [serial])
}

/** What parts that no record names take up, and how many they are. */
export async function countLooseParts(pool: pg.Pool, serial: string): Promise<{ count: number; bytes: number }> {
  const { rows } = await pool.query<{ count: number; bytes: number }>(
    `select count(*) as count, coalesce(sum(size_bytes), 0)::bigint as bytes
       from part
      where serial = $1 and record_id is null`,
    [serial],
  )
  return rows[0]!
}

/** A made file is made of another number from now on. */
export async function remakePart(pool: pg.Pool, serial: string, recordId: number, handle: string): Promise<void> {
  await pool.query(
    `update part
        set made = jsonb_set(made, '{generated}', to_jsonb((made->>'generated')::bigint + 500000))
      where serial = $1 and record_id = $2 and handle = $3`,
    [serial, recordId, handle],
  )
}

/** A phone's own part: `bytes` in base64, or how it is made. */
export interface OwnPartRow {
  readonly id: number
  readonly handle: string
  readonly bytes: string | null
  readonly made: Recipe | null
  readonly size: number
}

export async function insertOwnPartRows(pool: pg.Pool, serial: string, kind: string, parts: readonly OwnPartRow[]): Promise<void> {
  await pool.query(
    `insert into part (serial, kind, handle, record_id, bytes, made, size_bytes)
     select $1, $2, p.handle, p.id, decode(p.bytes, 'base64'), p.made, p.size
       from jsonb_to_recordset($3::jsonb) as p(id bigint, handle text, bytes text, made jsonb, size bigint)
         on conflict do nothing`,
    [serial, kind, JSON.stringify(parts)],
  )
}
