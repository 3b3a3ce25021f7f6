import type pg from 'pg'

/** Handles of the tracks a phone has. */
export async function manyHandles(pool: pg.Pool, serial: string): Promise<string[]> {
  const { rows } = await pool.query<{ handle: string }>(
    `select handle from file where serial = $1 and kind = 'music' and record_id is not null`,
    [serial],
  )
  return rows.map(({ handle }) => handle)
}
