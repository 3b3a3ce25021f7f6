import type pg from 'pg'

/** False when no such app was there. */
export async function deleteApp(pool: pg.Pool, serial: string, bundle: string): Promise<boolean> {
  const { rowCount } = await pool.query(`delete from record where serial = $1 and kind = 'apps' and data->>'bundle' = $2`, [serial, bundle])
  return (rowCount ?? 0) > 0
}
