import type pg from 'pg'

/** Calls that are kept in the record of another. */
export async function countFurther(pool: pg.Pool, serial: string): Promise<number> {
  const { rows } = await pool.query<{ n: number }>(
    `select coalesce(sum(jsonb_array_length(data->'also')), 0)::int as n
       from record
      where serial = $1 and kind = 'calls' and visible_at <= now()`,
    [serial],
  )
  return rows[0]!.n
}
