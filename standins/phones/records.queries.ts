import type pg from 'pg'

export interface RecordRow {
  id: number
  storage: string
  linked_to: number | null
  data: unknown
  size_bytes: number
  revision: number
  damage: string | null
}

/** A record that comes to be: `at` in ms, what it is sorted and looked for by. */
export interface NewRecord {
  readonly id: number
  readonly stored: unknown
  readonly size: number
  readonly at: number | null
  readonly thread: string | null
  readonly name: string | null
}

export interface CountRow {
  items: number
  bytes: number
  persons: number
}

/** What the phone shows of a kind; what is still being sorted in is not in it yet. */
export async function countVisible(pool: pg.Pool, serial: string, kind: string): Promise<CountRow> {
  const { rows } = await pool.query<CountRow>(
    `select count(*) as items,
            coalesce(sum(size_bytes), 0)::bigint as bytes,
            count(*) filter (where linked_to is null) as persons
       from record
      where serial = $1 and kind = $2 and visible_at <= now()`,
    [serial, kind],
  )
  return rows[0]!
}

export async function countRecords(pool: pg.Pool, serial: string, kind: string): Promise<{ records: number; persons: number }> {
  const { rows } = await pool.query<{ records: number; persons: number }>(
    `select count(*) as records, count(*) filter (where linked_to is null) as persons
       from record
      where serial = $1 and kind = $2`,
    [serial, kind],
  )
  return rows[0]!
}

/** A page of what the phone shows, in its own order. */
export async function manyVisible(pool: pg.Pool, serial: string, kind: string, afterId: number): Promise<RecordRow[]> {
  const { rows } = await pool.query<RecordRow>(
    `select id, storage, linked_to, data, size_bytes, revision, damage
       from record
      where serial = $1 and kind = $2 and id > $3 and visible_at <= now()
      order by id
      limit 500`,
    [serial, kind, afterId],
  )
  return rows
}

/** All there is, what is still being sorted in with it. */
export async function manyRecords(pool: pg.Pool, serial: string, kind: string): Promise<RecordRow[]> {
  const { rows } = await pool.query<RecordRow>('select * from record where serial = $1 and kind = $2 order by id', [serial, kind])
  return rows
}

export async function maybeRecord(pool: pg.Pool, serial: string, kind: string, id: number): Promise<RecordRow | undefined> {
  return (await pool.query<RecordRow>('select * from record where serial = $1 and kind = $2 and id = $3', [serial, kind, id])).rows[0]
}

/** Numbers are a phone's own, whatever the kind. */
export async function maybeAnyRecord(pool: pg.Pool, serial: string, id: number): Promise<(RecordRow & { kind: string }) | undefined> {
  return (await pool.query<RecordRow & { kind: string }>('select * from record where serial = $1 and id = $2', [serial, id])).rows[0]
}

export async function manyOfName(pool: pg.Pool, serial: string, kind: string, name: string): Promise<{ id: number; data: unknown }[]> {
  const { rows } = await pool.query<{ id: number; data: unknown }>(
    'select id, data from record where serial = $1 and kind = $2 and name = $3 and damage is null limit 20',
    [serial, kind, name],
  )
  return rows
}

/** Stores what came; it is seen once it is sorted in, within `settleMs` and not before `afterMs`. */
export async function insertRecords(
  pool: pg.Pool,
  { serial, kind, storage, settleMs, afterMs }: { serial: string; kind: string; storage: string; settleMs: number; afterMs: number },
  records: readonly NewRecord[],
): Promise<void> {
  await pool.query(
    `insert into record (serial, kind, id, storage, data, size_bytes, at_ms, thread, name, visible_at)
     select $1, $2, r.id, $3, r.stored, r.size, r.at, r.thread, r.name, now() + make_interval(secs => ($4 * random() + $6) / 1000.0)
       from jsonb_to_recordset($5::jsonb) as r(id bigint, stored jsonb, size bigint, at bigint, thread text, name text)`,
    [serial, kind, storage, settleMs, JSON.stringify(records), afterMs],
  )
}

export interface OwnRow extends NewRecord {
  readonly storage: string
  readonly linked_to: number | null
  readonly damage: string | null
}

/** The phone's own earlier contents. */
export async function insertOwnRecords(pool: pg.Pool, serial: string, kind: string, records: readonly OwnRow[]): Promise<void> {
  await pool.query(
    `insert into record (serial, kind, id, storage, linked_to, data, size_bytes, damage, at_ms, thread, name)
     select $1, $3, r.id, r.storage, r.linked_to, r.stored, r.size, r.damage, r.at, r.thread, r.name
       from jsonb_to_recordset($2::jsonb)
         as r(id bigint, storage text, linked_to bigint, stored jsonb, size bigint, damage text, at bigint, thread text, name text)`,
    [serial, JSON.stringify(records), kind],
  )
}

/** An account syncs a record in once more, under a number of its own. */
export async function copyRecord(pool: pg.Pool, serial: string, id: number, asId: number): Promise<void> {
  await pool.query(
    `insert into record (serial, kind, id, storage, data, size_bytes, at_ms, thread, name)
     select serial, kind, $3, 'account', data, size_bytes, at_ms, thread, name
       from record
      where serial = $1 and id = $2`,
    [serial, id, asId],
  )
}

export async function setData(pool: pg.Pool, serial: string, id: number, data: unknown): Promise<void> {
  await pool.query('update record set data = $3, revision = revision + 1 where serial = $1 and id = $2', [serial, id, JSON.stringify(data)])
}

export async function amendRecord(
  pool: pg.Pool,
  serial: string,
  kind: string,
  { id, data, sizeBytes, name }: { id: number; data: unknown; sizeBytes: number; name: string | null },
): Promise<void> {
  await pool.query(
    `update record set data = $4, size_bytes = $5, name = $6, revision = revision + 1
      where serial = $1 and kind = $2 and id = $3`,
    [serial, kind, id, JSON.stringify(data), sizeBytes, name],
  )
}

export async function bumpRecord(pool: pg.Pool, serial: string, id: number): Promise<void> {
  await pool.query('update record set revision = revision + 1 where serial = $1 and id = $2', [serial, id])
}

export async function setDamage(pool: pg.Pool, serial: string, id: number, damage: string): Promise<void> {
  await pool.query('update record set damage = $3 where serial = $1 and id = $2', [serial, id, damage])
}

/** What it is still sorting in is there now. */
export async function sortIn(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query('update record set visible_at = now() where serial = $1 and visible_at > now()', [serial])
}

export async function deleteRecords(
  pool: pg.Pool,
  serial: string,
  kind: string,
  ids: readonly number[],
): Promise<{ id: number; size_bytes: number }[]> {
  const { rows } = await pool.query<{ id: number; size_bytes: number }>(
    'delete from record where serial = $1 and kind = $2 and id = any($3::bigint[]) returning id, size_bytes',
    [serial, kind, ids],
  )
  return rows
}

export async function deleteAnyRecord(pool: pg.Pool, serial: string, id: number): Promise<void> {
  await pool.query('delete from record where serial = $1 and id = $2', [serial, id])
}

/** All but the newest go, without a word. */
export async function deleteAllBut(pool: pg.Pool, serial: string, kind: string, keeps: number): Promise<void> {
  await pool.query(
    `delete from record
      where serial = $1 and kind = $2
        and id in (select id from record where serial = $1 and kind = $2 order by at_ms desc, id desc offset $3)`,
    [serial, kind, keeps],
  )
}
