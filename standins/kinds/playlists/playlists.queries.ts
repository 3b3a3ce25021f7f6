import type pg from 'pg'

/** Handles of the tracks a phone has, and how long each is. */
export async function manyHandles(pool: pg.Pool, serial: string): Promise<{ handle: string; size_bytes: string }[]> {
  const { rows } = await pool.query<{ handle: string; size_bytes: string }>(
    `select handle, size_bytes from file where serial = $1 and kind = 'music' and record_id is not null`,
    [serial],
  )
  return rows
}
